"""Watched falls, and bleeders made for a limit."""

from collections.abc import Iterable, Sequence
from uuid import UUID

from dusky_heron.core.discharge import decay
from dusky_heron.core.discharge.bleeders import design_bleeder
from dusky_heron.core.discharge.falling import HANDS_IN_V
from dusky_heron.core.discharge.limits import find_limit
from dusky_heron.core.discharge.planning import continuous_voltage
from dusky_heron.core.errors import InputError
from dusky_heron.core.metering import last_digit
from dusky_heron.core.model.materials import MATERIALS
from dusky_heron.core.quantities import show, show_time
from dusky_heron.discharge.models import ChargeNote, Fall, FallSample
from dusky_heron.discharge.queries.plan import NO_VOLTAGE, Planned, planned
from dusky_heron.discharge.schemas import CurveOut, DesignOut, FallOut, PointOut, TargetLine, ToGoOut
from dusky_heron.discharge.states import ChargeState
from dusky_heron.presented import Figure
from dusky_heron.record.actor import Actor

EMPTY = "No readings yet: type time and volts, one a line."


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
    targets = [("working limit", found.limit.target_v), ("hands-in", HANDS_IN_V)]
    shown = FallOut(
        meter_name=watched.meter_name if watched else "",
        samples=points(samples),
        finding="too_few",
        danger=False,
        stopped_at=None,
        sentence=EMPTY,
        tau=None,
        tau_range="",
        floor=None,
        implied=[],
        to_go=[],
        counted_from=samples[-1].when if samples else None,
        curve=None,
        targets=[TargetLine(name=name, volts=volts) for name, volts in targets],
    )
    if not watched or not samples:
        return shown
    return _fitted(shown, found, note, watched, samples, targets)


def points(samples: Iterable[FallSample]) -> list[PointOut]:
    """Logged voltages as the API shows them."""
    return [PointOut(seconds=s.seconds, volts=s.volts, sequence=s.sequence) for s in samples]


def fit_of(found: Planned, note: ChargeNote, watched: Fall, read: Sequence[FallSample], target_v: float) -> decay.DecayFit:
    """What the core makes of a fall, its meter counted."""
    samples = [(s.seconds, s.volts) for s in read]
    return decay.fit(
        samples,
        target_v=target_v,
        resolution_v=last_digit(max(abs(volts) for _, volts in samples) or 1.0, watched.display_counts),
        expected_tau_s=note.tau_s,
        meter_ohm=watched.meter_ohm,
        capacitance_f=found.charge.nominal_f,
        resistance_ohm=note.tool_ohm,
        planned_v=found.charge.voltage.voltage_v,
        absorption=MATERIALS[found.dielectric].absorption[1],
    )


def _fitted(
    shown: FallOut, found: Planned, note: ChargeNote, watched: Fall, read: Sequence[FallSample], targets: list[tuple[str, float]]
) -> FallOut:
    by_target = {name: fit_of(found, note, watched, read, volts) for name, volts in targets}
    fit = by_target["hands-in"]
    shown.finding, shown.sentence, shown.danger = fit.finding, fit.sentence, fit.stop
    shown.stopped_at = fit.event.seconds if fit.event else None
    if fit.tau_s is None or fit.tau_low_s is None or fit.tau_high_s is None:
        return shown
    shown.tau = Figure.of_time(fit.tau_s, digits=3)
    shown.tau_range = f"{show_time(fit.tau_low_s, digits=3)} to {show_time(fit.tau_high_s, digits=3)}, 95 %"
    shown.floor = Figure.of(fit.floor_v, "V") if fit.floor_v else None
    shown.implied = _implied(fit, found)
    shown.to_go = [
        ToGoOut(
            name=name,
            target=Figure.of(volts, "V"),
            nominal=Figure.of_time(by_target[name].time_to_target_s or 0.0),
            worst=Figure.of_time(latest) if (latest := by_target[name].time_high_s) is not None else None,
        )
        for name, volts in targets
        if by_target[name].time_to_target_s is not None
    ]
    seconds, volts, low, high = zip(*fit.curve, strict=True)
    shown.curve = CurveOut(seconds=list(seconds), volts=list(volts), low=list(low), high=list(high))
    return shown


def _implied(fit: decay.DecayFit, found: Planned) -> list[str]:
    """What R and C the time constant implies, the meter taken out."""
    marked = show(found.charge.nominal_f, "F")
    said = [f"With {marked}: {show(fit.implied_ohm, 'Ω') if fit.implied_ohm else 'no path but the meter'}"]
    if fit.implied_f:
        said.append(f"Through the tool: {show(fit.implied_f, 'F')} of {marked}")
    return said


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
