"""What a position can hold, and every way to empty it."""

from dataclasses import dataclass
from uuid import UUID

from django.utils import timezone

from dusky_heron.assessment.queries import evidence
from dusky_heron.core.discharge import banks, proving, rebound
from dusky_heron.core.discharge import other_tools as core_tools
from dusky_heron.core.discharge import planning as core
from dusky_heron.core.discharge.falling import HANDS_IN_V
from dusky_heron.core.discharge.limits import DischargeLimit, WorkingLimit, limits_of, working_limit
from dusky_heron.core.discharge.search import rank_tools, recommended
from dusky_heron.core.discharge.tools import Shape, Tool, judge_tool
from dusky_heron.core.errors import POWER, RESISTANCE, SUPPLY_VOLTAGE
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import Evidence, Position, Role, told_by_place
from dusky_heron.core.quantities import parse_quantity
from dusky_heron.core.selection.likely import likely_role
from dusky_heron.core.selection.safety_class import acceptable_classes
from dusky_heron.discharge.queries import shown
from dusky_heron.discharge.schemas import MeterAllowed, OtherToolOut, PlanOut, ProofAsked, ReadOut
from dusky_heron.instruments.queries import core_resistors, voltmeters
from dusky_heron.jobs.queries import core_position
from dusky_heron.jobs.schemas import Connection, JobOut, PositionOut
from dusky_heron.presented import Figure, show_marking
from dusky_heron.record.actor import Actor
from dusky_heron.workshops.queries import limits_of_workshop

NO_VOLTAGE = "No voltage to plan with: add the rated voltage to the marking, or say what feeds it."
LAMP = ("230 V", "60 W")
LOAD = "10 kΩ"


@dataclass(frozen=True)
class Planned:
    """A position with the charge planned for it, and the limits that apply."""

    shown: PositionOut
    position: Position
    job: JobOut
    evidence: Evidence
    charge: core.PlannedCharge
    limit: WorkingLimit
    rows: tuple[DischargeLimit, ...]

    @property
    def dielectric(self) -> str:
        """What the part is most likely made of."""
        return rebound.dielectric_of(self.position.marking, self.position.role)


def read_box(actor: Actor, text: str, role: Role | None = None) -> ReadOut:
    """What a typed marking is, can do, and how fast it empties through the workshop's best resistor. One statement."""
    marking = told_by_place(read_marking(text, today=timezone.localdate()), role)
    charge = core.plan_charge(marking)
    best = _best_single(actor, charge) if charge else None
    return ReadOut(
        marking=show_marking(marking),
        charge=shown.charge(charge) if charge else None,
        tool=shown.tool(best) if best else None,
        may_take_its_place=_stand_ins(marking),
        likely_role=likely_role(marking),
    )


def _best_single(actor: Actor, charge: core.PlannedCharge) -> Tool | None:
    limit = working_limit(None, charge.highest_f, charge.each_v)
    judged = (judge_tool(Shape.SINGLE, (resistor,), charge, limit) for resistor in core_resistors(actor))
    return min((tool for tool in judged if tool.allowed), key=lambda tool: tool.times[-1].worst_s, default=None)


def _stand_ins(marking: Marking) -> list[str]:
    """The single classes that may take the place of a part that carries one class."""
    return list(acceptable_classes(marking.class_names[0])) if len(marking.classes) == 1 else list(marking.class_names)


def planned(actor: Actor, position_id: UUID) -> Planned | None:
    """The charge planned for a position; None when there is no voltage to plan with. Four statements."""
    found, position, job = core_position(actor, position_id)
    known, rows = evidence(position_id), limits_of_workshop(actor)
    charge = core.plan_charge(
        position.marking,
        role=position.role,
        supply_v=position.supply_v,
        surroundings=position.surroundings,
        measured_high_f=core.measured_high(position.marking, known),
    )
    if charge is None:
        return None
    limit = working_limit(job.standard or None, charge.highest_f, charge.each_v, rows=rows)
    return Planned(found, position, job, known, charge, limit, rows)


def plan(actor: Actor, position_id: UUID) -> PlanOut:
    """How to empty a position: every resistor judged, the bleeder, what creeps back, the proof it takes. Six statements."""
    found = planned(actor, position_id)
    if found is None:
        return PlanOut.nothing_but(missing=NO_VOLTAGE)
    position, charge = found.position, found.charge
    marking, around = position.marking, position.surroundings
    tools = rank_tools(core_resistors(actor), charge, found.limit)
    best = recommended(tools)
    string = banks.string_shares(marking, around, charge)
    returned = rebound.expected_rebound(found.dielectric, charge.highest_f, charge.each_v)
    return PlanOut(
        charge=shown.charge(charge, position.role),
        each=shown.each(charge) if charge.discharges > 1 else None,
        missing="",
        points=list(banks.discharge_points(marking, around, position.name)),
        string=shown.string(string) if string else None,
        recharged=core.recharged_by(position.role, around),
        planned_with=core.explain_readings(marking, found.evidence),
        working_limit=Figure.of(found.limit.target_v, "V"),
        working_limit_source=found.limit.source,
        tools=[shown.tool(tool) for tool in tools],
        best=shown.tool(best) if best else None,
        rebound=shown.rebound(returned),
        bleeder=shown.bleeder(charge, found.limit, position, _applying(found), found.dielectric),
        limits=[row.id for row in _applying(found)],
        other_tools=_other_tools(charge, *LAMP, LOAD),
        proof=_proof(actor, found),
    )


def _applying(found: Planned) -> tuple[DischargeLimit, ...]:
    charge = found.charge
    return limits_of(
        found.rows,
        found.job.standard or None,
        role=found.position.role,
        capacitance_f=charge.highest_f,
        from_v=charge.each_v,
    )


def _proof(actor: Actor, found: Planned) -> ProofAsked:
    position = found.position
    return ProofAsked(
        pairs=list(proving.proof_pairs(position.marking, position.surroundings)),
        meters=[MeterAllowed(id=key, name=m.name, refusals=list(refusals(found, m))) for key, m in voltmeters(actor)],
        hidden=proving.hides_charge(position.marking, found.evidence),
        open_question=proving.not_settled(position.marking, position.surroundings),
        target=Figure.of(HANDS_IN_V, "V"),
    )


def refusals(found: Planned, meter: proving.Voltmeter) -> tuple[str, ...]:
    """Why a meter may not prove this charge gone."""
    return proving.meter_refusals(
        meter,
        found.charge,
        role=found.position.role,
        around=found.position.surroundings,
        fixed_wiring=found.job.connection == Connection.FIXED,
    )


def other_tools(actor: Actor, position_id: UUID, lamp_voltage: str, lamp_power: str, load: str) -> list[OtherToolOut]:
    """Other ways to empty a position, with a lamp and a load of one's own. Four statements."""
    found = planned(actor, position_id)
    return _other_tools(found.charge, lamp_voltage, lamp_power, load) if found else []


def _other_tools(charge: core.PlannedCharge, lamp_voltage: str, lamp_power: str, load: str) -> list[OtherToolOut]:
    volts = parse_quantity(lamp_voltage, "V", SUPPLY_VOLTAGE, field="lamp_voltage")
    watts = parse_quantity(lamp_power, "W", POWER, field="lamp_power")
    ohm = parse_quantity(load, "Ω", RESISTANCE, field="load")
    ways = (core_tools.lamp(charge, volts, watts), core_tools.load_left_on(charge, ohm), core_tools.blade(charge))
    return [OtherToolOut.from_row(way) for way in ways]
