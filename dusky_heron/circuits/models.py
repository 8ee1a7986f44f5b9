"""What was read on the fault walk of a job's supply."""

from typing import ClassVar

from django.db import models

from dusky_heron.record.models import Entered


class WalkReading(Entered):
    """One reading of a fault walk: what the supply showed, what was known of its parts, the check, as typed, and what it said."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"fault walk"})

    JOB: ClassVar[str] = "job"

    job = models.ForeignKey("jobs.Job", on_delete=models.PROTECT, related_name="walk_readings")
    symptom = models.CharField(max_length=40)
    parts = models.JSONField(default=dict)
    check_id = models.CharField(max_length=40)
    typed = models.CharField(max_length=200)
    found = models.CharField(max_length=20)
    sentence = models.CharField(max_length=300, blank=True)

    def __str__(self) -> str:
        return f"{self.check_id}: {self.typed}"
