"""Capacitors in series: how they share the voltage, by capacitance at first and by leakage in the end, and their balancing."""

from collections.abc import Sequence
from dataclasses import dataclass

from dusky_heron.core.discharge import time_to
from dusky_heron.core.errors import CAPACITANCE, RESISTANCE, VOLTAGE, InputError, Range

LEAKAGE = Range("Leakage", 0.0, 10.0, "A")
TIMES_SPREAD = 10  # the balancing current is this many times the spread of leakage: usual practice
TARGET_V = 5.0


@dataclass(frozen=True, slots=True)
class StringShare:
    """How a string shares its voltage; volts of each capacitor in order.

    `first_v` when it is switched on, by capacitance; `settled_v` in the end, by balancing resistors and leakage. `most_ohm` is
    the largest balancing resistor advised, None without a spread. `loss_w` of each resistor, `discharge_s` until the slowest
    section is at 5 V through its own resistor.
    """

    first_v: tuple[float, ...]
    settled_v: tuple[float, ...]
    worst_v: float
    most_ohm: float | None
    loss_w: tuple[float, ...]
    discharge_s: float

    def over(self, rated_v: float) -> tuple[bool, ...]:
        """Which stand at more than a rating, at first or in the end."""
        return tuple(max(first, settled) > rated_v for first, settled in zip(self.first_v, self.settled_v, strict=True))


def share_string(capacitances_f: Sequence[float], leakages_a: Sequence[float], balance_ohm: float, total_v: float) -> StringShare:
    """How capacitors in series share a voltage, each with its leakage and an equal resistor across it.

    At first V_i = V·(1/C_i)/Σ(1/C); in the end V_i/R + I_i is the same for all: V_i = V/n + R·(mean I − I_i).

    :param capacitances_f: of each, farads
    :param leakages_a: of each at its voltage, amperes
    :param balance_ohm: the resistor across each
    :param total_v: across the string, volts
    :returns: StringShare
    :raises InputError: a value out of range, or lists of different lengths (`leakages_a`)
    :source: circuit equations; balancing R ≤ V/(10 × spread of leakage), V of one section, as usual practice
    """
    n = len(capacitances_f)
    if n < 2:
        raise InputError("capacitances_f", "A string has two capacitors or more.")
    if len(leakages_a) != n:
        raise InputError("leakages_a", f"Type {n} leakage currents, one for each capacitor.")
    for farads in capacitances_f:
        CAPACITANCE.check("capacitances_f", farads)
    for amps in leakages_a:
        LEAKAGE.check("leakages_a", amps)
    ohms, volts = RESISTANCE.check("balance_ohm", balance_ohm), VOLTAGE.check("total_v", total_v)
    inverse = sum(1 / farads for farads in capacitances_f)
    first = tuple(volts / farads / inverse for farads in capacitances_f)
    mean = sum(leakages_a) / n
    settled = tuple(volts / n + ohms * (mean - amps) for amps in leakages_a)
    spread = max(leakages_a) - min(leakages_a)
    each = [time_to(farads, ohms, max(v, 0.0), TARGET_V) for farads, v in zip(capacitances_f, settled, strict=True)]
    return StringShare(
        first_v=first,
        settled_v=settled,
        worst_v=max(*first, *settled),
        most_ohm=volts / n / (TIMES_SPREAD * spread) if spread > 0 else None,
        loss_w=tuple(v * v / ohms for v in settled),
        discharge_s=max(each),
    )
