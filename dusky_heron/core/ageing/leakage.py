"""How much an electrolytic may leak: one figure for judging and for re-forming."""

import math

from dusky_heron.core.errors import CAPACITANCE, VOLTAGE

LOW_V, RADIAL_TO_V = 100.0, 450.0  # up to the first 0.01·C·V + 3 µA, up to the second 0.02·C·V + 25 µA
RADIAL_TO_UFV = 100_000.0  # µF·V: above this no part with radial leads is made for more than 100 V
SNAP_IN_FROM_F = 47e-6  # from here on parts for more than 100 V are made snap-in or with screws
IN_SERVICE = 2.0  # times the figure of a new part is still good in service


def leakage_limit(rated_v: float, capacitance_f: float) -> float:
    """The most a new electrolytic leaks after minutes, at these volts, by the larger of the figures of those made so.

    0.01·C·V + 3 µA up to 100 V, 0.02·C·V + 25 µA to 450 V (radial parts); 3·√(C·V) µA (snap-in and screw types, and above 450 V),
    C in µF, V in volts. The construction is seldom printed, so the larger of those that fit is taken.

    :param rated_v: volts it is held at: rated, or those of a step of re-forming
    :param capacitance_f: marked value, farads
    :returns: amperes
    :raises InputError: a value out of range
    :source: usual planning figures of data sheets; the type's own data sheet decides

    >>> round(leakage_limit(400, 82e-6) * 1e6), round(leakage_limit(25, 100e-6) * 1e6), round(leakage_limit(400, 1500e-6) * 1e6)
    (681, 28, 2324)
    """
    charge = CAPACITANCE.check("capacitance_f", capacitance_f) * 1e6 * VOLTAGE.check("rated_v", rated_v)
    if rated_v <= LOW_V:
        return (0.01 * charge + 3) * 1e-6
    radial, snap_in = 0.02 * charge + 25, 3 * math.sqrt(charge)
    fitting = [radial] if rated_v <= RADIAL_TO_V and charge <= RADIAL_TO_UFV else []
    fitting += [snap_in] if capacitance_f >= SNAP_IN_FROM_F or not fitting else []
    return max(fitting) * 1e-6


def leakage_in_service(rated_v: float, capacitance_f: float) -> float:
    """The most an electrolytic in service may leak: twice that of a new one.

    :param rated_v: volts it is held at
    :param capacitance_f: marked value, farads
    :returns: amperes
    :raises InputError: a value out of range
    :source: as `leakage_limit`; twice that is still good in service

    >>> round(leakage_in_service(400, 82e-6) * 1e6)
    1362
    """
    return IN_SERVICE * leakage_limit(rated_v, capacitance_f)
