"""What was ticked while a part was fitted, and when its list was worked through."""

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


class Fitted(Entered):
    """A chosen part that is in its place: every line of its list ticked. Struck as soon as one is not."""

    JOB: ClassVar[str] = "choice__position__job"

    choice = models.ForeignKey("replacement.Choice", on_delete=models.PROTECT, related_name="fitted")

    def __str__(self) -> str:
        return f"{self.choice} by {self.by_name}"
