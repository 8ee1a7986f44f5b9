"""Adding an entry to a chain, and the rows it makes."""

import datetime
import hashlib
import json
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from dusky_heron.record.actor import Actor
from dusky_heron.record.clock import watch
from dusky_heron.record.models import Chain, Entered, Entry

LONG_AGO = datetime.datetime(1970, 1, 1, tzinfo=datetime.UTC)  # where nobody knows how long it waited


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


def append(actor: Actor, subject_id: UUID, kind: str, body: dict[str, Any]) -> Stand:
    """Add an entry to the chain of a job or workshop; call inside an action's transaction."""
    Chain.objects.get_or_create(subject_id=subject_id, defaults={"workshop_id": actor.workshop_id})
    chain = Chain.objects.select_for_update().get(subject_id=subject_id, workshop_id=actor.workshop_id)
    moment = watch()
    chain.length += 1
    taken_at = _taken_at(actor, moment.now)
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
        stands_at = min(actor.sending.seen or 0, chain.length)
        said |= {"taken_at": taken_at.isoformat(timespec="milliseconds"), "seen": stands_at}
    text = canonical(said)
    chain.head = link(chain.head, text)
    Entry.objects.create(chain=chain, sequence=chain.length, text=text, hash=chain.head)
    chain.save(update_fields=["length", "head"])
    return Stand(chain.length, stands_at, moment.turn, moment.now, taken_at, actor.name)


def enter(actor: Actor, subject_id: UUID, kind: str, body: dict[str, Any], *rows: Entered) -> None:
    """Add an entry, and save the rows it makes where it stands. What is struck is found by the kinds the rows know."""
    if any(row.KINDS and kind not in row.KINDS for row in rows):
        raise LookupError(f"no row of {kind!r} is known by that kind")
    stands = append(actor, subject_id, kind, body)
    for row in rows:
        row.sequence, row.stands_at, row.turn = stands.sequence, stands.stands_at, stands.turn
        row.at, row.taken_at, row.by_name = stands.at, stands.taken_at, stands.by_name
        row.save(force_insert=True)


def _taken_at(actor: Actor, now: datetime.datetime) -> datetime.datetime | None:
    """When what waited was taken: by how long it waited, whatever the clock of its writer says."""
    waited_s = actor.sending.waited_s
    if waited_s is None:
        return None
    return LONG_AGO if waited_s > (now - LONG_AGO).total_seconds() else now - datetime.timedelta(seconds=waited_s)
