"""Proving that nobody altered a record: its chain from its texts, its rows by what its entries wrote, all of one moment."""

import json
from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, replace
from itertools import islice
from typing import Any
from uuid import UUID

from django.db import connection, transaction

from dusky_heron.record.actions.append import BEGUN, TAKEN_IN, link
from dusky_heron.record.actor import Actor
from dusky_heron.record.binding import bound_models, differences, digest_of
from dusky_heron.record.models import Chain, Entry
from dusky_heron.record.queries import FIRST

NO_RECORD, FILE = "It has no record.", "its file"
MOST_TOLD = 20
AT_A_TIME = 200  # chains whose entries and rows are read together: some ten thousand entries of a workshop's jobs
Said = list[tuple[dict[str, Any], str]]  # what entries say, and bind


@dataclass(frozen=True, slots=True)
class Verified:
    """Whether a record is whole: how many entries, its head, the first place that does not fit, and how its rows differ.

    `printed` are, of the heads that were asked for, those that stand in a chain that holds: a chain recomputed has them no more.
    """

    whole: bool
    length: int
    head: str
    first_altered: int | None
    differs: tuple[str, ...] = ()
    printed: frozenset[str] = frozenset()


def verify(actor: Actor, subject_id: UUID) -> Verified:
    """Recompute a chain from its texts, and hold every row against what its entries wrote. Five statements, one a bound model."""
    with _one_moment():
        chain = Chain.objects.filter(subject_id=subject_id, workshop_id=actor.workshop_id).first()
        return _verified([chain])[0] if chain else Verified(False, 0, FIRST, None, (NO_RECORD,))


def verify_all(printed: Iterable[str] = ()) -> Iterator[tuple[UUID, Verified]]:
    """Every chain of every workshop by what it is about, for the command line; and what has none though it was written.

    Statements go with the number of chains by two hundred; heads are held in memory, none is looked up.
    """
    asked = frozenset(printed)
    with _one_moment():
        of_their_own = [model for model, path in bound_models().values() if path == "id"]
        subjects = {key for model in of_their_own for key in model._base_manager.values_list("pk", flat=True)}
        chains = Chain.objects.order_by("id").iterator()
        while some := list(islice(chains, AT_A_TIME)):
            for chain, found in zip(some, _verified(some, asked), strict=True):
                subjects.discard(chain.subject_id)
                yield chain.subject_id, found
        for left in sorted(subjects):
            yield left, Verified(False, 0, FIRST, None, (NO_RECORD,))


@contextmanager
def _one_moment() -> Iterator[None]:
    """All that is read within is of one moment, whoever writes meanwhile; within a transaction of the caller's, of that one's."""
    if connection.in_atomic_block:
        yield
        return
    with transaction.atomic():
        with connection.cursor() as cursor:
            cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY")
        yield


def _verified(chains: list[Chain], asked: frozenset[str] = frozenset()) -> list[Verified]:
    """Some chains, in their order. Three statements, one a bound model, two for each record that came from a file."""
    entries = defaultdict[UUID, list[Entry]](list)
    for entry in Entry.objects.filter(chain__in=chains).order_by("chain_id", "sequence"):
        entries[entry.chain_id].append(entry)
    chained = [_chained(chain, entries[chain.pk], asked) for chain in chains]
    holding = [(chain, said) for chain, (found, said) in zip(chains, chained, strict=True) if found.whole]
    gone = _begun_elsewhere(holding)
    differ = differences({chain.subject_id: _written(chain.subject_id, said) for chain, said in holding})
    told = {chain.subject_id: [*gone[chain.subject_id], *differ[chain.subject_id]] for chain, _ in holding}
    return [
        replace(found, whole=not told[chain.subject_id], differs=tuple(told[chain.subject_id][:MOST_TOLD]))
        if found.whole
        else found
        for chain, (found, _) in zip(chains, chained, strict=True)
    ]


def _chained(chain: Chain, entries: list[Entry], asked: frozenset[str]) -> tuple[Verified, Said]:
    """Whether the chain itself holds; what each entry that was written here says, and binds."""
    previous, said, stands = FIRST, Said(), set[str]()
    taken_in = _taken_in(chain)
    if chain.origin_id is not None and taken_in is None:  # it says that it came from a file, and nobody wrote that down
        return Verified(False, chain.length, chain.head, 1), said
    elsewhere = taken_in[0]["body"]["entries"] if taken_in else 0
    for expected, entry in enumerate(entries, 1):
        read = _fits(entry, previous, expected, chain.named)
        if read is None or (expected > elsewhere and not _bound(read, entry.binds)):
            return Verified(False, chain.length, chain.head, expected), said
        previous = entry.hash
        if previous in asked:
            stands.add(previous)
        if expected > elsewhere:
            said.append((read, entry.binds))
    whole = len(said) + elsewhere == chain.length and previous == chain.head
    place = None if whole else len(said) + elsewhere + 1
    found = Verified(whole, chain.length, chain.head, place, printed=frozenset(stands if whole else ()))
    return found, [*([taken_in] if taken_in else []), *said]


def _taken_in(chain: Chain) -> tuple[dict[str, Any], str] | None:
    """The workshop's entry by which it came from a file, which binds its rows. One statement, of such a record alone."""
    if chain.origin_id is None:
        return None
    named = f'"id":"{chain.subject_id}"'
    entry = Entry.objects.filter(chain__subject_id=chain.workshop_id, text__contains=named).order_by("sequence").first()
    if entry is None:
        return None
    read = json.loads(entry.text)
    return (read, entry.binds) if read["kind"] == TAKEN_IN and _bound(read, entry.binds) else None


def _bound(read: dict[str, Any], binds: str) -> bool:
    return bool(read.get("binds", "") == (digest_of(binds) if binds else ""))


def _fits(entry: Entry, previous: str, expected: int, subject: str) -> dict[str, Any] | None:
    """What an entry says, where it fits. The hash first: a text that still has its hash was written by us, and can be read."""
    if entry.sequence != expected or link(previous, entry.text) != entry.hash:
        return None
    said: dict[str, Any] = json.loads(entry.text)
    return said if said["sequence"] == expected and said["subject"] == subject else None


def _written(subject_id: UUID, said: Said) -> dict[tuple[str, str], tuple[str, str]]:
    """By model and key the digest that was written last, and what wrote it; what a workshop took in is of that job's record."""
    last: dict[tuple[str, str], tuple[str, str]] = {}
    for read, binds in said:
        if read["kind"] != TAKEN_IN or read["body"]["id"] == str(subject_id):
            for label, rows in json.loads(binds or "{}").items():
                place = FILE if read["kind"] == TAKEN_IN else f"entry {read['sequence']}"
                last |= {(label, key): (digest, place) for key, digest in rows.items()}
    return last


def _begun_elsewhere(said_by: Iterable[tuple[Chain, Said]]) -> Mapping[UUID, list[str]]:
    """By subject, the records that its entries began and that are not in its workshop any more. One statement."""
    names, begun = {BEGUN: "of", TAKEN_IN: "id"}, dict[tuple[UUID, UUID], dict[str, int]]()
    for chain, said in said_by:
        by = {read["body"][names[read["kind"]]]: read["sequence"] for read, _ in said if read["kind"] in names}
        begun[chain.subject_id, chain.workshop_id] = by
    wanted = {key for by in begun.values() for key in by}
    there = {
        (str(key), workshop)
        for key, workshop in Chain.objects.filter(subject_id__in=wanted).values_list("subject_id", "workshop_id")
    }
    return {
        subject: [
            f"The record that entry {place} began is gone: {key}." for key, place in by.items() if (key, workshop) not in there
        ]
        for (subject, workshop), by in begun.items()
    }
