"""Chains of entries, the rows that entries made, writes done once, and the version every editable thing carries."""

import datetime
import uuid
from itertools import groupby
from operator import attrgetter
from typing import Any, ClassVar, Self

from django.contrib.postgres.indexes import GinIndex
from django.contrib.postgres.search import SearchVectorField
from django.db import connection, models
from django.utils import timezone

from dusky_heron.record.naming import new_id


class Versioned(models.Model):
    """Something that can be edited: its version tells a stale write from a fresh one."""

    id = models.UUIDField(primary_key=True, default=new_id, editable=False)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        abstract = True


class Chain(models.Model):
    """One chain of entries: of a job, or of a workshop for what belongs to no job."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workshop_id = models.UUIDField()
    subject_id = models.UUIDField(unique=True)
    origin_id = models.UUIDField(null=True, blank=True)  # what its texts name as their subject, where it came from elsewhere
    length = models.PositiveIntegerField(default=0)
    head = models.CharField(max_length=64, default="0" * 64)

    def __str__(self) -> str:
        return f"chain of {self.subject_id}, {self.length} entries"

    @property
    def named(self) -> str:
        """The subject as its texts name it."""
        return str(self.origin_id or self.subject_id)


class WordsOf(models.Func):
    """The words of an entry, each behind whose it is: a word that all workshops use is looked up in one alone.

    Names of fields, ids and digests are none; see migration 0006, which writes the function.
    """

    function = "entry_words"
    output_field = SearchVectorField()

    def __init__(self) -> None:
        super().__init__(models.F("workshop_id"), models.F("text"))


class Entry(models.Model):
    """One line of a record. `text` is the canonical text that was hashed; it is never changed."""

    chain = models.ForeignKey(Chain, on_delete=models.PROTECT, related_name="entries")
    workshop_id = models.UUIDField()  # of its chain, for its words
    sequence = models.PositiveIntegerField()
    text = models.TextField()
    hash = models.CharField(max_length=64)
    binds = models.TextField(default="")  # digests of the rows it wrote, `binding.Binds`; the text holds its own digest

    class Meta:
        ordering = ["sequence"]
        indexes = [GinIndex(WordsOf(), name="words_of_entries")]
        constraints = [models.UniqueConstraint(fields=["chain", "sequence"], name="one_entry_a_place")]

    def __str__(self) -> str:
        return f"entry {self.sequence}"


class Entered(models.Model):
    """A row that an entry of a job's record made, and that can decide something.

    Order is the order of the record, nothing is sorted by a clock: `sequence` is the entry's own, `stands_at` the same, or of a
    write that waited where there was no server as far as its writer had seen, so that it never decides over what it did not
    know. `taken_at` is when such a write was taken. `struck` is the entry that struck the row, and `turn` how often the clock
    had run back by then; none where that is another server's.
    """

    JOB: ClassVar[str] = "position__job"  # the path to the job whose record it is in
    KINDS: ClassVar[frozenset[str]] = frozenset()  # of entries that make such a row and may be struck; none: it follows from others
    NEWEST_FIRST: ClassVar[tuple[str, ...]] = ("-stands_at", "-sequence", "-id")

    sequence = models.PositiveIntegerField(default=0)
    stands_at = models.PositiveIntegerField(default=0)
    struck = models.PositiveIntegerField(null=True, blank=True)
    turn = models.PositiveIntegerField(null=True, blank=True)
    taken_at = models.DateTimeField(null=True, blank=True)
    at = models.DateTimeField(default=timezone.now)
    by_name = models.CharField(max_length=200, default="")

    objects = models.Manager[Self]()

    class Meta:
        abstract = True
        ordering = ["stands_at", "sequence", "id"]

    @classmethod
    def standing(cls, **where: Any) -> models.QuerySet[Self]:
        """The rows that were not struck: what was struck decides nothing."""
        return cls.objects.filter(struck=None, **where)

    @classmethod
    def signed_here(cls, **where: Any) -> models.QuerySet[Self]:
        """Of those standing what somebody here signed; what came in a job's file counts only once a lead accepted it."""
        here = models.Q(turn__isnull=False) | models.Q(**{f"{cls.JOB}__from_file": False})
        return cls.standing(**where).filter(here | models.Q(**{f"{cls.JOB}__accepted": True}))

    @classmethod
    def newest_of_each(cls, found: models.QuerySet[Self], field: str) -> list[Self]:
        """Of rows found, the newest for each value of a field, here or on a device, whose database picks none. One statement."""
        rows = found.order_by(field, *cls.NEWEST_FIRST)
        if connection.features.can_distinct_on_fields:
            return list(rows.distinct(field))
        return [next(of_one) for _, of_one in groupby(rows, attrgetter(field))]

    @property
    def order(self) -> tuple[int, int]:
        """Where it stands in the record; the greater of two is the later word."""
        return self.stands_at, self.sequence

    @property
    def when(self) -> datetime.datetime:
        """When it was taken: as it arrived, or before, where it waited."""
        return self.taken_at or self.at


class Clock(models.Model):
    """How late it has been, and how often the clock ran back since: one row, which `watch` keeps."""

    latest = models.DateTimeField()
    turn = models.PositiveIntegerField(default=0)
    turned_at = models.DateTimeField(null=True, blank=True)

    def __str__(self) -> str:
        return f"{self.latest}, turn {self.turn}"


class Write(models.Model):
    """A write that was asked for with a key, and its answer, so that the same key happens once.

    `stood` is where the last entry stands that it added to the record of each subject, for what its writer typed after it.
    """

    actor_id = models.UUIDField()
    key = models.CharField(max_length=100)
    fingerprint = models.CharField(max_length=64)
    answer = models.TextField(default="")
    stood = models.JSONField(default=dict)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["actor_id", "key"], name="one_write_a_key")]

    def __str__(self) -> str:
        return f"write {self.key}"
