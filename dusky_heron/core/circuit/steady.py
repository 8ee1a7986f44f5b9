"""The periodic state of a circuit, and means over it."""

from collections.abc import Callable, Sequence
from typing import NamedTuple, TypeVar

from dusky_heron.core.circuit.engine import Circuit, Segment, Source, Vector
from dusky_heron.core.circuit.load import Load
from dusky_heron.core.errors import InputError

Settled = TypeVar("Settled")
AROUND = 60
SLICES = 160  # of a transient with constant power
POLISHES, FAR, NEAR_KNEE = 3, 0.1, 2.0  # rounds; share of the rail it may move; knees a rail must be above
Matrix = tuple[Vector, ...]
Form = tuple[Vector, float, float]  # a·x + b·v + c
Instant = Callable[[Segment, Vector, float], Vector]
ROUNDS = 60
CLOSE, STILL, ROUGH = 1e-11, 1e-8, 1e-7  # of the highest voltage there can be: where it has settled, and what is still taken
TRUSTED = 0.3  # of the charge the rail gained may have come from the other capacitor


class Course(NamedTuple):
    """A course to be drawn: seconds from its beginning, and the value at each."""

    seconds: tuple[float, ...]
    values: tuple[float, ...]


def settle(
    circuit: Circuit, guess: Vector, highest: float, back: Matrix, *, halves: bool, lowest: float = 0.0
) -> tuple[Vector, list[Segment]]:
    """The state that comes back after a cycle, and the segments of it.

    Newton on the map of one cycle, or with `halves` of half a cycle, after which the state comes back through `back`. The last
    voltage is the rail, the slow one: a cycle that raises it tells that it settles higher, one that lowers it that it settles
    lower, and a step beyond what is known so is cut to the middle.
    """
    n, farads = len(guess), circuit.farads
    seconds = circuit.source.period / (2 if halves else 1)
    close = CLOSE * highest
    low, high, x = lowest, highest, guess
    best: tuple[float, Vector, list[Segment]] | None = None
    for _ in range(ROUNDS):
        segments = circuit.run(x, 0.0, seconds)
        end = circuit.end(segments)
        end = tuple(sum(row[k] * end[k] for k in range(n)) for row in back)
        miss = [end[i] - x[i] for i in range(n)]
        size = max(abs(m) for m in miss)
        if best is None or size < best[0]:
            best = (size, x, segments)
        if size <= close:
            return x, segments
        if n == 1 or farads[0] * abs(miss[0]) < TRUSTED * farads[-1] * abs(miss[-1]):  # its gain is not the other's loss
            low, high = (max(low, x[-1]), high) if miss[-1] > 0 else (low, min(high, x[-1]))
        carried = circuit.slope(segments)
        slope = [[sum(row[k] * carried[k][j] for k in range(n)) for j in range(n)] for row in back]
        step = _solve([[slope[i][j] - float(i == j) for j in range(n)] for i in range(n)], [-m for m in miss])
        wanted = tuple(x[i] + step[i] for i in range(n)) if step else end
        if step and max(map(abs, step)) <= STILL * highest:
            return wanted, circuit.run(wanted, 0.0, seconds)  # what is left after a step so small is its square
        if not low <= wanted[-1] <= high:
            wanted = (*end[:-1], (low + high) / 2)
        x = wanted
    size, x, segments = best if best else (0.0, guess, [])
    if size > ROUGH * highest:
        raise InputError("circuit", "It settles nowhere: check its values.")
    return x, segments


def _solve(a: list[list[float]], b: list[float]) -> Vector | None:
    """The answer of one or two linear equations; None where there is none."""
    if len(b) == 1:
        return (b[0] / a[0][0],) if abs(a[0][0]) > 1e-14 else None
    det = a[0][0] * a[1][1] - a[0][1] * a[1][0]
    if abs(det) < 1e-16:
        return None
    return ((b[0] * a[1][1] - b[1] * a[0][1]) / det, (a[0][0] * b[1] - a[1][0] * b[0]) / det)


def stepped(
    circuit: Callable[[float], Circuit], x: Vector, start: float, seconds: float, rail: Callable[[Vector], float], *, fixed: bool
) -> list[Segment]:
    """The segments of a transient, solved around the middle of the rail in every slice; in one when nothing depends on it."""
    if fixed:
        return circuit(rail(x)).run(x, start, seconds)
    found: list[Segment] = []
    reach = seconds / SLICES
    for k in range(SLICES):
        around_v = rail(x)
        for _ in range(2):
            run = circuit(around_v).run(x, start + k * reach, reach)
            end = run[-1].x(run[-1].tau)
            around_v = (rail(x) + rail(end)) / 2
        found += run
        x = end
    return found


def integrate(segments: Sequence[Segment], at: Instant, source: Source) -> tuple[Vector, float]:
    """Means over segments of what a function tells of an instant, and how long they last."""
    sums: list[float] = []
    for segment in segments:
        for tau, weight in segment.panels():
            told = at(segment, segment.x(tau), source.at(segment.start + tau))
            sums = sums or [0.0] * len(told)
            for k, value in enumerate(told):
                sums[k] += weight * value
    seconds = sum(segment.tau for segment in segments)
    return tuple(total / seconds for total in sums), seconds


def extremes(segments: Sequence[Segment], form: Callable[[Segment], Form]) -> tuple[float, float]:
    """The lowest and highest of a linear form of the voltages over segments."""
    found = [segment.extremes(*form(segment)) for segment in segments if segment.tau > 0]
    return min(low for low, _ in found), max(high for _, high in found)


def sampled(segments: Sequence[Segment], form: Callable[[Segment], Form], source: Source, shares: Sequence[float]) -> Course:
    """A linear form of the voltages over segments, to be drawn: at these rising shares of how long they last."""
    begin, end = segments[0].start, segments[-1].start + segments[-1].tau
    times = [begin + (end - begin) * share for share in shares]
    values, rest = [], list(segments)
    for t in times:
        while len(rest) > 1 and t > rest[0].start + rest[0].tau:
            rest.pop(0)
        (a, b, c), x = form(rest[0]), rest[0].x(t - rest[0].start)
        values.append(sum(weight * volts for weight, volts in zip(a, x, strict=True)) + b * source.at(t) + c)
    return Course(tuple(t - begin for t in times), tuple(values))


def around(solve: Callable[[float], tuple[Settled, float]], start_v: float, *, fixed: bool) -> Settled:
    """Solve a circuit around a voltage until that voltage is what comes out, to 1e-6; at once when nothing depends on it.

    Steps are plain, and by the secant once two have been taken, as long as that stays within a factor of two.
    """
    before: tuple[float, float] | None = None
    volts = start_v
    for _ in range(AROUND):
        found, came_out = solve(volts)
        off = came_out - volts
        if fixed or abs(off) <= 1e-6 * max(abs(volts), 1e-6):
            break
        wanted = came_out
        if before and before[1] != off:
            secant = volts - off * (volts - before[0]) / (off - before[1])
            wanted = secant if volts / 2 < secant < volts * 2 else came_out
        before, volts = (volts, off), max(wanted, 1e-9)
    return found


def polished(load: Load, found: Settled, solve: Callable[[Load, Settled], tuple[Settled, float]], rail_v: float) -> Settled:
    """What was found with constant power as a resistor, again with its tangent there; as it was where that leads elsewhere."""
    if not load.power_w or rail_v < NEAR_KNEE * load.knee_v:
        return found
    for _ in range(POLISHES):
        try:
            better, volts = solve(load.tangent(rail_v), found)
        except InputError:
            return found
        if abs(volts - rail_v) > FAR * rail_v:
            return found
        found, rail_v = better, volts
    return found
