"""Ticking the fitting list."""

from uuid import UUID

from dusky_heron.core.errors import InputError
from dusky_heron.core.selection.fitting_list import EMPTY, PHOTO
from dusky_heron.discharge.models import ChargeState
from dusky_heron.discharge.queries import charge_line
from dusky_heron.fitting.models import Fitted, FitTick
from dusky_heron.fitting.queries import TAKE, fitting
from dusky_heron.fitting.schemas import FittingOut, TickIn
from dusky_heron.jobs.queries import core_position, find_job
from dusky_heron.record.actions import action, append
from dusky_heron.record.actor import Actor, Permission

EMPTIED = (ChargeState.PROVED, ChargeState.KEPT_SHORTED)


@action(Permission.WORK)
def tick(actor: Actor, position_id: UUID, data: TickIn) -> FittingOut:
    """Tick a line or take a tick back; with the last of them the part counts as fitted."""
    position, _, job = core_position(actor, position_id)
    find_job(actor, job.id, lock=True)
    before = fitting(actor, position_id)
    line = next((line for line in before.shown.lines if line.sentence == data.sentence), None)
    if line is None or before.choice_id is None:
        raise InputError("sentence", before.shown.missing or "The list has changed since: look again, then tick.")
    if data.done and before.shown.missing and (before.shown.missing == TAKE or data.sentence == PHOTO):
        raise InputError("sentence", before.shown.missing)
    if data.done and data.sentence == EMPTY and charge_line([position])[0].state not in EMPTIED:
        raise InputError("sentence", f"No proof of {position.name} stands: prove it in Discharge, then tick.")
    if line.done == data.done:
        return before.shown
    FitTick.objects.create(choice_id=before.choice_id, sentence=data.sentence, done=data.done, note=data.note, by_name=actor.name)
    body = {"position": position.name, "line": data.sentence, "done": data.done, "note": data.note}
    append(actor, job.id, "fitting", body)
    now = fitting(actor, position_id)
    if all(one.done for one in now.shown.lines):
        Fitted.objects.get_or_create(choice_id=before.choice_id, defaults={"by_name": actor.name})
        append(actor, job.id, "fitted", {"position": position.name, "part": now.shown.part, "lot": now.shown.lot})
        return fitting(actor, position_id).shown
    Fitted.objects.filter(choice_id=before.choice_id).delete()
    return now.shown
