"""Reading how a job is powered up; each function says how many statements it takes."""

from collections.abc import Callable, Collection
from functools import partial
from uuid import UUID

from dusky_heron.bringup.models import PowerPlan, PowerStep
from dusky_heron.bringup.schemas import KindOut, LampOut, LoggedOut, PlanIn, PowerPlanOut, PowerUpOut, StepOut
from dusky_heron.core.circuit.dropper import powered_at
from dusky_heron.core.model import Dropper, Position
from dusky_heron.core.quantities import show
from dusky_heron.core.returning import powerup as core
from dusky_heron.jobs.queries import core_positions
from dusky_heron.jobs.schemas import JobOut
from dusky_heron.presented import Figure
from dusky_heron.record.actor import Actor
from dusky_heron.workshops.queries import chosen_schools

FULL = 100.0  # per cent
WHY = " Read it again with a word of why, or switch it off and mend."
LAMPLESS = "No lamp in series: it does harm here."
NO_LAMP = "No usual lamp is large enough: a variac, or a heater in series."


def power_up(actor: Actor, job_id: UUID) -> PowerUpOut:
    """How a job is powered up, and what was read. Six statements."""
    job, places = core_positions(actor, job_id)
    kept = PowerPlan.objects.filter(job_id=job_id).first()
    log = list(PowerStep.standing(job_id=job_id))
    typed = _typed(kept, places, chosen_schools(actor))
    steps = plan_of(kept, typed, places)
    run = this_run(log, typed.kind)
    trend = core.read_trend(steps, as_read(run))
    stopped, asked = bool(log) and log[-1].stop, asks_why(log)
    shown = [_step(step, any(row.percent == step.percent for row in run)) for step in steps]
    lamp = _lamp(kept, job) if core.KINDS[typed.kind].get("lamp", True) else None
    return PowerUpOut(
        job_id=job_id,
        plan=typed,
        kinds=[KindOut(id=key, title=row["title"], says=row["says"]) for key, row in core.KINDS.items()],
        says=core.KINDS[typed.kind]["says"],
        before=list(core.BEFORE),
        case=core.CASES[typed.closed],
        lamp=lamp,
        no_lamp=_no_lamp(typed.kind, kept) if lamp is None else "",
        steps=shown,
        next=_next(shown, log, stopped=stopped, asked=asked),
        asks_why=asked,
        log=[_logged(row, steps) for row in log],
        trend=_trend(log, trend, asked=asked) + ("" if stopped else _then(typed.kind, shown)),
        stop=stopped or (trend.stop and trend.finding not in core.EXPLAINABLE),
    )


def _trend(log: list[PowerStep], trend: core.Trend, *, asked: bool) -> str:
    """What the last step said then, and what became of it."""
    last = log[-1] if log else None
    if last and last.stop:
        return f"{last.says}{WHY if asked else ''}"
    if last and last.finding in core.EXPLAINABLE:
        return f"{last.says} Gone on from: {last.note}."
    return trend.sentence


def rail_of(job_id: UUID) -> float | None:
    """What the rail of a job should be at full voltage, V; None when nobody said. One statement."""
    return PowerPlan.objects.filter(job_id=job_id).values_list("rail_v", flat=True).first()


def powered(job_ids: Collection[UUID]) -> set[UUID]:
    """Jobs that were powered up as far as their plan goes, without a stop since. One statement."""
    rows = PowerStep.standing(job_id__in=job_ids).values_list("job_id", "stop", "percent", "kind")
    last = {job_id: (stop, percent, kind) for job_id, stop, percent, kind in rows}
    return {job_id for job_id, (stop, percent, kind) in last.items() if not stop and percent >= FULL and not after(kind)}


def last_stop(job_id: UUID) -> int:
    """The entry of the last step that said stop; 0 where none did. One statement."""
    return PowerStep.standing(job_id=job_id, stop=True).values_list("sequence", flat=True).last() or 0


def after(kind: str) -> str:
    """The kind that follows when this one is through, such as the whole set after its rectifier; nothing for most."""
    return str(core.KINDS[kind].get("then", "")) if kind in core.KINDS else ""


def this_run(log: list[PowerStep], kind: str) -> list[PowerStep]:
    """The steps of this kind since the power was last switched off for what was found: a mended set begins again."""
    stops = [place for place, row in enumerate(log, start=1) if row.stop and row.finding not in core.EXPLAINABLE]
    return [row for row in log[stops[-1] if stops else 0 :] if row.kind in ("", kind)]


def asks_why(log: list[PowerStep]) -> bool:
    """Whether the last step was not as expected, but may be gone on from with a word of why."""
    return bool(log) and log[-1].stop and log[-1].finding in core.EXPLAINABLE


def _next(shown: list[StepOut], log: list[PowerStep], *, stopped: bool, asked: bool) -> StepOut | None:
    """The step to take next: the last once more where it asks why, none after a stop."""
    if asked:
        return next((step for step in shown if step.percent == log[-1].percent), None)
    return None if stopped else next((step for step in shown if not step.done), None)


def as_read(rows: list[PowerStep]) -> list[core.Logged]:
    """Steps as the core judges them."""
    return [core.Logged(row.percent, row.rail_v, row.current_a, row.later_a) for row in rows]


def plan_of(kept: PowerPlan | None, typed: PlanIn, places: list[Position]) -> tuple[core.Step, ...]:
    """The steps of a plan, with what its circuit says where it is known."""
    percents = [float(piece) for piece in typed.steps.split()] or None
    return core.power_up_plan(
        typed.kind,
        rail_v=kept.rail_v if kept else None,
        current_a=kept.current_a if kept else None,
        percents=percents,
        expected=_expected(typed.kind, places),
    )


def _expected(kind: str, places: list[Position]) -> Callable[[float], tuple[float, float]] | None:
    """Rail and current by the circuit of a dropper that was noted with its loads."""
    if kind != "dropper":
        return None
    for place in places:
        around, volts, hertz = place.surroundings.dropper, place.supply_v, place.supply_hz
        if around and around.states and volts and hertz:
            return partial(_simulated, around, place.marking.capacitance_f, volts, hertz)
    return None


def _simulated(dropper: Dropper, farads: float, volts: float, hertz: float, share: float) -> tuple[float, float]:
    state = powered_at(dropper, farads, volts, hertz, share)
    return state.output_v, state.input_a


def _then(kind: str, shown: list[StepOut]) -> str:
    """What comes when every step of a first part is through."""
    following = after(kind)
    if not following or not all(step.done for step in shown):
        return ""
    return f" Then the whole set: change the plan to {core.KINDS[following]['title']}."


def _typed(kept: PowerPlan | None, places: list[Position], schools: dict[str, str]) -> PowerPlanOut:
    """The plan as it would be typed again; before there is one, what the roles of the places point to."""
    if kept is None:
        usual = core.usual_kind({place.role for place in places})
        return PowerPlanOut.from_row(PlanIn(kind=usual, closed=schools["test_open"] == "closed"))
    return PowerPlanOut(
        version=kept.version,
        kind=kept.kind,
        rail=show(kept.rail_v, "V", digits=6) if kept.rail_v else "",
        current=show(kept.current_a, "A", digits=6) if kept.current_a else "",
        standby=show(kept.standby_w, "W", digits=6) if kept.standby_w else "",
        steps=kept.steps,
        closed=kept.closed,
    )


def _no_lamp(kind: str, kept: PowerPlan | None) -> str:
    if not core.KINDS[kind].get("lamp", True):
        return LAMPLESS
    return NO_LAMP if kept and kept.standby_w else ""


def _lamp(kept: PowerPlan | None, job: JobOut) -> LampOut | None:
    supply_v = float(job.supply_voltage.removesuffix("V"))
    chosen = core.choose_lamp(supply_v, kept.standby_w) if kept and kept.standby_w else None
    if chosen is None:
        return None
    healthy, shorted = chosen.healthy, chosen.shorted
    return LampOut(
        watts=Figure.of(chosen.lamp.rated_w, "W"),
        healthy=f"Healthy: {healthy.glow}, {show(healthy.load_v, 'V')} on the load, {show(healthy.current_a, 'A')}.",
        shorted=f"Shorted: {shorted.glow}, {show(shorted.current_a, 'A')} and no more.",
    )


def _step(step: core.Step, done: bool) -> StepOut:
    return StepOut(
        percent=step.percent,
        rail=Figure.of(step.rail_v, "V") if step.rail_v is not None else None,
        current=Figure.of(step.current_a, "A") if step.current_a is not None else None,
        stop=Figure.of(step.stop_a, "A") if step.stop_a is not None else None,
        dwell=Figure.of_time(step.dwell_s),
        done=done,
    )


def _logged(row: PowerStep, steps: tuple[core.Step, ...]) -> LoggedOut:
    step = min(steps, key=lambda known: abs(known.percent - row.percent))
    return LoggedOut(
        percent=row.percent,
        limiter=row.limiter,
        rail=Figure.of(row.rail_v, "V") if row.rail_v is not None else None,
        current=Figure.of(row.current_a, "A") if row.current_a is not None else None,
        expected=Figure.of(step.current_a, "A") if step.current_a is not None else None,
        note=row.note,
        says=row.says,
        stop=row.stop,
        at=row.when,
        by_name=row.by_name,
        sequence=row.sequence,
    )
