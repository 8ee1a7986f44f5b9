"""Plug pins after unplugging: what the X capacitors leave on them, against every limit that applies."""

from collections.abc import Iterable
from dataclasses import dataclass

from dusky_heron.core.discharge.bleeders import TOLERANCE, LimitCheck, check_limits
from dusky_heron.core.discharge.falling import voltage_after
from dusky_heron.core.discharge.limits import PLUG_PINS, DischargeLimit
from dusky_heron.core.discharge.planning import MAINS_HIGH
from dusky_heron.core.model import Position
from dusky_heron.core.model.materials import MATERIALS
from dusky_heron.core.model.voltages import rule_voltage

AFTER_S = (1.0, 2.0, 5.0)


@dataclass(frozen=True, slots=True)
class PinVoltage:
    """What is left after a time: at rated voltage, and at the planning figure with the mains 10 % high."""

    after_s: float
    rated_v: float
    planned_v: float


@dataclass(frozen=True, slots=True)
class PlugPins:
    """The voltage on the pins at three times, and each limit held against it."""

    capacitance_f: float
    resistance_ohm: float | None
    voltages: tuple[PinVoltage, ...]
    checks: tuple[LimitCheck, ...]


def plug_pins(capacitance_f: float, bleeder_ohm: float | None, supply_v: float, rows: Iterable[DischargeLimit]) -> PlugPins:
    """Voltage between the pins 1, 2 and 5 s after unplugging at the worst phase, the peak, and the limits it has to meet.

    :param capacitance_f: all capacitance across the line at the top of its tolerance, farads
    :param bleeder_ohm: what is fitted across it as marked or measured; None when open or absent: only leakage is left
    :param supply_v: rated mains, V rms
    :param rows: limits that apply to the equipment; those for plug pins are held against
    :returns: PlugPins; judged at √2 × rated voltage, planned at +10 %
    :raises InputError: a value is out of range
    :source: first-order discharge; the clause in the id of each row
    """
    peak = rule_voltage(supply_v).volts
    leakage = MATERIALS["polypropylene"].rc_s[1] / capacitance_f
    ohm = bleeder_ohm * (1 + TOLERANCE) if bleeder_ohm else leakage
    return PlugPins(
        capacitance_f,
        bleeder_ohm,
        tuple(
            PinVoltage(
                seconds,
                voltage_after(capacitance_f, ohm, peak, seconds),
                voltage_after(capacitance_f, ohm, peak * MAINS_HIGH, seconds),
            )
            for seconds in AFTER_S
        ),
        check_limits([row for row in rows if row.place == PLUG_PINS], capacitance_f, ohm, peak, peak * MAINS_HIGH),
    )


def across_line(position: Position) -> float:
    """What a position puts across the line: its X sections at the top of their tolerance; of one without classes all.

    :param position: a place with its part's marking
    :returns: farads
    :raises InputError: never
    :source: the largest value within tolerance holds its voltage longest
    """
    sections = position.marking.sections
    x = [s for s in sections if s.is_x] or list(sections)
    return sum(s.highest_f for s in x) * position.surroundings.count
