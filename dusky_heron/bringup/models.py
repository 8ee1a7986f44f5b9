"""How a job is powered up first, and what was read at each step."""

from typing import ClassVar

from django.db import models

from dusky_heron.record.models import Entered, Versioned


class PowerPlan(Versioned):
    """How a job is powered up; `rail_v` and `current_a` are those at full voltage, None when not known."""

    BINDS: ClassVar[str] = "job_id"

    job = models.OneToOneField("jobs.Job", on_delete=models.PROTECT, related_name="power_plan")
    kind = models.CharField(max_length=20)
    rail_v = models.FloatField(null=True, blank=True)
    current_a = models.FloatField(null=True, blank=True)
    standby_w = models.FloatField(null=True, blank=True)
    steps = models.CharField(max_length=100, blank=True)
    closed = models.BooleanField(default=False)

    def __str__(self) -> str:
        return f"{self.kind} of {self.job_id}"


class PowerStep(Entered):
    """What was read at one step, and what it said then."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"power-up step"})

    JOB: ClassVar[str] = "job"

    job = models.ForeignKey("jobs.Job", on_delete=models.PROTECT, related_name="power_steps")
    kind = models.CharField(max_length=20, blank=True)
    percent = models.FloatField()
    limiter = models.CharField(max_length=60, blank=True)
    rail_v = models.FloatField(null=True, blank=True)
    current_a = models.FloatField(null=True, blank=True)
    later_a = models.FloatField(null=True, blank=True)
    note = models.CharField(max_length=200, blank=True)
    says = models.CharField(max_length=300)
    stop = models.BooleanField()
    finding = models.CharField(max_length=20, blank=True)

    def __str__(self) -> str:
        return f"{self.percent:g} %: {self.says}"
