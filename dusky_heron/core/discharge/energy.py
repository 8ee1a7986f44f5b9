"""Stored energy: how much, and what it can do to a person."""

import itertools
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from dusky_heron.core.errors import CAPACITANCE, VOLTAGE
from dusky_heron.core.tables import csv_table, toml_table

Band = Literal["below_touch", "startle", "injury", "lethal", "lethal_blast", "arc", "burn"]
DEFAULT: Mapping[str, Any] = toml_table("hazard_bands")
BAND_SENTENCES: Mapping[Band, str] = {
    "below_touch": "Below the touch limit.",
    "startle": "Can startle: a jump of the hand.",
    "injury": "Can injure, may kill.",
    "lethal": "Can kill.",
    "lethal_blast": "Can kill, with blast and burns.",
    "arc": "Arc hazard: not a one-person job.",
    "burn": "Can burn: no ring, tool or chain across it.",
}


@dataclass(frozen=True, slots=True)
class Hazard:
    """What a charged capacitor can do: energy in joules, charge in coulombs, ES1 touch limit in volts."""

    energy_j: float
    charge_c: float
    touch_limit_v: float
    band: Band

    @property
    def sentence(self) -> str:
        """The band in words."""
        return BAND_SENTENCES[self.band]

    @property
    def grave(self) -> bool:
        """Whether it can do more than startle."""
        return self.band not in ("below_touch", "startle")


def stored_energy(capacitance_f: float, voltage_v: float) -> float:
    """Energy of a charged capacitor: E = ½ C V².

    :param capacitance_f: farads, more than 0 up to 1000
    :param voltage_v: volts, 0 to 1e6
    :returns: joules
    :raises InputError: not a number, or out of range
    :source: IEC 60050-121

    >>> round(stored_energy(16.8e-6, 636.4), 2)
    3.4
    """
    CAPACITANCE.check("capacitance_f", capacitance_f)
    VOLTAGE.check("voltage_v", voltage_v)
    return 0.5 * capacitance_f * voltage_v**2


def touch_limit(capacitance_f: float) -> float:
    """The ES1 limit of a charged capacitor: peak volts by capacitance, straight line between the table's points.

    :param capacitance_f: farads, more than 0 up to 1000
    :returns: volts, 60 to 1000
    :raises InputError: not a number, or out of range
    :source: IEC 62368-1, table 5
    """
    return _charged_limit(capacitance_f, "es1_v")


def es2_limit(capacitance_f: float) -> float:
    """The ES2 limit of a charged capacitor, beyond which it may hurt: peak volts by capacitance, as `touch_limit`.

    :param capacitance_f: farads, more than 0 up to 1000
    :returns: volts, 120 to 2000
    :raises InputError: not a number, or out of range
    :source: IEC 62368-1, table 5
    """
    return _charged_limit(capacitance_f, "es2_v")


def _charged_limit(capacitance_f: float, column: str) -> float:
    nanofarad = CAPACITANCE.check("capacitance_f", capacitance_f) * 1e9
    points = [(float(row["capacitance_nf"]), float(row[column])) for row in csv_table("charged_capacitor_limits")]
    if nanofarad <= points[0][0]:
        return points[0][1]
    for (c0, v0), (c1, v1) in itertools.pairwise(points):
        if nanofarad <= c1:
            return v0 + (v1 - v0) * (nanofarad - c0) / (c1 - c0)
    return points[-1][1]


def classify(capacitance_f: float, voltage_v: float, *, limits: Mapping[str, Any] = DEFAULT) -> Hazard:
    """What a charged capacitor can do to a person: the first band that holds, most specific first.

    E = ½ C V², Q = C V. Below 100 V only burns count; from 100 V the energy decides between startle, injury, lethal,
    blast and arc.

    :param capacitance_f: farads, more than 0 up to 1000
    :param voltage_v: volts, 0 to 1e6
    :param limits: band limits; the table `hazard_bands` unless the workshop changed it
    :returns: Hazard with energy (J), charge (C), ES1 touch limit (V) and band
    :raises InputError: not a number, or out of range
    :source: NFPA 70E (2021 on) art. 360 and annex R; IEC 62368-1 table 5

    >>> classify(1200e-6, 360).band
    'lethal'
    """
    energy = stored_energy(capacitance_f, voltage_v)
    touch = touch_limit(capacitance_f)
    return Hazard(energy, capacitance_f * voltage_v, touch, _band(energy, voltage_v, touch, limits))


def classify_together(held: Sequence[tuple[float, float]], *, limits: Mapping[str, Any] = DEFAULT) -> Hazard:
    """What several charges in one part can do together: their energies and charges add up, at the highest of their voltages.

    :param held: (farads, volts) of each
    :param limits: as `classify`
    :returns: Hazard
    :raises InputError: not a number, or out of range
    :source: as `classify`
    """
    each = [classify(farads, volts, limits=limits) for farads, volts in held]
    energy, volts = sum(hazard.energy_j for hazard in each), max(volts for _, volts in held)
    touch = touch_limit(sum(farads for farads, _ in held))
    return Hazard(energy, sum(hazard.charge_c for hazard in each), touch, _band(energy, volts, touch, limits))


SCALE_J = (1e-3, 1e4)  # J: what the scale of energies spans, a millijoule to ten kilojoules


@dataclass(frozen=True, slots=True)
class EnergyMark:
    """Where an energy stands on a scale of its logarithm, 0 to 1, and where touch limit, injury and death begin for this charge."""

    at: float
    touch: float
    injury: float
    lethal: float


def mark_of(hazard: Hazard, capacitance_f: float, voltage_v: float, *, limits: Mapping[str, Any] = DEFAULT) -> EnergyMark:
    """A charge on the scale of energies: equal steps are equal factors, so that 70 mJ and 288 J do not look alike.

    :param hazard: as `classify` has it
    :param capacitance_f: farads, for the energy at its touch limit ½ C V²
    :param voltage_v: volts, for where injury begins
    :param limits: as `classify`
    :returns: EnergyMark
    :raises InputError: a value is out of range
    :source: as `classify`

    >>> round(mark_of(classify(1e-6, 2000), 1e-6, 2000).at, 3)
    0.472
    """
    injury = limits["startle_high_v_j"] if voltage_v >= limits["high_v"] else limits["startle_low_v_j"]
    low, high = SCALE_J

    def on(joules: float) -> float:
        return math.log(min(max(joules, low), high) / low) / math.log(high / low)

    touch = stored_energy(capacitance_f, hazard.touch_limit_v)
    return EnergyMark(on(hazard.energy_j), on(min(touch, injury)), on(injury), on(limits["lethal_j"]))


def _band(energy: float, volts: float, touch: float, limits: Mapping[str, Any]) -> Band:
    shocks = volts >= limits["shock_v"]
    touchable = volts <= limits["touch_v"] or volts < touch
    injury_j = limits["startle_high_v_j"] if volts >= limits["high_v"] else limits["startle_low_v_j"]
    if not shocks and energy >= limits["burn_j"]:
        return "burn"
    if energy >= limits["arc_j"]:
        return "arc"
    if shocks and energy >= limits["blast_j"]:
        return "lethal_blast"
    if shocks and energy >= limits["lethal_j"]:
        return "lethal"
    if touchable:
        return "below_touch"
    return "injury" if energy >= injury_j else "startle"


def cautions(hazard: Hazard, voltage_v: float) -> tuple[str, ...]:
    """Short warnings that belong beside a charge.

    :param hazard: what it can do
    :param voltage_v: the voltage it was planned with
    :returns: sentences, gravest first
    :source: limits of the table `hazard_bands`
    """
    said = []
    if hazard.energy_j >= DEFAULT["arc_j"]:
        said.append("Not alone: over 1 kJ.")
    if hazard.energy_j >= DEFAULT["lethal_j"] and voltage_v >= DEFAULT["shock_v"]:
        said.append("Can kill after unplugging.")
    if hazard.band != "below_touch":
        said.append("Isolate, lock off, prove the meter. One hand.")
    return tuple(said)
