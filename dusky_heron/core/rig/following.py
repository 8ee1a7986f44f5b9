"""A network followed in time: from one switching of a diode to the next, exactly between them.

At rest, times double from the finest the circuit knows to the whole; on a sine they are parts of a cycle. What has settled so
far that one cycle foretells the next is carried on by whole cycles.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np

from dusky_heron.core.rig.elements import Store
from dusky_heron.core.rig.mode import Chains, Mode, Watched
from dusky_heron.core.rig.network import Network
from dusky_heron.core.rig.propagator import Array, Row, weights

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
    means: list[float] = field(default_factory=list)  # of each watched row: its integral
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


class _Sums:
    """What is integrated while a network is followed: of each watched row its mean and square, how far it went, heat, delivery."""

    def __init__(self, rows: int) -> None:
        self.means, self.squares = np.zeros(rows), np.zeros(rows)
        self.lows, self.highs = np.full(rows, np.inf), np.full(rows, -np.inf)
        self.energies = np.zeros(2)  # heat, delivery

    def copy(self) -> "_Sums":
        """The same so far."""
        same = _Sums(0)
        same.means, same.squares, same.energies = self.means.copy(), self.squares.copy(), self.energies.copy()
        return same

    def add(self, columns: Array, powers: Array, shares: Array) -> None:
        """More of each: what was watched at some states, heat and delivery, and the seconds each state stands for."""
        self.energies += powers @ shares
        self.means += columns @ shares
        self.squares += (columns * columns) @ shares
        self.reach(columns)

    def reach(self, columns: Array) -> None:
        """How far each row stood."""
        self.lows, self.highs = np.minimum(self.lows, columns.min(axis=1)), np.maximum(self.highs, columns.max(axis=1))

    def carry_on(self, before: "_Sums", many: int) -> None:
        """So many times more of what was added since."""
        for mine, was in ((self.means, before.means), (self.squares, before.squares), (self.energies, before.energies)):
            mine += many * (mine - was)


NOTHING = Watched()


class Follower:
    """Follows one network; keeps its state as a vector until it is done."""

    def __init__(self, network: Network, watched: Watched = NOTHING, stop: Callable[[Mode], Row] | None = None) -> None:
        self.network, self.watched, self.stop = network, watched, stop
        self.layout = network.layout(absorbing=False) if network.alternating else network.resting
        how = (PARTS_QUICKLY, FINEST_QUICKLY, LOCATED_QUICKLY) if network.quick else (PARTS, FINEST, LOCATED)
        self.parts, self.finest, self.located = how
        self.followed = 0 if network.quick else FOLLOWED
        self.z: Array = np.array(self.layout.vector(network.held, network.second))
        self.conducting = network.conducting & frozenset(self.layout.diodes)
        self.flow = Flow()
        self.sums = _Sums(len(watched.through) + len(watched.between))
        self.sampled: dict[frozenset[str], tuple[list[Array], list[Array]]] = {}  # by mode: states, and seconds each stands for
        self.stopped = False
        self.map: Array | None = None  # of a cycle so far: how its end follows its beginning
        self.mode = self._consistent()
        self._look(self.mode)

    def _consistent(self) -> Mode:
        """The mode that holds at the state it is in: the diode most against it changes first."""
        mode = self.layout.mode(self.conducting)
        seen = {self.conducting}
        for _ in range(4 * len(self.layout.diodes)):
            by = mode.guards @ self.z
            worst = int(by.argmax())
            if by[worst] <= 1:
                break
            self.conducting = self.conducting ^ {self.layout.diodes[worst]}
            mode = self.layout.mode(self.conducting)
            if self.conducting in seen:
                break
            seen.add(self.conducting)
        return mode

    def _look(self, mode: Mode) -> None:
        """Remember how far each watched row stands."""
        if self.watched != NOTHING:
            self.sums.reach((mode.rows(self.watched) @ self.z)[:, None])

    def _sample(self, end: Array, chains: Chains, level: int, seconds: float, *, finest: bool = False) -> bool:
        """Add the integrals over a piece that begins at the state it is in, by its equal parts.

        False, and nothing is added, where they matter and half the parts tell something else: a shorter piece is wanted.
        """
        doubled = CLOSELY if self.watched.closely else 1
        doubled = min(doubled, chains.halved - level)  # the finest piece has no parts: its ends will do
        doubled = 0 if self.watched.coarsely else doubled
        points = [self.z]
        for _ in range(2**doubled - 1):
            points.append(_moved(points[-1], chains, level + doubled))
        points.append(end)
        share = weights(doubled) * seconds
        if self.watched.closely and doubled == CLOSELY and not finest:
            self._sum_up()
            columns, powers = self._told(self.mode, points)
            values, sums = np.vstack([columns * columns, powers[:1]]), self.sums
            full, half = values @ share, values[:, ::2] @ weights(doubled - 1) * seconds
            so_far = np.append(sums.squares, sums.energies[0])
            if (np.abs(full - half) > EXACT * (np.abs(so_far) + np.abs(full)) + NOTHING_J).any():
                return False
        states, shares = self.sampled.setdefault(self.mode.conducting, ([], []))
        states += points
        shares.append(share)
        return True

    def _told(self, mode: Mode, states: list[Array]) -> tuple[Array, Array]:
        """What is watched at some states, a column each; heat and delivery."""
        together = np.array(states).T
        return mode.rows(self.watched) @ together, self._powers(together, mode)

    def _sum_up(self) -> None:
        """Add what was sampled so far, all of a mode at once."""
        for conducting, (states, shares) in self.sampled.items():
            columns, powers = self._told(self.layout.mode(conducting), states)
            self.sums.add(columns, powers, np.concatenate(shares))
        self.sampled.clear()

    def _powers(self, states: Array, mode: Mode) -> Array:
        """Watts into heat and out of sources at each state, where they are asked for."""
        if not self.watched.energy:
            return np.zeros((2, states.shape[1]))
        return np.array([(states * (q @ states)).sum(axis=0) for q in mode.energies()])

    def _stops(self, z: Array) -> bool:
        return self.stop is not None and float(np.dot(self.stop(self.mode), z)) > 0

    def _against(self, z: Array) -> bool:
        return max((self.mode.guards @ z).tolist(), default=0.0) > 1 or self._stops(z)

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
            z = _moved(self.z, chains, level)
            against = self._against(z)
            if against and piece > max(1, tick >> self.located):
                limit = piece >> 1
                continue
            if self.watched != NOTHING and not self._sample(z, chains, level, seconds * piece / (1 << fine), finest=piece == 1):
                limit = piece >> 1
                continue
            if self.map is not None:
                self.map = self.map + chains.levels[level] @ self.map
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

    def cycles(self, seconds: float) -> None:
        """On a sine: cycle by cycle, carried on by whole cycles once each foretells the next."""
        flow, period = self.flow, 1 / min(self.layout.waves)
        part, count = period / self.parts, self.layout.count
        inputs, mean, followed = self.z[count:], self.z[:count], 0
        skip = SKIPS_QUICKLY if self.network.quick else 1
        while (left := seconds - flow.seconds - flow.skipped_s) >= period * (1 - 1e-9) and not self.stopped:
            carrying = self.stop is None and followed >= self.followed and left > 3 * period and len(self.layout.waves) == 1
            self._sum_up()
            start, before, most, total = self.z, self.sums.copy(), np.zeros(count), np.zeros(count)
            self.map = np.identity(len(start)) if carrying else None
            for k in range(self.parts):
                self.step(part, whole=True, looks=RINGS if followed == 0 and k < RINGS else 0)
                most = np.maximum(np.abs(self.z[:count]), most)
                total += self.z[:count]
            mean, followed = total / self.parts, followed + 1
            self.z = np.append(self.z[:count], inputs)
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

    def _skip(self, start: Array, before: _Sums, most: Array, many: int, whole: int) -> int:
        """Carry on by whole cycles as the last one foretells, z′ = M·z; fewer where a voltage would go far. How many it was."""
        count = self.layout.count
        far, least = (FAR_QUICKLY, LEAST_QUICKLY_V) if self.network.quick else (FAR, LEAST_V)
        near = far * most + least
        if (np.abs(start[:count] - self.z[:count]) <= CLOSE * near).all():
            many = whole
        else:
            while many:
                z = np.linalg.matrix_power(np.identity(len(start)) if self.map is None else self.map, many) @ self.z
                if (np.abs(self.z[:count] - z[:count]) <= near).all():
                    self.z = np.append(z[:count], self.z[count:])
                    break
                many >>= 1
        self.flow.skipped_s += many / min(self.layout.waves)
        self._sum_up()
        self.sums.carry_on(before, many)
        return max(many, 1)

    def _absorb(self, mean: Array, seconds: float) -> None:
        """Branches follow the mean of the voltage beside them: their times are long against a cycle."""
        for name, at in self.layout.states.items():
            part = self.network.parts[name]
            if not isinstance(part, Store):
                continue
            values, level = [float(self.z[at])], float(mean[at])
            for (farad, tau), u in zip(part.branches, self.network.held[name][1:], strict=True):
                values.append(level + (u - level) * math.exp(-seconds / tau))
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
            volts, values = float(self.z[at]), []
            for (farad, tau), u in zip(part.branches, held[name][1:], strict=True):
                share = farad / part.farad
                both = (volts + share * u) / (1 + share)
                now = both + (u - both) * math.exp(-seconds * (1 + share) / tau)
                volts -= share * (now - u)
                values.append(now)
            self.z[at] = volts
            held[name] = (volts, *values)

    def done(self) -> Flow:
        """Write the state back, and tell what went through."""
        self._sum_up()
        flow, network, sums = self.flow, self.network, self.sums
        flow.means, flow.squares, flow.lows, flow.highs = (
            values.tolist() for values in (sums.means, sums.squares, sums.lows, sums.highs)
        )
        flow.heat_j, flow.delivered_j = sums.energies.tolist()
        network.held = self.layout.holding(self.z.tolist(), network.held)
        network.conducting = self.conducting
        flow.seconds += flow.skipped_s
        network.second += flow.seconds
        return flow


def _moved(start: Array, chains: Chains, level: int) -> Array:
    moved: Array = start + chains.levels[level] @ start
    return moved


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
