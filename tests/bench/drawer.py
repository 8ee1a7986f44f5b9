"""A drawer of 100 000 parts, every value, kind and voltage in turn; `fill` runs inside `manage.py shell`."""

from dataclasses import asdict

from django.db import connection

from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Part as CorePart
from dusky_heron.core.model import PartKind
from dusky_heron.core.selection.sieve import traits_of
from dusky_heron.stock.models import Part
from dusky_heron.workshops.models import Member

PARTS = 100_000
VALUES = tuple(round(base * 10**decade, 3) for decade in (-3, -2, -1, 0, 1, 2) for base in (1, 1.5, 2.2, 3.3, 4.7, 6.8))


def large_drawer_part(k: int) -> CorePart:
    """One of them."""
    value, volts = VALUES[k % len(VALUES)] * (1 + (k // 997 % 9) / 100), (250, 305, 310, 400, 450, 480)[k // 37 % 6]
    kind, text = (
        (PartKind.FILM_SAFETY, f"{value:.3f} µF K X2 {volts} V~ 40/110/56/B"),
        (PartKind.MOTOR_RUN, f"{value:.3f} µF ±5 % {volts} V~ cl. B P2 25/085/21"),
        (PartKind.ELECTROLYTIC, f"{value:.3f} µF M {volts} VDC 105 °C"),
        (PartKind.FILM_DC, f"{value:.3f} µF K {volts} VDC"),
    )[k // 11 % 4]
    return CorePart(str(k), kind, read_marking(text), quantity=1 + k % 4)


def fill() -> None:
    """All of them into the demo's drawer."""
    workshop = Member.objects.get(username="orne").workshop
    rows = []
    for k in range(PARTS):
        one = large_drawer_part(k)
        traits = asdict(traits_of(one.marking))
        rows.append(Part(workshop=workshop, marking=one.marking.text, kind=one.kind, quantity=k % 7, **traits))
    Part.objects.bulk_create(rows, batch_size=5000)
    with connection.cursor() as cursor:
        cursor.execute("vacuum analyze stock_part")
