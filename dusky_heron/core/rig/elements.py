"""What circuits are made of: each element stands between two named nodes."""

import math
from dataclasses import dataclass

EARTH = "earth"  # the one node everything leaks to
BOARD_OHM = 1e12  # from every node to its surroundings: a clean dry board; leakage paths of 10^12 Ω and more are usual for FR-4
STILL_OHM = 1e12  # of a diode that blocks; silicon diodes leak nanoamperes at rated volts


@dataclass(frozen=True, slots=True)
class Resistor:
    """Ohms between two nodes."""

    a: str
    b: str
    ohm: float


@dataclass(frozen=True, slots=True)
class Store:
    """A capacitance behind its series resistance, with leakage and branches of absorption beside it.

    `branches` are pairs of farads and seconds: C_k behind R_k = τ_k/C_k.
    """

    a: str
    b: str
    farad: float
    esr_ohm: float
    leak_ohm: float = math.inf
    branches: tuple[tuple[float, float], ...] = ()
    loss: tuple[tuple[float, float], ...] = ()  # hertz and tan δ of the dielectric, used by `impedance` only

    def dissipation(self, hertz: float) -> float:
        """The tan δ of the dielectric at a frequency, along straight lines over its logarithm."""
        if not self.loss:
            return 0.0
        before = self.loss[0]
        for known in self.loss:
            if known[0] >= hertz:
                if known[0] == before[0]:
                    return known[1]
                share = math.log(hertz / before[0]) / math.log(known[0] / before[0])
                return before[1] + share * (known[1] - before[1])
            before = known
        return before[1]


@dataclass(frozen=True, slots=True)
class Coil:
    """An inductance behind its resistance."""

    a: str
    b: str
    henry: float
    ohm: float
    core_ohm: float = 1e6  # losses of the core, beside it


@dataclass(frozen=True, slots=True)
class Diode:
    """Conducts from a to b above its drop."""

    a: str
    b: str
    drop_v: float = 0.7
    on_ohm: float = 0.05
    off_ohm: float = STILL_OHM


@dataclass(frozen=True, slots=True)
class Source:
    """Volts from b to a behind a resistance: a sine and a constant."""

    a: str
    b: str
    ohm: float
    peak_v: float = 0.0
    hertz: float = 0.0
    degrees: float = 0.0
    dc_v: float = 0.0


@dataclass(frozen=True, slots=True)
class Drive:
    """A constant current out of b into a: a meter's."""

    a: str
    b: str
    ampere: float


Element = Resistor | Store | Coil | Diode | Source | Drive
