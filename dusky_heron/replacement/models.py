"""Which part was chosen for a position, and which demands of it were overridden."""

from typing import ClassVar

from django.db import models

from dusky_heron.record.models import Entered


class Choice(Entered):
    """A chosen part; the newest counts. What it was then is kept, and with which lot and when it went out of the drawer."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"replacement chosen"})

    position = models.ForeignKey("jobs.Position", on_delete=models.PROTECT, related_name="choices")
    part = models.ForeignKey("stock.Part", on_delete=models.PROTECT, null=True, related_name="+")  # none of an imported job
    marking = models.CharField(max_length=300)
    place = models.CharField(max_length=60, blank=True)
    lot = models.CharField(max_length=60, blank=True)
    date_code = models.CharField(max_length=20, blank=True)
    out_at = models.DateTimeField(null=True, blank=True)

    def __str__(self) -> str:
        return self.marking


class Override(Entered):
    """A demand overridden for a position, with who did and why; taken back by another row with `stands` false."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"demand overridden", "demand asked for again"})

    position = models.ForeignKey("jobs.Position", on_delete=models.PROTECT, related_name="overrides")
    rule_id = models.CharField(max_length=60)
    stands = models.BooleanField(default=True)
    reason = models.CharField(max_length=500)

    def __str__(self) -> str:
        return f"{self.rule_id}: {self.reason}"
