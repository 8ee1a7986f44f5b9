"""Reading what may hold charge; each function says how many statements it takes."""

import datetime
from uuid import UUID

from django.utils import timezone

from dusky_heron.core import discharge as core
from dusky_heron.core import energy
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import Role
from dusky_heron.core.quantities import show
from dusky_heron.core.roles import likely_role
from dusky_heron.core.selection.safety_class import acceptable_classes
from dusky_heron.discharge.models import ChargeNote, ChargeState
from dusky_heron.discharge.schemas import ChargeItem, ChargeOut, PlanOut, ReadOut, TargetOut, ToolOut
from dusky_heron.instruments.queries import core_resistors
from dusky_heron.jobs.queries import core_position
from dusky_heron.jobs.schemas import PositionOut
from dusky_heron.presented import Figure, show_marking
from dusky_heron.record.actor import Actor

CAUTIONS = {
    ChargeState.UNKNOWN: "Nobody has emptied it yet: empty it before a meter or a hand touches it.",
    ChargeState.ENERGISED: "It is energised: no meter on it, no hand near it.",
}
GRAVITY = (ChargeState.ENERGISED, ChargeState.UNKNOWN, ChargeState.EMPTYING, ChargeState.KEPT_SHORTED)  # worst first
NO_VOLTAGE = "No voltage to plan with: add the rated voltage to the marking."


def read_box(actor: Actor, text: str) -> ReadOut:
    """What a typed marking is, can do, and how fast it empties through the workshop's best resistor. One statement."""
    marking = read_marking(text, today=_today())
    charge = energy.plan_charge(marking)
    tools = _tools(actor, charge, None) if charge else ()
    return ReadOut(
        marking=show_marking(marking),
        charge=_show_charge(charge) if charge else None,
        tool=next((_show_tool(tool) for tool in tools if tool.allowed), None),
        may_take_its_place=_stand_ins(marking),
        likely_role=likely_role(marking),
    )


def plan(actor: Actor, position_id: UUID) -> PlanOut:
    """How to empty a position, with every resistor of the workshop judged. Two statements."""
    _, position, job = core_position(actor, position_id)
    charge = energy.plan_charge(position.marking, role=Role(position.role), supply_v=position.supply_v)
    if charge is None:
        return PlanOut(charge=None, missing=NO_VOLTAGE, working_limit=None, working_limit_source="", tools=[])
    limit = core.working_limit(job.standard or None, charge.highest_f, charge.voltage.voltage_v)
    return PlanOut(
        charge=_show_charge(charge),
        missing="",
        working_limit=Figure.of(limit.target_v, "V"),
        working_limit_source=limit.source,
        tools=[_show_tool(tool) for tool in _tools(actor, charge, job.standard or None)],
    )


def charge_line(positions: list[PositionOut]) -> list[ChargeItem]:
    """What is known of each position's charge: its newest note, or unknown. One statement."""
    ids = [position.id for position in positions]
    newest = {n.position_id: n for n in ChargeNote.objects.filter(position_id__in=ids)}
    return [show_note(position, newest.get(position.id)) for position in positions]


def gravest(line: list[ChargeItem]) -> ChargeItem | None:
    """The position that may hold the most harm, as far as is known."""
    return min(line, key=lambda item: GRAVITY.index(item.state), default=None)


def show_note(position: PositionOut, note: ChargeNote | None) -> ChargeItem:
    """A position on the charge line."""
    state = ChargeState(note.state) if note else ChargeState.UNKNOWN
    return ChargeItem(
        position_id=position.id,
        name=position.name,
        state=state,
        caution=CAUTIONS.get(state, ""),
        tool=note.tool if note else "",
        at=note.at if note else None,
        by_name=note.by_name if note else "",
    )


def _today() -> datetime.date:
    return timezone.localdate()


def _tools(actor: Actor, charge: energy.PlannedCharge, standard: str | None) -> tuple[core.Tool, ...]:
    limit = core.working_limit(standard, charge.highest_f, charge.voltage.voltage_v)
    return core.rank_tools(core_resistors(actor), charge, limit)


def _stand_ins(marking: Marking) -> list[str]:
    """The single classes that may take the place of a part that carries one class."""
    return list(acceptable_classes(marking.class_names[0])) if len(marking.classes) == 1 else list(marking.class_names)


def _show_charge(charge: energy.PlannedCharge) -> ChargeOut:
    hazard = charge.hazard
    return ChargeOut(
        energy=Figure.of(hazard.energy_j, "J"),
        planned_as=show(charge.nominal_f, "F") if charge.second_reading else "",
        voltage=Figure.of(charge.voltage.voltage_v, "V"),
        basis=charge.voltage.basis,
        band=hazard.band,
        band_sentence=hazard.sentence,
        grave=hazard.grave,
        touch_limit=Figure.of(hazard.touch_limit_v, "V"),
        explanation=energy.explain_charge(charge),
        source=f"{energy.DEFAULT['source']}; check the edition that binds you",
        cautions=list(energy.cautions(hazard, charge.voltage.voltage_v)),
    )


def _show_tool(tool: core.Tool) -> ToolOut:
    return ToolOut(
        resistor_id=UUID(tool.resistor.resistor_id),
        name=tool.resistor.name,
        resistance=Figure.of(tool.resistor.resistance_ohm, "Ω"),
        times=[
            TargetOut(
                name=t.name,
                target=Figure.of(t.target_v, "V"),
                nominal=Figure.of_time(t.nominal_s),
                worst=Figure.of_time(t.worst_s),
            )
            for t in tool.times
        ],
        peak=Figure.of(tool.peak_a, "A", digits=2),
        energy=Figure.of(tool.energy_j, "J"),
        pulse_limit=Figure.of(tool.pulse_limit_j, "J") if tool.pulse_limit_j is not None else None,
        pulse_source=tool.pulse_source,
        live_power=Figure.of(tool.live_w, "W", digits=2),
        live_time=None if tool.live_seconds is None else Figure.of_time(tool.live_seconds),
        refusals=list(tool.refusals),
    )
