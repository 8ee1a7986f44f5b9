"""Checks that were made, soaks, deviations a lead signed, what a job costs, and its handing back."""

from typing import ClassVar

from django.db import models

from dusky_heron.record.models import Entered, Versioned


class OfJob(Entered):
    """Something noted about a job by a member at a time."""

    JOB: ClassVar[str] = "job"

    job = models.ForeignKey("jobs.Job", on_delete=models.PROTECT, related_name="+")

    class Meta(Entered.Meta):
        abstract = True


class CheckResult(OfJob):
    """What a check came to, with its limit and source as they were then; the newest of a check counts."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"check"})

    check_id = models.CharField(max_length=120)
    title = models.CharField(max_length=120)
    typed = models.CharField(max_length=400)
    against = models.CharField(max_length=40, blank=True)
    lead = models.CharField(max_length=40, blank=True)
    meter_name = models.CharField(max_length=200, blank=True)
    outcome = models.CharField(max_length=20)
    sentence = models.CharField(max_length=400)
    limit = models.CharField(max_length=120)
    source = models.CharField(max_length=300)

    def __str__(self) -> str:
        return f"{self.check_id}: {self.outcome}"


class Soak(OfJob):
    """A soak under load: it runs by the server's clock until its time is over, or it is ended with what was seen.

    `ended` is the entry that ended it.
    """

    KINDS: ClassVar[frozenset[str]] = frozenset({"soak begun"})

    minutes = models.FloatField()
    ended = models.PositiveIntegerField(null=True, blank=True)
    ended_at = models.DateTimeField(null=True, blank=True)
    held = models.BooleanField(default=False)
    note = models.CharField(max_length=200, blank=True)

    def __str__(self) -> str:
        return f"soak of {self.minutes:g} minutes"


class Deviation(OfJob):
    """A check that failed or is missing, signed by a lead with a reason."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"deviation signed"})

    check_id = models.CharField(max_length=120)
    title = models.CharField(max_length=120)
    reason = models.CharField(max_length=500)

    def __str__(self) -> str:
        return f"{self.check_id}: {self.reason}"


class Quote(Versioned):
    """What a job costs: lines of a text, a quantity and a price each, and the terms as they were."""

    BINDS: ClassVar[str] = "job_id"

    job = models.OneToOneField("jobs.Job", on_delete=models.PROTECT, related_name="quote")
    lines = models.JSONField(default=list)
    minutes = models.PositiveIntegerField(default=0)
    hourly_rate = models.DecimalField(max_digits=9, decimal_places=2)
    tax_percent = models.DecimalField(max_digits=5, decimal_places=2)
    currency = models.CharField(max_length=3)
    warranty_months = models.PositiveSmallIntegerField()

    def __str__(self) -> str:
        return f"quote of {self.job_id}"


class Return(OfJob):
    """A job handed back; taken back on the bench by another row with `returned` false."""

    returned = models.BooleanField(default=True)
    warranty_until = models.DateField(null=True, blank=True)
    note = models.CharField(max_length=200, blank=True)

    def __str__(self) -> str:
        return "returned" if self.returned else "back on the bench"
