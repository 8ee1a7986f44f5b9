"""Fills the columns that are read from the marking of every part there is."""

from dataclasses import asdict

from django.db import migrations

from dusky_heron.core.markings import read_marking
from dusky_heron.core.selection.sieve import traits_of


def fill(apps, schema_editor):
    part_model = apps.get_model("stock", "Part")
    for part in part_model.objects.iterator():
        for name, value in asdict(traits_of(read_marking(part.marking))).items():
            setattr(part, name, value)
        part.save()


class Migration(migrations.Migration):
    dependencies = [("stock", "0002_replacing")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
