"""What a part of a place must be rated for, by its own share of the circuit."""

import math

from dusky_heron.core.discharge.planning import CORRECTED_V, MAINS_HIGH
from dusky_heron.core.model import ROLES, Arrangement, Basis, Position
from dusky_heron.core.model.terms import DIRECT_BASES
from dusky_heron.core.model.voltages import RatingVoltage


def rating_voltage(position: Position) -> RatingVoltage | None:
    """What a part must be rated for: the highest in normal work at highest mains, of its own share.

    On AC: the supply across it, which its rating states nominally; of a motor part the capacitor volts of the motor's plate, never
    under the supply; the secondary across a magnetron part. On DC: rectified mains of one phase or three √2 × supply × 1.10; each
    half of a doubler the same; a transformer √2 × secondary × 1.10; 400 V behind power-factor correction; volts known otherwise
    as they are; in a string of equal parts the share of one. What feeds it is the usual of its role where nobody chose: then, as of
    a motor part without its plate, no more is known than that it is not lower.

    :param position: the place
    :returns: RatingVoltage; None where its circuit is not known
    :raises InputError: never
    :source: peak of a sine wave; mains tolerance of IEC 60038
    """
    around, supply = position.surroundings, position.supply_v
    basis = around.basis or ROLES[position.role].basis
    if basis in (Basis.MAINS, Basis.MOTOR, Basis.MAGNETRON):
        known = {
            Basis.MAINS: ((supply, "the supply"),),
            Basis.MOTOR: (
                (around.volts, "the capacitor volts of its plate"),
                (supply, "the supply, and its winding lifts it higher"),
            ),
            Basis.MAGNETRON: ((around.volts, "the secondary across it"),),
        }[basis]
        least = basis == Basis.MOTOR and not around.volts
        return max((RatingVoltage(v, True, on, least) for v, on in known if v), key=lambda found: found.volts, default=None)
    volts, on = _direct(basis, supply, around.volts)
    if volts is None:
        return None
    series = around.count if around.arrangement == Arrangement.SERIES and basis != Basis.DOUBLER else 1
    return RatingVoltage(volts / series, False, on, least=around.basis is None)


def _direct(basis: Basis, supply: float | None, volts: float | None) -> tuple[float | None, str]:
    peak = math.sqrt(2) * MAINS_HIGH
    if basis == Basis.POWER_FACTOR_CORRECTION:
        return CORRECTED_V, "power-factor correction"
    if basis == Basis.TRANSFORMER:
        return volts and peak * volts, "the peak of its secondary at the highest mains"
    if basis == Basis.BY_HAND:
        return volts, "volts known otherwise"
    if basis in DIRECT_BASES:
        return supply and peak * supply, "the highest mains, rectified"
    return None, ""
