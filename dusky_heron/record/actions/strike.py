"""Correcting: a line is struck by another entry, and both stay in the record."""

import json
from uuid import UUID

from dusky_heron.core.errors import InputError
from dusky_heron.record.actions.append import append
from dusky_heron.record.actor import Actor, MemberRole
from dusky_heron.record.clock import watch
from dusky_heron.record.errors import NotAllowed, NotFound
from dusky_heron.record.models import Chain, Entered, Entry
from dusky_heron.record.queries import AT_ONCE, STRUCK, rows_of

LEAST_REASON = 3  # letters


def strike(actor: Actor, subject_id: UUID, sequence: int, reason: str) -> list[Entered]:
    """Strike the rows that an entry made, and say so in an entry of its own; call inside an action's transaction.

    Whoever wrote a line may strike it, or a lead, with a reason; within ten seconds its writer takes it back without one.
    """
    Chain.objects.select_for_update().filter(subject_id=subject_id, workshop_id=actor.workshop_id).first()
    entry = Entry.objects.filter(chain__subject_id=subject_id, chain__workshop_id=actor.workshop_id, sequence=sequence).first()
    if entry is None:
        raise NotFound
    said = json.loads(entry.text)
    own = said["by"] == str(actor.id)
    if not own and actor.role is not MemberRole.LEAD:
        raise NotAllowed("Whoever wrote a line may strike it, or a lead.")
    model = rows_of().get(said["kind"])
    rows = list(model.objects.filter(**{f"{model.JOB}_id": subject_id, "sequence": sequence})) if model else []
    if not rows:
        raise InputError("sequence", "That line decides nothing: there is nothing to strike.")
    if any(row.struck is not None for row in rows):
        raise InputError("sequence", "It has been struck already.")
    gone = watch().gone(rows[0].at, rows[0].turn)
    at_once = own and gone is not None and gone <= AT_ONCE
    if len(reason) < LEAST_REASON and not at_once:
        raise InputError("reason", "Say in a word or two why it is struck.")
    body = {"struck": said["kind"], "entry": sequence, **_named(said["body"]), "reason": reason or "taken back at once"}
    stands = append(actor, subject_id, STRUCK, body)
    for row in rows:
        row.struck = stands.sequence
        row.save(update_fields=["struck"])
    return rows


def _named(body: dict[str, object]) -> dict[str, object]:
    """What the struck line was about, in its own words."""
    return {key: body[key] for key in ("position", "line", "check", "sign", "typed", "state") if body.get(key)}
