"""What is known about the charge of a position, note after note, and the falls that were watched."""

from enum import StrEnum

from django.db import models


class ChargeState(StrEnum):
    """What may be on a capacitor. There is no state that says all clear; `lapsed` is a proof whose time is over."""

    UNKNOWN = "unknown"
    ENERGISED = "energised"
    RISING = "rising"
    EMPTYING = "emptying"
    PROVED = "proved"
    LAPSED = "lapsed"
    KEPT_SHORTED = "kept_shorted"


class ChargeNote(models.Model):
    """A change of what is known; the newest counts.

    Emptying keeps what to expect of it; a proof keeps its highest reading, its meter and when it lapses; an attempt that
    found a voltage keeps that in words, and what was known before counts no more.
    """

    position = models.ForeignKey("jobs.Position", on_delete=models.PROTECT, related_name="charge_notes")
    state = models.CharField(max_length=20, choices=[(s.value, s.value) for s in ChargeState])
    tool = models.CharField(max_length=1000, blank=True)
    tool_ohm = models.FloatField(null=True, blank=True)
    from_v = models.FloatField(null=True, blank=True)
    tau_s = models.FloatField(null=True, blank=True)
    found = models.CharField(max_length=300, blank=True)
    highest_v = models.FloatField(null=True, blank=True)
    meter_name = models.CharField(max_length=200, blank=True)
    lapses_at = models.DateTimeField(null=True, blank=True)
    at = models.DateTimeField(auto_now_add=True)
    by_name = models.CharField(max_length=200)

    class Meta:
        ordering = ["id"]  # as they were written: a clock that is set back must not bring an old note to the top

    def __str__(self) -> str:
        return self.state


class Fall(models.Model):
    """A fall that was watched while a position was emptied, with the meter that watched it."""

    note = models.OneToOneField(ChargeNote, on_delete=models.PROTECT, related_name="fall")
    meter_name = models.CharField(max_length=200)
    meter_ohm = models.FloatField()
    display_counts = models.PositiveIntegerField()

    def __str__(self) -> str:
        return f"fall of {self.note_id}"


class FallSample(models.Model):
    """One logged voltage, in seconds of the technician's own clock."""

    fall = models.ForeignKey(Fall, on_delete=models.PROTECT, related_name="samples")
    seconds = models.FloatField()
    volts = models.FloatField()
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["seconds"]
        constraints = [models.UniqueConstraint(fields=["fall", "seconds"], name="one_voltage_a_time")]

    def __str__(self) -> str:
        return f"{self.seconds:g} s {self.volts:g} V"
