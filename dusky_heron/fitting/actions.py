"""Ticking the fitting list."""

from uuid import UUID

from dusky_heron.core.errors import InputError
from dusky_heron.core.selection.fitting_list import EMPTY, PHOTO, SHARED
from dusky_heron.discharge.queries import EMPTIED, charge_line
from dusky_heron.fitting.models import BESIDE_TITLES, BesideWork, Fitted, FitTick
from dusky_heron.fitting.queries import TAKE, beside, fitting
from dusky_heron.fitting.schemas import BesideIn, BesideListOut, FittingOut, TickIn
from dusky_heron.jobs.queries import core_position, find_job, job_places
from dusky_heron.record.actions import action, append, enter
from dusky_heron.record.actor import Actor, Permission


@action(Permission.WORK)
def tick(actor: Actor, position_id: UUID, data: TickIn) -> FittingOut:
    """Tick a line or take a tick back; with the last of them the part counts as fitted."""
    position, _, job = core_position(actor, position_id)
    find_job(actor, job.id, lock=True)
    before = fitting(actor, position_id)
    line = next((line for line in before.shown.lines if line.id == data.line), None)
    if line is None or before.choice_id is None:
        raise InputError("line", before.shown.missing or "The list has changed since: look again, then tick.")
    if data.done and before.shown.missing and (before.shown.missing == TAKE or line.id == PHOTO):
        raise InputError("line", before.shown.missing)
    if data.done and line.id == EMPTY and charge_line([position])[0].state not in EMPTIED:
        raise InputError("line", f"No proof of {position.name} stands: prove it in Discharge, then tick.")
    if line.done == data.done:
        return before.shown
    row = FitTick(choice_id=before.choice_id, line=line.id, sentence=line.sentence, done=data.done, note=data.note)
    body = {"position": position.name, "line": line.sentence, "done": data.done, "note": data.note}
    enter(actor, job.id, "fitting", body, row)
    follow_tick(actor, row)
    return fitting(actor, position_id).shown


@action(Permission.WORK)
def note_beside(actor: Actor, job_id: UUID, data: BesideIn) -> BesideListOut:
    """Note something that is no capacitor as checked or replaced."""
    job = find_job(actor, job_id, lock=True)
    row = BesideWork(job=job, what=data.what, replaced=data.replaced, says=data.says)
    body = {"what": BESIDE_TITLES[data.what], "replaced": data.replaced, "says": data.says}
    enter(actor, job.id, "checked or replaced", body, row)
    return beside(actor, job_id)


def follow_tick(actor: Actor, tick: FitTick) -> None:
    """Whether a part counts as fitted follows its list, and others of the job what is shared; call inside an action."""
    place = tick.choice.position
    shared = tick.line.startswith(SHARED)
    for position_id in [one.id for one in job_places(actor, place.job_id)] if shared else [place.id]:
        _follow(actor, position_id)


def _follow(actor: Actor, position_id: UUID) -> None:
    position, _, job = core_position(actor, position_id)
    now = fitting(actor, position_id)
    if now.choice_id is None:
        return
    counts = Fitted.standing(choice_id=now.choice_id)
    last = counts.last()
    whole = bool(now.shown.lines) and all(one.done for one in now.shown.lines)
    if whole and (last is None or last.order < now.since):
        body = {"position": position.name, "part": now.shown.part, "lot": now.shown.lot}
        enter(actor.here, job.id, "fitted", body, Fitted(choice_id=now.choice_id))
    elif not whole and last:
        stands = append(actor.here, job.id, "not fitted any more", {"position": position.name, "part": now.shown.part})
        for row in counts:
            row.struck = stands.sequence
            row.save(update_fields=["struck"])
