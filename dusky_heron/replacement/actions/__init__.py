"""Choosing a part for a position."""

from uuid import UUID

from dusky_heron.core.errors import InputError
from dusky_heron.core.selection.rules import HARD_RULES
from dusky_heron.jobs.queries import core_position
from dusky_heron.record.actions import action, append
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.replacement.models import Choice, Override
from dusky_heron.replacement.queries import candidates
from dusky_heron.replacement.schemas import CandidateOut, CandidatesOut, ChoiceIn, OverrideIn

NEAR_MISSES = 10  # refused parts kept in the record beside a choice


@action(Permission.DECIDE)
def choose(actor: Actor, position_id: UUID, data: ChoiceIn) -> CandidatesOut:
    """Choose an accepted part; the record keeps why it was taken and why the nearest others were not."""
    position, _, _ = core_position(actor, position_id)
    answer = candidates(actor, position_id)
    taken = _accepted(answer, data.part_id)
    part = taken.part
    Choice.objects.create(position_id=position_id, part_id=part.id, marking=part.marking, place=part.place, by_name=actor.name)
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
    append(actor, position.job_id, "replacement chosen", body)
    return candidates(actor, position_id)


@action(Permission.DECIDE)
def override(actor: Actor, position_id: UUID, data: OverrideIn) -> CandidatesOut:
    """Override a demand of a position with a reason, or ask for it again; what is hard nobody overrides."""
    position, _, _ = core_position(actor, position_id)
    demand = next((rule for rule in HARD_RULES if rule.id == data.rule_id), None)
    if demand is None or not demand.demand:
        raise InputError("rule_id", "Nobody may override that.")
    Override.objects.create(
        position_id=position_id, rule_id=data.rule_id, stands=data.stands, reason=data.reason, by_name=actor.name
    )
    kind = "demand overridden" if data.stands else "demand asked for again"
    append(actor, position.job_id, kind, {"position": position.name, "demand": demand.title, "reason": data.reason})
    return candidates(actor, position_id)


def _accepted(answer: CandidatesOut, part_id: UUID) -> CandidateOut:
    for refused in answer.rejected:
        if refused.part.id == part_id:
            raise InputError("part_id", refused.reasons[0].sentence)
    for candidate in answer.accepted:
        if candidate.part.id == part_id:
            return candidate
    raise InputError("part_id", "Choose a part of the drawer.")
