"""One small engine for piecewise-linear circuits of one or two capacitors on a sinusoidal source.

Between two switchings a circuit is linear, C·dx/dt = −G·x + g·v(t) + c, with G symmetric: its answer is a sum of exponentials
and of the source's sine, in closed form. A switching is where a guard of the mode crosses zero, located to 1e-9 of a cycle.
"""

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import NamedTuple

from dusky_heron.core.errors import InputError

Vector = tuple[float, ...]
Part = tuple[float, float, float, float, float]  # of two exponentials, sine, cosine and a constant
LEAK = 1e-7  # share of a charge that leaks in a cycle: small beside any figure asked for, and no mode is without decay
GRID = 16  # looks a cycle; a guard that rises and falls between two is found by its peak
MOST_EVENTS = 400  # switchings a cycle
CLOSE = 1e-9  # of a cycle
PANEL = 4.0  # growth of the panels by which an integral follows a fast beginning
NODES = (-0.7745966692414834, 0.0, 0.7745966692414834)
WEIGHTS = (5 / 9, 8 / 9, 5 / 9)


class Guard(NamedTuple):
    """A linear form a·x + b·v + c; while it is not above zero the mode holds, then `then` follows."""

    a: Vector
    b: float
    c: float
    then: str


class Mode(NamedTuple):
    """One linear circuit: conductances between the capacitors, from the source, currents into them, and its guards."""

    g: tuple[Vector, ...]
    source: Vector
    current: Vector
    guards: tuple[Guard, ...]


@dataclass(frozen=True, slots=True)
class Source:
    """A sinusoidal source, its voltage zero and rising at time zero."""

    peak_v: float
    hertz: float

    @property
    def omega(self) -> float:
        """Angular frequency."""
        return 2 * math.pi * self.hertz

    @property
    def period(self) -> float:
        """One cycle, seconds."""
        return 1 / self.hertz

    def at(self, t: float) -> float:
        """Its voltage at a time."""
        return self.peak_v * math.sin(self.omega * t)


class Segment:
    """The answer of one mode from a state at a time, until it switches.

    Each voltage is a·(e^(−rτ) − 1) + b·(e^(−qτ) − 1) + constant + sine + cosine, which keeps its digits where a mode hardly
    decays; a circuit of one capacitor leaves b at zero.
    """

    __slots__ = ("_parts", "_rates", "key", "mode", "omega", "peak", "start", "tau")

    def __init__(self, key: str, mode: Mode, decays: "Decays", source: Source, start: float, x: Vector) -> None:
        self.key, self.mode, self.start, self.tau = key, mode, start, 0.0
        self.omega, self.peak = source.omega, source.peak_v
        angle = self.omega * start
        sin, cos = math.sin(angle), math.cos(angle)
        answers = []
        for k, rate in enumerate(decays.rates):
            drive = decays.source[k] * self.peak / (rate * rate + self.omega * self.omega)
            along, across = drive * rate, -drive * self.omega
            rest = decays.current[k] / rate
            to = decays.to[k]
            y = to[0] * x[0] + to[1] * x[1] if len(x) == 2 else to[0] * x[0]
            here = y - along * sin - across * cos
            answers.append((here - rest, here, along, across))
        if len(x) == 1:
            (lead, here, along, across), share = answers[0], decays.back[0][0]
            self._rates = (decays.rates[0], 0.0)
            self._parts: tuple[Part, ...] = ((share * lead, 0.0, share * along, share * across, share * here),)
            return
        (l0, k0, s0, c0), (l1, k1, s1, c1) = answers
        self._rates = (decays.rates[0], decays.rates[1])
        self._parts = tuple((p * l0, q * l1, p * s0 + q * s1, p * c0 + q * c1, p * k0 + q * k1) for p, q in decays.back)

    def x(self, tau: float) -> Vector:
        """The capacitor voltages a time after the beginning."""
        angle = self.omega * (self.start + tau)
        sin, cos = math.sin(angle), math.cos(angle)
        slow, fast = math.expm1(-self._rates[0] * tau), math.expm1(-self._rates[1] * tau)
        a, b, s, q, k = self._parts[0]
        first = a * slow + b * fast + s * sin + q * cos + k
        if len(self._parts) == 1:
            return (first,)
        a, b, s, q, k = self._parts[1]
        return first, a * slow + b * fast + s * sin + q * cos + k

    def form(self, a: Vector, b: float, c: float) -> Part:
        """A linear form over this segment: weights of the exponentials, of sine and cosine, and a constant."""
        if len(a) == 1:
            ((p, _, s, r, k),) = self._parts
            return a[0] * p, 0.0, b * self.peak + a[0] * s, a[0] * r, c + a[0] * k
        (p0, q0, s0, r0, k0), (p1, q1, s1, r1, k1) = self._parts
        u, w = a
        return u * p0 + w * p1, u * q0 + w * q1, b * self.peak + u * s0 + w * s1, u * r0 + w * r1, c + u * k0 + w * k1

    def until(self, longest: float, slack: float) -> Guard | None:
        """Find the first guard that rises above zero within a time; set how long the segment lasts."""
        forms = [self.form(guard.a, guard.b, guard.c) for guard in self.mode.guards]
        omega, rates, start = self.omega, self._rates, self.start

        def values(tau: float) -> list[float]:
            angle = omega * (start + tau)
            sin, cos = math.sin(angle), math.cos(angle)
            slow, fast = math.expm1(-rates[0] * tau), math.expm1(-rates[1] * tau)
            return [a * slow + b * fast + s * sin + q * cos + c for a, b, s, q, c in forms]

        first = values(0.0)
        for index, value in enumerate(first):
            if value > slack:
                self.tau = 0.0
                return self.mode.guards[index]
        period = 2 * math.pi / omega
        step = min(period / GRID, longest)
        fine = min(step, 0.5 / max(rates)) if max(rates) > 0 else step
        before, at, last, now = first, 0.0, first, 0.0
        reach = fine
        while now < longest:
            at, now = now, min(now + reach, longest)
            here = values(now)
            found = self._first(forms, before, last, here, at, now, reach, values)
            if found is not None:
                index, self.tau = found
                return self.mode.guards[index]
            before, last = last, here
            reach = min(reach * PANEL, step)
        self.tau = longest
        return None

    def _first(
        self,
        forms: Sequence[Part],
        before: list[float],
        last: list[float],
        here: list[float],
        at: float,
        now: float,
        reach: float,
        values: Callable[[float], list[float]],
    ) -> tuple[int, float] | None:
        """The earliest rise of a guard above zero between two looks, or a peak above zero around the earlier of them."""
        best: tuple[int, float] | None = None
        for index, value in enumerate(here):
            high = now
            if value <= 0:
                if not (last[index] > before[index] and last[index] > value):
                    continue
                back = max(at - reach, 0.0)
                if last[index] + self._rise(forms[index], at, back, now) <= 0:
                    continue
                high = self._peak(forms[index], back, now)
                if values(high)[index] <= 0:
                    continue
            tau = self._root(forms[index], at if high > at and last[index] <= 0 else max(at - reach, 0.0), high)
            if best is None or tau < best[1]:
                best = (index, tau)
        return best

    def _value(self, form: Part, tau: float) -> tuple[float, float]:
        """A form and its slope at a time."""
        a, b, s, q, c = form
        angle = self.omega * (self.start + tau)
        sin, cos = math.sin(angle), math.cos(angle)
        first, second = a * math.expm1(-self._rates[0] * tau), b * math.expm1(-self._rates[1] * tau)
        value = first + second + s * sin + q * cos + c
        slope = self.omega * (s * cos - q * sin) - self._rates[0] * (first + a) - self._rates[1] * (second + b)
        return value, slope

    def _rise(self, form: Part, at: float, low: float, high: float) -> float:
        """The most a form can stand above its value at a time anywhere between two others: its slope and bounds of its bend."""
        a, b, s, q, _ = form
        slow, fast = self._rates
        bend = self.omega**2 * math.hypot(s, q)
        bend += abs(a) * slow * slow * math.exp(-slow * low) + abs(b) * fast * fast * math.exp(-fast * low)
        far = max(at - low, high - at)
        return abs(self._value(form, at)[1]) * far + bend * far * far / 2

    def _peak(self, form: Part, low: float, high: float) -> float:
        """Where the slope of a form falls through zero, held between its ends: false position, halved where it stays."""
        first, last = self._value(form, low)[1], self._value(form, high)[1]
        close = CLOSE / self.omega
        for _ in range(60):
            if high - low < close or not first > 0 > last:
                break
            middle = (low * last - high * first) / (last - first)
            slope = self._value(form, middle)[1]
            if slope > 0:
                low, first, last = middle, slope, last / 2
            else:
                high, last, first = middle, slope, first / 2
            if abs(slope) < CLOSE * self.omega * self.peak:
                return middle
        return (low + high) / 2

    def _root(self, form: Part, low: float, high: float) -> float:
        """Where a form crosses zero upwards: Newton, held between its ends."""
        close = CLOSE * math.pi / self.omega
        least, most = self._value(form, low)[0], self._value(form, high)[0]
        tau = low + (high - low) * least / (least - most) if least < 0 < most else high
        for _ in range(80):
            value, slope = self._value(form, tau)
            if value > 0:
                high = tau
            else:
                low = tau
            if high - low < close:
                break
            step = tau - value / slope if slope else low
            if not low < step < high:
                step = (low + high) / 2
            if abs(step - tau) < close * 0.01:
                tau = step
                break
            tau = step
        return tau

    def extremes(self, a: Vector, b: float, c: float) -> tuple[float, float]:
        """The lowest and highest of a linear form over the segment: at its ends, and where its slope changes sign."""
        form = self.form(a, b, c)
        times = [0.0, *(tau for index, (tau, _) in enumerate(self.panels()) if index % len(NODES) == 1), self.tau]
        told = [self._value(form, tau) for tau in times]
        low, high = min(value for value, _ in told), max(value for value, _ in told)
        for k in range(len(times) - 1):
            before, after = told[k][1], told[k + 1][1]
            if before > 0 > after:
                high = max(high, self._value(form, self._peak(form, times[k], times[k + 1]))[0])
            elif before < 0 < after:
                a0, b0, s0, q0, c0 = form
                turned = (-a0, -b0, -s0, -q0, -c0)
                low = min(low, self._value(form, self._peak(turned, times[k], times[k + 1]))[0])
        return low, high

    def carry(self, decays: "Decays") -> tuple[Vector, ...]:
        """How a small change of the state at its beginning stands at its end."""
        slow = math.exp(-decays.rates[0] * self.tau)
        if len(decays.rates) == 1:
            return ((decays.back[0][0] * slow * decays.to[0][0],),)
        fast = math.exp(-decays.rates[1] * self.tau)
        to0, to1 = decays.to
        return tuple((p * slow * to0[0] + q * fast * to1[0], p * slow * to0[1] + q * fast * to1[1]) for p, q in decays.back)

    def panels(self) -> Iterator[tuple[float, float]]:
        """Times and weights by which an integral over the segment is summed, dense where it begins fast."""
        if self.tau <= 0:
            return
        widest = 2 * math.pi / self.omega / 8
        reach, at = min(widest, 1 / max(*self._rates, 1 / self.tau)), 0.0
        while at < self.tau:
            end = min(at + reach, self.tau)
            if self.tau - end < reach * 0.1:
                end = self.tau
            half, middle = (end - at) / 2, (end + at) / 2
            for node, weight in zip(NODES, WEIGHTS, strict=True):
                yield middle + half * node, weight * half
            at, reach = end, min(reach * PANEL, widest)


class Decays:
    """The modes of decay of a linear circuit, and how states are written in them."""

    __slots__ = ("back", "current", "rates", "source", "to")

    def __init__(self, mode: Mode, farads: Vector, period: float) -> None:
        root = [math.sqrt(c) for c in farads]
        n = len(farads)
        leak = LEAK / period
        s = [[mode.g[i][j] / (root[i] * root[j]) + (leak if i == j else 0.0) for j in range(n)] for i in range(n)]
        if n == 1:
            rates, q = [s[0][0]], [[1.0]]
        else:
            rates, q = _symmetric(s[0][0], s[0][1], s[1][1])
        self.rates = tuple(rate if abs(rate) > leak / 10 else leak for rate in rates)
        self.to = tuple(tuple(q[i][k] * root[i] for i in range(n)) for k in range(n))
        self.back = tuple(tuple(q[i][k] / root[i] for k in range(n)) for i in range(n))
        self.source = tuple(sum(q[i][k] / root[i] * mode.source[i] for i in range(n)) for k in range(n))
        self.current = tuple(sum(q[i][k] / root[i] * mode.current[i] for i in range(n)) for k in range(n))


def _symmetric(a: float, b: float, d: float) -> tuple[list[float], list[list[float]]]:
    """Eigenvalues and orthonormal eigenvectors (columns) of [[a, b], [b, d]], the small one without cancellation."""
    if b == 0:
        return [a, d], [[1.0, 0.0], [0.0, 1.0]]
    angle = 0.5 * math.atan2(2 * b, a - d)
    cos, sin = math.cos(angle), math.sin(angle)
    large = (a + d) / 2 + math.hypot((a - d) / 2, b)
    return [large, (a * d - b * b) / large if large else 0.0], [[cos, -sin], [sin, cos]]


class Circuit:
    """Modes by name over capacitors and a source; `start` names the mode that holds at a state."""

    def __init__(
        self, modes: dict[str, Mode], farads: Vector, source: Source, start: Callable[[Vector, float], str], scale_v: float
    ) -> None:
        self.modes, self.farads, self.source, self.start = modes, farads, source, start
        self.slack = 1e-9 * max(scale_v, 1e-3)
        self.known: dict[str, Decays] = {}

    def decays(self, key: str) -> Decays:
        """The modes of decay of a mode, worked out once."""
        if key not in self.known:
            self.known[key] = Decays(self.modes[key], self.farads, self.source.period)
        return self.known[key]

    def run(self, x: Vector, start: float, seconds: float) -> list[Segment]:
        """The segments from a state at a time for so long; each holds its answer.

        Raises InputError when the circuit switches more often than any real one.
        """
        key, t, end = self.start(x, self.source.at(start)), start, start + seconds
        segments: list[Segment] = []
        most = MOST_EVENTS * max(1.0, seconds / self.source.period)
        short = CLOSE * self.source.period
        still = 0  # segments in a row shorter than a switching is located to
        while t < end:
            segment = Segment(key, self.modes[key], self.decays(key), self.source, t, x)
            try:
                guard = segment.until(end - t, self.slack)
            except OverflowError:  # of a constant power, which takes more the lower it pulls
                raise InputError("circuit", "It runs away: check its values.") from None
            segments.append(segment)
            if len(segments) > most:
                raise InputError("circuit", "It switches too often to be followed: check its values.")
            still = still + 1 if segment.tau < short else 0
            if still > len(self.modes):  # it trembles on the edge of two modes: either may hold as long as nobody can tell
                segment.tau = min(short, end - t)
            x, t = segment.x(segment.tau), t + segment.tau
            if guard is None:
                break
            key = guard.then if still < len(self.modes) else self.start(x, self.source.at(t))
            still %= len(self.modes) + 1
        return segments

    def end(self, segments: list[Segment]) -> Vector:
        """The state where segments end."""
        return segments[-1].x(segments[-1].tau)

    def slope(self, segments: list[Segment]) -> list[list[float]]:
        """How the state at the end follows the state at the beginning: the product over the segments."""
        n = len(self.farads)
        product = [[float(i == j) for j in range(n)] for i in range(n)]
        for segment in segments:
            carry = segment.carry(self.decays(segment.key))
            product = [[sum(carry[i][k] * product[k][j] for k in range(n)) for j in range(n)] for i in range(n)]
        return product
