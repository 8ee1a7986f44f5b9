"""Meters and discharge resistors of a workshop."""

from typing import ClassVar

from django.db import models

from dusky_heron.core.discharge.tools import Construction
from dusky_heron.core.metering.accuracy import Method
from dusky_heron.record.models import Versioned


class Meter(Versioned):
    """A meter with its accuracy as its maker states it, how it finds a capacitance, and what it may be laid across.

    `percent` and `counts` are those of capacitance; `accuracies` holds the other quantities and ranges, a line each.
    """

    BINDS: ClassVar[str] = "workshop_id"

    workshop = models.ForeignKey("workshops.Workshop", on_delete=models.PROTECT, related_name="meters")
    name = models.CharField(max_length=200)
    percent = models.FloatField()
    counts = models.FloatField()
    display_counts = models.PositiveIntegerField()
    accuracies = models.TextField(blank=True)
    method = models.CharField(max_length=20, choices=[(m.value, m.value) for m in Method], default=Method.TIMED_CHARGE.value)
    frequency_hz = models.FloatField(null=True, blank=True)
    calibration_due = models.DateField(null=True, blank=True)
    highest_v = models.FloatField(default=600.0)
    category = models.CharField(max_length=3, blank=True)
    category_v = models.FloatField(default=0.0)
    input_ohm = models.FloatField(default=10e6)
    high_voltage_probe = models.BooleanField(default=False)
    two_pole = models.BooleanField(default=False)

    def __str__(self) -> str:
        return self.name


class DischargeResistor(Versioned):
    """A resistor kept for emptying capacitors."""

    BINDS: ClassVar[str] = "workshop_id"

    workshop = models.ForeignKey("workshops.Workshop", on_delete=models.PROTECT, related_name="discharge_resistors")
    name = models.CharField(max_length=200)
    resistance_ohm = models.FloatField()
    tolerance_percent = models.FloatField()
    rated_w = models.FloatField()
    construction = models.CharField(max_length=20, choices=[(c.value, c.value) for c in Construction])
    working_v = models.FloatField()
    pulse_j = models.FloatField(null=True, blank=True)

    def __str__(self) -> str:
        return self.name
