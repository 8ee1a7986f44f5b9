"""Several capacitors in one position: shares of the voltage, and what a short from end to end leaves behind."""

from dataclasses import dataclass

from dusky_heron.core.discharge.energy import Hazard, classify
from dusky_heron.core.discharge.planning import PlannedCharge
from dusky_heron.core.errors import CAPACITANCE, InputError, Range
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import Arrangement, Surroundings
from dusky_heron.core.quantities import show

SIGNED_VOLTAGE = Range("Voltage", -1e6, 1e6, "V")


@dataclass(frozen=True, slots=True)
class StringShares:
    """A series string at its planned voltage.

    `nominal_v` on each part when all are alike, `worst_v` what each is planned at, `residue_v` the most a short from
    end to end leaves on one of them, with what that can do.
    """

    parts: int
    nominal_v: float
    worst_v: float
    rated_v: float | None
    residue_v: float
    residue: Hazard
    sentence: str


def string_after_short(capacitances_f: tuple[float, ...] | list[float], voltages_v: tuple[float, ...] | list[float]) -> list[float]:
    """Volts left on each capacitor of a series string that was shorted end to end: v′ᵢ = vᵢ − ΣV / (Cᵢ Σ1/C).

    The same charge flows through all of them, so that the voltages sum to zero but each keeps its own.

    :param capacitances_f: farads of each, more than 0 up to 1000
    :param voltages_v: signed volts on each before, −1e6 to 1e6
    :returns: signed volts on each after
    :raises InputError: none given, not as many voltages as capacitances, or out of range
    :source: conservation of charge in a series circuit

    >>> [round(v) for v in string_after_short([1200e-6, 1800e-6], [400, 400])]
    [-80, 80]
    """
    if not capacitances_f or len(capacitances_f) != len(voltages_v):
        raise InputError("voltages_v", "Give one voltage for each capacitor of the string.")
    for farads, volts in zip(capacitances_f, voltages_v, strict=True):
        CAPACITANCE.check("capacitances_f", farads)
        SIGNED_VOLTAGE.check("voltages_v", volts)
    moved = sum(voltages_v) / sum(1 / farads for farads in capacitances_f)
    return [volts - moved / farads for farads, volts in zip(capacitances_f, voltages_v, strict=True)]


def string_shares(marking: Marking, around: Surroundings, charge: PlannedCharge) -> StringShares | None:
    """How a series string shares its voltage, and what a short from end to end leaves; None when it is no string.

    The residue is worked out for parts that carried equal voltages, as balancing resistors or leakage make them, with
    capacitances at opposite ends of their tolerance.

    :param marking: what is printed on each part
    :param around: the string
    :param charge: what was planned for it
    :returns: StringShares or None
    :raises InputError: never
    :source: voltages share inversely as capacitance, in proportion to balancing resistors; conservation of charge
    """
    if around.arrangement != Arrangement.SERIES or around.count < 2:
        return None
    total = charge.voltage.voltage_v
    low, high = marking.lowest_f, marking.highest_f
    equal = [total / around.count] * around.count
    corners = ([low] * k + [high] * (around.count - k) for k in range(1, around.count))
    left = [(abs(v), c) for corner in corners for v, c in zip(string_after_short(corner, equal), corner, strict=True)]
    volts, farads = max(left, key=lambda part: (round(part[0], 9), part[1]))
    shares = (
        f"its share was read, {show(charge.each_v, 'V')} at most"
        if charge.each_v < total
        else f"the whole {show(total, 'V')} may stand on one"
    )
    why = "" if charge.each_v < total else ", where a balancing resistor is open or another part shorted; reading the shares tells"
    return StringShares(
        parts=around.count,
        nominal_v=total / around.count,
        worst_v=charge.each_v,
        rated_v=marking.rated_dc_v,
        residue_v=volts,
        residue=classify(farads, volts),
        sentence=(
            f"Discharge every capacitor by itself: {shares}{why}. A short from end to end may leave "
            f"{show(volts, 'V')} on one and as much the other way on the rest."
        ),
    )


def discharge_points(marking: Marking, around: Surroundings, name: str) -> tuple[str, ...]:
    """Across which terminals to lay the tool, one after the other.

    :param marking: what is printed on each part
    :param around: how the parts are connected
    :param name: the position
    :returns: terminals in words, in order
    :raises InputError: never
    :source: each capacitor whose terminals are its own keeps its own charge
    """
    if around.arrangement == Arrangement.SERIES and around.count > 1:
        return tuple(f"across {name} part {k}" for k in range(1, around.count + 1))
    if len(marking.sections) > 1:
        sections = marking.sections
        if any(section.is_y for section in sections):
            return ("line to neutral", "line to earth", "neutral to earth")
        return tuple(f"common to section {k}, {show(s.capacitance_f, 'F')}" for k, s in enumerate(sections, start=1))
    if around.arrangement == Arrangement.PARALLEL and around.count > 1:
        return ("across the bank", f"then each of the {around.count} by itself: a link may be broken")
    return ("across its terminals",)
