"""A capacitor falling through a resistance: times and the three targets."""

import math
from dataclasses import dataclass

from dusky_heron.core.discharge.limits import WorkingLimit
from dusky_heron.core.discharge.planning import PlannedCharge
from dusky_heron.core.errors import CAPACITANCE, RESISTANCE, TARGET_VOLTAGE, VOLTAGE

METER_LIMIT_V = 5.0  # V: a charge on the part breaks the capacitance range of most meters
HANDS_IN_V = 5.0


@dataclass(frozen=True, slots=True)
class TargetTime:
    """The time to one target: nominal, and worst with C and R at the top of their tolerance."""

    name: str
    target_v: float
    nominal_s: float
    worst_s: float


def time_to(capacitance_f: float, resistance_ohm: float, from_v: float, to_v: float) -> float:
    """Time for a capacitor to fall through a resistor: t = R C ln(V₀ / V).

    :param capacitance_f: farads, more than 0 up to 1000
    :param resistance_ohm: ohms, more than 0 up to 1e15
    :param from_v: starting volts, 0 to 1e6
    :param to_v: target volts, more than 0 up to 1e6
    :returns: seconds; 0.0 when already at or below the target
    :raises InputError: not a number, or out of range
    :source: first-order discharge of R and C

    >>> round(time_to(1e-6, 1e6, 100, 100 / math.e), 9)
    1.0
    """
    CAPACITANCE.check("capacitance_f", capacitance_f)
    RESISTANCE.check("resistance_ohm", resistance_ohm)
    VOLTAGE.check("from_v", from_v)
    TARGET_VOLTAGE.check("to_v", to_v)
    if from_v <= to_v:
        return 0.0
    return resistance_ohm * capacitance_f * (math.log(from_v) - math.log(to_v))


def voltage_after(capacitance_f: float, resistance_ohm: float, from_v: float, seconds: float) -> float:
    """Voltage left after a time: V = V₀ e^(−t/RC).

    :param capacitance_f: farads, more than 0 up to 1000
    :param resistance_ohm: ohms, more than 0 up to 1e15
    :param from_v: starting volts, 0 to 1e6
    :param seconds: at least 0
    :returns: volts
    :raises InputError: not a number, or out of range
    :source: first-order discharge of R and C
    """
    CAPACITANCE.check("capacitance_f", capacitance_f)
    RESISTANCE.check("resistance_ohm", resistance_ohm)
    return VOLTAGE.check("from_v", from_v) * math.exp(-seconds / (resistance_ohm * capacitance_f))


def target_times(charge: PlannedCharge, limit: WorkingLimit, nominal_ohm: float, highest_ohm: float) -> tuple[TargetTime, ...]:
    """The times to working limit, meter limit and hands-in through a resistance; worst with the bleeder taken as open.

    :param charge: what is to be emptied
    :param limit: the working limit that applies
    :param nominal_ohm: ohms as marked
    :param highest_ohm: ohms at the top of the tolerance
    :returns: one TargetTime for each target
    :raises InputError: a value is out of range
    :source: first-order discharge of R and C
    """
    targets = (("working limit", limit.target_v), ("meter limit", METER_LIMIT_V), ("hands-in", HANDS_IN_V))
    return tuple(
        TargetTime(
            name,
            target,
            time_to(charge.nominal_f, nominal_ohm, charge.each_v, target),
            time_to(charge.highest_f, highest_ohm, charge.each_v, target),
        )
        for name, target in targets
    )
