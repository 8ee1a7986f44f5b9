"""What a linear network does in a time: e^(A·h) for a time and its halves, exact for fast and slow together.

Each is kept as e^(A·h) − 1, which keeps the digits of what hardly moves; a double time follows from a single one:
E(2h) = 2E + E·E.
"""

import itertools
import math
from collections.abc import Sequence
from functools import cache, lru_cache
from operator import mul

import numpy as np
from numpy.typing import NDArray

Row = list[float]
Matrix = list[Row]
Array = NDArray[np.float64]
SMALL = 1 / 256  # norm of A·h at which the series begins: its sixth term is then 1e-15 of the first, and heat is told to 1e-5
TERMS = 5
REMEMBERED = 500  # propagators, of some 50 kB each


def dot(row: Sequence[float], z: Sequence[float]) -> float:
    """The value of a linear form."""
    value: float = sum(map(mul, row, z))
    return value


def halvings(a: Array, seconds: float, least: int) -> int:
    """How often a time is halved until the series holds, at least so often."""
    norm = float(np.abs(a).sum(axis=1).max(initial=0.0)) * seconds
    return max(least, math.ceil(math.log2(norm / SMALL)) if norm > SMALL else 0)


def propagator(a: Array, seconds: float, halved: int) -> tuple[Array, ...]:
    """e^(A·h) − 1 for h = seconds / 2^k: the first is of the whole time, the last of the finest.

    Those of late are remembered, for most of a set stays as it is while a part is measured.
    """
    return _remembered(a.tobytes(), len(a), seconds, halved)


@lru_cache(maxsize=REMEMBERED)
def _remembered(a: bytes, width: int, seconds: float, halved: int) -> tuple[Array, ...]:
    step = np.frombuffer(a).reshape(width, width) * (seconds / 2**halved)
    power = e = step
    for k in range(2, TERMS + 1):
        power = power @ step / k
        e = e + power
    levels = [e]
    for _ in range(halved):
        e = 2 * e + e @ e
        levels.append(e)
    return tuple(reversed(levels))


@cache
def weights(doubled: int) -> Array:
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
    return np.array(rows[0])
