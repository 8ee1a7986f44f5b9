"""What was measured and seen, and the verdicts it led to. Nothing here is ever changed, only added."""

from typing import ClassVar

from django.db import models

from dusky_heron.core.model import Condition, Quantity, Sign, Word
from dusky_heron.record.models import Entered


class Observation(Entered):
    """Something noted about a position by a member at a time."""

    position = models.ForeignKey("jobs.Position", on_delete=models.PROTECT, related_name="+")

    class Meta(Entered.Meta):
        abstract = True


class Reading(Observation):
    """A measured value with the interval its meter leaves, in the SI unit of its quantity; `high` infinite for a bound."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"reading"})

    section = models.PositiveSmallIntegerField(default=0)
    quantity = models.CharField(max_length=20, choices=[(q.value, q.value) for q in Quantity], default=Quantity.CAPACITANCE.value)
    frequency_hz = models.FloatField(null=True, blank=True)
    typed = models.CharField(max_length=200)
    value = models.FloatField()
    low = models.FloatField()
    high = models.FloatField()
    condition = models.CharField(max_length=20, choices=[(c.value, c.value) for c in Condition])
    meter = models.ForeignKey("instruments.Meter", on_delete=models.PROTECT, null=True, related_name="+")  # none of an imported job
    meter_name = models.CharField(max_length=200)
    overdue = models.BooleanField(default=False)
    temperature_c = models.FloatField(null=True, blank=True)
    volts = models.FloatField(null=True, blank=True)
    seconds = models.FloatField(null=True, blank=True)

    def __str__(self) -> str:
        return self.typed


class SeenSign(Observation):
    """Something seen on the part."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"sign seen"})

    sign = models.CharField(max_length=20, choices=[(s.value, s.value) for s in Sign])

    def __str__(self) -> str:
        return self.sign


class RecordedVerdict(Observation):
    """A verdict with the reasons, the evidence and the version of the rules that made it.

    Where a later judgement was offered and not taken, the verdict stands here again with the reasons not taken in `kept`.
    """

    word = models.CharField(max_length=20, choices=[(w.value, w.value) for w in Word])
    reasons = models.TextField()
    evidence = models.TextField(blank=True)
    kept = models.TextField(blank=True)
    rules_version = models.CharField(max_length=20)

    def __str__(self) -> str:
        return self.word


class BatchDecision(Observation):
    """What was decided of the rest of a set when one of it failed: only what failed, or every one."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"rest of the set"})

    choice = models.CharField(max_length=20)
    sentence = models.CharField(max_length=400)

    def __str__(self) -> str:
        return self.choice
