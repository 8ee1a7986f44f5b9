"""What the readings of a fall say, and how long it still takes."""

import datetime
from collections.abc import Sequence

from dusky_heron.core.discharge import decay
from dusky_heron.core.discharge.decay_log import read_log
from dusky_heron.core.errors import InputError
from dusky_heron.core.metering import last_digit
from dusky_heron.core.quantities import show, show_time
from dusky_heron.discharge.schemas import CurveOut, FallGround, FallHere, FallOut, PointOut, ToGoOut
from dusky_heron.presented import Figure
from dusky_heron.record.typed import decimal_sign

EMPTY = "No readings yet: type time and volts, one a line."
FEWEST_COUNTS = 100  # of the coarsest display a meter may have here
ONE_TIME = "One of those times is logged already: one time, one voltage."


def watch_fall(ground: FallGround, meter_name: str, samples: list[PointOut], counted_from: datetime.datetime | None) -> FallOut:
    """A fall with what its readings say, in the order of their times."""
    shown = FallOut(
        ground=ground, meter_name=meter_name, samples=samples, finding="too_few", danger=False, stopped_at=None, sentence=EMPTY,
        tau=None, tau_range="", floor=None, implied=[], to_go=[], counted_from=counted_from, curve=None,
    )  # fmt: skip
    return _fitted(shown, samples) if samples else shown


def fall_here(here: FallHere) -> FallOut:
    """A fall with what was typed since no server answers, each log as it was typed; its times count from when it was taken.

    :raises InputError: a line that cannot be read, or a time that is logged already (field `rows`)
    """
    rows = [row for text in here.rows for row in read_log(text, decimal=decimal_sign())]
    if len({seconds for seconds, _ in rows} | {one.seconds for one in here.fall.samples}) < len(rows) + len(here.fall.samples):
        raise InputError("rows", ONE_TIME)
    fresh = [PointOut(seconds=seconds, volts=volts, sequence=0) for seconds, volts in rows]
    ground = here.fall.ground
    if ground.display_counts is None:
        ground = ground.model_copy(update={"display_counts": here.display_counts, "meter_ohm": here.meter_ohm})
    samples = sorted([*here.fall.samples, *fresh], key=lambda one: one.seconds)
    return watch_fall(ground, here.fall.meter_name or here.meter_name, samples, here.counted_from)


def _fit(ground: FallGround, samples: Sequence[PointOut], target_v: float) -> decay.DecayFit:
    """What the core makes of it, its meter counted."""
    read = [(one.seconds, one.volts) for one in samples]
    return decay.fit(
        read,
        target_v=target_v,
        resolution_v=last_digit(max(abs(volts) for _, volts in read) or 1.0, ground.display_counts or FEWEST_COUNTS),
        expected_tau_s=ground.tau_s,
        meter_ohm=ground.meter_ohm,
        capacitance_f=ground.nominal_f,
        resistance_ohm=ground.tool_ohm,
        planned_v=ground.planned_v,
        absorption=ground.absorption,
    )


def _fitted(shown: FallOut, read: Sequence[PointOut]) -> FallOut:
    targets = [(line.name, line.volts) for line in shown.ground.targets]
    by_target = {name: _fit(shown.ground, read, volts) for name, volts in targets}
    fit = by_target["hands-in"]
    shown.finding, shown.sentence, shown.danger = fit.finding, fit.sentence, fit.stop
    shown.stopped_at = fit.event.seconds if fit.event else None
    if fit.tau_s is None or fit.tau_low_s is None or fit.tau_high_s is None:
        return shown
    shown.tau = Figure.of_time(fit.tau_s, digits=3)
    shown.tau_range = f"{show_time(fit.tau_low_s, digits=3)} to {show_time(fit.tau_high_s, digits=3)}, 95 %"
    shown.floor = Figure.of(fit.floor_v, "V") if fit.floor_v else None
    shown.implied = _implied(fit, shown.ground)
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


def _implied(fit: decay.DecayFit, ground: FallGround) -> list[str]:
    """What R and C the time constant implies, the meter taken out."""
    marked = show(ground.nominal_f, "F")
    said = [f"With {marked}: {show(fit.implied_ohm, 'Ω') if fit.implied_ohm else 'no path but the meter'}"]
    if fit.implied_f:
        said.append(f"Through the tool: {show(fit.implied_f, 'F')} of {marked}")
    return said
