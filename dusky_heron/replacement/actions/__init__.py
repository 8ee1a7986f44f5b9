"""Choosing a part for a position."""

from uuid import UUID

from django.utils import timezone

from dusky_heron.core.errors import InputError
from dusky_heron.core.selection.rules import HARD_RULES
from dusky_heron.jobs.queries import core_position
from dusky_heron.record.actions import action, append, enter
from dusky_heron.record.actor import Actor, MemberRole, Permission
from dusky_heron.record.errors import NotAllowed
from dusky_heron.replacement.models import Choice, Override
from dusky_heron.replacement.queries import candidates
from dusky_heron.replacement.schemas import CandidateOut, CandidatesOut, ChoiceIn, OverrideIn
from dusky_heron.stock.actions import locked_part, move
from dusky_heron.stock.models import Why
from dusky_heron.stock.queries import not_settled
from dusky_heron.workshops.queries import chosen_schools

NEAR_MISSES = 10  # refused parts kept in the record beside a choice


@action(Permission.DECIDE)
def choose(actor: Actor, position_id: UUID, data: ChoiceIn) -> CandidatesOut:
    """Choose an accepted part; the record keeps why it was taken and why the nearest others were not."""
    position, _, _ = core_position(actor, position_id)
    answer = candidates(actor, position_id)
    taken = _accepted(answer, data.part_id)
    part = taken.part
    choice = Choice(position_id=position_id, part_id=part.id, marking=part.marking, place=part.place)
    body = {
        "position": position.name,
        "part": part.marking,
        "place": part.place,
        "asked": answer.need,
        "reasons": taken.reasons,
        "adaptations": taken.adaptations,
        "conditions": taken.conditions,
        "not_these": [
            {"part": r.part.marking, "reason": r.reasons[0].sentence, "rule": r.reasons[0].rule_id}
            for r in answer.rejected[:NEAR_MISSES]
        ],
    }
    enter(actor, position.job_id, "replacement chosen", body, choice)
    return candidates(actor, position_id)


@action(Permission.WORK)
def take_out(actor: Actor, position_id: UUID) -> CandidatesOut:
    """Take the chosen part out of the drawer for its place, as many as the place holds."""
    position, known, job = core_position(actor, position_id)
    chosen = Choice.standing(position_id=position_id).select_for_update().last()
    if chosen is None or chosen.out_at:
        raise InputError("part_id", "It has been taken out already." if chosen else "Choose a part first.")
    if chosen.part_id is None:
        raise InputError("part_id", "That part is in the drawer of another workshop: choose one of yours.")
    part = locked_part(actor, chosen.part_id)
    if asks := not_settled(part):
        raise InputError("part_id", asks)
    move(actor, part, -known.surroundings.count, Why.TO_JOB, f"job {job.number}, {position.name}")
    chosen.lot, chosen.date_code, chosen.out_at = part.lot, part.date_code, timezone.now()
    chosen.save(update_fields=["lot", "date_code", "out_at"])
    body = {"position": position.name, "part": part.marking, "lot": part.lot, "date_code": part.date_code}
    append(actor, position.job_id, "taken out of the drawer", body)
    return candidates(actor, position_id)


def put_back(actor: Actor, chosen: Choice) -> None:
    """Put the part of a choice that was struck back in the drawer; call inside an action's transaction."""
    position, known, job = core_position(actor, chosen.position_id)
    if chosen.out_at and chosen.part_id:
        part = locked_part(actor, chosen.part_id)
        move(actor, part, known.surroundings.count, Why.FROM_JOB, f"job {job.number}, {position.name}: its choice was struck")


@action(Permission.DECIDE)
def override(actor: Actor, position_id: UUID, data: OverrideIn) -> CandidatesOut:
    """Override a demand of a position with a reason, or ask for it again; what is hard nobody overrides."""
    position, _, _ = core_position(actor, position_id)
    demand = next((rule for rule in HARD_RULES if rule.id == data.rule_id), None)
    if demand is None or not demand.demand:
        raise InputError("rule_id", "Nobody may override that.")
    if chosen_schools(actor)["overrides"] == "lead" and actor.role is not MemberRole.LEAD:
        raise NotAllowed("In this workshop the lead alone may set a demand aside.")
    row = Override(position_id=position_id, rule_id=data.rule_id, stands=data.stands, reason=data.reason)
    kind = "demand overridden" if data.stands else "demand asked for again"
    body = {"position": position.name, "demand": demand.title, "reason": data.reason}
    enter(actor, position.job_id, kind, body, row)
    return candidates(actor, position_id)


def _accepted(answer: CandidatesOut, part_id: UUID) -> CandidateOut:
    for refused in answer.rejected:
        if refused.part.id == part_id:
            raise InputError("part_id", refused.reasons[0].sentence)
    for candidate in answer.accepted:
        if candidate.part.id == part_id:
            return candidate
    raise InputError("part_id", "Choose a part of the drawer.")
