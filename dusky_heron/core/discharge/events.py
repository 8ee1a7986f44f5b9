"""What happens in a logged fall beside falling: a step up, a bend, a reversal of sign, a start above the plan."""

import math
from collections import deque
from collections.abc import Sequence
from dataclasses import dataclass
from statistics import NormalDist

from dusky_heron.core.discharge.course import Course

FALSE_ALARM = 0.005  # of a rise, for a whole fall of any length: spent over its readings, α/(i(i+1)) at the i-th
LEAVES = 4.6  # standard deviations above its course: by chance once in 470 000 readings, so in under 0.5 % of falls of hundreds
SLACK, SUM_LEAVES = 1.0, 7.0  # a sum of deviations less one each: of chance alone over 7 once in a million readings, e^(2·7)
SPAN = 16  # readings a local prediction is made from: its own error adds a quarter to that of one reading (parabola: 9/16 squared)
FEWEST = 3
LOCAL_FROM = 8  # readings: below that a parabola would follow the noise, and what leaves the dielectric bends a line
FLAT = 6  # readings whose mean foretells the next where it has become flat
CUBIC = 2e-4  # of a reading: what a parabola so far leaves out of two or three exponentials
STEEP = 0.2  # of its logarithm from reading to reading: steeper, and they do not foretell the next
REACH = 1.5  # of its logarithm: farther up, and a parabola no longer follows two or three exponentials
ROUNDING = 0.3  # standard deviation of rounding to the last digit is 1/√12 of it: never less is taken for noise
MOST_DIGITS, LEAST_DIGITS = 3.0, 1.0  # noise of meters, in digits: taken for granted until a dozen readings have shown their own
ENOUGH = 12
NOISES = (
    1.04,
    1.5,
    2.0,
    2.5,
    3.0,
)  # digits, of meters with their rounding: until a dozen readings have shown their own
EARLY_ALARMS = (2e-4, 12e-4, 12e-4, 12e-4, 12e-4, 8e-4) + (15e-5,) * 6  # until then; spent where little is foretold, 0.7 % a fall
KEPT = 80  # residuals the noise is told from
ABOVE_PLAN = 1.05  # a start so far above what was planned as the worst is not what was planned
PLAIN_DIGITS, PLAIN_SHARE = 20.0, 0.1  # a rise of so many digits (noise of 3 makes that once in a million) and of the start: plain
LOG_FROM = 8.0  # times the noise, above which a fall is followed in its logarithm
BRANCHES_S = (10.0, 100.0, 1000.0)  # s: over which absorption is spread, as `rebound` predicts it
SPREAD_MARGIN = 2.0  # of a spread that is another than the even one
MOST_ABSORPTION = 0.15  # of any material, electrolytic: where it is not known which


@dataclass(frozen=True, slots=True)
class Event:
    """Something that stops the work: when, at which voltage, and in a sentence with the next step."""

    seconds: float
    volts: float
    sentence: str
    course: bool = False  # it left its course, and a fall may be fitted to it all the same


STEPPED = "It stepped up: something fed it again. Stop, hands off, isolate it anew and find the second supply."
LEFT = "It left its course: something feeds it, or the path has changed. Stop, hands off, isolate it anew and find out what."
HELD = "It falls towards {} and not to nothing, more than its material holds it up: something feeds it. Stop, and find out what."
TURNED = "It turned round: something charges it the other way. Stop, disconnect it, and find the second supply."
STARTS_HIGH = "It starts above the worst that was planned: stop, find what charged it so far, and plan again from there."


def find_event(
    samples: Sequence[tuple[float, float]],
    *,
    resolution_v: float,
    planned_v: float | None = None,
    absorption: float = MOST_ABSORPTION,
) -> Event | None:
    """The first event of a logged fall, wherever it stands; None where there is none.

    A reading above the one before it is a step where the rise is more than chance allows a whole fall at the stated rate. One
    that lies above its course is an event too: above what the last sixteen foretell, or above what the whole fall so far foretells
    by more than absorption can hold it up. The noise is what the readings themselves lie off from what was foretold. A change of
    sign beyond the noise is a reversal; a first reading above the worst that was planned is no fall from there.

    :param samples: (seconds, volts) in the order of time, no time twice
    :param resolution_v: last digit of the meter, volts
    :param planned_v: the worst that was planned for the part, volts; None when nothing was
    :param absorption: the most its material creeps back, a fraction of what it held
    :returns: Event, or None
    :raises InputError: never
    :source: recursive residuals of a regression (Brown, Durbin and Evans 1975); Bonferroni spending of the false-alarm rate
    """
    if not samples:
        return None
    start = max(abs(samples[0][1]), 0.0)
    if planned_v and start > planned_v * ABOVE_PLAN + 2 * resolution_v:
        return Event(*samples[0], STARTS_HIGH)
    sign = 1.0 if samples[0][1] >= 0 else -1.0
    whole, local = _Whole(resolution_v, absorption * start), _Local(resolution_v)
    before = 0.0
    for i, (seconds, shown) in enumerate(samples):
        volts = sign * shown
        if i:
            scatter = max(local.noise.scatter, resolution_v * ROUNDING)
            if volts < -6 * max(scatter, MOST_DIGITS * resolution_v if i < ENOUGH else 0.0) - 2 * resolution_v:
                return Event(seconds, shown, TURNED)
            by_noise = _allowed(i) * math.sqrt(2) * scatter + 2 * resolution_v
            plainly = max(PLAIN_DIGITS * resolution_v, PLAIN_SHARE * start)
            if volts - before > min(by_noise, plainly):
                return Event(seconds, shown, STEPPED)
            if whole.left_by(seconds, volts) or local.left_by(seconds, volts):
                return Event(seconds, shown, LEFT, course=True)
        whole.add(seconds, volts)
        local.add(seconds, volts)
        before = volts
    return None


def held_up(creeps_v: float, tau_s: float, seconds: float) -> float:
    """What absorption may hold a fall up by: each branch drives through its own resistor into the path, and empties.

    :param creeps_v: all that may creep back, volts
    :param tau_s: time constant of the fall, seconds
    :param seconds: since its start
    :returns: volts, twice what an even spread over branches of 10, 100 and 1 000 s gives
    :raises InputError: never
    :source: a branch of C·share and τₖ beside C and R: V·share × τ/(τ + τₖ) × e^(−t/(τ + τₖ))
    """
    each = (tau_s / (tau_s + branch) * math.exp(-seconds / (tau_s + branch)) for branch in BRANCHES_S)
    return SPREAD_MARGIN * creeps_v / len(BRANCHES_S) * sum(each)


class _Noise:
    """The noise of the readings as far as they have shown it: the root mean square of what they lie off."""

    def __init__(self, resolution_v: float) -> None:
        self.resolution_v = resolution_v
        self.squares: deque[float] = deque()
        self.total = 0.0
        self.seen = 0
        self.above = 0.0

    @property
    def scatter(self) -> float:
        """Standard deviation, volts, with what so few readings leave open; between one and three digits until a dozen were seen."""
        if self.seen < FEWEST:
            return MOST_DIGITS * self.resolution_v
        count = len(self.squares)
        own = math.sqrt(max(self.total, 0.0) / count) * (1 + 1 / math.sqrt(2 * count))
        if self.seen < ENOUGH:
            return min(max(own, LEAST_DIGITS * self.resolution_v), MOST_DIGITS * self.resolution_v)
        return max(own, ROUNDING * self.resolution_v)

    def beyond(self, residual: float, spread: float, allowed: float = 0.0) -> bool:
        """Whether a reading lies above what was foretold by more than chance, rounding and what is allowed; else it is noise."""
        over = residual - allowed
        if self.seen < ENOUGH:
            leaves = over > 0 and self._chance(over / spread) < EARLY_ALARMS[self.seen]
        else:
            self.above = max(self.above + over / (self.scatter * spread) - SLACK, 0.0)
            leaves = over > LEAVES * self.scatter * spread + self.resolution_v or self.above > SUM_LEAVES
        if not leaves:
            self.seen += 1
            self.squares.append((residual / spread) ** 2)
            self.total += self.squares[-1] - (self.squares.popleft() if len(self.squares) > KEPT else 0.0)
        return leaves

    def _chance(self, over: float) -> float:
        """Of so much over what was foretold, of noise between one and three digits as likely as what was seen makes each."""
        digits = [
            (sigma * self.resolution_v, -self.seen * math.log(sigma) - self.total / (2 * (sigma * self.resolution_v) ** 2))
            for sigma in NOISES
        ]
        best = max(log for _, log in digits)
        weighed = [(sigma, math.exp(log - best)) for sigma, log in digits]
        return sum(w * NormalDist().cdf(-over / sigma) for sigma, w in weighed) / sum(w for _, w in weighed)


def _allowed(i: int) -> float:
    """How many standard deviations the i-th reading may lie above the one before it."""
    return NormalDist().inv_cdf(1 - FALSE_ALARM / (i * (i + 1)))


class _Whole:
    """The whole fall so far as one exponential, and what absorption may hold it up by."""

    def __init__(self, resolution_v: float, creeps_v: float) -> None:
        self.noise = _Noise(resolution_v)
        self.course = Course(resolution_v, creeps_v)

    def left_by(self, at: float, volts: float) -> bool:
        """Whether a reading lies above it beyond noise and absorption."""
        told = self.course.foretell(at)
        if told is None:
            return False
        value, spread = told
        off, scatter = volts - value, self.noise.scatter
        allowed = self.course.absorbed(at, scatter) if off > SLACK * scatter * spread else 0.0  # within its noise it adds nothing
        return self.noise.beyond(off, spread, allowed)

    def add(self, seconds: float, volts: float) -> None:
        """Another reading."""
        self.course.add(seconds, volts)


class _Local:
    """The last readings: a parabola of their logarithm well above the noise, their mean where it has become flat."""

    def __init__(self, resolution_v: float) -> None:
        self.noise = _Noise(resolution_v)
        self.points: deque[tuple[float, float]] = deque(maxlen=SPAN)

    def left_by(self, at: float, volts: float) -> bool:
        """Whether a reading lies above what they foretell, where they foretell anything."""
        told = self._foretells(at)
        return told is not None and self.noise.beyond(volts - told[0], told[1], CUBIC * told[0])

    def add(self, seconds: float, volts: float) -> None:
        """Another reading."""
        self.points.append((seconds, volts))

    def _foretells(self, at: float) -> tuple[float, float] | None:
        volts = [v for _, v in self.points]
        if len(volts) < LOCAL_FROM:
            return None
        scatter = self.noise.scatter
        if min(volts) > LOG_FROM * scatter:
            step = math.log(volts[0] / volts[-1]) / (len(volts) - 1)
            near = [(t, math.log(v), v * v) for t, v in self.points if v < volts[-1] * math.exp(REACH)]
            steep = near[0][1] - near[-1][1] > STEEP * (len(near) - 1) if near else True
            if steep or len(near) < LOCAL_FROM or volts[-1] * math.exp(-step) < LOG_FROM * scatter:
                return None
            found = _extrapolate(near, at)
            if found is None or found[0] > math.log(volts[0]) + 1:
                return None
            value = math.exp(found[0])
            return value, math.sqrt(1 + value * value * found[1])
        if sum(volts[:3]) - sum(volts[-3:]) > 18 * scatter:
            return None  # it still falls, in so few volts that neither tells the next
        last = volts[-FLAT:]  # their mean: a fall that flattens stays under it
        return sum(last) / len(last), math.sqrt(1 + 1 / len(last))


def _extrapolate(points: Sequence[tuple[float, float, float]], at: float) -> tuple[float, float] | None:
    """A parabola through (t, y, weight) by least squares: its value at a time, and the square of what that is uncertain by."""
    last, size = points[-1][0], 3
    scale = (last - points[0][0]) or 1.0
    told = [((t - last) / scale, y, w) for t, y, w in points]
    rows = [[sum(w * x ** (i + j) for x, _, w in told) for j in range(size)] for i in range(size)]
    there = [((at - last) / scale) ** i for i in range(size)]
    weights = _solved(rows, there)
    if weights is None:
        return None
    sums = [sum(w * y * x**i for x, y, w in told) for i in range(size)]
    value = sum(weight * total for weight, total in zip(weights, sums, strict=True))
    return value, max(sum(weight * x for weight, x in zip(weights, there, strict=True)), 0.0)


def _solved(rows: list[list[float]], right: list[float]) -> list[float] | None:
    """A small system of equations by elimination; None where it has no one answer."""
    size = len(right)
    table = [[*row, value] for row, value in zip(rows, right, strict=True)]
    for i in range(size):
        pivot = max(range(i, size), key=lambda k: abs(table[k][i]))
        table[i], table[pivot] = table[pivot], table[i]
        if abs(table[i][i]) < 1e-300:
            return None
        for k in range(size):
            if k != i:
                factor = table[k][i] / table[i][i]
                table[k] = [x - factor * y for x, y in zip(table[k], table[i], strict=True)]
    return [table[i][size] / table[i][i] for i in range(size)]
