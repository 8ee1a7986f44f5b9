"""Three voltages that are never taken for one another: of energy, of rating, and of a standard's rule."""

import math
from dataclasses import dataclass

from dusky_heron.core.errors import SUPPLY_VOLTAGE


@dataclass(frozen=True, slots=True)
class EnergyVoltage:
    """The highest a circuit can leave on a place, with faults: what discharging is planned with; and what says so."""

    voltage_v: float
    rests_on: str


@dataclass(frozen=True, slots=True)
class RatingVoltage:
    """What a part of a place must be rated for: the highest in normal work at highest mains, of its own share; and what says so.

    `alternating` is rms, else it is direct. `least` where no more is known than that it is not lower.
    """

    volts: float
    alternating: bool
    rests_on: str
    least: bool = False


@dataclass(frozen=True, slots=True)
class RuleVoltage:
    """What the test of a standard begins from: the peak of the rated mains."""

    volts: float


def rule_voltage(supply_v: float) -> RuleVoltage:
    """The voltage the limits of plug pins are judged at: √2 × rated.

    :param supply_v: rated mains, V rms
    :returns: RuleVoltage
    :raises InputError: the supply is out of range
    :source: peak of a sine wave; the disconnection tests of IEC 60335-1 (22.5) and IEC 62368-1 (5.5.2.2)

    >>> round(rule_voltage(230).volts)
    325
    """
    return RuleVoltage(math.sqrt(2) * SUPPLY_VOLTAGE.check("supply_v", supply_v))
