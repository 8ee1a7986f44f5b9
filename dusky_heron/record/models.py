"""Chains of entries, writes done once, and the version every editable thing carries."""

import uuid

from django.contrib.postgres.indexes import GinIndex
from django.contrib.postgres.search import SearchVector
from django.db import models


class Versioned(models.Model):
    """Something that can be edited: its version tells a stale write from a fresh one."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
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


class Entry(models.Model):
    """One line of a record. `text` is the canonical text that was hashed; it is never changed."""

    chain = models.ForeignKey(Chain, on_delete=models.PROTECT, related_name="entries")
    sequence = models.PositiveIntegerField()
    text = models.TextField()
    hash = models.CharField(max_length=64)

    class Meta:
        ordering = ["sequence"]
        indexes = [GinIndex(SearchVector("text", config="simple"), name="entry_words")]
        constraints = [models.UniqueConstraint(fields=["chain", "sequence"], name="one_entry_a_place")]

    def __str__(self) -> str:
        return f"entry {self.sequence}"


class Write(models.Model):
    """A write that was asked for with a key, and its answer, so that the same key happens once."""

    actor_id = models.UUIDField()
    key = models.CharField(max_length=100)
    fingerprint = models.CharField(max_length=64)
    answer = models.TextField(default="")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["actor_id", "key"], name="one_write_a_key")]

    def __str__(self) -> str:
        return f"write {self.key}"
