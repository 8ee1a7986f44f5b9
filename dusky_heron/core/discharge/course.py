"""The whole of a fall as one exponential: what its next reading should be, how sure that is, and what absorption may add to it."""

import math

MOST_POINTS = 24  # readings kept for the fit: its own error is then a twentieth of that of one reading
BRANCHES_S = (1.0, 3.0, 10.0, 30.0, 100.0, 300.0, 1000.0)  # s: any one of them may hold all that creeps back
SECOND_ORDER = 1.25  # what a share of 15 % makes of the answer to the first order in it: (1 + 0.15)² rounded down, of the rest
SURE = 4.0  # standard deviations by which the readings so far have to speak against a branch
STEPS, HALVINGS = 2, 6  # of Gauss and Newton a reading, from where the last one ended
APART = 0.02  # of each other: nearer, and the answer of a branch is a difference of equals
LEAST_RATE, MOST_EXPONENT = 1e-12, 700.0
SINGULAR, NOTHING = 1e-12, 1e-18  # of a determinant, and of what a branch would show: rounding, and no more


class Course:
    """Readings as they come, in order of time; `foretell` tells of the next one before it is added."""

    def __init__(self, least_v: float, creeps_v: float) -> None:
        self.least_v = least_v
        self.creeps_v = creeps_v
        self.points: list[tuple[float, float]] = []
        self.begins = self.amplitude = self.rate = 0.0
        self.every = self.wait = 1

    def add(self, seconds: float, volts: float) -> None:
        """Another reading; every second one kept is dropped when they become many."""
        if not self.points:
            self.begins, self.amplitude = seconds, volts
        self.wait -= 1
        if self.wait:
            return
        self.points.append((seconds - self.begins, volts))
        if len(self.points) > MOST_POINTS:
            self.points, self.every = self.points[::2], 2 * self.every
        self.wait = self.every
        if len(self.points) >= 2:
            self._fit()

    def foretell(self, seconds: float) -> tuple[float, float] | None:
        """Volts at a time, and their spread with a reading's own in standard deviations of one; None with one reading."""
        if len(self.points) < 2:
            return None
        at = seconds - self.begins
        return self.amplitude * self._left(at), math.sqrt(1 + sum(w * w for w in self._weights(at)))

    def absorbed(self, seconds: float, noise_v: float) -> float:
        """The most by which absorption may lift the reading at a time over what those before it foretell, volts.

        Any one branch may hold all that creeps back, as far as the readings before do not speak against so much of it.

        :source: a branch of share s and τₖ beside C and R, to the first order in s:
            h′ = −h/τ + s·V/(τ − τₖ) × (e^(−t/τ) − e^(−t/τₖ)), h(0) = 0, less what the fit makes of it
        """
        at, tau = seconds - self.begins, 1 / self.rate
        weights, plane = self._weights(at), self._plane()
        off = [v - self.amplitude * x for x, (_, v) in zip(plane.e, self.points, strict=True)]
        most = 0.0
        for branch in BRANCHES_S:
            lifts = [_lift(t, tau, branch) for t, _ in self.points]
            beyond = _lift(at, tau, branch) - _product(weights, lifts)
            own = plane.leaves(lifts)
            size = _product(own, own)
            seen = max(_product(own, off) / size, 0.0) + SURE * noise_v / math.sqrt(size) if size > NOTHING else math.inf
            most = max(most, beyond * min(self.creeps_v, seen))
        return SECOND_ORDER * most

    def _left(self, at: float) -> float:
        return math.exp(-min(self.rate * at, MOST_EXPONENT))

    def _plane(self) -> "_Plane":
        e = [self._left(t) for t, _ in self.points]
        return _Plane(e, [-t * x for x, (t, _) in zip(e, self.points, strict=True)])

    def _weights(self, at: float) -> list[float]:
        """What each reading kept counts for in what is foretold: j (JᵀJ)⁻¹ Jᵀ."""
        plane, there = self._plane(), self._left(at)
        by_e, by_d = plane.solve(there, -at * there)
        return [by_e * x + by_d * y for x, y in zip(plane.e, plane.d, strict=True)]

    def _fit(self) -> None:
        """Least squares by Gauss and Newton from where the last fit ended; a step that makes it worse is halved."""
        if self.rate <= 0:
            (_, first), (later, second) = self.points[0], self.points[-1]
            self.rate = max(math.log(max(first, self.least_v) / max(second, self.least_v)) / later, LEAST_RATE)
        worst = self._squares(self.amplitude, self.rate)
        for _ in range(STEPS):
            plane, share = self._plane(), 1.0
            off = [v - self.amplitude * x for x, (_, v) in zip(plane.e, self.points, strict=True)]
            more, by_rate = plane.solve(_product(plane.e, off), _product(plane.d, off))
            faster = by_rate / self.amplitude if self.amplitude else 0.0
            for _ in range(HALVINGS):
                tried = self.amplitude + share * more, max(self.rate + share * faster, LEAST_RATE)
                squares = self._squares(*tried)
                if squares <= worst:
                    worst, (self.amplitude, self.rate) = squares, tried
                    break
                share /= 2

    def _squares(self, amplitude: float, rate: float) -> float:
        return sum((v - amplitude * math.exp(-min(rate * t, MOST_EXPONENT))) ** 2 for t, v in self.points)


class _Plane:
    """What the readings of an exponential of 1 V change by with its amplitude, e, and with its rate, d."""

    def __init__(self, e: list[float], d: list[float]) -> None:
        self.e, self.d = e, d
        self.ee, self.ed, self.dd = _product(e, e), _product(e, d), _product(d, d)

    def solve(self, by_e: float, by_d: float) -> tuple[float, float]:
        """(JᵀJ)⁻¹ of two sums; where the readings do not tell a rate, of the amplitude alone."""
        determinant = self.ee * self.dd - self.ed * self.ed
        if determinant <= SINGULAR * self.ee * self.dd:
            return by_e / self.ee, 0.0
        return (self.dd * by_e - self.ed * by_d) / determinant, (self.ee * by_d - self.ed * by_e) / determinant

    def leaves(self, lifts: list[float]) -> list[float]:
        """What no other amplitude and no other rate would make of them."""
        by_e, by_d = self.solve(_product(self.e, lifts), _product(self.d, lifts))
        return [x - by_e * y - by_d * z for x, y, z in zip(lifts, self.e, self.d, strict=True)]


def _product(one: list[float], other: list[float]) -> float:
    return sum(x * y for x, y in zip(one, other, strict=True))


def _lift(t: float, tau: float, branch: float) -> float:
    """What a branch that was charged through holds a fall from 1 V up by, for a share of 1; see `Course.absorbed`."""
    if abs(tau - branch) < APART * branch:
        branch *= 1 + 2 * APART
    slow, fast = math.exp(-min(t / branch, MOST_EXPONENT)), math.exp(-min(t / tau, MOST_EXPONENT))
    return (t * fast - (slow - fast) * tau * branch / (branch - tau)) / (tau - branch)
