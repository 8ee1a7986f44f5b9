"""What is known about the charge of a position, note after note."""

from enum import StrEnum

from django.db import models


class ChargeState(StrEnum):
    """What may be on a capacitor. There is no state that says all clear."""

    UNKNOWN = "unknown"
    ENERGISED = "energised"
    EMPTYING = "emptying"
    KEPT_SHORTED = "kept_shorted"


class ChargeNote(models.Model):
    """A change of what is known; the newest counts."""

    position = models.ForeignKey("jobs.Position", on_delete=models.PROTECT, related_name="charge_notes")
    state = models.CharField(max_length=20, choices=[(s.value, s.value) for s in ChargeState])
    tool = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField(auto_now_add=True)
    by_name = models.CharField(max_length=200)

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return self.state
