"""Which part was chosen for a position."""

from django.db import models


class Choice(models.Model):
    """A chosen part; the newest counts. What it was then is kept, whatever becomes of the drawer."""

    position = models.ForeignKey("jobs.Position", on_delete=models.PROTECT, related_name="choices")
    part = models.ForeignKey("stock.Part", on_delete=models.PROTECT, related_name="+")
    marking = models.CharField(max_length=300)
    place = models.CharField(max_length=60, blank=True)
    at = models.DateTimeField(auto_now_add=True)
    by_name = models.CharField(max_length=200)

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return self.marking
