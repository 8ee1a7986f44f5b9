from django.db import migrations


def explain_what_there_is(apps, schema_editor):
    Part, Movement = apps.get_model("stock", "Part"), apps.get_model("stock", "Movement")
    there = Part.objects.filter(quantity__gt=0).values_list("id", "quantity").iterator(chunk_size=2000)
    opening = (Movement(part_id=id, change=number, why="counted", says="there before", by_name="") for id, number in there)
    Movement.objects.bulk_create(opening, batch_size=1000)


class Migration(migrations.Migration):

    dependencies = [("stock", "0006_quantities_explained")]

    operations = [migrations.RunPython(explain_what_there_is, migrations.RunPython.noop)]
