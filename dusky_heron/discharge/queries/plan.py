"""What a position can hold, and every way to empty it."""

from dataclasses import dataclass
from uuid import UUID

from dusky_heron.assessment.queries import evidence, evidences
from dusky_heron.core.discharge import banks, pins, proving, rebound
from dusky_heron.core.discharge import other_tools as core_tools
from dusky_heron.core.discharge import planning as core
from dusky_heron.core.discharge.falling import HANDS_IN_V
from dusky_heron.core.discharge.limits import DischargeLimit, WorkingLimit, limits_of, working_limit
from dusky_heron.core.discharge.search import beyond_tools, rank_tools, recommended
from dusky_heron.core.errors import POWER, RESISTANCE, SUPPLY_VOLTAGE
from dusky_heron.core.model import Evidence, Position
from dusky_heron.core.quantities import parse_quantity
from dusky_heron.core.verdict import RULES_VERSION
from dusky_heron.discharge.queries.line import charge_line
from dusky_heron.discharge.schemas import GroundOut, MeterAllowed, OtherToolOut, PlanOut, ProofAsked, ToProve
from dusky_heron.discharge.states import ChargeState
from dusky_heron.discharge.worked import shown
from dusky_heron.instruments.queries import VoltsMeter, core_resistors, voltmeters
from dusky_heron.jobs.queries import core_position, find_job, known_positions
from dusky_heron.jobs.schemas import Connection, JobOut, PositionOut
from dusky_heron.presented import Figure
from dusky_heron.record.actor import Actor
from dusky_heron.record.typed import decimal_sign
from dusky_heron.workshops.queries import limits_of_workshop

NO_VOLTAGE = "No voltage to plan with: add the rated voltage to the marking, or say what feeds it."
LAMP = ("230 V", "60 W")
LOAD = "10 kΩ"
NOT_TO_PROVE = frozenset({ChargeState.ENERGISED, ChargeState.RISING, ChargeState.PROVED, ChargeState.KEPT_SHORTED})


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

    @property
    def rebound(self) -> rebound.Rebound:
        """The most that may creep back after a short."""
        return rebound.expected_rebound(self.dielectric, self.charge.highest_f, self.charge.each_v)

    @property
    def hidden(self) -> str:
        """Why it cannot be proved empty from outside; nothing where it can."""
        return proving.hides_charge(self.position.marking, self.evidence, role=self.position.role, charge=self.charge)

    @property
    def unread(self) -> str:
        """What a proof leaves open until every part of the place was read."""
        return proving.unread(self.position.marking, self.evidence, parts=len(self.position.parts), charge=self.charge)


def ground(actor: Actor) -> GroundOut:
    """What is worked out with, of a workshop. Three statements at most."""
    limits, resistors = list(limits_of_workshop(actor)), list(core_resistors(actor))
    return GroundOut(decimal_sign=decimal_sign(), limits=limits, resistors=resistors, rules=RULES_VERSION)


def planned(actor: Actor, position_id: UUID) -> Planned | None:
    """The charge planned for a position; None when there is no voltage to plan with. Four statements."""
    found, position, job = core_position(actor, position_id)
    return _planned(found, position, job, evidence(position_id), limits_of_workshop(actor))


def _planned(
    found: PositionOut, position: Position, job: JobOut, known: Evidence, rows: tuple[DischargeLimit, ...]
) -> Planned | None:
    charge = core.plan_position(position, known)
    if charge is None:
        return None
    limit = working_limit(job.standard or None, charge.highest_f, charge.each_v, rows=rows)
    return Planned(found, position, job, known, charge, limit, rows)


def to_prove(actor: Actor, job_id: UUID) -> list[ToProve]:
    """The places of a job that are not proved and may be, each with what a proof takes. Twelve statements at most."""
    find_job(actor, job_id)
    placed = known_positions(actor, job_id=job_id)
    rows, meters = limits_of_workshop(actor), voltmeters(actor)
    read = evidences([shown_.id for shown_, _, _ in placed])
    states = {item.position_id: item.state for item in charge_line([shown_ for shown_, _, _ in placed])}
    found = []
    for shown_, position, job in placed:
        one = _planned(shown_, position, job, read[shown_.id], rows)
        if one and states[shown_.id] not in NOT_TO_PROVE:
            found.append(ToProve(position_id=shown_.id, name=shown_.name, state=states[shown_.id], proof=_proof(one, meters)))
    return found


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
    return PlanOut(
        charge=shown.charge(charge, position.role, found.unread),
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
        rebound=shown.rebound(found.rebound),
        bleeder=shown.bleeder(charge, found.limit, position, _applying(found), found.dielectric),
        limits=[row.id for row in _applying(found)],
        other_tools=_other_tools(charge, *LAMP, LOAD),
        proof=_proof(found, voltmeters(actor)),
        beyond=beyond_tools(charge, tool_found=best is not None),
        reaches_pins=bool(pins.behind_plug((position,)).across_f),
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


def _proof(found: Planned, meters: list[VoltsMeter]) -> ProofAsked:
    position = found.position
    return ProofAsked(
        pairs=list(proving.proof_pairs(position.marking, position.surroundings)),
        meters=[_allowed(found, meter) for meter in meters],
        hidden=found.hidden,
        open_question=proving.not_settled(position.marking, position.surroundings),
        target=Figure.of(HANDS_IN_V, "V"),
        two_stages=proving.needs_probe(found.charge, position.role, position.surroundings),
        creeps_back=found.rebound.sentence if found.rebound.store_shorted else "",
    )


def _allowed(found: Planned, meter: VoltsMeter) -> MeterAllowed:
    return MeterAllowed(
        id=meter.id,
        name=meter.core.name,
        probe=meter.core.probe,
        refusals=list(refusals(found, meter.core)),
        after_probe=list(refusals(found, meter.core, after_probe_v=0.0)),
        nothing=meter.dc.nothing(HANDS_IN_V),
        display_counts=meter.display_counts,
        input_ohm=meter.core.input_ohm,
    )


def refusals(found: Planned, meter: proving.Voltmeter, *, after_probe_v: float | None = None) -> tuple[str, ...]:
    """Why a meter may not prove this charge gone; after a probe left so much possible and the part was shorted."""
    return proving.meter_refusals(
        meter,
        found.charge,
        role=found.position.role,
        around=found.position.surroundings,
        fixed_wiring=found.job.connection == Connection.FIXED,
        after_probe_v=after_probe_v,
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
