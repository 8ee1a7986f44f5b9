"""Reading a record, and proving that nobody altered it."""

import datetime
import json
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from uuid import UUID

from django.apps import apps

from dusky_heron.record.actions.append import link
from dusky_heron.record.actor import Actor, MemberRole
from dusky_heron.record.clock import watch
from dusky_heron.record.models import Chain, Entered, Entry
from dusky_heron.record.schemas import BeatOut, EntryOut, FreshOut

FIRST = "0" * 64
AT_ONCE = datetime.timedelta(seconds=10)  # long enough to see what was tapped, too short to have worked on it
STRUCK = "struck"
UNSAID = {"taken_at": None, "struck_by": None, "may_strike": False}  # what most entries have no word of
NEWEST = 6  # an entry may be followed by those it led to: a step by a note for each place
ABOUT = ("position", "check", "sign", "typed", "state", "line", "caption", "label", "part")  # what an entry names first


@cache
def rows_of() -> dict[str, type[Entered]]:
    """The kinds of entries that may be struck, and which rows they made. No statement."""
    return {kind: model for model in apps.get_models() if issubclass(model, Entered) for kind in model.KINDS}


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
    shown = [_show(entry) for entry in found]
    struck = {entry.body.get("entry"): entry.sequence for entry in shown if entry.kind == STRUCK}
    for entry in shown:
        entry.struck_by = struck.get(entry.sequence)
        mine = entry.by == actor.id or actor.role is MemberRole.LEAD
        entry.may_strike = mine and entry.struck_by is None and entry.kind in rows_of()
    return shown


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
            about = ", ".join(str(entry.body[key]) for key in ABOUT if entry.body.get(key))
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
