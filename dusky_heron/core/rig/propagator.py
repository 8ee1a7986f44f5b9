"""What a linear network does in a time: e^(A·h) for a time and its halves, exact for fast and slow together.

Each is kept as e^(A·h) − 1, which keeps the digits of what hardly moves; a double time follows from a single one:
E(2h) = 2E + E·E.
"""

import itertools
import math
from collections.abc import Sequence
from functools import cache, lru_cache
from operator import mul

Row = list[float]
Matrix = list[Row]
SMALL = 1 / 32  # norm of A·h at which the series begins: its sixth term is then 4e-11 of the first
TERMS = 5
REMEMBERED = 2000  # propagators, of some 20 kB each


def product(a: Matrix, b: Matrix) -> Matrix:
    """The product of two matrices."""
    columns = list(zip(*b, strict=True))
    return [[sum(map(mul, row, column)) for column in columns] for row in a]


def dot(row: Sequence[float], z: Sequence[float]) -> float:
    """The value of a linear form."""
    value: float = sum(map(mul, row, z))
    return value


def halvings(a: Matrix, seconds: float, least: int) -> int:
    """How often a time is halved until the series holds, at least so often."""
    norm = max((sum(map(abs, row)) for row in a), default=0.0) * seconds
    return max(least, math.ceil(math.log2(norm / SMALL)) if norm > SMALL else 0)


class Propagator:
    """e^(A·h) − 1 for h = seconds / 2^k; level 0 is the whole time, the last the finest."""

    __slots__ = ("levels",)

    def __init__(self, a: Matrix, seconds: float, halved: int) -> None:
        h = seconds / 2**halved
        step = [[value * h for value in row] for row in a]
        power, e = step, [row[:] for row in step]
        for k in range(2, TERMS + 1):
            power = [[value / k for value in row] for row in product(power, step)]
            e = [list(map(sum, zip(*rows, strict=True))) for rows in zip(e, power, strict=True)]
        self.levels = [e]
        for _ in range(halved):
            doubled = product(e, e)
            e = [[2 * x + y for x, y in zip(*rows, strict=True)] for rows in zip(e, doubled, strict=True)]
            self.levels.append(e)
        self.levels.reverse()


def propagator(a: Matrix, seconds: float, halved: int) -> Propagator:
    """The propagator of A; those of late are remembered, for most of a set stays as it is while a part is measured."""
    return _remembered(tuple(map(tuple, a)), seconds, halved)


@lru_cache(maxsize=REMEMBERED)
def _remembered(a: tuple[tuple[float, ...], ...], seconds: float, halved: int) -> Propagator:
    return Propagator([list(row) for row in a], seconds, halved)


@cache
def weights(doubled: int) -> tuple[float, ...]:
    """Weights of Romberg's rule over 2^doubled equal parts of a unit: 1 gives Simpson's."""
    rows = []
    for k in range(doubled + 1):
        apart, count = 2 ** (doubled - k), 2**k
        row = [0.0] * (2**doubled + 1)
        for j in range(count + 1):
            row[j * apart] = (0.5 if j in (0, count) else 1.0) / count
        rows.append(row)
    for order in range(1, doubled + 1):
        factor = 4**order
        rows = [[(factor * y - x) / (factor - 1) for x, y in zip(*pair, strict=True)] for pair in itertools.pairwise(rows)]
    return tuple(rows[0])
