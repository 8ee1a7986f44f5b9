"""Watching a voltage fall: the time constant with its interval, the time to go, and what the fall betrays."""

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from statistics import NormalDist
from typing import Literal

from dusky_heron.core.discharge.events import HELD, MOST_ABSORPTION, Event, find_event, held_up
from dusky_heron.core.errors import CAPACITANCE, RESISTANCE, TARGET_VOLTAGE, InputError, Range
from dusky_heron.core.quantities import show, show_time

FallFinding = Literal["falling", "not_falling", "rising", "floor", "slower_than_expected", "faster_than_expected", "too_few"]
SECONDS = Range("Time", 0.0, 1e7, "s")
VOLTS = Range("Voltage", -1e6, 1e6, "V")
RESOLUTION = Range("Resolution", 0.0, 1e6, "V", open_low=True)
TAU = Range("Expected time constant", 0.0, 1e12, "s", open_low=True)
FEWEST, FEWEST_WITH_FLOOR, MOST_SAMPLES = 3, 6, 5000
MOST_PLACES = 7  # of a typed voltage, after its point
ROUNDING = 1 / math.sqrt(12)  # standard deviation of rounding to the last digit, in digits
LONGEST_S = 1e5  # s: an upper time beyond a day is not known
NEGLIGIBLE = 1e-3  # of a target: what absorption may hold up without changing the upper time
CONFIDENCE = 0.975  # one side of a 95 % interval
FLOOR_ASKED = 0.9975  # one side: how sure the data have to be before a floor is kept
TREND_ASKED = 0.9995  # one side: how sure before the voltage is said to rise, or to fall
BEYOND_TOLERANCE = 1.3  # C ±20 % and R ±5 % together do not allow more than this factor
STANDS_STILL, HARDLY = 20.0, 0.2  # so many times slower than expected, and so little fallen: there is no path at all
WINDOWS = (0.25, 0.5, 1.0)  # the last quarter, half and all of the samples are looked at for a rise
STUDENT = {  # t quantiles where the series below is not exact enough: (degrees of freedom, one-sided probability)
    (1, CONFIDENCE): 12.706, (2, CONFIDENCE): 4.303, (1, TREND_ASKED): 636.6, (2, TREND_ASKED): 31.60, (3, TREND_ASKED): 12.92,
    (1, FLOOR_ASKED): 127.3, (2, FLOOR_ASKED): 14.09, (3, FLOOR_ASKED): 7.453,
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class DecayFit:
    """What a logged fall says. Times are seconds; numbers are None when there is no fall to fit.

    `time_to_target_s` counts from the last sample; None when the floor lies above the target, `time_high_s` None when it
    may. `implied_ohm` None: open, or nothing to work it out from.
    """

    finding: FallFinding
    sentence: str
    tau_s: float | None = None
    tau_low_s: float | None = None
    tau_high_s: float | None = None
    start_v: float | None = None
    floor_v: float | None = None
    time_to_target_s: float | None = None
    time_low_s: float | None = None
    time_high_s: float | None = None
    implied_ohm: float | None = None
    implied_f: float | None = None
    curve: tuple[tuple[float, float, float, float], ...] = ()  # seconds, volts, lower and upper volts of the 95 % band
    event: Event | None = None

    @property
    def stop(self) -> bool:
        """Whether the work stops here: it rises, or something happened that is no fall."""
        return self.event is not None or self.finding == "rising"


def fit(
    samples: Sequence[tuple[float, float]],
    *,
    target_v: float = 5.0,
    resolution_v: float,
    expected_tau_s: float | None = None,
    meter_ohm: float | None = None,
    capacitance_f: float | None = None,
    resistance_ohm: float | None = None,
    planned_v: float | None = None,
    absorption: float | None = None,
) -> DecayFit:
    """Fit V = V₀ e^(−t/τ) + V∞ to a logged fall by least squares; V∞ is kept only when the data ask for it.

    Every sample weighs the same, since one resolution holds for all; the scatter is taken from the residuals and never
    below the rounding of the meter. The interval of τ is 95 %, by Student's t on ln τ.

    :param samples: (seconds, volts), 0 to 1e7 s and −1e6 to 1e6 V, at most 5000, in any order, no time twice
    :param target_v: volts to count down to, more than 0 up to 1e6
    :param resolution_v: last digit of the meter, volts, more than 0; where readings were typed to fewer places, that of those
    :param expected_tau_s: of the circuit by itself, seconds; where the meter's load is known, anything between the time
        constant with and without the meter counts as expected. None when nothing is expected
    :param meter_ohm: input resistance of the meter across the part, None when it draws nothing
    :param capacitance_f: the part, when it is known and the resistance is wanted
    :param resistance_ohm: the path, when it is known and the capacitance is wanted
    :param planned_v: the worst that was planned, volts: a start above it stops the work; None when nothing was
    :param absorption: the most its material creeps back, a fraction of what it held: it may hold up a fall, and widens the interval
        of τ; where it is not known a fall may be held up as that of an electrolytic
    :returns: DecayFit; τ as observed, with the meter; implied values with the meter taken out
    :raises InputError: a value is out of range, or a time stands twice (field `samples`)
    :source: first-order discharge; least squares with linearised covariance (ISO/IEC Guide 98-3)

    >>> falling = [(t, 300 * math.exp(-t / 4)) for t in range(12)]
    >>> round(fit(falling, resolution_v=0.1).tau_s, 2)
    4.0
    """
    ordered = _checked(samples, resolution_v, target_v)
    resolution_v = max(resolution_v, _typed_to([volts for _, volts in ordered]))
    expected = _Expected.of(expected_tau_s, meter_ohm, capacitance_f, resistance_ohm)
    creeps = MOST_ABSORPTION if absorption is None else absorption
    event = find_event(ordered, resolution_v=resolution_v, planned_v=planned_v, absorption=creeps)
    if event and not event.course:
        return DecayFit("rising", event.sentence, event=event)
    found = _latest(_fitted(ordered, expected, target_v, resolution_v), ordered, target_v, creeps)
    return _stopped(_widened(found, absorption or 0.0), event or _held_up(found, ordered, creeps))


def _typed_to(volts: Sequence[float]) -> float:
    """The last digit of what was typed, at most a volt: who reads 18.04 V off a meter and types 18 has rounded it."""
    for places in range(MOST_PLACES):
        if all(math.isclose(value, round(value, places), rel_tol=0, abs_tol=1e-9) for value in volts):
            return 10.0**-places
    return 0.0


def _widened(found: DecayFit, absorption: float) -> DecayFit:
    """With an interval of τ that counts the charge which comes out of the dielectric as it falls, within its share."""
    if found.tau_low_s is None or found.tau_high_s is None:
        return found
    return replace(found, tau_low_s=found.tau_low_s / (1 + absorption), tau_high_s=found.tau_high_s * (1 + absorption))


def _held_up(found: DecayFit, ordered: list[tuple[float, float]], absorption: float) -> Event | None:
    """A floor, of either sign, that is more than absorption can hold up."""
    if not found.floor_v or found.start_v is None or abs(found.floor_v) <= absorption * max(abs(v) for _, v in ordered):
        return None
    return Event(*ordered[-1], HELD.format(show(found.floor_v, "V")), course=True)


def _latest(found: DecayFit, ordered: list[tuple[float, float]], target_v: float, absorption: float) -> DecayFit:
    """With an upper time that counts what absorption may still hold up then; not known where that takes longer than hours."""
    if not found.time_high_s or not found.tau_s or found.start_v is None:
        return found
    gone, creeps = ordered[-1][0] - ordered[0][0], absorption * abs(found.start_v)
    latest = found.time_high_s
    while latest < LONGEST_S:
        left = target_v * math.exp(-(latest - found.time_high_s) / found.tau_s)
        if left + held_up(creeps, found.tau_s, gone + latest) <= target_v * (1 + NEGLIGIBLE):
            return replace(found, time_high_s=latest)
        latest += found.tau_s / 20 + latest / 100
    return replace(found, time_high_s=None)


def _stopped(found: DecayFit, event: Event | None) -> DecayFit:
    """What was found, with what stops the work: then no time to go is told."""
    if event is None:
        return found
    return replace(found, sentence=event.sentence, event=event, time_to_target_s=None, time_low_s=None, time_high_s=None)


def _fitted(ordered: list[tuple[float, float]], expected: "_Expected", target_v: float, resolution_v: float) -> DecayFit:
    """The fall as one exponential, with a floor where the data ask for it."""
    if len(ordered) < FEWEST:
        return DecayFit("too_few", f"Log at least {FEWEST} readings.")
    sign = 1.0 if max(ordered, key=lambda s: abs(s[1]))[1] >= 0 else -1.0
    origin = ordered[0][0]
    times, volts = [t - origin for t, _ in ordered], [sign * v for _, v in ordered]
    if _rises(times, volts, resolution_v):
        return DecayFit("rising", "Rising: something still feeds it. Stop, and find the second supply.")
    if max(map(abs, volts)) <= target_v:
        return DecayFit("not_falling", f"Every reading is below {show(target_v, 'V')}: nothing is left to fall.")
    if not _falls(times, volts, resolution_v):
        return DecayFit("not_falling", "Not falling: the bleeder is open, or the tool makes no contact.")
    model = _best_model(times, volts, resolution_v)
    if model is None:
        return DecayFit("not_falling", "Not falling as a discharge does: check the contact of the tool.")
    found = _described(model, times[-1], target_v, resolution_v, expected)
    return replace(found, curve=tuple((origin + t, v, low, high) for t, v, low, high in found.curve))


def _checked(samples: Sequence[tuple[float, float]], resolution_v: float, target_v: float) -> list[tuple[float, float]]:
    RESOLUTION.check("resolution_v", resolution_v)
    TARGET_VOLTAGE.check("target_v", target_v)
    if len(samples) > MOST_SAMPLES:
        raise InputError("samples", f"That is more than {MOST_SAMPLES} readings.")
    ordered = sorted((SECONDS.check("samples", t), VOLTS.check("samples", v)) for t, v in samples)
    for (earlier, _), (later, _) in itertools.pairwise(ordered):
        if earlier == later:
            raise InputError("samples", f"Two readings at {earlier:g} s: one time, one voltage.")
    return ordered


@dataclass(frozen=True, slots=True)
class _Expected:
    """What the fall should be like, and what the meter and the known half of R·C make of it."""

    tau_s: float | None
    with_meter_s: float | None
    meter_ohm: float | None
    capacitance_f: float | None
    resistance_ohm: float | None

    @classmethod
    def of(cls, tau: float | None, meter: float | None, farads: float | None, ohms: float | None) -> "_Expected":
        for field, value, allowed in (
            ("expected_tau_s", tau, TAU),
            ("meter_ohm", meter, RESISTANCE),
            ("capacitance_f", farads, CAPACITANCE),
            ("resistance_ohm", ohms, RESISTANCE),
        ):
            if value is not None:
                allowed.check(field, value)
        loaded = tau
        if tau is not None and meter is not None:
            path = ohms or (tau / farads if farads else None)
            loaded = tau * meter / (path + meter) if path else tau
        return cls(tau, loaded, meter, farads, ohms)

    def implied(self, tau_s: float) -> tuple[float | None, float | None]:
        """The resistance and the capacitance a time constant implies, the meter taken out."""
        ohm = farads = None
        if self.capacitance_f:
            siemens = self.capacitance_f / tau_s - (1 / self.meter_ohm if self.meter_ohm else 0.0)
            ohm = 1 / siemens if siemens > 0 else None
        if self.resistance_ohm:
            farads = tau_s * (1 / self.resistance_ohm + (1 / self.meter_ohm if self.meter_ohm else 0.0))
        return ohm, farads


def student(freedom: int, probability: float) -> float:
    """The one-sided quantile of Student's t.

    :param freedom: degrees of freedom, at least 1
    :param probability: one-sided
    :returns: t
    :raises InputError: never
    :source: Abramowitz and Stegun 26.7.5, exact values below four degrees of freedom
    """
    if (freedom, probability) in STUDENT:
        return STUDENT[freedom, probability]
    z = NormalDist().inv_cdf(probability)
    terms = (
        (z**3 + z) / 4,
        (5 * z**5 + 16 * z**3 + 3 * z) / 96,
        (3 * z**7 + 19 * z**5 + 17 * z**3 - 15 * z) / 384,
        (79 * z**9 + 776 * z**7 + 1482 * z**5 - 1920 * z**3 - 945 * z) / 92160,
    )
    return float(z + sum(term / freedom ** (power + 1) for power, term in enumerate(terms)))


def _trend(times: list[float], volts: list[float], resolution: float) -> tuple[float, float, float]:
    """Slope of a straight line, its standard error, and the change it makes over the samples."""
    count = len(times)
    mean_t, mean_v = sum(times) / count, sum(volts) / count
    spread = sum((t - mean_t) ** 2 for t in times)
    slope = sum((t - mean_t) * (v - mean_v) for t, v in zip(times, volts, strict=True)) / spread
    residual = sum((v - mean_v - slope * (t - mean_t)) ** 2 for t, v in zip(times, volts, strict=True))
    scatter = max(math.sqrt(residual / max(count - 2, 1)), resolution * ROUNDING)
    return slope, scatter / math.sqrt(spread), slope * (times[-1] - times[0])


def _rises(times: list[float], volts: list[float], resolution: float) -> bool:
    """Whether the last of the samples, in any of three windows, go up beyond doubt."""
    for share in WINDOWS:
        count = max(FEWEST, math.ceil(len(times) * share))
        slope, error, change = _trend(times[-count:], volts[-count:], resolution)
        sure = slope > student(max(count - 2, 1), TREND_ASKED) * error if count > FEWEST + 1 else _steps(volts[-count:])
        if change > 4 * resolution and sure:
            return True
    return False


def _steps(volts: list[float]) -> bool:
    """Whether so few samples go up one after the other."""
    return all(later > earlier for earlier, later in itertools.pairwise(volts))


def _falls(times: list[float], volts: list[float], resolution: float) -> bool:
    slope, error, change = _trend(times, volts, resolution)
    steps = [-v for v in volts]
    few = len(times) <= FEWEST + 1
    drop = volts[0] - volts[-1]
    sure = _steps(steps) or drop > 10 * resolution if few else -slope > 3 * error or drop > 20 * resolution
    return sure and max(-change, drop) > 3 * resolution


@dataclass(frozen=True, slots=True)
class _Model:
    """Fitted parameters (V₀, ln τ, V∞), their covariance, and the degrees of freedom left."""

    start: float
    log_tau: float
    floor: float
    covariance: list[list[float]]
    freedom: int
    squares: float

    @property
    def tau(self) -> float:
        return math.exp(self.log_tau)

    def volts(self, seconds: float) -> float:
        return self.start * math.exp(-seconds / self.tau) + self.floor

    def error_of(self, gradient: list[float]) -> float:
        """Standard error of a function of the parameters, from its gradient."""
        size = len(self.covariance)
        total = sum(gradient[i] * self.covariance[i][j] * gradient[j] for i in range(size) for j in range(size))
        return math.sqrt(max(total, 0.0))

    def gradient(self, seconds: float) -> list[float]:
        fall = math.exp(-seconds / self.tau)
        return [fall, self.start * fall * seconds / self.tau, 1.0][: len(self.covariance)]


def _best_model(times: list[float], volts: list[float], resolution: float) -> _Model | None:
    """Without a floor, unless one is seen beyond doubt."""
    plain = _fit(times, volts, resolution, floor=False)
    if len(times) < FEWEST_WITH_FLOOR:
        return plain
    floored = _fit(times, volts, resolution, floor=True)
    if floored is None or plain is None:
        return plain or floored
    error = math.sqrt(max(floored.covariance[2][2], 0.0))
    asked = abs(floored.floor) > student(floored.freedom, FLOOR_ASKED) * error and abs(floored.floor) > 2 * resolution
    gained = (plain.squares - floored.squares) / max(floored.squares / floored.freedom, (resolution * ROUNDING) ** 2)
    return floored if asked and gained > student(floored.freedom, FLOOR_ASKED) ** 2 else plain


def _fit(times: list[float], volts: list[float], resolution: float, *, floor: bool) -> _Model | None:
    """Variable projection: the linear parameters are solved for each τ, and ln τ is searched; then the covariance."""
    span = times[-1] - times[0]
    low, high = math.log(span / 400), math.log(span * 400)
    grid = [low + (high - low) * k / 60 for k in range(61)]
    best = min(range(61), key=lambda k: _squares(grid[k], times, volts, floor=floor)[0])
    if best in (0, 60):
        return None
    left, right = grid[best - 1], grid[best + 1]
    for _ in range(60):  # golden section
        a, b = right - (right - left) * 0.618034, left + (right - left) * 0.618034
        if _squares(a, times, volts, floor=floor)[0] < _squares(b, times, volts, floor=floor)[0]:
            right = b
        else:
            left = a
    log_tau = (left + right) / 2
    squares, start, base = _squares(log_tau, times, volts, floor=floor)
    size = 3 if floor else 2
    model = _Model(start, log_tau, base, [[0.0] * size] * size, max(len(times) - size, 1), squares)
    variance = max(squares / model.freedom, (resolution * ROUNDING) ** 2)
    normal = [[0.0] * size for _ in range(size)]
    for seconds in times:
        gradient = model.gradient(seconds)
        for i in range(size):
            for j in range(size):
                normal[i][j] += gradient[i] * gradient[j]
    inverse = _inverse(normal)
    if inverse is None or start <= 0:
        return None
    covariance = [[variance * cell for cell in row] for row in inverse]
    return _Model(start, log_tau, base, covariance, model.freedom, squares)


def _squares(log_tau: float, times: list[float], volts: list[float], *, floor: bool) -> tuple[float, float, float]:
    """Sum of squares at a τ with the best V₀ and V∞ for it."""
    tau = math.exp(log_tau)
    falls = [math.exp(-t / tau) for t in times]
    count, s1, s2 = len(times), sum(falls), sum(f * f for f in falls)
    sv, sfv = sum(volts), sum(f * v for f, v in zip(falls, volts, strict=True))
    if floor:
        det = count * s2 - s1 * s1
        if det <= 1e-12 * count * s2:
            return math.inf, 0.0, 0.0
        start, base = (count * sfv - s1 * sv) / det, (s2 * sv - s1 * sfv) / det
    else:
        start, base = (sfv / s2 if s2 else 0.0), 0.0
    return sum((v - start * f - base) ** 2 for f, v in zip(falls, volts, strict=True)), start, base


def _inverse(matrix: list[list[float]]) -> list[list[float]] | None:
    """Inverse of a small symmetric matrix, scaled for safety; None when it has none."""
    size = len(matrix)
    scale = [math.sqrt(matrix[i][i]) for i in range(size)]
    if min(scale) <= 0:
        return None
    rows = [
        [matrix[i][j] / (scale[i] * scale[j]) for j in range(size)] + [1.0 if i == j else 0.0 for j in range(size)]
        for i in range(size)
    ]
    for i in range(size):
        pivot = max(range(i, size), key=lambda k: abs(rows[k][i]))
        if abs(rows[pivot][i]) < 1e-13:
            return None
        rows[i], rows[pivot] = rows[pivot], rows[i]
        rows[i] = [cell / rows[i][i] for cell in rows[i]]
        for k in range(size):
            if k != i:
                rows[k] = [a - rows[k][i] * b for a, b in zip(rows[k], rows[i], strict=True)]
    return [[rows[i][size + j] / (scale[i] * scale[j]) for j in range(size)] for i in range(size)]


def _described(model: _Model, last_s: float, target_v: float, resolution: float, expected: _Expected) -> DecayFit:
    t = student(model.freedom, CONFIDENCE)
    half = t * math.sqrt(max(model.covariance[1][1], 0.0))
    tau, low, high = model.tau, math.exp(model.log_tau - half), math.exp(min(model.log_tau + half, 600.0))
    finding = _finding(model, low, high, last_s, resolution, expected)
    if finding == "not_falling":
        return DecayFit(finding, "Hardly falling: the bleeder is open, or the tool makes no contact.")
    ohm, farads = expected.implied(tau)
    to_go, soonest, latest = _time_to(model, last_s, target_v, t)
    return DecayFit(
        finding=finding,
        sentence=_sentence(finding, model, tau, expected),
        tau_s=tau,
        tau_low_s=low,
        tau_high_s=high,
        start_v=model.start + model.floor,
        floor_v=model.floor,
        time_to_target_s=to_go,
        time_low_s=soonest,
        time_high_s=latest,
        implied_ohm=ohm,
        implied_f=farads,
        curve=_curve(model, last_s, to_go, t),
    )


def _finding(model: _Model, low: float, high: float, last_s: float, resolution: float, expected: _Expected) -> FallFinding:
    if expected.tau_s and low > STANDS_STILL * expected.tau_s and 1 - math.exp(-last_s / model.tau) < HARDLY:
        return "not_falling"
    if model.floor > 2 * resolution:
        return "floor"
    if expected.tau_s and expected.with_meter_s:
        if low > BEYOND_TOLERANCE * expected.tau_s:
            return "slower_than_expected"
        if high < expected.with_meter_s / BEYOND_TOLERANCE:
            return "faster_than_expected"
    return "falling"


def _sentence(finding: FallFinding, model: _Model, tau: float, expected: _Expected) -> str:
    against = f"τ is {show_time(tau)}, expected {show_time(expected.tau_s)}" if expected.tau_s else ""
    return {
        "floor": f"It settles at {show(model.floor, 'V')}, which no discharge explains: rebound, or a second source.",
        "slower_than_expected": f"{against}: slower than the tolerances allow. A resistor has gone high, or there is more on it.",
        "faster_than_expected": f"{against}: faster than the tolerances allow. The part has lost capacitance: plan with its mark.",
    }.get(finding, f"Falling as a discharge does, τ {show_time(tau)}.")


def _time_to(model: _Model, last_s: float, target_v: float, t: float) -> tuple[float | None, float | None, float | None]:
    """Seconds from the last sample until the curve meets the target, with its interval."""
    now, wanted = model.volts(last_s) - model.floor, target_v - model.floor
    if model.volts(last_s) <= target_v:
        return 0.0, 0.0, 0.0
    if wanted <= 0:
        return None, None, None
    to_go = model.tau * math.log(now / wanted)
    crossing = last_s + to_go
    # dt = dV / slope at the crossing: the error of the curve there, turned into time
    slope = wanted / model.tau
    half = t * model.error_of(model.gradient(crossing)) / slope
    floor_may_hold = len(model.covariance) > 2 and wanted <= t * math.sqrt(max(model.covariance[2][2], 0.0))
    return to_go, max(to_go - half, 0.0), None if floor_may_hold else to_go + half


def _curve(model: _Model, last_s: float, to_go: float | None, t: float) -> tuple[tuple[float, float, float, float], ...]:
    """The fitted curve with its 95 % band, from the first sample to where it meets the target."""
    end = last_s + min(to_go if to_go else 0.0, 10 * model.tau)
    points = []
    for k in range(81):
        seconds = end * k / 80
        volts, half = model.volts(seconds), t * model.error_of(model.gradient(seconds))
        points.append((seconds, volts, volts - half, volts + half))
    return tuple(points)
