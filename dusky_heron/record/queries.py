"""Reading a record, and proving that nobody altered it."""

import json
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from dusky_heron.record.actions.append import link
from dusky_heron.record.actor import Actor
from dusky_heron.record.models import Chain, Entry

FIRST = "0" * 64


@dataclass(frozen=True, slots=True)
class Verified:
    """Whether a chain is whole: how many entries, its head, and the first place that does not fit."""

    whole: bool
    length: int
    head: str
    first_altered: int | None


def entries_of(actor: Actor, subject_id: UUID) -> list[dict[str, Any]]:
    """The entries of a chain, oldest first, as they were written. One statement."""
    found = Entry.objects.filter(chain__subject_id=subject_id, chain__workshop_id=actor.workshop_id)
    return [{**json.loads(entry.text), "hash": entry.hash} for entry in found]


def verify(actor: Actor, subject_id: UUID) -> Verified:
    """Recompute a chain from its texts and compare every link and its head. Two statements."""
    chain = Chain.objects.filter(subject_id=subject_id, workshop_id=actor.workshop_id).first()
    if chain is None:
        return Verified(True, 0, FIRST, None)
    previous, expected = FIRST, 1
    for entry in chain.entries.all():
        body = json.loads(entry.text)
        fits = entry.sequence == expected and body["sequence"] == expected and body["subject"] == str(subject_id)
        if not fits or link(previous, entry.text) != entry.hash:
            return Verified(False, chain.length, chain.head, expected)
        previous, expected = entry.hash, expected + 1
    whole = expected - 1 == chain.length and previous == chain.head
    return Verified(whole, chain.length, chain.head, None if whole else expected)
