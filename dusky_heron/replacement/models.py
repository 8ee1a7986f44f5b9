"""Which part was chosen for a position, and which demands of it were overridden."""

from django.db import models


class Choice(models.Model):
    """A chosen part; the newest counts. What it was then is kept, and with which lot it left the drawer."""

    position = models.ForeignKey("jobs.Position", on_delete=models.PROTECT, related_name="choices")
    part = models.ForeignKey("stock.Part", on_delete=models.PROTECT, null=True, related_name="+")  # none of an imported job
    marking = models.CharField(max_length=300)
    place = models.CharField(max_length=60, blank=True)
    lot = models.CharField(max_length=60, blank=True)
    date_code = models.CharField(max_length=20, blank=True)
    taken_at = models.DateTimeField(null=True, blank=True)
    at = models.DateTimeField(auto_now_add=True)
    by_name = models.CharField(max_length=200)

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return self.marking


class Override(models.Model):
    """A demand overridden for a position, with who did and why; taken back by another row with `stands` false."""

    position = models.ForeignKey("jobs.Position", on_delete=models.PROTECT, related_name="overrides")
    rule_id = models.CharField(max_length=60)
    stands = models.BooleanField(default=True)
    reason = models.CharField(max_length=500)
    at = models.DateTimeField(auto_now_add=True)
    by_name = models.CharField(max_length=200)

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return f"{self.rule_id}: {self.reason}"
