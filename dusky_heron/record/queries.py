"""Reading a record, and proving that nobody altered it."""

import json
from collections.abc import Iterator
from dataclasses import dataclass
from uuid import UUID

from dusky_heron.record.actions.append import link
from dusky_heron.record.actor import Actor
from dusky_heron.record.models import Chain, Entry
from dusky_heron.record.schemas import EntryOut

FIRST = "0" * 64


@dataclass(frozen=True, slots=True)
class Verified:
    """Whether a chain is whole: how many entries, its head, and the first place that does not fit."""

    whole: bool
    length: int
    head: str
    first_altered: int | None


def entries_of(actor: Actor, subject_id: UUID) -> list[EntryOut]:
    """The entries of a chain, oldest first, as they were written. One statement."""
    found = Entry.objects.filter(chain__subject_id=subject_id, chain__workshop_id=actor.workshop_id)
    return [_show(entry) for entry in found]


def _show(entry: Entry) -> EntryOut:
    """An entry as it was written; one whose text was broken from outside is still shown, as what it is now."""
    try:
        return EntryOut.model_validate({**json.loads(entry.text), "hash": entry.hash})
    except ValueError:
        body = {"text": entry.text}
        return EntryOut(sequence=entry.sequence, at=None, by=None, by_name="", kind="unreadable", body=body, hash=entry.hash)


def head_of(actor: Actor, subject_id: UUID) -> tuple[int, str]:
    """How many entries a chain has, and its head. One statement."""
    chain = Chain.objects.filter(subject_id=subject_id, workshop_id=actor.workshop_id).first()
    return (chain.length, chain.head) if chain else (0, FIRST)


def verify(actor: Actor, subject_id: UUID) -> Verified:
    """Recompute a chain from its texts and compare every link and its head. Two statements."""
    chain = Chain.objects.filter(subject_id=subject_id, workshop_id=actor.workshop_id).first()
    return _verified(chain) if chain else Verified(True, 0, FIRST, None)


def verify_all() -> Iterator[tuple[UUID, Verified]]:
    """Every chain of every workshop by what it is about, for the command line. Two statements a chain."""
    for chain in Chain.objects.order_by("id").iterator():
        yield chain.subject_id, _verified(chain)


def printed_head_stands(head: str) -> bool:
    """Whether a head that was printed once is an entry of a chain that is whole: a chain recomputed since has it no more."""
    entry = Entry.objects.select_related("chain").filter(hash=head.strip().lower()).first()
    return entry is not None and _verified(entry.chain).whole


def _verified(chain: Chain) -> Verified:
    previous, expected = FIRST, 1
    for entry in chain.entries.all():
        if not _fits(entry, previous, expected, chain.named):
            return Verified(False, chain.length, chain.head, expected)
        previous, expected = entry.hash, expected + 1
    whole = expected - 1 == chain.length and previous == chain.head
    return Verified(whole, chain.length, chain.head, None if whole else expected)


def _fits(entry: Entry, previous: str, expected: int, subject: str) -> bool:
    """The hash first: a text that still has its hash was written by us, and can be read."""
    if entry.sequence != expected or link(previous, entry.text) != entry.hash:
        return False
    said = json.loads(entry.text)
    return bool(said["sequence"] == expected and said["subject"] == subject)
