"""Which fault explains what is measured: each is simulated at its best size, and the misfits are compared."""

import math
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Generic, TypeVar

from dusky_heron.core.errors import InputError

C = TypeVar("C")
Figures = Mapping[str, float]
UNSEEN = 1.0  # errors that two answers may differ by and look alike
EXPLAINS = 2.5  # root mean square of the errors up to which a fault explains what was read
FREE = 1.5  # what a fault of a free size is held back by, in squared errors: it fits more easily
COARSE, FINE = 5, 4  # looks at the size of a fault, and refinements


@dataclass(frozen=True, slots=True)
class Fault(Generic[C]):
    """A fault as a change of a circuit by a size between two ends (one size when they are equal).

    `change` gives None for a circuit that carries no current. `shows` says what its size means, of the circuit before and after.
    `load_only`: it goes with the load when that is unplugged.
    """

    id: str
    title: str
    change: Callable[[C, float], C | None]
    low: float = 1.0
    high: float = 1.0
    shows: Callable[[C, C], str] | None = None
    load_only: bool = False


@dataclass(frozen=True, slots=True)
class State(Generic[C]):
    """A circuit under one load, healthy, and what was read on it by the names of its figures."""

    circuit: C
    read: Figures
    unplugged: bool = False


@dataclass(frozen=True, slots=True)
class Suspect:
    """Faults that explain the readings equally well: their ids and titles, what size of each, and how well.

    `misfit` is the root mean square over the readings, in errors of a reading: near one or below it explains them. `least` names
    the reading it explains least, as (number of the state, figure, what it would be).
    """

    ids: tuple[str, ...]
    titles: tuple[str, ...]
    shows: tuple[str, ...]
    misfit: float
    least: tuple[int, str, float]

    @property
    def explains(self) -> bool:
        """Whether it explains what was measured."""
        return self.misfit < EXPLAINS


@dataclass(frozen=True, slots=True)
class Ranking:
    """Suspects, the one that explains best first, and faults that would leave no mark on what was measured."""

    suspects: tuple[Suspect, ...]
    unmarked: tuple[str, ...]


Told = tuple[float, ...]


@dataclass(frozen=True, slots=True)
class _Fit(Generic[C]):
    fault: Fault[C]
    size: float
    told: Told
    squared: float

    @property
    def score(self) -> float:
        return self.squared + (FREE if self.fault.low != self.fault.high else 0.0)


class _Readings(Generic[C]):
    """What was read, under which load, with its errors; and what a fault would have shown instead."""

    def __init__(self, states: Sequence[State[C]], simulate: Callable[[C], Figures], floor: Figures, error: float) -> None:
        self.states, self.simulate, self.nothing = states, simulate, dict.fromkeys(floor, 0.0)
        self.asked = [(k, name) for k, state in enumerate(states) for name in state.read]
        self.read = [states[k].read[name] for k, name in self.asked]
        self.errors = [max(error * abs(value), floor[name]) for value, (_, name) in zip(self.read, self.asked, strict=True)]
        self.known: dict[C, Figures] = {}

    def faulty(self, state: State[C], fault: Fault[C], size: float) -> C | None:
        return state.circuit if fault.load_only and state.unplugged else fault.change(state.circuit, size)

    def figures(self, circuit: C | None) -> Figures:
        """What a meter finds; worked out once, for several faults change a circuit alike."""
        if circuit is None:
            return self.nothing
        if circuit not in self.known:
            self.known[circuit] = self.simulate(circuit)
        return self.known[circuit]

    def off(self, a: Sequence[float], b: Sequence[float]) -> list[float]:
        """How far two answers lie apart, in errors."""
        return [abs(x - y) / e for x, y, e in zip(a, b, self.errors, strict=True)]

    def fit(self, fault: Fault[C], size: float) -> _Fit[C]:
        told = tuple(self.figures(self.faulty(self.states[k], fault, size))[name] for k, name in self.asked)
        return _Fit(fault, size, told, sum(off * off for off in self.off(told, self.read)))

    def tried(self, fault: Fault[C], size: float) -> _Fit[C]:
        """A fault at a size; one at which the circuit settles nowhere explains nothing."""
        try:
            return self.fit(fault, size)
        except InputError:
            return _Fit(fault, size, tuple(math.inf for _ in self.asked), math.inf)

    def best(self, fault: Fault[C]) -> tuple[_Fit[C], Told]:
        """A fault at the size that explains best, and what a middling size would show."""
        if fault.low == fault.high:
            only = self.tried(fault, fault.low)
            return only, only.told
        low, high = math.log(fault.low), math.log(fault.high)
        reach = (high - low) / (COARSE - 1)
        looks = [self.tried(fault, math.exp(low + reach * k)) for k in range(COARSE)]
        best = min(looks, key=lambda fit: fit.squared)
        for _ in range(FINE):
            reach /= 2
            around = [math.log(best.size) + way * reach for way in (-1, 1)]
            tried = [self.tried(fault, math.exp(at)) for at in around if low <= at <= high]
            best = min([best, *tried], key=lambda fit: fit.squared)
        return best, looks[COARSE // 2].told


def rank(
    states: Sequence[State[C]],
    faults: Iterable[Fault[C]],
    simulate: Callable[[C], Figures],
    floor: Figures,
    *,
    error: float,
) -> Ranking:
    """Rank faults by how well each, at its best size, explains all that was read.

    :param states: the circuit under each load, healthy, and what was read
    :param faults: what may be wrong
    :param simulate: the figures of a circuit, by name
    :param floor: for each figure, below what a reading tells nothing
    :param error: of each reading, as a share
    :returns: Ranking; faults whose answers differ by less than the errors are named together
    :raises InputError: what the simulation raises of the healthy circuit
    :source: least squares over the readings; a free size is held back as one more degree of freedom
    """
    readings = _Readings(states, simulate, floor, error)
    none: Fault[C] = Fault("none", "nothing: all as drawn", lambda circuit, _: circuit)
    healthy = readings.fit(none, 1.0)
    fits, unmarked = [healthy], []
    for fault in faults:
        best, middling = readings.best(fault)
        if math.isfinite(best.squared):
            fits.append(best)
        if max(readings.off(middling, healthy.told)) < UNSEEN:
            unmarked.append(fault.title)
    return Ranking(tuple(_suspects(readings, sorted(fits, key=lambda fit: fit.score))), tuple(unmarked))


def _suspects(readings: _Readings[C], fits: list[_Fit[C]]) -> Iterable[Suspect]:
    """Those that look alike taken together, in order."""
    while fits:
        first = fits[0]
        alike = [fit for fit in fits if max(readings.off(fit.told, first.told)) < UNSEEN / 2]
        fits = [fit for fit in fits if fit not in alike]
        worst = max(range(len(first.told)), key=readings.off(first.told, readings.read).__getitem__)
        state, name = readings.asked[worst]
        loaded = next((state for state in reversed(readings.states) if not state.unplugged), readings.states[-1])
        yield Suspect(
            ids=tuple(fit.fault.id for fit in alike),
            titles=tuple(fit.fault.title for fit in alike),
            shows=tuple(_shows(readings, loaded, fit) for fit in alike),
            misfit=math.sqrt(first.squared / len(first.told)),
            least=(state, name, first.told[worst]),
        )


def _shows(readings: _Readings[C], loaded: State[C], fit: _Fit[C]) -> str:
    """What the size of a fault means under a load."""
    drawn = readings.faulty(loaded, fit.fault, fit.size)
    return fit.fault.shows(loaded.circuit, drawn) if drawn and fit.fault.shows else ""
