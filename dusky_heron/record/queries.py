"""Reading a record, and proving that nobody altered it."""

import datetime
import json
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cache
from typing import Any
from uuid import UUID

from django.apps import apps

from dusky_heron.record.actions.append import BEGUN, TAKEN_IN, link
from dusky_heron.record.actor import Actor, MemberRole
from dusky_heron.record.binding import bound_models, differences, digest_of, digests
from dusky_heron.record.clock import watch
from dusky_heron.record.models import Chain, Entered, Entry
from dusky_heron.record.schemas import BeatOut, EntryOut, FreshOut

FIRST = "0" * 64
AT_ONCE = datetime.timedelta(seconds=10)  # long enough to see what was tapped, too short to have worked on it
STRUCK = "struck"
NO_RECORD, FILE = "It has no record.", "its file"
MOST_TOLD, MOST_LATEST = 20, 200
UNSAID = {"taken_at": None, "struck_by": None, "may_strike": False}  # what most entries have no word of
NEWEST = 6  # an entry may be followed by those it led to: a step by a note for each place
ABOUT = ("position", "check", "sign", "typed", "state", "line", "caption", "label", "part")  # what an entry names first
WORDS = ("check", "sign", "state")  # of these, kept by their id: its words joined by underscores


@cache
def rows_of() -> dict[str, type[Entered]]:
    """The kinds of entries that may be struck, and which rows they made. No statement."""
    return {kind: model for model in apps.get_models() if issubclass(model, Entered) for kind in model.KINDS}


@dataclass(frozen=True, slots=True)
class Verified:
    """Whether a record is whole: how many entries, its head, the first place that does not fit, and how its rows differ."""

    whole: bool
    length: int
    head: str
    first_altered: int | None
    differs: tuple[str, ...] = ()


def entries_of(actor: Actor, subject_id: UUID) -> list[EntryOut]:
    """The entries of a chain, oldest first, as they were written. One statement."""
    found = Entry.objects.filter(chain__subject_id=subject_id, chain__workshop_id=actor.workshop_id)
    shown = [_show(entry) for entry in found]
    struck = {entry.body.get("entry"): entry.sequence for entry in shown if entry.kind == STRUCK}
    for entry in shown:
        entry.struck_by = struck.get(entry.sequence)
        mine = entry.by == actor.id or actor.role is MemberRole.LEAD
        entry.may_strike = mine and entry.struck_by is None and entry.kind in rows_of()
    return shown


def latest_entries(actor: Actor) -> list[EntryOut]:
    """The newest entries of the workshop's own record, newest first. One statement."""
    own = Entry.objects.filter(chain__subject_id=actor.workshop_id, chain__workshop_id=actor.workshop_id)
    return [_show(entry) for entry in own.order_by("-sequence")[:MOST_LATEST]]


def _show(entry: Entry) -> EntryOut:
    """An entry as it was written; one whose text was broken from outside is still shown, as what it is now."""
    try:
        said = json.loads(entry.text)
        return EntryOut.model_validate(UNSAID | said | {"hash": entry.hash})
    except (ValueError, TypeError):
        return EntryOut.model_validate(
            UNSAID
            | {"sequence": entry.sequence, "at": None, "by": None, "by_name": "", "kind": "unreadable"}
            | {"body": {"text": entry.text}, "hash": entry.hash}
        )


def _said(key: str, value: str) -> str:
    return value.replace("_", " ") if key in WORDS else value


def beat(actor: Actor, subject_id: UUID) -> BeatOut:
    """How many entries a chain has, and the newest where the asker may still take it back at once. Three or four statements."""
    chain = Chain.objects.filter(subject_id=subject_id, workshop_id=actor.workshop_id).first()
    moment = watch()
    newest = Entry.objects.filter(chain=chain).order_by("-sequence")[:NEWEST] if chain else []
    shown = [_show(entry) for entry in newest]
    struck = {entry.body.get("entry") for entry in shown if entry.kind == STRUCK}
    fresh = None
    for entry in shown:
        left = AT_ONCE - (moment.now - entry.at) if entry.at and entry.by == actor.id else datetime.timedelta(0)
        if (
            datetime.timedelta(0) < left <= AT_ONCE
            and entry.sequence not in struck
            and _of_turn(subject_id, entry, moment.turn)  # where the clock ran back since, nobody can tell
        ):
            about = ", ".join(_said(key, str(entry.body[key])) for key in ABOUT if entry.body.get(key))
            fresh = FreshOut(sequence=entry.sequence, kind=entry.kind, about=about, left_s=left.total_seconds())
            break
    return BeatOut(entries=chain.length if chain else 0, fresh=fresh)


def _of_turn(subject_id: UUID, entry: EntryOut, turn: int) -> bool:
    """Whether an entry made rows, in this turn of the clock. One statement."""
    model = rows_of().get(entry.kind)
    where = {f"{model.JOB}_id": subject_id, "sequence": entry.sequence, "turn": turn} if model else {}
    return model is not None and model.objects.filter(**where).exists()


def head_of(actor: Actor, subject_id: UUID) -> tuple[int, str]:
    """How many entries a chain has, and its head. One statement."""
    chain = Chain.objects.filter(subject_id=subject_id, workshop_id=actor.workshop_id).first()
    return (chain.length, chain.head) if chain else (0, FIRST)


def verify(actor: Actor, subject_id: UUID) -> Verified:
    """Recompute a chain from its texts, and hold every row against what its entries wrote. Two statements, one a bound model."""
    chain = Chain.objects.filter(subject_id=subject_id, workshop_id=actor.workshop_id).first()
    return _verified(chain) if chain else Verified(False, 0, FIRST, None, (NO_RECORD,))


def verify_all() -> Iterator[tuple[UUID, Verified]]:
    """Every chain of every workshop by what it is about, for the command line; and what has none though it was written."""
    subjects = {key for label, (_, path) in bound_models().items() if path == "id" for key in digests(label)}
    for chain in Chain.objects.order_by("id").iterator():
        subjects.discard(str(chain.subject_id))
        yield chain.subject_id, _verified(chain)
    for left in sorted(subjects):
        yield UUID(left), Verified(False, 0, FIRST, None, (NO_RECORD,))


def printed_head_stands(head: str) -> bool:
    """Whether a head that was printed once is an entry of a chain that is whole: a chain recomputed since has it no more."""
    entry = Entry.objects.select_related("chain").filter(hash=head.strip().lower()).first()
    return entry is not None and _chained(entry.chain)[0].whole


def _verified(chain: Chain) -> Verified:
    found, said = _chained(chain)
    if not found.whole:
        return found
    differs = _begun_elsewhere(chain, said) + differences(chain.subject_id, _written(chain.subject_id, said))
    return replace(found, whole=not differs, differs=tuple(differs[:MOST_TOLD]))


def _chained(chain: Chain) -> tuple[Verified, list[tuple[dict[str, Any], str]]]:
    """Whether the chain itself holds; what each entry that was written here says, and binds."""
    previous, said = FIRST, list[tuple[dict[str, Any], str]]()
    taken_in = _taken_in(chain)
    if chain.origin_id is not None and taken_in is None:  # it says that it came from a file, and nobody wrote that down
        return Verified(False, chain.length, chain.head, 1), said
    elsewhere = taken_in[0]["body"]["entries"] if taken_in else 0
    for expected, entry in enumerate(chain.entries.all(), 1):
        read = _fits(entry, previous, expected, chain.named)
        if read is None or (expected > elsewhere and not _bound(read, entry.binds)):
            return Verified(False, chain.length, chain.head, expected), said
        previous = entry.hash
        if expected > elsewhere:
            said.append((read, entry.binds))
    whole = len(said) + elsewhere == chain.length and previous == chain.head
    found = Verified(whole, chain.length, chain.head, None if whole else len(said) + elsewhere + 1)
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


def _written(subject_id: UUID, said: list[tuple[dict[str, Any], str]]) -> dict[tuple[str, str], tuple[str, str]]:
    """By model and key the digest that was written last, and what wrote it; what a workshop took in is of that job's record."""
    last: dict[tuple[str, str], tuple[str, str]] = {}
    for read, binds in said:
        if read["kind"] != TAKEN_IN or read["body"]["id"] == str(subject_id):
            for label, rows in json.loads(binds or "{}").items():
                place = FILE if read["kind"] == TAKEN_IN else f"entry {read['sequence']}"
                last |= {(label, key): (digest, place) for key, digest in rows.items()}
    return last


def _begun_elsewhere(chain: Chain, said: list[tuple[dict[str, Any], str]]) -> list[str]:
    """Records that were begun by these entries and are not there any more. One statement."""
    names = {BEGUN: "of", TAKEN_IN: "id"}
    begun = {read["body"][names[read["kind"]]]: read["sequence"] for read, _ in said if read["kind"] in names}
    there = {
        str(key)
        for key in Chain.objects.filter(subject_id__in=begun, workshop_id=chain.workshop_id).values_list("subject_id", flat=True)
    }
    return [f"The record that entry {place} began is gone: {key}." for key, place in begun.items() if key not in there]
