"""What a simulated set is drawn from: parts between nodes, feeds, and what turns, warms, switches and regulates in it."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Protocol

from dusky_heron.core.rig.capacitors import Capacitor
from dusky_heron.core.rig.elements import EARTH, Element, Source
from dusky_heron.core.rig.pieces import Piece

MAINS_OHM = 0.4  # of the supply at a socket: some 600 A into a short, the reference impedance of IEC 60725 at 230 V
EARTH_OHM = 0.3  # of neutral and of the protective conductor to earth
CHASSIS = "chassis"


@dataclass(frozen=True, slots=True)
class Feed:
    """Where volts come from: the mains at the plug, a winding of a transformer, a charger, a second supply.

    `ratio` is volts (rms of a sine, or DC) for each volt of the supply. A winding stays as its resistance when the plug is out;
    what is plugged goes away altogether. `through` are pieces on the supply side: open, and nothing is fed.
    """

    name: str
    a: str
    b: str
    ohm: float = MAINS_OHM
    ratio: float = 1.0
    direct: bool = False  # DC
    winding: bool = False
    degrees: float = 0.0
    through: tuple[str, ...] = ()
    by_itself: bool = False  # of a second supply: on whatever the plug does

    def source(self, volts: float, hertz: float, *, on: bool) -> Source | None:
        """It as an element now; None where it is away."""
        if not on and not self.winding:
            return None
        level = volts * self.ratio if on else 0.0
        if self.direct:
            return Source(self.a, self.b, self.ohm, dc_v=level)
        return Source(self.a, self.b, self.ohm, level * math.sqrt(2), hertz if level else 0.0, self.degrees)


@dataclass
class Window:
    """What a governor is told of the time just followed: seconds, and mean volts, rms volts by the pairs it watches."""

    seconds: float
    on: bool
    percent: float
    means: Mapping[tuple[str, str], float]
    rms: Mapping[tuple[str, str], float]
    parts: Mapping[str, Element]


class Governor(Protocol):
    """Something that changes the circuit by what it sees: it keeps its own state, and tells its elements."""

    @property
    def watches(self) -> tuple[tuple[str, str], ...]:
        """Pairs of nodes whose volts it goes by."""

    def after(self, window: Window) -> None:
        """Take notice of what happened."""

    def elements(self, pieces: Mapping[str, Piece]) -> dict[str, Element]:
        """What it is to the circuit now; of pieces' names, in their place."""


@dataclass
class Drawing:
    """A set: its supply, its parts with their nodes, what is fixed in it, and what one looks at."""

    id: str
    title: str
    supply_v: float
    hertz: float
    protection: str  # protection class: 0, I, II
    capacitors: list[Capacitor] = field(default_factory=list)
    pieces: list[Piece] = field(default_factory=list)
    fixed: dict[str, Element] = field(default_factory=dict)
    feeds: list[Feed] = field(default_factory=list)
    governors: list[Governor] = field(default_factory=list)
    rails: dict[str, tuple[str, str]] = field(default_factory=dict)
    supply: str = "mains"  # the feed whose current is the set's
    reflected: float = 1.0  # amperes of the mains for each of that feed's
    neutral: str = "N"
    live_chassis: bool = False

    def nodes(self) -> tuple[str, ...]:
        """Every place a probe can be laid, in the order of the drawing."""
        found: dict[str, None] = {}
        for capacitor in self.capacitors:
            for pair in capacitor.terminals:
                found.update(dict.fromkeys(pair))
        for part in self.pieces:
            found.update(dict.fromkeys((part.a, part.b)))
        for feed in self.feeds:
            found.update(dict.fromkeys((feed.a, feed.b)))
        found.pop(EARTH, None)
        return tuple(found)
