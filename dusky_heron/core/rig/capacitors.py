"""A capacitor as it is in truth: what it became with age, heat and volts, and what it is to a circuit."""

import itertools
import math
from dataclasses import dataclass, replace
from typing import Any

from dusky_heron.core.errors import CAPACITANCE, VOLTAGE, InputError
from dusky_heron.core.model.terms import Role, Sign
from dusky_heron.core.rig.elements import Store
from dusky_heron.core.tables import toml_table

ROOM_C = 20.0
COLDEST_C, HOTTEST_C = -40.0, 125.0  # beyond which no material of the table is described
DRIFT_C = (-25.0, 20.0, 55.0, 85.0)  # of the rows `drift`
BRANCHES_S = (10.0, 100.0, 1000.0)  # of the rows `absorption`; by such branches a rebound is predicted
OPEN_OHM = 1e11  # a joint that does not touch: creepage over the broken end
FORMS_S = 600.0  # in which the leakage of a capacitor that has lain falls by e, at its working voltage
ESR_COLD = 0.03  # by which the series resistance of an electrolytic grows for each degree below 20 °C
RISES_AT = 0.9  # of its rated volts: from there the leakage of an electrolytic climbs


def material(name: str) -> dict[str, Any]:
    """The row of a material; InputError for one that is not there."""
    table = toml_table("rig_materials")
    if name not in table:
        raise InputError("material", f"No such material: {name}.")
    row: dict[str, Any] = table[name]
    return row


@dataclass(frozen=True, slots=True)
class Section:
    """One capacitance of a part: what was made, and how it stands now."""

    marked_f: float
    made_f: float  # at 20 °C when new: inside its tolerance
    kept: float = 1.0  # share of it that is left of wear
    esr: float = 1.0  # times the healthy series resistance
    leak_ohm: float = math.inf  # a path through or beside it, besides the material's own
    joint_ohm: float = 0.0  # of leads and welds; OPEN_OHM when apart
    absorption: float = 1.0  # times the material's


@dataclass(frozen=True, slots=True)
class Capacitor:
    """A part with one or more sections between its terminals.

    `terminals` has one pair for each section. `joint` tells how a bad joint behaves: sound, open, remakes (when it is warmed or
    knocked) or crackles (with every touch).
    """

    name: str
    role: Role
    material: str
    sections: tuple[Section, ...]
    terminals: tuple[tuple[str, str], ...]
    rated_v: float
    ac: bool
    printed: str = ""
    bleeder_ohm: float | None = None  # inside, across the first section
    series_ohm: float = 0.0  # inside, as in an RC unit
    joint: str = "sound"
    years: float = 0.0
    unformed: float = 1.0  # times the leakage, of one that has lain
    celsius: float = ROOM_C
    tolerance: float = 0.2  # as it is sold, a share to either side
    seen: tuple[Sign, ...] = ()

    def farads(self, k: int = 0, volts: float = 0.0) -> float:
        """Capacitance of a section now.

        C = C_made · kept · (1 − ageing·years) · (1 + drift(T)) · (1 − bias·(U/U_r)²)

        :param k: section
        :param volts: DC across it, V
        :returns: farads
        :raises InputError: volts or temperature beyond what the table describes
        :source: rig_materials.toml
        """
        VOLTAGE.check("volts", abs(volts))
        if not COLDEST_C <= self.celsius <= HOTTEST_C:
            raise InputError("celsius", f"Temperature must be from {COLDEST_C:g} to {HOTTEST_C:g} °C.")
        row, section = material(self.material), self.sections[k]
        aged = max(1 - row["ageing"] * self.years, 0.5)
        biased = 1 - row["bias"] * min(abs(volts) / self.rated_v, 1.5) ** 2
        return float(section.made_f * section.kept * aged * (1 + drift(self.material, self.celsius)) * biased)

    def esr_ohm(self, k: int = 0) -> float:
        """Series resistance of a section, with its joint and what is built in.

        Electrolytics: tan δ(U_r)/(2π·120 Hz·C) when new; others their leads and film.

        :source: rig_materials.toml
        """
        section = self.sections[k]
        own = float(material(self.material)["esr_ohm"])
        if self.material == "electrolytic":
            own += healthy_tan(self.rated_v) / (2 * math.pi * 120 * section.marked_f)
            own *= 1 + ESR_COLD * max(ROOM_C - self.celsius, 0.0)
        return own * section.esr + section.joint_ohm + self.series_ohm

    def leak_ohm(self, k: int = 0, volts: float = 0.0) -> float:
        """Leakage of a section as a resistance.

        R = (R·C of the material)/C at 20 °C, over leak^((T − 20)/10), over how unformed it is; an electrolytic's falls by ten for
        each fifth of its rated volts above nine tenths; whatever path a fault made beside it.

        :source: rig_materials.toml
        """
        row, section = material(self.material), self.sections[k]
        own = row["insulation_s"] / (section.made_f * section.kept)
        own /= row["leak"] ** ((self.celsius - ROOM_C) / 10) * self.unformed
        if self.material == "electrolytic":
            own /= 10 ** (5 * max(abs(volts) / self.rated_v - RISES_AT, 0.0))
        return float(1 / (1 / own + 1 / section.leak_ohm))

    def store(self, k: int, a: str, b: str, volts: float = 0.0) -> Store:
        """A section as an element between two nodes."""
        row, section = material(self.material), self.sections[k]
        farads = self.farads(k, volts)
        shares = zip(row["absorption"], BRANCHES_S, strict=True)
        return Store(
            a,
            b,
            farads,
            self.esr_ohm(k),
            self.leak_ohm(k, volts),
            tuple((farads * share * section.absorption, tau) for share, tau in shares),
            tuple((float(hertz), float(tan)) for hertz, tan in row["loss"]),
        )

    def formed(self, seconds: float, volts: float) -> "Capacitor":
        """The same after a time at a voltage: its leakage falls towards the healthy, as fast as it is near its rating."""
        if self.unformed <= 1:
            return self
        share = min(abs(volts) / self.rated_v, 1.0)
        return replace(self, unformed=1 + (self.unformed - 1) * math.exp(-seconds * share / FORMS_S))


def drift(name: str, celsius: float) -> float:
    """Change of capacitance against 20 °C at a temperature, a share, along straight lines of the table."""
    points = list(zip(DRIFT_C, material(name)["drift"], strict=True))
    for (t0, d0), (t1, d1) in itertools.pairwise(points):
        if celsius <= t1 or t1 == points[-1][0]:
            return float(d0 + (d1 - d0) * (celsius - t0) / (t1 - t0))
    return 0.0


def healthy_tan(rated_v: float) -> float:
    """What a healthy electrolytic of a rated voltage shows at 120 Hz and 20 °C: the first row that reaches it."""
    rows = material("electrolytic")["tan_120"]
    return float(next((tan for volts, tan in rows if volts >= rated_v), rows[-1][1]))


def section(marked_f: float, share: float = 0.0) -> Section:
    """A section made at a share beside its marked value."""
    CAPACITANCE.check("marked_f", marked_f)
    return Section(marked_f, marked_f * (1 + share))
