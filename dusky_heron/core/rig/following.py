"""A network followed in time: from one switching of a diode to the next, exactly between them.

At rest, times double from the finest the circuit knows to the whole; on a sine they are parts of a cycle. What has settled so
far that one cycle foretells the next is carried on by whole cycles.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass, field, replace

from dusky_heron.core.rig.elements import Store
from dusky_heron.core.rig.mode import Chains, Mode, Watched
from dusky_heron.core.rig.network import Network
from dusky_heron.core.rig.propagator import Matrix, Row, dot, product, weights

PARTS = 64  # of a cycle; a diode that conducts for less than one of them is not seen
PARTS_QUICKLY, FINEST_QUICKLY, LOCATED_QUICKLY = 20, 5, 8  # of a quick network: 31 µs at 50 Hz
FINEST = 16  # halvings of a part, to which a switching is located: 5 ns at 50 Hz
RINGS = 4  # so many parts at first are looked at in sixteenths, 20 µs at 50 Hz: what was switched rings
FOLLOWED = 1  # cycles in full before one is carried on; none of a quick network
LOCATED = 24  # a switching is located to 2^-24 of the time since something was done: less would be lost in a state's digits
EXACT, NOTHING_J = 1e-7, 1e-15  # of an integral, to which it is taken where it matters; what is too small to matter
SETTLED = 10  # halvings of a stretch, in which one goes on that nothing was done to
CLOSELY = 3  # a piece is looked at in so many halvings where its integrals matter
FIRST_S = 0.25  # the first stretch of a quick network at rest: branches of absorption are slower
SKIPS_QUICKLY, FAR_QUICKLY, LEAST_QUICKLY_V = 16, 0.3, 0.5  # of a quick network: cycles carried on at first, and how far
CLOSE = 1e-5  # of what a voltage may move at once: a cycle that changes no more repeats
FAR, LEAST_V = (
    0.1,
    0.02,
)  # a voltage is carried on by at most this share of itself, and this much, before a cycle is looked at again


@dataclass
class Flow:
    """What went through while a network was followed."""

    seconds: float = 0.0
    heat_j: float = 0.0
    delivered_j: float = 0.0
    absorbed_j: float = 0.0  # into branches of absorption while a sine drives, where they follow the mean
    means: list[float] = field(default_factory=list)  # of each watched row: its integral until `run` divides
    squares: list[float] = field(default_factory=list)
    lows: list[float] = field(default_factory=list)
    highs: list[float] = field(default_factory=list)
    skipped_s: float = 0.0

    def rms(self, k: int) -> float:
        """Root mean square of a watched row."""
        return math.sqrt(max(self.squares[k], 0.0) / self.seconds) if self.seconds else 0.0

    def mean(self, k: int) -> float:
        """Mean of a watched row."""
        return self.means[k] / self.seconds if self.seconds else 0.0

    def peak(self, k: int) -> float:
        """The furthest from zero a watched row stood."""
        return max(abs(self.lows[k]), abs(self.highs[k]))

    def integral_of_square(self, k: int) -> float:
        """∫ of the square: I²t of a current."""
        return max(self.squares[k], 0.0)

    def copy(self) -> "Flow":
        """The same so far."""
        return replace(self, means=self.means[:], squares=self.squares[:], lows=self.lows[:], highs=self.highs[:])


NOTHING = Watched()


class Follower:
    """Follows one network; keeps its state as a vector until it is done."""

    def __init__(self, network: Network, watched: Watched = NOTHING, stop: Callable[[Mode], Row] | None = None) -> None:
        self.network, self.watched, self.stop = network, watched, stop
        self.layout = network.layout(absorbing=False) if network.alternating else network.resting
        how = (PARTS_QUICKLY, FINEST_QUICKLY, LOCATED_QUICKLY) if network.quick else (PARTS, FINEST, LOCATED)
        self.parts, self.finest, self.located = how
        self.followed = 0 if network.quick else FOLLOWED
        self.z = self.layout.vector(network.held, network.second)
        self.conducting = network.conducting & frozenset(self.layout.diodes)
        rows = len(watched.through) + len(watched.between)
        self.flow = Flow(means=[0.0] * rows, squares=[0.0] * rows, lows=[math.inf] * rows, highs=[-math.inf] * rows)
        self.stopped = False
        self.map: Matrix | None = None  # of a cycle so far: how its end follows its beginning
        self.mode = self._consistent()
        self._look(self.mode)

    def _consistent(self) -> Mode:
        """The mode that holds at the state it is in: the diode most against it changes first."""
        mode = self.layout.mode(self.conducting)
        seen = {self.conducting}
        for _ in range(4 * len(self.layout.diodes)):
            worst, name = max(((dot(row, self.z), name) for name, row in mode.guards), default=(0.0, ""))
            if worst <= 1:
                break
            self.conducting = self.conducting ^ {name}
            mode = self.layout.mode(self.conducting)
            if self.conducting in seen:
                break
            seen.add(self.conducting)
        return mode

    def _look(self, mode: Mode) -> None:
        """Remember how far each watched row stands."""
        flow = self.flow
        if self.watched == NOTHING:
            return
        for k, row in enumerate(mode.rows(self.watched)):
            value = dot(row, self.z)
            flow.lows[k] = min(flow.lows[k], value)
            flow.highs[k] = max(flow.highs[k], value)

    def _moved(self, start: Row, chains: Chains, level: int) -> Row:
        z = start[:]
        for block, chain in chains.blocks:
            before = [start[k] for k in block]
            for k, at, row in zip(block, before, chain.levels[level], strict=True):
                z[k] = at + dot(row, before)
        return z

    def _sample(self, end: Row, chains: Chains, level: int, seconds: float, *, finest: bool = False) -> bool:
        """Add the integrals over a piece that begins at the state it is in, by its equal parts.

        False, and nothing is added, where they matter and half the parts tell something else: a shorter piece is wanted.
        """
        rows, doubled = self.mode.rows(self.watched), CLOSELY if self.watched.closely else 1
        doubled = min(doubled, chains.halved - level)  # the finest piece has no parts: its ends will do
        doubled = 0 if self.watched.coarsely else doubled
        z, points = self.z, [self.z]
        for _ in range(2**doubled - 1):
            z = self._moved(z, chains, level + doubled)
            points.append(z)
        points.append(end)
        powers = [self._powers(z) for z in points]
        columns = [[dot(row, z) for z in points] for row in rows]
        squares = [[value * value for value in column] for column in columns]
        flow = self.flow
        if self.watched.closely and doubled == CLOSELY and not finest:
            so_far = [flow.heat_j, *flow.squares]
            for total, values in zip(so_far, [[heat for heat, _ in powers], *squares], strict=True):
                full, half = dot(weights(doubled), values), dot(weights(doubled - 1), values[::2])
                if abs(full - half) * seconds > EXACT * (abs(total) + abs(full) * seconds) + NOTHING_J:
                    return False
        share = [weight * seconds for weight in weights(doubled)]
        flow.heat_j += dot(share, [heat for heat, _ in powers])
        flow.delivered_j += dot(share, [out for _, out in powers])
        for k, column in enumerate(columns):
            flow.means[k] += dot(share, column)
            flow.squares[k] += dot(share, squares[k])
            flow.lows[k] = min(flow.lows[k], *column)
            flow.highs[k] = max(flow.highs[k], *column)
        return True

    def _powers(self, z: Row) -> tuple[float, float]:
        """Watts into heat and out of sources at a state, where they are asked for."""
        if not self.watched.energy:
            return 0.0, 0.0
        heat, out = (dot(z, [dot(row, z) for row in q]) for q in self.mode.energies())
        return heat, out

    def _stops(self, z: Row) -> bool:
        return self.stop is not None and dot(self.stop(self.mode), z) > 0

    def _against(self, z: Row) -> bool:
        return any(dot(row, z) > 1 for _, row in self.mode.guards) or self._stops(z)

    def step(self, seconds: float, *, whole: bool, share: float = 1.0, looks: int = 0, settled: bool = False) -> None:
        """Go on for a time, or a share of it, through as many switchings as there are.

        `whole` tries the time in one piece first, or in pieces of 1/2^looks; else pieces double from the finest, or from a
        thousandth where what is fast has `settled`.
        """
        least = self.finest
        chains = self.mode.chains(seconds, least)
        fine = least if whole else chains.halved  # ticks are halved so often
        tick, end = 0, round(share * (1 << fine))
        most = max(end >> looks, 1)
        limit = most if whole else max(1 << CLOSELY, end >> SETTLED if settled else 0)
        while tick < end:
            piece = _piece(tick, end, limit)
            level = fine - piece.bit_length() + 1
            z = self._moved(self.z, chains, level)
            against = self._against(z)
            if against and piece > max(1, tick >> self.located):
                limit = piece >> 1
                continue
            if self.watched != NOTHING and not self._sample(z, chains, level, seconds * piece / (1 << fine), finest=piece == 1):
                limit = piece >> 1
                continue
            if self.map is not None:
                self._carry(self.map, chains, level)
            self.z, tick, limit = z, tick + piece, most
            if self._stops(z):
                self.stopped = True
                break
            before = self.mode
            if against:
                self.mode = self._consistent()
            if self.mode is not before:
                self._look(self.mode)
                chains = self.mode.chains(seconds, fine)
                if not whole:  # a faster circuit has finer ticks
                    finer = chains.halved - fine
                    tick, end, most, fine = tick << finer, end << finer, most << finer, chains.halved
        self.flow.seconds += seconds * tick / (1 << fine)

    def _carry(self, so_far: Matrix, chains: Chains, level: int) -> None:
        """Carry the map of the cycle so far over one more piece."""
        moved = so_far[:]
        for block, chain in chains.blocks:
            rows = [so_far[k] for k in block]
            for k, row, change in zip(block, rows, product(chain.levels[level], rows), strict=True):
                moved[k] = [x + y for x, y in zip(row, change, strict=True)]
        self.map = moved

    def cycles(self, seconds: float) -> None:
        """On a sine: cycle by cycle, carried on by whole cycles once each foretells the next."""
        flow, period = self.flow, 1 / min(self.layout.waves)
        part, count = period / self.parts, self.layout.count
        inputs, mean, followed = self.z[count:], self.z[:count], 0
        skip = SKIPS_QUICKLY if self.network.quick else 1
        while (left := seconds - flow.seconds - flow.skipped_s) >= period * (1 - 1e-9) and not self.stopped:
            carrying = self.stop is None and followed >= self.followed and left > 3 * period and len(self.layout.waves) == 1
            start, before, most, total = self.z, flow.copy(), [0.0] * count, [0.0] * count
            self.map = [[float(i == j) for j in range(len(start))] for i in range(len(start))] if carrying else None
            for k in range(self.parts):
                self.step(part, whole=True, looks=RINGS if followed == 0 and k < RINGS else 0)
                most = [max(abs(x), y) for x, y in zip(self.z, most, strict=False)]
                total = [x + y for x, y in zip(self.z, total, strict=False)]
            mean, followed = [x / self.parts for x in total], followed + 1
            self.z[count:] = inputs
            if carrying:
                skip = 2 * self._skip(start, before, most, min(skip, int(left / period) - 2), int(left / period) - 2)
            self.map = None
        left = seconds - flow.seconds - flow.skipped_s
        while left > part * 1e-6 and not self.stopped:
            short = self.network.quick and left < part  # its ticks may be longer than what is left
            self.step(
                left if short else part,
                whole=True,
                share=1.0 if short else min(left / part, 1.0),
                looks=RINGS if followed == 0 else 0,
            )
            left -= part
        if not self.layout.absorbing:
            self._absorb(mean, seconds)

    def _skip(self, start: Row, before: Flow, most: Row, many: int, whole: int) -> int:
        """Carry on by whole cycles as the last one foretells, z′ = M·z; fewer where a voltage would go far. How many it was."""
        flow, count = self.flow, self.layout.count
        far, least = (FAR_QUICKLY, LEAST_QUICKLY_V) if self.network.quick else (FAR, LEAST_V)
        near = [far * value + least for value in most]
        if all(abs(x - y) <= CLOSE * value for x, y, value in zip(start, self.z, near, strict=False)):
            many = whole
        else:
            while many:
                z, power, matrix = self.z, many, self.map or []
                while power:
                    z = [dot(row, z) for row in matrix] if power & 1 else z
                    power >>= 1
                    matrix = product(matrix, matrix) if power else matrix
                if all(abs(x - y) <= value for x, y, value in zip(self.z, z, near, strict=False)):
                    self.z[:count] = z[:count]
                    break
                many >>= 1
        flow.skipped_s += many / min(self.layout.waves)
        for mine, was in ((flow.means, before.means), (flow.squares, before.squares)):
            mine[:] = [x + many * (x - y) for x, y in zip(mine, was, strict=True)]
        flow.heat_j += many * (flow.heat_j - before.heat_j)
        flow.delivered_j += many * (flow.delivered_j - before.delivered_j)
        return max(many, 1)

    def _absorb(self, mean: Row, seconds: float) -> None:
        """Branches follow the mean of the voltage beside them: their times are long against a cycle."""
        for name, at in self.layout.states.items():
            part = self.network.parts[name]
            if not isinstance(part, Store):
                continue
            values = [self.z[at]]
            for (farad, tau), u in zip(part.branches, self.network.held[name][1:], strict=True):
                values.append(mean[at] + (u - mean[at]) * math.exp(-seconds / tau))
                self.flow.absorbed_j += farad * (values[-1] ** 2 - u * u) / 2
            self.network.held[name] = tuple(values)

    def quickly(self, seconds: float) -> None:
        """At rest, in stretches of at most half of what has gone by: branches of absorption move first, then the circuit."""
        whole = max(FIRST_S, seconds)
        whole = FIRST_S * 2 ** math.ceil(math.log2(whole / FIRST_S))  # so that its propagators are those of other times too
        gone = 0.0
        while seconds - gone > 1e-12 and not self.stopped:
            longest = FIRST_S * 2 ** math.floor(math.log2(max(gone / 2, FIRST_S) / FIRST_S))
            stretch = min(longest, seconds - gone)
            self._exchange(stretch)
            self.step(whole, whole=False, share=stretch / whole, settled=gone > 0)
            gone += stretch

    def _exchange(self, seconds: float) -> None:
        """Each branch and its capacitor come nearer to what they share: V = (C·U + C_k·u)/(C + C_k), at (1 + C_k/C)/τ."""
        held = self.network.held
        for name, at in self.layout.states.items():
            part = self.network.parts[name]
            if not isinstance(part, Store):
                continue
            values = [self.z[at]]
            for (farad, tau), u in zip(part.branches, held[name][1:], strict=True):
                share = farad / part.farad
                both = (self.z[at] + share * u) / (1 + share)
                now = both + (u - both) * math.exp(-seconds * (1 + share) / tau)
                self.z[at] -= share * (now - u)
                values.append(now)
            held[name] = tuple(values)

    def done(self) -> Flow:
        """Write the state back, and tell what went through."""
        flow, network = self.flow, self.network
        network.held = self.layout.holding(self.z, network.held)
        network.conducting = self.conducting
        flow.seconds += flow.skipped_s
        network.second += flow.seconds
        return flow


def _piece(tick: int, end: int, limit: int) -> int:
    """The longest piece that may follow: a power of two that a count divides into, within what is left and allowed."""
    most = min(end - tick, limit)
    piece = 1 << (most.bit_length() - 1)
    aligned = tick & -tick
    return min(piece, aligned) if tick else piece


def follow(network: Network, seconds: float, watched: Watched = NOTHING, *, stop: Callable[[Mode], Row] | None = None) -> Flow:
    """Follow a network for a time; its state goes on, and what went through is told.

    z′ = A·z between the switchings of its diodes, by e^(A·t). Without a sine the whole is exact; with one, each cycle is, and
    cycles that repeat, or drift by little, are carried on by the power of the last one's map.

    :param network: its state is changed
    :param seconds: how long, 0 or more
    :param watched: amperes, volts and energy to be integrated
    :param stop: a linear form of a mode; where it rises above zero the following ends
    :returns: seconds followed, means, squares, extremes, heat, delivery
    :source: solution of linear differential equations by the matrix exponential, scaling and squaring
    """
    if network.at_rest:  # nothing moves
        rows = len(watched.through) + len(watched.between)
        network.second += seconds
        return Flow(seconds, means=[0.0] * rows, squares=[0.0] * rows, lows=[0.0] * rows, highs=[0.0] * rows)
    follower = Follower(network, watched, stop)
    if seconds > 0:
        if network.alternating:
            follower.cycles(seconds)
        elif network.quick and stop is None:
            follower.quickly(seconds)
        else:
            follower.step(seconds, whole=False)
    return follower.done()
