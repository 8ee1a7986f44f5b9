"""Logging a fall; a voltage that rises stops the work."""

from uuid import UUID

from dusky_heron.core.discharge.decay import MOST_SAMPLES, SECONDS, VOLTS
from dusky_heron.core.discharge.decay_log import read_log
from dusky_heron.core.errors import InputError
from dusky_heron.core.quantities import show
from dusky_heron.discharge.models import ChargeNote, Fall, FallSample
from dusky_heron.discharge.queries import Planned, planned, show_fall
from dusky_heron.discharge.queries.falls import points
from dusky_heron.discharge.queries.plan import NO_VOLTAGE, refusals
from dusky_heron.discharge.schemas import FallIn, FallOut
from dusky_heron.discharge.states import ChargeState
from dusky_heron.discharge.worked.falls import ONE_TIME
from dusky_heron.instruments.queries import voltmeter
from dusky_heron.jobs.queries import core_position
from dusky_heron.record.actions import action, enter
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.typed import decimal_sign

FAR_UNDER = 100.0  # times under the planned voltage: a start below it is asked about


@action(Permission.WORK)
def log_fall(actor: Actor, position_id: UUID, data: FallIn) -> FallOut:
    """Add readings to the fall of the emptying that was noted last."""
    position, _, _ = core_position(actor, position_id)
    found = planned(actor, position_id)
    if found is None:
        raise InputError("rows", NO_VOLTAGE)
    note = ChargeNote.standing(position_id=position_id).select_for_update().last()
    if note is None or note.state != ChargeState.EMPTYING:
        raise InputError("rows", "Say first what empties it: then its fall can be watched.")
    rows = read_log(data.rows, decimal=decimal_sign())
    meter = voltmeter(actor, data.meter_id)
    against = refusals(found, meter.core)
    if against:
        raise InputError("meter_id", " ".join(against))
    watched, _ = Fall.objects.get_or_create(
        note=note,
        defaults={
            "meter_name": meter.core.name,
            "meter_ohm": meter.core.input_ohm,
            "display_counts": meter.display_counts,
        },
    )
    fresh = _checked(watched, rows)
    if not data.as_typed and not FallSample.standing(fall=watched).exists():
        _as_planned(found, rows)
    shown = show_fall(found, note, fresh)
    body: dict[str, object] = {
        "position": position.name,
        "meter": watched.meter_name,
        "readings": [f"{seconds:g} s {volts:g} V" for seconds, volts in rows],
        "finding": shown.sentence,
    }
    if shown.tau:
        body["tau"] = f"{shown.tau.said} ({shown.tau_range})"
    enter(actor, position.job_id, "fall logged", body, *fresh)
    shown.samples = points(FallSample.standing(fall=watched).order_by("seconds"))
    if shown.danger:
        _stop(actor.here, found, shown)
    return shown


def _checked(watched: Fall, rows: list[tuple[float, float]]) -> list[FallSample]:
    """The readings of a log that can be added to a fall."""
    for seconds, volts in rows:
        SECONDS.check("rows", seconds)
        VOLTS.check("rows", volts)
    times = [*FallSample.standing(fall=watched).values_list("seconds", flat=True), *(seconds for seconds, _ in rows)]
    if len(times) > MOST_SAMPLES:
        raise InputError("rows", f"That is more than {MOST_SAMPLES} readings.")
    if len(set(times)) < len(times):
        raise InputError("rows", ONE_TIME)
    return [FallSample(fall=watched, seconds=seconds, volts=volts) for seconds, volts in rows]


def _as_planned(found: Planned, rows: list[tuple[float, float]]) -> None:
    """Ask about a fall that starts a hundred times under what was planned: unit and decimal sign, or it was empty already."""
    volts, planned_v = abs(min(rows)[1]), found.charge.each_v
    if 0 < volts < planned_v / FAR_UNDER:
        start, planned_ = show(volts, "V"), show(planned_v, "V")
        raise InputError("as_typed", f"It starts at {start}, of {planned_} planned: are unit and decimal sign right?")


def _stop(actor: Actor, found: Planned, shown: FallOut) -> None:
    """A rising voltage becomes the state of the position, until somebody notes what is on it now."""
    body = {"position": found.position.name, "state": "rising", "why": shown.sentence}
    enter(actor, found.shown.job_id, "charge noted", body, ChargeNote(position_id=found.shown.id, state=ChargeState.RISING))
