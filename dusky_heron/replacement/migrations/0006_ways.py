"""A choice may be several parts, or none: what was one part becomes a list of one."""

from django.db import migrations, models

from dusky_heron.core.selection.ways import Way


def lists(apps, schema_editor):
    for choice in apps.get_model("replacement", "Choice").objects.iterator():
        choice.parts = [
            {
                "part_id": str(choice.part_id) if choice.part_id else None,
                "marking": choice.marking,
                "place": choice.place,
                "lot": choice.lot,
                "date_code": choice.date_code,
                "price": "",
            }
        ]
        choice.save(update_fields=["parts"])


class Migration(migrations.Migration):
    dependencies = [("replacement", "0005_order_of_the_record")]

    operations = [
        migrations.AddField("choice", "way", models.CharField(choices=[(w.value, w.value) for w in Way], default=Way.SINGLE, max_length=20)),
        migrations.AddField("choice", "parts", models.JSONField(default=list, blank=True)),
        migrations.AddField("choice", "resistor", models.CharField(blank=True, max_length=200)),
        migrations.AddField("choice", "reason", models.CharField(blank=True, max_length=500)),
        migrations.AddField("choice", "signed", models.JSONField(default=list, blank=True)),
        migrations.AddField("choice", "specification", models.JSONField(default=list, blank=True)),
        migrations.AlterField("choice", "marking", models.CharField(max_length=1300)),
        migrations.RunPython(lists, migrations.RunPython.noop),
        migrations.RemoveField("choice", "part"),
        migrations.RemoveField("choice", "place"),
        migrations.RemoveField("choice", "lot"),
        migrations.RemoveField("choice", "date_code"),
    ]
