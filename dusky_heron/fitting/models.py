"""What was ticked while a part was fitted, and when its list was worked through."""

from collections.abc import Mapping
from enum import StrEnum
from typing import ClassVar

from django.db import models

from dusky_heron.record.models import Entered


class FitTick(Entered):
    """A line of the fitting list ticked by somebody, or open again by another row with `done` false."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"fitting"})

    JOB: ClassVar[str] = "choice__position__job"

    choice = models.ForeignKey("replacement.Choice", on_delete=models.PROTECT, related_name="ticks")
    line = models.CharField(max_length=80, default="")
    sentence = models.CharField(max_length=400)
    done = models.BooleanField(default=True)
    note = models.CharField(max_length=200, blank=True)

    def __str__(self) -> str:
        return self.sentence


class Beside(StrEnum):
    """What is no capacitor and is looked at while one is replaced."""

    BLEEDER = "bleeder"
    FUSE = "fuse"
    RECTIFIER = "rectifier"
    NTC = "ntc"
    VARISTOR = "varistor"
    START_SWITCH = "start_switch"
    RELAY = "relay"
    RESISTOR = "resistor"
    OTHER = "other"


BESIDE_TITLES: Mapping[Beside, str] = {
    Beside.BLEEDER: "bleed resistor",
    Beside.FUSE: "fuse",
    Beside.RECTIFIER: "bridge or rectifier",
    Beside.NTC: "inrush NTC",
    Beside.VARISTOR: "varistor",
    Beside.START_SWITCH: "start switch",
    Beside.RELAY: "start relay or PTC",
    Beside.RESISTOR: "resistor",
    Beside.OTHER: "something else",
}


class BesideWork(Entered):
    """Something that is no capacitor, checked or replaced, with what it read or what went in."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"checked or replaced"})
    JOB: ClassVar[str] = "job"

    job = models.ForeignKey("jobs.Job", on_delete=models.PROTECT, related_name="beside")
    what = models.CharField(max_length=20, choices=[(b.value, b.value) for b in Beside])
    replaced = models.BooleanField(default=False)
    says = models.CharField(max_length=200)

    def __str__(self) -> str:
        return f"{self.what}: {self.says}"


class Fitted(Entered):
    """A chosen part that is in its place: every line of its list ticked. Struck as soon as one is not."""

    JOB: ClassVar[str] = "choice__position__job"

    choice = models.ForeignKey("replacement.Choice", on_delete=models.PROTECT, related_name="fitted")

    def __str__(self) -> str:
        return f"{self.choice} by {self.by_name}"
