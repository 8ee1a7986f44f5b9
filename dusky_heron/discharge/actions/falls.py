"""Logging a fall; a voltage that rises stops the work."""

from uuid import UUID

from django.db import IntegrityError, transaction

from dusky_heron.core.discharge.decay import MOST_SAMPLES, SECONDS, VOLTS
from dusky_heron.core.discharge.decay_log import read_log
from dusky_heron.core.errors import InputError
from dusky_heron.discharge.models import ChargeNote, ChargeState, Fall, FallSample
from dusky_heron.discharge.queries import Planned, planned, show_fall
from dusky_heron.discharge.queries.plan import NO_VOLTAGE, refusals
from dusky_heron.discharge.schemas import FallIn, FallOut
from dusky_heron.instruments.queries import voltmeter
from dusky_heron.jobs.queries import core_position
from dusky_heron.record.actions import action, append
from dusky_heron.record.actor import Actor, Permission


@action(Permission.WORK)
def log_fall(actor: Actor, position_id: UUID, data: FallIn) -> FallOut:
    """Add readings to the fall of the emptying that was noted last."""
    position, _, _ = core_position(actor, position_id)
    found = planned(actor, position_id)
    if found is None:
        raise InputError("rows", NO_VOLTAGE)
    note = ChargeNote.objects.select_for_update().filter(position_id=position_id).last()
    if note is None or note.state != ChargeState.EMPTYING:
        raise InputError("rows", "Say first what empties it: then its fall can be watched.")
    rows = read_log(data.rows)
    meter, ohm, counts = voltmeter(actor, data.meter_id)
    against = refusals(found, meter)
    if against:
        raise InputError("meter_id", " ".join(against))
    watched, _ = Fall.objects.get_or_create(
        note=note, defaults={"meter_name": meter.name, "meter_ohm": ohm, "display_counts": counts}
    )
    _add(watched, rows)
    shown = show_fall(found, note)
    body: dict[str, object] = {
        "position": position.name,
        "meter": watched.meter_name,
        "readings": [f"{seconds:g} s {volts:g} V" for seconds, volts in rows],
        "finding": shown.sentence,
    }
    if shown.tau:
        body["tau"] = f"{shown.tau.said} ({shown.tau_range})"
    append(actor, position.job_id, "fall logged", body)
    if shown.danger:
        _stop(actor, found, shown)
    return shown


def _add(watched: Fall, rows: list[tuple[float, float]]) -> None:
    for seconds, volts in rows:
        SECONDS.check("rows", seconds)
        VOLTS.check("rows", volts)
    if watched.samples.count() + len(rows) > MOST_SAMPLES:
        raise InputError("rows", f"That is more than {MOST_SAMPLES} readings.")
    try:
        with transaction.atomic():
            FallSample.objects.bulk_create([FallSample(fall=watched, seconds=s, volts=v) for s, v in rows])
    except IntegrityError:
        raise InputError("rows", "One of those times is logged already: one time, one voltage.") from None


def _stop(actor: Actor, found: Planned, shown: FallOut) -> None:
    """A rising voltage becomes the state of the position, until somebody notes what is on it now."""
    ChargeNote.objects.create(position_id=found.shown.id, state=ChargeState.RISING, by_name=actor.name)
    append(actor, found.shown.job_id, "charge noted", {"position": found.position.name, "state": "rising", "why": shown.sentence})
