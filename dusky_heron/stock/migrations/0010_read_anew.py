"""Reads the marking of every part anew: each section has volts of its own, and some readings are provisional."""

from dataclasses import asdict

from django.db import migrations

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import PartKind, told_by_kind
from dusky_heron.core.selection.sieve import traits_of


def fill(apps, schema_editor):
    part_model = apps.get_model("stock", "Part")
    for part in part_model.objects.iterator():
        try:
            traits = asdict(traits_of(told_by_kind(read_marking(part.marking), PartKind(part.kind))))
        except InputError:
            traits = {"provisional": True}
        for name, value in traits.items():
            setattr(part, name, value)
        part.save(update_fields=list(traits))


class Migration(migrations.Migration):
    dependencies = [("stock", "0009_provisional")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
