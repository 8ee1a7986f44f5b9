"""Choosing a part for a position."""

from collections import Counter
from typing import Any
from uuid import UUID

from django.utils import timezone

from dusky_heron.core.errors import RESISTANCE, InputError
from dusky_heron.core.quantities import parse_quantity, show
from dusky_heron.core.selection.rules import HARD_RULES
from dusky_heron.core.selection.ways import WAY_TITLES, WITH_PARTS, Way
from dusky_heron.jobs.queries import core_position
from dusky_heron.record.actions import action, append, enter
from dusky_heron.record.actor import Actor, MemberRole, Permission
from dusky_heron.record.errors import NotAllowed
from dusky_heron.replacement.models import Choice, Override
from dusky_heron.replacement.queries import candidates, judged
from dusky_heron.replacement.schemas import CandidatesOut, ChoiceIn, ChosenPart, OverrideIn
from dusky_heron.stock.actions import locked_part, move
from dusky_heron.stock.models import Why
from dusky_heron.stock.queries import not_settled
from dusky_heron.stock.schemas import PartOut
from dusky_heron.workshops.queries import chosen_schools

NEAR_MISSES = 10  # refused parts kept in the record beside a choice
SHORTEST_REASON = 3


@action(Permission.DECIDE)
def choose(actor: Actor, position_id: UUID, data: ChoiceIn) -> CandidatesOut:
    """Choose how a place is filled; the record keeps why, and why the nearest others were not taken."""
    if data.way is Way.ORDERED:
        raise InputError("way", "Order it with its specification: it goes on the shopping list.")
    return fill(actor, position_id, data)


def fill(actor: Actor, position_id: UUID, data: ChoiceIn) -> CandidatesOut:
    """Choose how a place is filled; what was taken out for it before goes back. Call inside an action's transaction."""
    position, _, _ = core_position(actor, position_id)
    with_parts = data.way in WITH_PARTS
    if not with_parts and data.way is not Way.ORDERED and len(data.reason) < SHORTEST_REASON:
        raise InputError("reason", "Why? The record and the report say it.")
    found = judged(actor, position_id, data.way, data.parts) if with_parts else None
    answer = candidates(actor, position_id)
    resistor = _resistor(data)
    if found:
        for sentence in found.to_sign:
            if sentence not in data.signed and not (resistor and _met_by(sentence, data)):
                raise InputError("signed", f"To be signed: {sentence}")
    before = Choice.standing(position_id=position_id).select_for_update().last()
    if before:
        put_back(actor, before, "changed")
    parts = [] if found is None else [_chosen(part) for part in found.parts]
    choice = Choice(
        position_id=position_id,
        way=data.way,
        marking=_in_words(data.way, [part["marking"] for part in parts]),
        parts=parts,
        resistor=resistor,
        reason=data.reason,
        signed=list(data.signed) if found else [],
        specification=answer.specification if data.way is Way.ORDERED else [],
    )
    body: dict[str, Any] = {"position": position.name, "part": choice.marking, "way": WAY_TITLES[data.way], "asked": answer.need}
    if found:
        body |= {
            "place": " and ".join(part["place"] for part in parts if part["place"]),
            "reasons": found.reasons,
            "adaptations": found.adaptations,
            "conditions": found.conditions,
            "signed": choice.signed,
        }
    body |= {"resistor": resistor, "reason": data.reason, "specification": choice.specification}
    body["not_these"] = [
        {"part": r.part.marking, "reason": r.reasons[0].sentence, "rule": r.reasons[0].rule_id}
        for r in answer.rejected[:NEAR_MISSES]
    ]
    enter(actor, position.job_id, "replacement chosen", {key: value for key, value in body.items() if value}, choice)
    return candidates(actor, position_id)


def _chosen(part: PartOut) -> dict[str, Any]:
    shown = ChosenPart(part_id=part.id, marking=part.marking, place=part.place, lot="", date_code="", price=str(part.price or ""))
    return shown.model_dump(mode="json")


def _in_words(way: Way, markings: list[str]) -> str:
    """What stands in the place afterwards, in a line."""
    return " + ".join(markings) if markings else WAY_TITLES[way]


def _resistor(data: ChoiceIn) -> str:
    """The resistors fitted beside the parts, in words."""
    said = []
    for field, typed, where in (("bleeder", data.bleeder, "across it"), ("series", data.series, "in series with it")):
        if typed:
            said.append(f"{show(parse_quantity(typed, 'Ω', RESISTANCE, field=field), 'Ω')} {where}")
    return " and ".join(said)


def _met_by(sentence: str, data: ChoiceIn) -> bool:
    """Whether a resistor that is fitted is what a sentence asks for."""
    return bool((data.bleeder and "bleeder inside" in sentence) or (data.series and "in series inside" in sentence))


@action(Permission.WORK)
def take_out(actor: Actor, position_id: UUID) -> CandidatesOut:
    """Take the chosen parts out of the drawer for their place, as many as the place holds."""
    position, known, job = core_position(actor, position_id)
    chosen = Choice.standing(position_id=position_id).select_for_update().last()
    if chosen is None or chosen.out_at:
        raise InputError("part_id", "It has been taken out already." if chosen else "Choose a part first.")
    if not chosen.parts:
        raise InputError("part_id", "Nothing is taken out for it.")
    says = f"job {job.number}, {position.name}"
    for part_id, number in _counted(chosen).items():
        if part_id is None:
            raise InputError("part_id", "That part is in the drawer of another workshop: choose one of yours.")
        part = locked_part(actor, part_id)
        if asks := not_settled(part):
            raise InputError("part_id", asks)
        move(actor, part, -known.surroundings.count * number, Why.TO_JOB, says)
        for row in chosen.parts:
            if row["part_id"] == str(part_id):
                row |= {"lot": part.lot, "date_code": part.date_code}
        body = {"position": position.name, "part": part.marking, "lot": part.lot, "date_code": part.date_code}
        append(actor, position.job_id, "taken out of the drawer", body)
    chosen.out_at = timezone.now()
    chosen.save(update_fields=["parts", "out_at"])
    return candidates(actor, position_id)


def _counted(chosen: Choice) -> dict[UUID | None, int]:
    """How many of each part a choice takes for one place."""
    return dict(Counter(UUID(part["part_id"]) if part["part_id"] else None for part in chosen.parts))


def put_back(actor: Actor, chosen: Choice, why: str = "struck") -> None:
    """Put the parts of a choice that stands no more back in the drawer; call inside an action's transaction."""
    if not chosen.out_at:
        return
    position, known, job = core_position(actor, chosen.position_id)
    for part_id, number in _counted(chosen).items():
        if part_id is not None:
            part = locked_part(actor, part_id)
            says = f"job {job.number}, {position.name}: its choice was {why}"
            move(actor, part, known.surroundings.count * number, Why.FROM_JOB, says)
            body = {"position": position.name, "part": part.marking, "quantity": known.surroundings.count * number}
            if why != "struck":
                append(actor, position.job_id, "put back in the drawer", body)


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
