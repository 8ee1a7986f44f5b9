"""The linear circuit a network is while certain of its diodes conduct.

Everything is a conductance, a current into it, or a store behind a resistance: every capacitor has its series resistance, every
source its own. So nodal equations always have one answer, and what the stores do next is z′ = A·z.
"""

import math
from collections.abc import Iterable, Mapping
from typing import NamedTuple, Protocol

import numpy as np

from dusky_heron.core.rig.elements import BOARD_OHM, Coil, Diode, Drive, Element, Resistor, Source, Store
from dusky_heron.core.rig.propagator import Array, Matrix, Row, halvings, propagator

BACKWARDS_A, ABOVE_V = 1e-8, 1e-6  # a diode changes beyond these, or one whose leakage balances would tremble for ever


Product = tuple[float, Row, Row]  # weight · (row₁·z)·(row₂·z)


class Places(Protocol):
    """Where each node, state and input stands: what a mode needs of a layout."""

    parts: Mapping[str, Element]
    absorbing: bool
    above_v: float
    nodes: dict[str, int]
    states: dict[str, int]
    waves: dict[float, int]
    count: int
    one: int
    width: int
    diodes: tuple[str, ...]

    def drives(self, part: Source) -> Iterable[tuple[int, float]]:
        """A source's volts as shares of the inputs."""


class Mode:
    """A network while certain diodes conduct: A, and any node, current or loss as a linear form of its vector."""

    def __init__(self, layout: Places, conducting: frozenset[str]) -> None:
        self.layout, self.conducting = layout, conducting
        self._chains: dict[tuple[float, int], Chains] = {}
        self._energies: tuple[Array, Array] | None = None
        self._rows: dict[Watched, Array] = {}
        self.zero: Row = [0.0] * layout.width
        self.volts = self._solve()
        self.a = np.array(self._motion())
        self.guards = self._stacked([self._guard(name) for name in layout.diodes])  # in the order of the layout's diodes

    def _conductance(self, name: str, part: Element) -> float:
        if isinstance(part, Resistor | Source):
            return 1 / part.ohm
        if isinstance(part, Store):
            return 1 / part.esr_ohm
        if isinstance(part, Coil):
            return 1 / part.core_ohm
        if isinstance(part, Diode):
            return 1 / (part.on_ohm if name in self.conducting else part.off_ohm)
        return 0.0

    def _pushed(self, name: str, part: Element) -> Iterable[tuple[int, float]]:
        """The current an element drives into its node a besides g·(v_b − v_a), as shares of the vector."""
        layout = self.layout
        if isinstance(part, Store):
            yield layout.states[name], 1 / part.esr_ohm
        elif isinstance(part, Coil):
            yield layout.states[name], -1.0
        elif isinstance(part, Source):
            yield from ((at, share / part.ohm) for at, share in layout.drives(part))
        elif isinstance(part, Drive):
            yield layout.one, part.ampere
        elif isinstance(part, Diode) and name in self.conducting:
            yield layout.one, part.drop_v / part.on_ohm

    def _joined_nodes(self) -> tuple[Matrix, Row, Matrix]:
        """Conductances between nodes, to earth, and the currents driven into each, as shares of the vector."""
        layout = self.layout
        n = len(layout.nodes)
        joined = [[0.0] * n for _ in range(n)]
        leak = [1 / BOARD_OHM] * n
        pushed = [[0.0] * layout.width for _ in range(n)]
        for name, part in layout.parts.items():
            g = self._conductance(name, part)
            ends = [(layout.nodes[node], sign) for node, sign in ((part.a, 1.0), (part.b, -1.0)) if node in layout.nodes]
            if len(ends) == 2:
                (a, _), (b, _) = ends
                joined[a][b] += g
                joined[b][a] += g
            elif ends:
                leak[ends[0][0]] += g
            for at, share in self._pushed(name, part):
                for node, sign in ends:
                    pushed[node][at] += sign * share
        return joined, leak, pushed

    def _solve(self) -> list[Row]:
        """Every node's volts as a linear form: elimination that adds conductances only, so that nothing cancels."""
        joined, leak, pushed = self._joined_nodes()
        n = len(joined)
        sums = [0.0] * n
        for p in range(n):
            row, source = joined[p], pushed[p]
            near = [j for j in range(p + 1, n) if row[j]]
            sums[p] = leak[p] + sum(row[j] for j in near)
            for j in near:
                share = row[j] / sums[p]
                leak[j] += share * leak[p]
                for k in near:
                    if k != j:
                        joined[j][k] += share * row[k]
                pushed[j] = [x + share * y for x, y in zip(pushed[j], source, strict=True)]
        found: list[Row] = [self.zero] * n
        for p in reversed(range(n)):
            total = pushed[p]
            for j in range(p + 1, n):
                if joined[p][j]:
                    g = joined[p][j]
                    total = [x + g * y for x, y in zip(total, found[j], strict=True)]
            found[p] = [x / sums[p] for x in total]
        return found

    def node(self, name: str) -> Row:
        """A node's volts above earth; a node nothing is joined to stands at earth."""
        at = self.layout.nodes.get(name)
        return self.zero if at is None else self.volts[at]

    def across(self, a: str, b: str) -> Row:
        """Volts of a above b."""
        return [x - y for x, y in zip(self.node(a), self.node(b), strict=True)]

    def current(self, name: str) -> Row:
        """Amperes through an element from a to b."""
        part = self.layout.parts[name]
        g = self._conductance(name, part)
        row = [g * x for x in self.across(part.a, part.b)]
        for at, share in self._pushed(name, part):
            row[at] -= share
        return row

    def _motion(self) -> Matrix:
        """A of z′ = A·z."""
        layout = self.layout
        a = [[0.0] * layout.width for _ in range(layout.width)]
        for name, at in layout.states.items():
            part = layout.parts[name]
            if isinstance(part, Coil):
                row = [x / part.henry for x in self.across(part.a, part.b)]
                row[at] -= part.ohm / part.henry
                a[at] = row
            if not isinstance(part, Store):
                continue
            row = self.current(name)
            row[at] -= 1 / part.leak_ohm
            for k, (farad, tau) in enumerate(part.branches if layout.absorbing else (), 1):
                g = farad / tau
                row[at] -= g
                row[at + k] += g
                a[at + k][at], a[at + k][at + k] = 1 / tau, -1 / tau
            a[at] = [x / part.farad for x in row]
        for hertz, at in layout.waves.items():
            omega = 2 * math.pi * hertz
            a[at][at + 1], a[at + 1][at] = omega, -omega
        return a

    def _stacked(self, rows: list[Row]) -> Array:
        return np.array(rows).reshape(len(rows), self.layout.width)

    def rows(self, watched: "Watched") -> Array:
        """The linear forms of what is watched, worked out once."""
        if watched not in self._rows:
            through = [self.current(name) for name in watched.through]
            self._rows[watched] = self._stacked(through + [self.across(a, b) for a, b in watched.between])
        return self._rows[watched]

    def _guard(self, name: str) -> Row:
        """Above one where a diode would leave the state it is in: by its current backwards, or its volts above its drop."""
        if name in self.conducting:
            return [-x / BACKWARDS_A for x in self.current(name)]
        part = self.layout.parts[name]
        row = self.across(part.a, part.b)
        row[self.layout.one] -= part.drop_v if isinstance(part, Diode) else 0.0
        return [x / self.layout.above_v for x in row]

    def energies(self) -> tuple[Array, Array]:
        """Watts turned into heat, and out of sources, as zᵀ·Q·z; worked out once."""
        if self._energies is None:
            self._energies = self._summed(self._losses()), self._summed(self._deliveries())
        return self._energies

    def _summed(self, products: Iterable[Product]) -> Array:
        total = np.zeros((self.layout.width, self.layout.width))
        for weight, left, right in products:
            total += weight * np.outer(left, right)
        return total

    def _losses(self) -> Iterable[Product]:
        """Resistances, leakage, branches, drops of diodes, the board."""
        layout = self.layout
        for name, part in layout.parts.items():
            through, across = self.current(name), self.across(part.a, part.b)
            if isinstance(part, Diode):
                yield 1.0, through, across
            elif isinstance(part, Coil):
                held = self.unit(layout.states[name])
                yield part.ohm, held, held
                yield 1 / part.core_ohm, across, across
            elif isinstance(part, Store):
                yield part.esr_ohm, through, through
                yield from self._inside(layout.states[name], part)
            elif not isinstance(part, Drive):
                yield part.ohm, through, through
        yield from ((1 / BOARD_OHM, row, row) for row in self.volts)

    def _inside(self, at: int, part: Store) -> Iterable[Product]:
        """Leakage of a capacitor and its branches."""
        held = self.unit(at)
        yield 1 / part.leak_ohm, held, held
        for k, (farad, tau) in enumerate(part.branches if self.layout.absorbing else (), 1):
            apart = self.unit(at)
            apart[at + k] = -1.0
            yield farad / tau, apart, apart

    def _deliveries(self) -> Iterable[Product]:
        """Sources and meters' drives."""
        for name, part in self.layout.parts.items():
            if isinstance(part, Source):
                emf = self.zero[:]
                for at, share in self.layout.drives(part):
                    emf[at] += share
                yield -1.0, emf, self.current(name)
            elif isinstance(part, Drive):
                yield part.ampere, self.unit(self.layout.one), self.across(part.a, part.b)

    def unit(self, at: int) -> Row:
        """The form that is one state."""
        row = self.zero[:]
        row[at] = 1.0
        return row

    def chains(self, seconds: float, least: int) -> "Chains":
        """Propagators over a time and its halves."""
        if (seconds, least) not in self._chains:
            halved = halvings(self.a, seconds, least)
            self._chains[seconds, least] = Chains(halved, propagator(self.a, seconds, halved))
        return self._chains[seconds, least]


class Chains(NamedTuple):
    """Propagators of a mode over one time: how often it is halved, and of the whole, its half, and so on."""

    halved: int
    levels: tuple[Array, ...]


class Watched(NamedTuple):
    """What is told of the time a network is followed: heat and delivery, amperes through elements, volts between nodes.

    Integrals are by Simpson's rule over each piece; `closely` by Romberg's over eighths of it, to some 1e-7; `coarsely` by its
    ends.
    """

    energy: bool = False
    through: tuple[str, ...] = ()
    between: tuple[tuple[str, str], ...] = ()
    closely: bool = False
    coarsely: bool = False
