"""What is known about the charge of a position, note after note, and the falls that were watched."""

import datetime
from typing import ClassVar

from django.db import models

from dusky_heron.discharge.states import ChargeState
from dusky_heron.record.models import Entered


class ChargeNote(Entered):
    """A change of what is known; the newest counts.

    Emptying keeps what to expect of it, across which of the points the tool was laid, and its worst time constant, none where
    nothing is certain of it; a proof keeps the most that may be left, its meter and how long it holds; a link its place; an attempt
    that found a voltage keeps that in words, and what was known before counts no more.
    """

    KINDS: ClassVar[frozenset[str]] = frozenset({"charge noted", "proved", "voltage found"})

    position = models.ForeignKey("jobs.Position", on_delete=models.PROTECT, related_name="charge_notes")
    state = models.CharField(max_length=20, choices=[(s.value, s.value) for s in ChargeState])
    tool = models.CharField(max_length=1000, blank=True)
    tool_ohm = models.FloatField(null=True, blank=True)
    from_v = models.FloatField(null=True, blank=True)
    tau_s = models.FloatField(null=True, blank=True)
    worst_tau_s = models.FloatField(null=True, blank=True)
    point = models.PositiveSmallIntegerField(null=True, blank=True)
    place = models.CharField(max_length=200, blank=True)
    found = models.CharField(max_length=300, blank=True)
    highest_v = models.FloatField(null=True, blank=True)
    meter_name = models.CharField(max_length=200, blank=True)
    holds_s = models.FloatField(null=True, blank=True)

    @property
    def lapses_at(self) -> datetime.datetime | None:
        """When its proof is over: counted from when it was taken, not from when it arrived."""
        return self.when + datetime.timedelta(seconds=self.holds_s) if self.holds_s is not None else None

    def __str__(self) -> str:
        return self.state


class Fall(models.Model):
    """A fall that was watched while a position was emptied, with the meter that watched it."""

    BINDS: ClassVar[str] = "note__position__job_id"

    note = models.OneToOneField(ChargeNote, on_delete=models.PROTECT, related_name="fall")
    meter_name = models.CharField(max_length=200)
    meter_ohm = models.FloatField()
    display_counts = models.PositiveIntegerField()

    def __str__(self) -> str:
        return f"fall of {self.note_id}"


class FallSample(Entered):
    """One logged voltage, in seconds of the technician's own clock."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"fall logged"})

    JOB: ClassVar[str] = "fall__note__position__job"

    fall = models.ForeignKey(Fall, on_delete=models.PROTECT, related_name="samples")
    seconds = models.FloatField()
    volts = models.FloatField()

    class Meta:
        ordering = ["seconds"]
        constraints = [
            models.UniqueConstraint(fields=["fall", "seconds"], condition=models.Q(struck=None), name="one_voltage_a_time")
        ]

    def __str__(self) -> str:
        return f"{self.seconds:g} s {self.volts:g} V"
