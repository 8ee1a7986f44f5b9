"""Reading a record."""

import datetime
import json
from collections.abc import Collection
from functools import cache
from uuid import UUID

from django.apps import apps
from django.db.models import F

from dusky_heron.record.actor import Actor, MemberRole
from dusky_heron.record.clock import watch
from dusky_heron.record.models import Chain, Entered, Entry
from dusky_heron.record.schemas import BeatOut, EntryOut, FreshOut

FIRST = "0" * 64
AT_ONCE = datetime.timedelta(seconds=10)  # long enough to see what was tapped, too short to have worked on it
STRUCK = "struck"
MOST_LATEST = 200
UNSAID = {"taken_at": None, "struck_by": None, "may_strike": False}  # what most entries have no word of
NEWEST = 6  # an entry may be followed by those it led to: a step by a note for each place
ABOUT = ("position", "check", "sign", "typed", "state", "line", "caption", "label", "part")  # what an entry names first
WORDS = ("check", "sign", "state")  # of these, kept by their id: its words joined by underscores


@cache
def rows_of() -> dict[str, type[Entered]]:
    """The kinds of entries that may be struck, and which rows they made. No statement."""
    return {kind: model for model in apps.get_models() if issubclass(model, Entered) for kind in model.KINDS}


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


def last_entries(subject_ids: Collection[UUID]) -> dict[UUID, EntryOut]:
    """The newest entry of each chain, by its subject. One statement."""
    newest = Entry.objects.filter(chain__subject_id__in=subject_ids, sequence=F("chain__length")).select_related("chain")
    return {entry.chain.subject_id: _show(entry) for entry in newest}


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
