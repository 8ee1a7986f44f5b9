"""What was ticked while a part was fitted, and when its list was worked through."""

from django.db import models


class FitTick(models.Model):
    """A line of the fitting list ticked by somebody, or taken back by another row with `done` false."""

    choice = models.ForeignKey("replacement.Choice", on_delete=models.PROTECT, related_name="ticks")
    sentence = models.CharField(max_length=400)
    done = models.BooleanField(default=True)
    note = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField(auto_now_add=True)
    by_name = models.CharField(max_length=200)

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return self.sentence


class Fitted(models.Model):
    """A chosen part that is in its place: every line of its list ticked."""

    choice = models.OneToOneField("replacement.Choice", on_delete=models.PROTECT, related_name="fitted")
    at = models.DateTimeField(auto_now_add=True)
    by_name = models.CharField(max_length=200)

    def __str__(self) -> str:
        return f"{self.choice} by {self.by_name}"
