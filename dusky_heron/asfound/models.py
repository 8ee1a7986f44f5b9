"""How equipment was found: one line for each wire, connector, screw or polarity, and photos with points marked on them."""

from typing import ClassVar

from django.db import models

from dusky_heron.core.wiring import FoundKind
from dusky_heron.record.models import Entered
from dusky_heron.record.naming import new_id


class Noted(Entered):
    """Something noted about a job by a member at a time."""

    JOB: ClassVar[str] = "job"

    id = models.UUIDField(primary_key=True, default=new_id, editable=False)

    class Meta(Entered.Meta):
        abstract = True


class FoundLine(Noted):
    """One line of the map, as typed and as read."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"found so"})

    job = models.ForeignKey("jobs.Job", on_delete=models.PROTECT, related_name="found_lines")
    position = models.ForeignKey("jobs.Position", on_delete=models.PROTECT, null=True, blank=True, related_name="+")
    kind = models.CharField(max_length=20, choices=[(k.value, k.value) for k in FoundKind])
    typed = models.CharField(max_length=300)
    colour = models.CharField(max_length=60, blank=True)
    start = models.CharField(max_length=200, blank=True)
    end = models.CharField(max_length=200, blank=True)
    note = models.CharField(max_length=300, blank=True)

    def __str__(self) -> str:
        return self.typed


class Photo(Noted):
    """A photo as kept: encoded anew, without the metadata of the camera; `digest` is the SHA-256 of the kept file."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"photo"})

    job = models.ForeignKey("jobs.Job", on_delete=models.PROTECT, related_name="photos")
    caption = models.CharField(max_length=200, blank=True)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    digest = models.CharField(max_length=64)

    def __str__(self) -> str:
        return self.caption or str(self.id)


class Point(Noted):
    """A point marked on a photo, as shares of its width and height, and what it is of."""

    KINDS: ClassVar[frozenset[str]] = frozenset({"point marked"})

    JOB: ClassVar[str] = "photo__job"

    photo = models.ForeignKey(Photo, on_delete=models.PROTECT, related_name="points")
    x = models.FloatField()
    y = models.FloatField()
    label = models.CharField(max_length=80)
    position = models.ForeignKey("jobs.Position", on_delete=models.PROTECT, null=True, blank=True, related_name="+")
    line = models.ForeignKey(FoundLine, on_delete=models.PROTECT, null=True, blank=True, related_name="+")

    def __str__(self) -> str:
        return self.label
