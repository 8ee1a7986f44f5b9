"""What happens in a logged fall beside falling: a step up, a reversal of sign, a start above the plan."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from statistics import NormalDist, median

FALSE_ALARM = 0.005  # of a step, for a whole fall of any length: spent over its readings, α/(i(i+1)) at the i-th
SPAN = 8  # readings a prediction is made from: so many that its own error is small, so few that a fall is straight in its logarithm
FEWEST = 3
ROUNDING = 1 / math.sqrt(12)  # standard deviation of rounding to the last digit, in digits
UNTRIED_DIGITS = 3.0  # noise taken for granted, in digits, until enough readings have shown their own
ENOUGH = 12  # readings from which their own noise is known well enough
ABOVE_PLAN = 1.05  # a start so far above what was planned as the worst is not what was planned
PLAIN_DIGITS, PLAIN_SHARE = 20.0, 0.1  # a rise of so many digits (noise of 3 makes that once in a million) and of the start: plain
LOG_FROM = 8.0  # times the noise, above which a fall is followed in its logarithm


@dataclass(frozen=True, slots=True)
class Event:
    """Something that stops the work: when, at which voltage, and in a sentence with the next step."""

    seconds: float
    volts: float
    sentence: str


def find_event(samples: Sequence[tuple[float, float]], *, resolution_v: float, planned_v: float | None = None) -> Event | None:
    """The first event of a logged fall, wherever it stands; None where there is none.

    A reading above the one before it is a step where the rise is more than chance allows a whole fall at the stated rate, by the
    noise that the readings show themselves: what each lies off from what the up to eight before it predict. A change of sign
    beyond that noise is a reversal; a first reading above the worst that was planned is no fall from there.

    :param samples: (seconds, volts) in the order of time, no time twice
    :param resolution_v: last digit of the meter, volts
    :param planned_v: the worst that was planned for the part, volts; None when nothing was
    :returns: Event, or None
    :raises InputError: never
    :source: recursive residuals of a regression (Brown, Durbin and Evans 1975); Bonferroni spending of the false-alarm rate
    """
    if not samples:
        return None
    start = max(abs(samples[0][1]), 0.0)
    if planned_v and start > planned_v * ABOVE_PLAN + 2 * resolution_v:
        says = "It starts above the worst that was planned: stop, find what charged it so far, and plan again from there."
        return Event(*samples[0], says)
    sign = 1.0 if samples[0][1] >= 0 else -1.0
    volts = [sign * v for _, v in samples]
    noise, course = _Noise(resolution_v), _Course()
    for i in range(1, len(samples)):
        scatter = noise.scatter
        if volts[i] < -6 * scatter - 2 * resolution_v:
            says = "It turned round: something charges it the other way. Stop, disconnect it, and find the second supply."
            return Event(samples[i][0], samples[i][1], says)
        course.add(samples[i - 1][0], volts[i - 1])
        predicted, spread = course.predict(samples[i][0], scatter)
        by_noise = _allowed(i) * math.sqrt(2) * scatter + 2 * resolution_v
        plainly = max(PLAIN_DIGITS * resolution_v, PLAIN_SHARE * start)
        if volts[i] - volts[i - 1] > min(by_noise, plainly):
            says = "It stepped up: something fed it again. Stop, hands off, isolate it anew and find the second supply."
            return Event(samples[i][0], samples[i][1], says)
        if i >= FEWEST:
            noise.add((volts[i] - predicted) / spread)
    return None


class _Noise:
    """The noise of the readings as far as they have shown it: the median of their residuals, which a step does not move."""

    def __init__(self, resolution_v: float) -> None:
        self.resolution_v = resolution_v
        self.seen: list[float] = []

    @property
    def scatter(self) -> float:
        """Standard deviation, volts; never below rounding, and careful until enough was seen."""
        own = 1.4826 * median(self.seen) * (1 + 1 / math.sqrt(len(self.seen))) if self.seen else 0.0
        least = UNTRIED_DIGITS * self.resolution_v if len(self.seen) < ENOUGH else self.resolution_v * ROUNDING
        return max(own, least)

    def add(self, residual: float) -> None:
        """Another residual."""
        self.seen.append(abs(residual))


def _allowed(i: int) -> float:
    """How many standard deviations the i-th reading may lie above its prediction."""
    return NormalDist().inv_cdf(1 - FALSE_ALARM / (i * (i + 1)))


class _Course:
    """The fall as the readings so far tell it: straight in the logarithm far above the noise, its pace kept after."""

    def __init__(self) -> None:
        self.times: list[float] = []
        self.volts: list[float] = []
        self.pace = 0.0  # per second, of the last readings far above the noise
        self.pace_error = 0.0  # in scatters per volt

    def predict(self, at: float, scatter: float) -> tuple[float, float]:
        """What the next reading should be, and the standard deviation of its deviation, in scatters."""
        times, volts = self.times[-SPAN:], self.volts[-SPAN:]
        high = [(t, v) for t, v in zip(times, volts, strict=True) if v > LOG_FROM * scatter]
        if len(high) == len(times) >= 2:
            return self._on_the_line(high, at)
        held = [v * math.exp(-self.pace * (at - t)) for t, v in zip(times, volts, strict=True)]
        share = [math.exp(-self.pace * (at - t)) / len(times) for t in times]
        value = sum(held) / len(held)
        bent = abs(value) * (at - sum(times) / len(times)) * self.pace_error
        return value, math.sqrt(1 + sum(part * part for part in share) + bent * bent)

    def _on_the_line(self, high: list[tuple[float, float]], at: float) -> tuple[float, float]:
        """By a line through the logarithms, each weighed by its volts: the same noise is less of a larger reading."""
        weights = [v * v for _, v in high]
        total = sum(weights)
        mean_t = sum(w * t for w, (t, _) in zip(weights, high, strict=True)) / total
        mean_l = sum(w * math.log(v) for w, (_, v) in zip(weights, high, strict=True)) / total
        square = sum(w * (t - mean_t) ** 2 for w, (t, _) in zip(weights, high, strict=True))
        slope = sum(w * (t - mean_t) * (math.log(v) - mean_l) for w, (t, v) in zip(weights, high, strict=True)) / square
        self.pace, self.pace_error = max(-slope, 0.0), 1 / math.sqrt(square)
        value = math.exp(mean_l - self.pace * (at - mean_t))
        return value, math.sqrt(1 + value * value * (1 / total + (at - mean_t) ** 2 / square))

    def add(self, seconds: float, volts: float) -> None:
        """Another reading."""
        self.times.append(seconds)
        self.volts.append(volts)
