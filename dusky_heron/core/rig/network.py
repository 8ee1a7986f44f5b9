"""Elements by name with what they hold, and where each node, state and input stands in the vectors of their circuit."""

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

from dusky_heron.core.rig.elements import EARTH, Coil, Diode, Drive, Element, Source, Store
from dusky_heron.core.rig.mode import ABOVE_V, Mode
from dusky_heron.core.rig.propagator import Row

QUICKLY_V = 1e-2  # above its drop, at which a diode of a quick network conducts


@dataclass
class Network:
    """Elements by name, and what each store holds: volts of a capacitor and of its branches, amperes of a coil.

    A quick one is followed in larger pieces, its branches of absorption beside the circuit: some ten times faster, within 2 %.
    """

    parts: dict[str, Element] = field(default_factory=dict)
    held: dict[str, tuple[float, ...]] = field(default_factory=dict)
    second: float = 0.0
    conducting: frozenset[str] = frozenset()
    quick: bool = False
    _layouts: dict[bool, "Layout"] = field(default_factory=dict, repr=False)

    def put(self, name: str, element: Element, held: tuple[float, ...] | None = None) -> None:
        """Put an element in, empty unless said; one of the same name keeps what it holds."""
        self.parts[name] = element
        if isinstance(element, Store):
            before = self.held.get(name, (0.0,))
            self.held[name] = held or (before + before[:1] * 9)[: 1 + len(element.branches)]
        elif isinstance(element, Coil):
            self.held[name] = held or self.held.get(name, (0.0,))
        self._layouts.clear()

    def take(self, *names: str) -> None:
        """Take elements out, with what they hold."""
        for name in names:
            self.parts.pop(name, None)
            self.held.pop(name, None)
        self._layouts.clear()

    @property
    def alternating(self) -> bool:
        """Whether a sine drives it."""
        return any(isinstance(part, Source) and part.peak_v and part.hertz for part in self.parts.values())

    @property
    def at_rest(self) -> bool:
        """Whether it holds nothing and nothing drives it."""
        driven = any(
            isinstance(part, Drive) or (isinstance(part, Source) and (part.peak_v or part.dc_v)) for part in self.parts.values()
        )
        return not driven and not any(value for values in self.held.values() for value in values)

    def layout(self, *, absorbing: bool) -> "Layout":
        """The order of its nodes and states, with or without branches of absorption."""
        if absorbing not in self._layouts:
            self._layouts[absorbing] = Layout(self.parts, absorbing=absorbing, above_v=QUICKLY_V if self.quick else ABOVE_V)
        return self._layouts[absorbing]

    @property
    def resting(self) -> "Layout":
        """The layout by which it is followed where no sine drives it, and read at an instant."""
        return self.layout(absorbing=not self.quick)

    def behind(self, a: str, b: str) -> float:
        """Ohms behind two nodes at an instant, while every store holds its volts: what a meter's input divides with."""
        layout = Layout({**self.parts, "probe": Drive(a, b, 1.0)}, absorbing=not self.quick)
        without = self.resting
        conducting = self.conducting & frozenset(layout.diodes)
        with_one = layout.mode(conducting).across(a, b)[layout.one]
        return with_one - without.mode(conducting).across(a, b)[without.one]

    def stored_j(self) -> float:
        """Energy in its fields: ½CV² of capacitors and their branches, ½LI² of coils."""
        total = 0.0
        for name, values in self.held.items():
            part = self.parts[name]
            if isinstance(part, Coil):
                total += part.henry * values[0] ** 2 / 2
            elif isinstance(part, Store):
                total += part.farad * values[0] ** 2 / 2
                total += sum(c * v * v / 2 for (c, _), v in zip(part.branches, values[1:], strict=True))
        return total


class Layout:
    """Where each node, state and input stands in the vectors of a network."""

    def __init__(self, parts: Mapping[str, Element], *, absorbing: bool, above_v: float = ABOVE_V) -> None:
        self.parts, self.absorbing, self.above_v = parts, absorbing, above_v
        self.nodes: dict[str, int] = {}
        self.states: dict[str, int] = {}
        hertz: list[float] = []
        at = 0
        for name, part in parts.items():
            for node in (part.a, part.b):
                if node != EARTH:
                    self.nodes.setdefault(node, len(self.nodes))
            if isinstance(part, Store | Coil):
                self.states[name] = at
                at += 1 + (len(part.branches) if absorbing and isinstance(part, Store) else 0)
            elif isinstance(part, Source) and part.peak_v and part.hertz and part.hertz not in hertz:
                hertz.append(part.hertz)
        self.count, self.one = at, at
        self.waves = {value: at + 1 + 2 * k for k, value in enumerate(hertz)}
        self.width = at + 1 + 2 * len(hertz)
        self.diodes = tuple(name for name, part in parts.items() if isinstance(part, Diode))
        self._modes: dict[frozenset[str], Mode] = {}

    def mode(self, conducting: frozenset[str]) -> "Mode":
        """The linear circuit while these diodes conduct, worked out once."""
        if conducting not in self._modes:
            self._modes[conducting] = Mode(self, conducting)
        return self._modes[conducting]

    def vector(self, held: Mapping[str, tuple[float, ...]], second: float) -> Row:
        """What stores hold and sources are at, as one vector."""
        z = [0.0] * self.width
        for name, at in self.states.items():
            values = held[name] if self.absorbing else held[name][:1]
            z[at : at + len(values)] = values
        z[self.one] = 1.0
        for hertz, at in self.waves.items():
            angle = 2 * math.pi * math.fmod(hertz * second, 1.0)
            z[at], z[at + 1] = math.sin(angle), math.cos(angle)
        return z

    def holding(self, z: Row, held: Mapping[str, tuple[float, ...]]) -> dict[str, tuple[float, ...]]:
        """What stores hold by a vector; branches that it leaves out stay."""
        found = {}
        for name, at in self.states.items():
            before = held[name]
            found[name] = tuple(z[at : at + len(before)]) if self.absorbing else (z[at], *before[1:])
        return found

    def drives(self, part: Source) -> Iterable[tuple[int, float]]:
        """A source's volts as shares of the inputs."""
        if part.dc_v:
            yield self.one, part.dc_v
        if part.peak_v and part.hertz:
            at, turn = self.waves[part.hertz], math.radians(part.degrees)
            yield at, part.peak_v * math.cos(turn)
            yield at + 1, part.peak_v * math.sin(turn)
