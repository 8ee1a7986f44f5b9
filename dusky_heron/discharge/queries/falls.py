"""Watched falls, and bleeders made for a limit."""

from collections.abc import Iterable, Sequence
from uuid import UUID

from dusky_heron.core.discharge.bleeders import design_bleeder
from dusky_heron.core.discharge.falling import HANDS_IN_V
from dusky_heron.core.discharge.limits import find_limit
from dusky_heron.core.discharge.planning import continuous_voltage
from dusky_heron.core.errors import InputError
from dusky_heron.core.model.materials import MATERIALS
from dusky_heron.core.quantities import show, show_time
from dusky_heron.discharge.models import ChargeNote, Fall, FallSample
from dusky_heron.discharge.queries.plan import NO_VOLTAGE, Planned, planned
from dusky_heron.discharge.schemas import DesignOut, FallGround, FallOut, PointOut, TargetLine
from dusky_heron.discharge.states import ChargeState
from dusky_heron.discharge.worked.falls import watch_fall
from dusky_heron.presented import Figure
from dusky_heron.record.actor import Actor


def fall(actor: Actor, position_id: UUID) -> FallOut | None:
    """The fall that is watched now, or was last; None when nothing is being emptied. Seven statements."""
    found = planned(actor, position_id)
    note = ChargeNote.standing(position_id=position_id, state=ChargeState.EMPTYING).select_related("fall").last()
    return show_fall(found, note) if found and note else None


def show_fall(found: Planned, note: ChargeNote, more: Sequence[FallSample] = ()) -> FallOut:
    """The readings of a fall, and of those that are just being logged, and what they say."""
    watched = Fall.objects.filter(note=note).first()
    kept = FallSample.standing(fall=watched) if watched else []
    samples = sorted([*kept, *more], key=lambda sample: sample.seconds)
    ground = FallGround(
        display_counts=watched.display_counts if watched else None,
        meter_ohm=watched.meter_ohm if watched else None,
        tau_s=note.tau_s,
        tool_ohm=note.tool_ohm,
        nominal_f=found.charge.nominal_f,
        planned_v=found.charge.voltage.voltage_v,
        absorption=MATERIALS[found.dielectric].absorption[1],
        targets=[TargetLine(name="working limit", volts=found.limit.target_v), TargetLine(name="hands-in", volts=HANDS_IN_V)],
    )
    return watch_fall(ground, watched.meter_name if watched else "", points(samples), samples[-1].when if samples else None)


def points(samples: Iterable[FallSample]) -> list[PointOut]:
    """Logged voltages as the API shows them."""
    return [PointOut(seconds=s.seconds, volts=s.volts, sequence=s.sequence) for s in samples]


def design(actor: Actor, position_id: UUID, limit_id: str, working_v: float) -> DesignOut:
    """A bleeder that makes a position meet a limit. Four statements."""
    found = planned(actor, position_id)
    if found is None:
        raise InputError("limit", NO_VOLTAGE)
    row, charge = find_limit(found.rows, limit_id), found.charge
    continuous = continuous_voltage(found.position, charge)
    made = design_bleeder(row, charge.highest_f, charge.each_v, continuous, working_v)
    total = made.each_ohm * made.count
    several = f"{made.count} × {show(made.each_ohm, 'Ω')} in series" if made.count > 1 else show(made.each_ohm, "Ω")
    return DesignOut(
        limit=row.said,
        resistors=several,
        each=Figure.of(made.each_ohm, "Ω"),
        count=made.count,
        total=Figure.of(total, "Ω"),
        loss=Figure.of(made.loss_w, "W"),
        each_rated=Figure.of(made.each_rated_w, "W"),
        time=Figure.of_time(made.seconds),
        sentence=(
            f"{several}, each at least {show(made.each_rated_w, 'W', digits=2)} and {show(working_v, 'V')}: "
            f"{show(row.target_v(charge.highest_f, charge.each_v), 'V')} after {show_time(made.seconds)} at worst."
        ),
        source=row.source,
    )
