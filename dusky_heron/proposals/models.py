"""Proposals: an action with all it was asked with, by whom, and how it was answered."""

from enum import StrEnum
from typing import Any, ClassVar

from django.db import models

from dusky_heron.record.models import Entered
from dusky_heron.record.naming import new_id


class Act(StrEnum):
    """What may be proposed."""

    CHOICE = "choice"
    DEVIATION = "deviation"
    HANDBACK = "handback"


class Proposal(Entered):
    """An action that waits for a signature: `asked` is what it is asked with, `about` the check where it is of one.

    `says` is what would come of it, in a line; `by_id` the member who asks, none of another server's. `answered` is the entry of
    the answer: `signed`, or returned with a `word`.
    """

    JOB: ClassVar[str] = "job"
    KINDS: ClassVar[frozenset[str]] = frozenset({"proposed"})
    SHAPES: ClassVar[dict[str, Any]] = {"asked": {"type": "object"}}  # JSON Schema of a job's file

    id = models.UUIDField(primary_key=True, default=new_id, editable=False)
    job = models.ForeignKey("jobs.Job", on_delete=models.PROTECT, related_name="+")
    position = models.ForeignKey("jobs.Position", on_delete=models.PROTECT, related_name="+", null=True, blank=True)
    act = models.CharField(max_length=20, choices=[(a.value, a.value) for a in Act])
    about = models.CharField(max_length=120, blank=True)
    asked = models.JSONField(default=dict)
    says = models.CharField(max_length=1400)
    reason = models.CharField(max_length=500, blank=True)
    by_id = models.UUIDField(null=True, blank=True)
    answered = models.PositiveIntegerField(null=True, blank=True)
    answered_at = models.DateTimeField(null=True, blank=True)
    answered_by = models.CharField(max_length=200, blank=True)
    signed = models.BooleanField(default=False)
    word = models.CharField(max_length=300, blank=True)

    def __str__(self) -> str:
        return self.says
