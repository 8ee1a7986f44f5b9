"""Adding entries to chains, with the rows they make; an entry binds what its action wrote."""

import datetime
import hashlib
import json
from collections import defaultdict
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID

from django.db import models, transaction

from dusky_heron.record.actor import Actor
from dusky_heron.record.binding import Binds, bound_models, digest_of, digests, write_binds
from dusky_heron.record.clock import Moment, watch
from dusky_heron.record.models import Chain, Entered, Entry, Write

BEGUN, WRITTEN, TAKEN_IN = "record begun", "written", "job taken in from a file"


@dataclass(frozen=True, slots=True)
class Stand:
    """Where an entry stands: see `Entered`."""

    sequence: int
    stands_at: int
    turn: int
    at: datetime.datetime
    taken_at: datetime.datetime | None
    by_name: str


def canonical(value: dict[str, Any]) -> str:
    """The one text of a value: sorted keys, no spaces, UTF-8; what is hashed and kept."""
    return json.dumps(value, sort_keys=True, separators=(",", ":"), ensure_ascii=False, allow_nan=False, default=str)


def link(previous: str, text: str) -> str:
    """The hash of an entry: SHA-256 over the hash before it and its own text."""
    return hashlib.sha256(f"{previous}\n{text}".encode()).hexdigest()


@dataclass(slots=True, eq=False)
class _Pending:
    """An entry that is hashed when everything its action writes is written."""

    actor: Actor
    chain: Chain
    said: dict[str, Any]
    binds: Binds = field(default_factory=dict)

    def tells_of(self, subject_id: UUID) -> bool:
        """Whether it is of the record of a subject, or says that this came from a file: then its own entries are another's."""
        taken_in = self.said["kind"] == TAKEN_IN and self.said["body"]["id"] == str(subject_id)
        return self.chain.subject_id == subject_id or taken_in


class _Writing:
    """The entries of one transaction, and the rows that were written in it."""

    def __init__(self) -> None:
        self.pending: list[_Pending] = []
        self.chains: dict[UUID, Chain] = {}
        self.touched: dict[str, set[Any]] = defaultdict(set)
        self.moment: Moment | None = None
        self.made: dict[tuple[str, str], _Pending] = {}  # by model and key, the entry that made a row

    def chain(self, actor: Actor, subject_id: UUID) -> Chain:
        """The chain of a subject, held; a new one is said in the record of its workshop."""
        if subject_id not in self.chains:
            held, new = Chain.objects.select_for_update().filter(subject_id=subject_id, workshop_id=actor.workshop_id), False
            chain = held.first()
            if chain is None:
                _, new = Chain.objects.get_or_create(subject_id=subject_id, defaults={"workshop_id": actor.workshop_id})
                chain = held.get()
            self.chains[subject_id] = chain
            if new and subject_id != actor.workshop_id:
                self.add(actor.here, actor.workshop_id, BEGUN, {"of": str(subject_id)})
        return self.chains[subject_id]

    def add(self, actor: Actor, subject_id: UUID, kind: str, body: dict[str, Any]) -> Stand:
        """Another entry of a chain."""
        chain = self.chain(actor, subject_id)
        moment = self.moment = watch(self.moment)
        chain.length += 1
        taken_at = actor.sending.taken_at and min(actor.sending.taken_at, moment.now)  # a clock put back meanwhile
        said = {
            "subject": chain.named,
            "sequence": chain.length,
            "at": moment.now.isoformat(timespec="milliseconds"),
            "by": str(actor.id),
            "by_name": actor.name,
            "kind": kind,
            "body": body,
        }
        stands_at = chain.length
        if taken_at is not None:
            stands_at = min(max(actor.sending.seen or 0, _stood(actor, subject_id)), chain.length)
            said |= {"taken_at": taken_at.isoformat(timespec="milliseconds"), "seen": stands_at}
        self.pending.append(_Pending(actor, chain, said))
        return Stand(chain.length, stands_at, moment.turn, moment.now, taken_at, actor.name)

    def forget(self, kept: int) -> None:
        """Drop the entries of a part that was rolled back, and what is held of their chains; its rows are read anew in the end."""
        for dropped in self.pending[kept:]:
            dropped.chain.length -= 1
        del self.pending[kept:]
        self.made = {key: row for key, row in self.made.items() if row in self.pending}
        self.chains = {row.chain.subject_id: row.chain for row in self.pending}
        self.moment = None  # a turn of the clock that was written down within is gone as well

    def bind(self) -> None:
        """Give each row that was written to the last entry of its record; what no entry tells of gets one."""
        if not self.pending:
            return
        actor = self.pending[0].actor.here
        for label, keys in self.touched.items():
            for key, (subject_id, digest) in digests(label, pk__in=keys).items():
                own = self.made.get((label, key))
                last = own or next((row for row in reversed(self.pending) if row.tells_of(subject_id)), None)
                if last is None:
                    self.add(actor, subject_id, WRITTEN, {"what": str(bound_models()[label][0]._meta.verbose_name)})
                    last = self.pending[-1]
                last.binds.setdefault(label, {})[key] = digest

    def save(self) -> None:
        """Hash and keep the entries, each over the one before it."""
        self.bind()
        entries = []
        for row in self.pending:
            binds = write_binds(row.binds) if row.binds else ""
            text = canonical(row.said | ({"binds": digest_of(binds)} if binds else {}))
            row.chain.head = link(row.chain.head, text)
            place = {"chain": row.chain, "workshop_id": row.chain.workshop_id, "sequence": row.said["sequence"]}
            entries.append(Entry(**place, text=text, hash=row.chain.head, binds=binds))
        Entry.objects.bulk_create(entries)
        for chain in {row.chain.pk: row.chain for row in self.pending}.values():
            chain.save(update_fields=["length", "head"])


_open: ContextVar[_Writing | None] = ContextVar("writing", default=None)


@contextmanager
def writing() -> Iterator[None]:
    """One transaction with its entries; within another it is a part of that, which may be rolled back by itself."""
    outer = _open.get()
    if outer is not None:
        kept = len(outer.pending)
        try:
            with transaction.atomic():
                yield
        except BaseException:
            outer.forget(kept)
            raise
        return
    mine = _Writing()
    token = _open.set(mine)
    try:
        with transaction.atomic():
            yield
            mine.save()
    finally:
        _open.reset(token)


def touched(model: type[models.Model], *keys: Any) -> None:
    """Rows that were written: the entry of their writing binds them. Called of itself for every row that is saved."""
    now = _open.get()
    if now is not None and model._meta.label in bound_models():
        now.touched[model._meta.label].update(keys)


def append(actor: Actor, subject_id: UUID, kind: str, body: dict[str, Any]) -> Stand:
    """Add an entry to the chain of a job or workshop; call inside an action."""
    return _open_now().add(actor, subject_id, kind, body)


def where_they_stand() -> dict[str, int]:
    """Where the last entry stands that this transaction added to the record of each subject."""
    return {str(row.chain.subject_id): row.said.get("seen", row.said["sequence"]) for row in _open_now().pending}


def _stood(actor: Actor, subject_id: UUID) -> int:
    """Where the last of what somebody wrote before stands in a record, as far as they name it. One statement, or none."""
    if not actor.sending.after:
        return 0
    before = Write.objects.filter(actor_id=actor.id, key__in=actor.sending.after).values_list("stood", flat=True)
    return max((stood.get(str(subject_id), 0) for stood in before), default=0)


def _open_now() -> _Writing:
    now = _open.get()
    if now is None:
        raise LookupError("an entry is written inside an action")
    return now


def enter(actor: Actor, subject_id: UUID, kind: str, body: dict[str, Any], *rows: Entered) -> None:
    """Add an entry, and save the rows it makes where it stands. What is struck is found by the kinds the rows know."""
    if any(row.KINDS and kind not in row.KINDS for row in rows):
        raise LookupError(f"no row of {kind!r} is known by that kind")
    now = _open_now()
    stands = now.add(actor, subject_id, kind, body)
    mine = now.pending[-1]
    for row in rows:
        row.sequence, row.stands_at, row.turn = stands.sequence, stands.stands_at, stands.turn
        row.at, row.taken_at, row.by_name = stands.at, stands.taken_at, stands.by_name
        row.save(force_insert=True)
        now.made[row._meta.label, str(row.pk)] = mine
