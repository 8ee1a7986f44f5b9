"""Writing the plan of the first power, and what was read at each step."""

import re
from uuid import UUID

from dusky_heron.bringup.models import PowerPlan, PowerStep
from dusky_heron.bringup.queries import as_read, plan_of, power_up, this_run
from dusky_heron.bringup.schemas import PlanIn, PowerUpOut, StepIn
from dusky_heron.core.errors import POWER, InputError, Range
from dusky_heron.core.quantities import parse_quantity
from dusky_heron.core.returning import powerup as core
from dusky_heron.discharge.actions import energise
from dusky_heron.jobs.queries import core_positions, find_job, job_places
from dusky_heron.record.actions import action, append, enter, save_edited
from dusky_heron.record.actor import Actor, Permission

READ_RAIL, READ_CURRENT = Range("Rail", 0.0, 1e5, "V"), Range("Current", 0.0, 1000.0, "A")


@action(Permission.WORK)
def set_plan(actor: Actor, job_id: UUID, data: PlanIn) -> PowerUpOut:
    """Set how a job is powered up."""
    find_job(actor, job_id, lock=True)
    fields = {
        "kind": data.kind,
        "rail_v": parse_quantity(data.rail, "V", core.RAIL, field="rail") if data.rail else None,
        "current_a": parse_quantity(data.current, "A", core.FULL_CURRENT, field="current") if data.current else None,
        "standby_w": parse_quantity(data.standby, "W", POWER, field="standby") if data.standby else None,
        "steps": _steps(data.steps),
        "closed": data.closed,
    }
    _, places = core_positions(actor, job_id)
    kept = PowerPlan.objects.filter(job_id=job_id).first()
    plan_of(PowerPlan(job_id=job_id, **fields), data.model_copy(update={"steps": fields["steps"]}), places)
    if kept is None:
        PowerPlan.objects.create(job_id=job_id, **fields)
    else:
        save_edited(kept, data.version, fields, lambda _: power_up(actor, job_id))
    append(actor, job_id, "power-up planned", data.model_dump(mode="json", exclude={"version"}))
    return power_up(actor, job_id)


@action(Permission.WORK)
def log_step(actor: Actor, job_id: UUID, data: StepIn) -> PowerUpOut:
    """Write down what was read at a step; every place of the job counts as energised from then on, until it is proved again."""
    find_job(actor, job_id, lock=True)
    rail = parse_quantity(data.rail, "V", READ_RAIL, field="rail") if data.rail else None
    current = parse_quantity(data.current, "A", READ_CURRENT, field="current") if data.current else None
    later = parse_quantity(data.later, "A", READ_CURRENT, field="later") if data.later else None
    if rail is None and current is None and not data.note:
        raise InputError("rail", "What was read, or seen? One of rail, current or a note.")
    before = power_up(actor, job_id)
    if before.asks_why and before.next and data.percent == before.next.percent:
        if not data.note:
            raise InputError("note", "It was not as expected: why may it go on? A word of it goes on the record.")
    elif before.stop and before.log and data.percent > before.steps[0].percent:
        raise InputError("percent", "The last step says stop: mend what it found, and begin again at the first step.")
    row = PowerStep(
        job_id=job_id, kind=before.plan.kind, percent=data.percent, limiter=data.limiter, rail_v=rail, current_a=current,
        later_a=later, note=data.note, stop=data.stopped,
    )  # fmt: skip
    _, places = core_positions(actor, job_id)
    kept = PowerPlan.objects.filter(job_id=job_id).first()
    steps = plan_of(kept, before.plan, places)
    earlier = this_run(list(PowerStep.standing(job_id=job_id)), before.plan.kind)
    trend = core.read_trend(steps, as_read([*earlier, row]))
    row.says = f"Stopped: {data.note or 'smoke, smell or hum'}." if data.stopped else trend.sentence
    row.finding = "" if data.stopped else trend.finding
    explained = before.asks_why and bool(data.note) and trend.finding in core.EXPLAINABLE
    row.stop = data.stopped or (trend.stop and not explained)
    links = energise(actor, job_places(actor, job_id), taken_off=data.links_off)
    enter(actor, job_id, "power-up step", {**data.model_dump(mode="json"), "says": row.says, **links}, row)
    return power_up(actor, job_id)


def _steps(typed: str) -> str:
    """Steps in per cent, apart by blanks; raises InputError naming what is no number."""
    pieces = re.sub(r"[%;,]", " ", typed).split()
    for piece in pieces:
        if not re.fullmatch(r"\d{1,3}(\.\d+)?", piece):
            raise InputError("steps", f"“{piece[:20]}” is no step in per cent: 25 50 100.")
    return " ".join(pieces)
