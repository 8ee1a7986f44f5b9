"""Reading jobs and positions; each function says how many statements it takes."""

from collections.abc import Collection, Mapping
from functools import partial
from typing import Any
from uuid import UUID

from dusky_heron.core import model as core
from dusky_heron.core.circuit.dropper import with_needs
from dusky_heron.core.circuit.typed_loads import read_loads
from dusky_heron.core.discharge.bleeders import SIZES
from dusky_heron.core.discharge.limits import HANDS, limits_table
from dusky_heron.core.discharge.tools import CONSTRUCTION_TITLES
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.metering.accuracy import METHOD_TITLES
from dusky_heron.core.metering.in_service import LIVE
from dusky_heron.core.metering.taking import EXTRAS
from dusky_heron.core.model.roles import ServiceDuty
from dusky_heron.core.quantities import show
from dusky_heron.core.verdict.looks import CONSEQUENCES
from dusky_heron.core.wiring import FOUND_TITLES
from dusky_heron.jobs.models import HandOver, Job, Position
from dusky_heron.jobs.schemas import (
    ChoiceOption,
    CircuitAsks,
    ConditionOption,
    Connection,
    ExtraOption,
    HandedOut,
    JobOut,
    Place,
    PositionIn,
    PositionOut,
    ProtectionClass,
    QuantityOption,
    ResistorSize,
    SignOption,
    StageOption,
    StandardOut,
    SurroundingsOut,
    VocabularyOut,
    read_pitches,
)
from dusky_heron.jobs.stages import STAGE_TITLES
from dusky_heron.presented import Figure, read_kept, show_kept
from dusky_heron.record.actor import Actor
from dusky_heron.record.errors import NotFound
from dusky_heron.record.heads import Heads, heads_of
from dusky_heron.workshops.queries import nominal_supply

MOST_RETURNED = 200


def heads_on_the_bench(actor: Actor) -> dict[UUID, Heads]:
    """The heads of the workshop's jobs on the bench, newest first. One statement."""
    return heads_of(Job.objects.filter(workshop_id=actor.workshop_id, returned_at__isnull=True).order_by("-number"))


def handed_over(job_ids: Collection[UUID]) -> dict[UUID, HandedOut]:
    """The last word left for whoever goes on, by job. One statement."""
    rows = HandOver.newest_of_each(HandOver.standing(job_id__in=job_ids), "job_id")
    return {row.job_id: show_handed(row) for row in rows}


def show_handed(row: HandOver) -> HandedOut:
    """A word left, as the API shows it."""
    return HandedOut(says=row.says, by_name=row.by_name, at=row.when, sequence=row.sequence)


def heads_of_job(actor: Actor, job_id: UUID) -> dict[UUID, Heads]:
    """The heads of one job. One statement."""
    found = heads_of(Job.objects.filter(id=job_id, workshop_id=actor.workshop_id))
    if not found:
        raise NotFound
    return found


def with_places(ids: Collection[UUID]) -> list[tuple[JobOut, list[Place]]]:
    """Jobs the asker may see with their places. Two statements."""
    found = Job.objects.filter(id__in=ids).prefetch_related("positions")
    return [(show_job(job), [_place(row, job) for row in job.positions.all()]) for job in found]


def returned_jobs(actor: Actor) -> list[JobOut]:
    """The jobs that were handed back last, at most two hundred. One statement."""
    found = Job.objects.filter(workshop_id=actor.workshop_id, returned_at__isnull=False)
    return [show_job(job) for job in found.order_by("-returned_at")[:MOST_RETURNED]]


def promised(actor: Actor) -> list[JobOut]:
    """The jobs on the bench that were promised by a day. One statement."""
    found = Job.objects.filter(workshop_id=actor.workshop_id, returned_at__isnull=True, promised_by__isnull=False)
    return [show_job(job) for job in found.order_by("promised_by", "number")]


def job(actor: Actor, job_id: UUID) -> JobOut:
    """One job. One statement."""
    return show_job(find_job(actor, job_id))


def position_ids(actor: Actor, job_id: UUID) -> dict[str, UUID]:
    """The positions of a job by their name in small letters. One statement."""
    found = Position.objects.filter(job_id=job_id, job__workshop_id=actor.workshop_id)
    return {name.lower(): position_id for name, position_id in found.values_list("name", "id")}


def names_of(job_ids: Collection[UUID]) -> dict[UUID, set[str]]:
    """The names of the places of jobs the asker may see. One statement."""
    found: dict[UUID, set[str]] = {job_id: set() for job_id in job_ids}
    for job_id, name in Position.objects.filter(job_id__in=job_ids).values_list("job_id", "name"):
        found[job_id].add(name)
    return found


def core_position(actor: Actor, position_id: UUID) -> tuple[PositionOut, core.Position, JobOut]:
    """A position as shown and as the core knows it, with its job. One statement."""
    position = Position.objects.select_related("job").filter(id=position_id, job__workshop_id=actor.workshop_id).first()
    if position is None:
        raise NotFound
    marking = read_kept(position.marking)
    return show_position(position), _core(position, position.job, marking), show_job(position.job)


def job_places(actor: Actor, job_id: UUID) -> list[PositionOut]:
    """The positions of a job in their order. Two statements."""
    find_job(actor, job_id)
    return [show_position(position) for position in Position.objects.filter(job_id=job_id)]


def place_among(actor: Actor, position_id: UUID) -> tuple[PositionOut, core.Position, list[core.Position], JobOut]:
    """A position as shown and as the core knows it, with the other places of its job. One statement."""
    found = Position.objects.select_related("job").filter(job__positions__id=position_id, job__workshop_id=actor.workshop_id)
    known = [(p, _core(p, p.job, read_kept(p.marking))) for p in found]
    if not known:
        raise NotFound
    row, mine = next(pair for pair in known if pair[0].id == position_id)
    return show_position(row), mine, [place for _, place in known if place is not mine], show_job(row.job)


def known_positions(
    actor: Actor, *, job_id: UUID | None = None, ids: Collection[UUID] | None = None
) -> list[tuple[PositionOut, core.Position, JobOut]]:
    """Positions of a job, those of some ids, or all of the workshop, as shown and as the core knows them. One statement."""
    found = Position.objects.select_related("job").filter(job__workshop_id=actor.workshop_id)
    if job_id:
        found = found.filter(job_id=job_id)
    if ids is not None:
        found = found.filter(id__in=ids)
    return [(show_position(p), _core(p, p.job, read_kept(p.marking)), show_job(p.job)) for p in found]


def core_by_id(ids: Collection[UUID]) -> dict[UUID, core.Position]:
    """Positions the asker was shown already, as the core knows them. One statement."""
    found = Position.objects.select_related("job").filter(id__in=ids)
    return {position.id: _core(position, position.job, read_kept(position.marking)) for position in found}


def core_positions(actor: Actor, job_id: UUID) -> tuple[JobOut, list[core.Position]]:
    """A job and its positions as the core knows them. Two statements."""
    job = find_job(actor, job_id)
    found = Position.objects.filter(job_id=job_id)
    return show_job(job), [_core(position, job, read_kept(position.marking)) for position in found]


def _place(row: Position, job: Job) -> Place:
    marking = read_kept(row.marking)
    read = core.told_by_place(marking, core.Role(row.role), core.Basis(row.basis) if row.basis else None)
    return Place(row.id, row.name, read.provisional, _core(row, job, marking), partial(show_position, row))


def _core(position: Position, job: Job, marking: Marking) -> core.Position:
    space = (position.length_mm, position.width_mm, position.height_mm)
    return core.Position(
        name=position.name,
        role=core.Role(position.role),
        marking=marking,
        supply_v=job.supply_v,
        supply_hz=job.supply_hz,
        space_mm=(space[0], space[1], space[2]) if space[0] and space[1] and space[2] else None,
        pitch_mm=position.pitch_mm,
        surroundings=_surroundings(position, job),
        mounting=core.Mounting(
            read_pitches(position.other_pitches),
            core.LeadForm(position.lead_form) if position.lead_form else None,
            position.hot_neighbour,
            position.wet,
        ),
        equipment=core.Equipment(job.protection_class, job.two_core, job.live_chassis),
        old=core.OldPart(
            core.PartKind(position.made_as) if position.made_as else None,
            position.ripple_a,
            position.esr_ohm,
            position.dvdt_v_s,
            position.peak_a,
        ),
        reaches=core.Reach(position.reaches) if position.reaches else None,
    )


def _surroundings(position: Position, job: Job) -> core.Surroundings:
    bleeder = None
    if position.bleeder_each_ohm:
        bleeder = core.Bleeder(
            each_ohm=position.bleeder_each_ohm,
            count=position.bleeder_count,
            working_v=position.bleeder_working_v,
            measured_ohm=position.bleeder_measured_ohm,
            open=position.bleeder_open,
        )
    return core.Surroundings(
        basis=core.Basis(position.basis) if position.basis else None,
        volts=position.circuit_v,
        confirmed=position.circuit_confirmed,
        arrangement=core.Arrangement(position.arrangement),
        count=position.count,
        balancing_ohm=position.balancing_ohm,
        bleeder=bleeder,
        dropper=_dropper(position, job),
        life=_life(position),
    )


def _dropper(position: Position, job: Job) -> core.Dropper | None:
    if not position.topology or position.rail_v is None:
        return None
    noted = core.Dropper(
        core.Topology(position.topology),
        position.rail_v,
        read_loads(position.loads, position.rail_v),
        position.series_ohm,
        position.zener_w,
    )
    return with_needs(noted, job.supply_v, job.supply_hz)


def _life(position: Position) -> core.ServiceLife | None:
    rated, at, runs, daily = position.life_h, position.life_at_c, position.runs_at_c, position.hours_a_day
    if rated is None or at is None or runs is None or daily is None:
        return None
    return core.ServiceLife(rated, at, runs, daily)


def vocabulary(actor: Actor) -> VocabularyOut:
    """What forms offer. One statement."""
    volts, hertz = nominal_supply(actor)
    return VocabularyOut(
        roles=_options(core.ROLE_TITLES),
        standards=[StandardOut(id=r.id, applies_to=r.applies_to) for r in limits_table() if r.kind != "current" and r.id != HANDS],
        kinds=_options(core.KIND_TITLES),
        origins=_options(core.ORIGIN_TITLES),
        lead_forms=_options(core.LEAD_FORM_TITLES),
        constructions=_options(CONSTRUCTION_TITLES),
        bases=[ChoiceOption(id="", title="as usual for what it does"), *_options(core.BASIS_TITLES)],
        reaches=[ChoiceOption(id="", title="not noted"), *_options(core.REACH_TITLES)],
        arrangements=_options(core.ARRANGEMENT_TITLES),
        resistor_sizes=[ResistorSize(title=s["title"], working_v=s["working_v"]) for s in SIZES["size"]],
        stages=[StageOption(id=stage, title=title) for stage, title in STAGE_TITLES.items()],
        conditions=[ConditionOption(id=key, title=title) for key, title in core.CONDITION_TITLES.items()],
        quantities=[QuantityOption(id=key, title=one.title, example=one.example) for key, one in core.QUANTITIES.items()],
        extras=[ExtraOption.from_row(extra) for extra in EXTRAS],
        methods=_options(METHOD_TITLES),
        topologies=[ChoiceOption(id="", title="not a dropper, or not known"), *_options(core.TOPOLOGY_TITLES)],
        signs=[
            SignOption(id=sign, title=core.SIGN_TITLES[sign], word=word, sentence=sentence)
            for sign, (word, sentence) in CONSEQUENCES.items()
        ],
        found_kinds=_options(FOUND_TITLES),
        live_caution=LIVE,
        supply_voltage=Figure.of(volts, "V"),
        supply_frequency=Figure.of(hertz, "Hz"),
    )


def _options(titles: Mapping[Any, str]) -> list[ChoiceOption]:
    return [ChoiceOption(id=key, title=title) for key, title in titles.items()]


def find_job(actor: Actor, job_id: UUID, *, lock: bool = False) -> Job:
    """The job itself, for this app's actions. One statement."""
    found = Job.objects.select_for_update() if lock else Job.objects.all()
    job = found.filter(id=job_id, workshop_id=actor.workshop_id).first()
    if job is None:
        raise NotFound
    return job


def show_job(job: Job) -> JobOut:
    """A job as the API shows it."""
    return JobOut(
        id=job.id,
        version=job.version,
        number=job.number,
        opened_at=job.opened_at,
        returned_at=job.returned_at,
        from_file=job.from_file,
        accepted=job.accepted,
        title=job.title,
        customer=job.customer,
        maker=job.maker,
        model=job.model,
        serial=job.serial,
        supply_voltage=f"{job.supply_v:g} V",
        supply_frequency=f"{job.supply_hz:g} Hz",
        protection_class=ProtectionClass(job.protection_class),
        connection=Connection(job.connection),
        standard=job.standard,
        two_core=job.two_core,
        live_chassis=job.live_chassis,
        symptom=job.symptom,
        promised_by=job.promised_by,
    )


def show_position(position: Position) -> PositionOut:
    """A position as the API shows it."""
    given = {field: getattr(position, field) for field in PositionIn.model_fields}
    given["lead_form"] = given["lead_form"] or None
    return PositionOut(
        **given,
        id=position.id,
        job_id=position.job_id,
        version=position.version,
        role_title=core.ROLE_TITLES[core.Role(position.role)],
        read=show_kept(position.marking, core.Role(position.role), core.Basis(position.basis) if position.basis else None),
        surroundings=_show_surroundings(position),
        circuit_asks=_circuit_asks(core.Role(position.role)),
        parts=_say_parts(position),
    )


def _circuit_asks(role: core.Role) -> list[CircuitAsks]:
    row = core.ROLES[role]
    asked: dict[CircuitAsks, bool] = {
        "dropper": role == core.Role.DROPPER,
        "life": row.electrolytic and row.duty == ServiceDuty.CONTINUOUS,
        "reaches": role == core.Role.Y,
        "ripple": row.rippled,
        "pulse": row.pulsed,
    }
    return [what for what, asks in asked.items() if asks]


def _say_parts(position: Position) -> str:
    """How many parts and how they are connected, in short; nothing for one."""
    if position.arrangement == core.Arrangement.SINGLE or position.count == 1:
        return ""
    return f"{position.count} in {'series' if position.arrangement == core.Arrangement.SERIES else 'parallel'}"


def _show_surroundings(position: Position) -> SurroundingsOut:
    """The circuit as it would be typed again."""
    measured, each = position.bleeder_measured_ohm, position.bleeder_each_ohm
    count = f"{position.bleeder_count} x " if position.bleeder_count > 1 else ""
    return SurroundingsOut(
        basis=core.Basis(position.basis) if position.basis else None,
        voltage=f"{position.circuit_v:g} V" if position.circuit_v is not None else "",
        confirmed=position.circuit_confirmed,
        arrangement=core.Arrangement(position.arrangement),
        count=position.count,
        balancing=show(position.balancing_ohm, "Ω", digits=6) if position.balancing_ohm else "",
        bleeder=count + show(each, "Ω", digits=6) if each else "",
        bleeder_working_v=position.bleeder_working_v,
        bleeder_measured="open" if position.bleeder_open else show(measured, "Ω", digits=6) if measured else "",
        topology=core.Topology(position.topology) if position.topology else None,
        rail=f"{position.rail_v:g} V" if position.rail_v is not None else "",
        loads=position.loads,
        series=show(position.series_ohm, "Ω", digits=6) if position.series_ohm else "",
        zener=show(position.zener_w, "W", digits=6) if position.zener_w else "",
        life_h=position.life_h,
        life_at_c=position.life_at_c,
        runs_at_c=position.runs_at_c,
        hours_a_day=position.hours_a_day,
        made_as=core.PartKind(position.made_as) if position.made_as else None,
        reaches=core.Reach(position.reaches) if position.reaches else None,
        ripple=show(position.ripple_a, "A", digits=6) if position.ripple_a else "",
        esr=show(position.esr_ohm, "Ω", digits=6) if position.esr_ohm else "",
        dvdt=position.dvdt_v_s / 1e6 if position.dvdt_v_s else None,
        peak=show(position.peak_a, "A", digits=6) if position.peak_a else "",
    )
