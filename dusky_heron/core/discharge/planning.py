"""What to plan a discharge with: the highest voltage a circuit can leave, and the worst charge a position can hold."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from functools import partial
from math import isfinite, sqrt

from dusky_heron.core.discharge.energy import Hazard, classify, classify_together
from dusky_heron.core.errors import SUPPLY_VOLTAGE, VOLTAGE, InputError
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import (
    ROLES,
    Arrangement,
    Basis,
    Condition,
    Evidence,
    Position,
    Quantity,
    Role,
    Surroundings,
)
from dusky_heron.core.model.told import told_by_place
from dusky_heron.core.model.voltages import EnergyVoltage
from dusky_heron.core.quantities import show

MAINS_HIGH = 1.10  # mains 10 % above nominal (IEC 60038)
CORRECTED_V = 400.0  # V DC behind active power-factor correction, whatever the mains
BRAKING_V = 800.0  # V DC: the DC link of a 400 V class drive after braking
READ_AT_LEAST = 0.5  # of the planned voltage: at less leakage, which sets the shares of a string, is another
MOST_PARTS = 12
RECHARGED: Mapping[Basis, str] = {
    Basis.MOTOR: "A motor that still turns recharges it: wait until it stands.",
    Basis.DRIVE_LINK: "A motor that still turns, or a second supply, recharges a DC link: lock both off.",
    Basis.POWER_FACTOR_CORRECTION: "A UPS or a second supply may recharge it.",
    Basis.THREE_PHASE_BRIDGE: "A second supply or a solar string may recharge it.",
}
MAY_RECHARGE = "A second supply, a UPS or a neighbour section may recharge it."


@dataclass(frozen=True, slots=True)
class PlannedCharge:
    """The worst a position can hold, and what one discharge has to take of it.

    `whole_f`, `whole_v` and `hazard` are of the whole position. `nominal_f`, `highest_f` and `each_v` are what the tool
    is laid across: the position itself, or one capacitor of a series string. `second_reading` when it is not the
    likeliest reading of the marking that holds the most.
    """

    whole_f: float
    voltage: EnergyVoltage
    hazard: Hazard
    nominal_f: float
    highest_f: float
    each_v: float
    discharges: int = 1
    second_reading: bool = False

    @property
    def each(self) -> Hazard:
        """What one discharge has to take."""
        return classify(self.highest_f, self.each_v)


def planning_voltage(
    marking: Marking,
    *,
    role: Role | None = None,
    supply_v: float | None = None,
    surroundings: Surroundings = Surroundings(),  # noqa: B008 - frozen
) -> EnergyVoltage | None:
    """The highest voltage a circuit can leave on a position, and never below its rated DC voltage until confirmed.

    Across the mains, or after a rectifier on it, √2 × supply × 1.10; a doubler twice that; a three-phase bridge
    √2 × line voltage × 1.10; a transformer √2 × secondary × 1.10; a motor or magnetron part √2 × its rated AC voltage,
    never below the mains peak; 400 V behind power-factor correction; 800 V on the DC link of a 400 V class drive. Not known:
    the rated DC voltage or √2 × the rated AC voltage.

    :param marking: what is printed
    :param role: what the part does, None when not known; sets the basis where none is chosen
    :param supply_v: nominal mains, line to line for three phases, V rms, None when not known
    :param surroundings: the circuit around it
    :returns: volts with the basis, or None when neither rating nor supply is known
    :raises InputError: the supply or the voltage known otherwise is out of range
    :source: peak of a sine wave; mains tolerance of IEC 60038
    """
    if supply_v is not None:
        SUPPLY_VOLTAGE.check("supply_v", supply_v)
    series = surroundings.count if surroundings.arrangement == Arrangement.SERIES else 1
    basis = surroundings.basis or (ROLES[role].basis if role else None) or Basis.UNKNOWN
    estimate = ESTIMATES[basis](marking, supply_v, surroundings.volts, series)
    if estimate and surroundings.confirmed:
        return EnergyVoltage(estimate.voltage_v, f"{estimate.rests_on}; the circuit was confirmed")
    rated = _rated_dc(marking, series)
    ratings = [rated, _rated_ac(marking, series)] if estimate is None else [rated]
    mains = ESTIMATES[Basis.MAINS](marking, supply_v, None, 1)
    if basis == Basis.MOTOR or (basis == Basis.UNKNOWN and estimate is None and not any(ratings)):
        ratings.append(mains)
    return max((b for b in (estimate, *ratings) if b), key=lambda b: b.voltage_v, default=None)


def _rated_dc(marking: Marking, series: int) -> EnergyVoltage | None:
    if not marking.rated_dc_v:
        return None
    each = f", {series} in series" if series > 1 else ""
    return EnergyVoltage(marking.rated_dc_v * series, f"its rated DC voltage{each}")


def _rated_ac(marking: Marking, series: int) -> EnergyVoltage | None:
    if not marking.ac_ratings:
        return None
    highest = max(marking.ac_ratings)
    each = f", {series} in series" if series > 1 else ""
    return EnergyVoltage(sqrt(2) * highest * series, f"the peak of its rated {highest:g} V AC{each}")


def _of_supply(factor: float, words: str) -> "Estimate":
    def estimate(_marking: Marking, supply_v: float | None, _volts: float | None, _series: int) -> EnergyVoltage | None:
        if supply_v is None:
            return None
        return EnergyVoltage(factor * sqrt(2) * MAINS_HIGH * supply_v, words.format(f"{supply_v:g} V mains at +10 %"))

    return estimate


def _of_secondary(_marking: Marking, _supply: float | None, volts: float | None, _series: int) -> EnergyVoltage | None:
    if volts is None:
        return None
    return EnergyVoltage(
        sqrt(2) * MAINS_HIGH * VOLTAGE.check("volts", volts), f"the peak of a {volts:g} V secondary, mains at +10 %"
    )


def _by_hand(_marking: Marking, _supply: float | None, volts: float | None, _series: int) -> EnergyVoltage | None:
    return None if volts is None else EnergyVoltage(VOLTAGE.check("volts", volts), "the voltage given by hand")


def _of_drive(_marking: Marking, supply_v: float | None, _volts: float | None, _series: int) -> EnergyVoltage | None:
    bridge = sqrt(2) * MAINS_HIGH * (supply_v or 0.0)
    return EnergyVoltage(max(BRAKING_V, bridge), "the DC link of a drive after braking, 400 V class")


Estimate = Callable[[Marking, float | None, float | None, int], EnergyVoltage | None]
ESTIMATES: Mapping[Basis, Estimate] = {
    Basis.MAINS: _of_supply(1, "across {}, the peak"),
    Basis.RECTIFIED: _of_supply(1, "rectified {}, the peak"),
    Basis.DOUBLER: _of_supply(2, "doubled from {}"),
    Basis.THREE_PHASE_BRIDGE: _of_supply(1, "a three-phase bridge on {}, the peak"),
    Basis.TRANSFORMER: _of_secondary,
    Basis.MOTOR: lambda marking, _supply, _volts, series: _rated_ac(marking, series),
    Basis.MAGNETRON: lambda marking, _supply, _volts, series: _rated_ac(marking, series),
    Basis.POWER_FACTOR_CORRECTION: lambda *_: EnergyVoltage(CORRECTED_V, "behind power-factor correction, on any mains"),
    Basis.DRIVE_LINK: _of_drive,
    Basis.BY_HAND: _by_hand,
    Basis.UNKNOWN: lambda *_: None,
}


def plan_charge(
    marking: Marking,
    *,
    role: Role | None = None,
    supply_v: float | None = None,
    surroundings: Surroundings = Surroundings(),  # noqa: B008 - frozen
    measured_high_f: float | None = None,
    read_share: float | None = None,
) -> PlannedCharge | None:
    """The worst charge a position can hold, over every plausible reading of its marking, at the top of its tolerance.

    The marked value is used even when a reading is lower: a broken internal joint can remake. A parallel bank is the sum
    of its parts; of a part whose sections have volts of their own each counts with its own. In a series string each part is
    emptied by itself and planned at the whole voltage, since a balancing resistor may be open or another part shorted, until the
    shares were read; the halves of a doubler are held at half by the mains.

    :param marking: what is printed on each part, with its alternatives
    :param role: what the position does, None when not known
    :param supply_v: nominal mains, V rms, None when not known
    :param surroundings: the circuit around it
    :param measured_high_f: the highest a part may be by its readings, farads; counts only where it is more than the mark
    :param read_share: the largest share of a string's voltage that was read on one of its parts; None where nobody read them
    :returns: PlannedCharge, or None when no voltage is known
    :raises InputError: a value is out of range
    :source: E = ½ C V² at the upper tolerance limit
    """
    if not 1 <= surroundings.count <= MOST_PARTS:
        raise InputError("count", f"A position holds 1 to {MOST_PARTS} parts.")
    found: list[PlannedCharge] = []
    voltage_of = partial(planning_voltage, role=role, supply_v=supply_v, surroundings=surroundings)
    for index, reading in enumerate(told_by_place(marking, role, surroundings.basis).plausible):
        voltage = voltage_of(reading)
        if voltage:
            highest = max(reading.highest_f, measured_high_f or 0.0)
            basis = surroundings.basis or (ROLES[role].basis if role else None)
            share = 1 / surroundings.count if basis == Basis.DOUBLER else read_share
            charge = _charge(reading, highest, voltage, surroundings, share, second=index > 0)
            found.append(_by_section(charge, reading, voltage_of))
    return max(found, key=lambda charge: charge.hazard.energy_j, default=None)


def plan_position(position: Position, evidence: Evidence) -> PlannedCharge | None:
    """The worst charge of a place, with what was read of its part: readings raise it, and shares that were read lower it.

    :param position: the place
    :param evidence: readings of its part
    :returns: PlannedCharge, or None when no voltage is known
    :raises InputError: a value is out of range
    :source: as `plan_charge`
    """
    plan = partial(
        plan_charge,
        position.marking,
        role=position.role,
        supply_v=position.supply_v,
        surroundings=position.surroundings,
        measured_high_f=measured_high(position.marking, evidence),
    )
    charge = plan()
    share = read_share(evidence, position.surroundings, charge.voltage.voltage_v) if charge else None
    return plan(read_share=share) if share else charge


def _charge(
    reading: Marking, highest: float, voltage: EnergyVoltage, around: Surroundings, share: float | None, *, second: bool
) -> PlannedCharge:
    nominal, volts = reading.capacitance_f, voltage.voltage_v
    if around.arrangement == Arrangement.SERIES and around.count > 1:
        each = (share or 1.0) * volts
        whole = max(classify(highest / around.count, volts), classify(highest, each), key=lambda hazard: hazard.energy_j)
        return PlannedCharge(highest / around.count, voltage, whole, nominal, highest, each, around.count, second)
    parts = around.count if around.arrangement == Arrangement.PARALLEL else 1
    return PlannedCharge(
        highest * parts, voltage, classify(highest * parts, volts), nominal * parts, highest * parts, volts, 1, second
    )


def _by_section(charge: PlannedCharge, reading: Marking, each: Callable[[Marking], EnergyVoltage | None]) -> PlannedCharge:
    """The charge of a part whose sections have volts of their own: each holds what those and the circuit allow."""
    sections = reading.sections
    if charge.discharges > 1 or charge.highest_f > reading.highest_f or len({s.rated_dc_v for s in sections}) == 1:
        return charge
    planned = [each(replace(reading, rated_dc_v=section.rated_dc_v)) or charge.voltage for section in sections]
    held = [(section.highest_f, voltage.voltage_v) for section, voltage in zip(sections, planned, strict=True)]
    return replace(charge, hazard=classify_together(held))


def read_share(evidence: Evidence, around: Surroundings, planned_v: float) -> float | None:
    """The largest share of a string's voltage that one of its parts was read to bear, by the intervals of the readings.

    :param evidence: readings; the newest DC volts of each part count
    :param around: the string
    :param planned_v: the voltage planned for the whole: shares read at less than half of it tell nothing
    :returns: a fraction of the whole; None where a part was not read
    :raises InputError: never
    :source: leakage and balancing resistors, which set the shares, are read by them alone
    """
    if around.arrangement != Arrangement.SERIES or around.count < 2:
        return None
    read = [evidence.screening(part, Quantity.VOLTS_DC) for part in range(around.count)]
    known = [reading for reading in read if reading and isfinite(reading.high)]
    if len(known) < around.count or sum(reading.low for reading in known) < READ_AT_LEAST * planned_v:
        return None
    return max(part.high / (part.high + sum(other.low for other in known if other is not part)) for part in known)


def measured_high(marking: Marking, evidence: Evidence) -> float | None:
    """The most a part may have by any reading of its capacitance; of several sections none speaks for all.

    :param marking: what is printed
    :param evidence: readings of the part
    :returns: farads, or None when nothing was read
    :raises InputError: never
    :source: the upper end of each reading's interval; of one beyond its range the value it is beyond
    """
    if len(marking.sections) != 1:
        return None
    kept = [r for r in evidence.readings if r.quantity == Quantity.CAPACITANCE and r.condition != Condition.NEW_PART]
    return max((r.high if isfinite(r.high) else r.value for r in kept if not r.beyond_range), default=None)


def explain_readings(marking: Marking, evidence: Evidence) -> str:
    """Why a low reading did not lower a plan, or that a high one raised it; nothing when neither is so."""
    for number, section in evidence.by_part(marking.sections):
        reading = evidence.screening(number)
        if reading and reading.high < section.lowest_f:
            marked = show(section.capacitance_f, "F")
            return f"It reads {show(reading.value, 'F')}; planned with the marked {marked}: a broken joint can remake."
        if reading and len(marking.sections) == 1 and isfinite(reading.high) and reading.high > marking.highest_f:
            return f"It reads {show(reading.value, 'F')}, more than its mark allows: planned with the reading's upper limit."
    return ""


def first_voltage(position: Position, charge: PlannedCharge) -> float:
    """The first voltage a standard judges a discharge by: √2 × supply for a part across the mains, else what is planned.

    :param position: the place
    :param charge: what was planned for it
    :returns: volts
    :raises InputError: never
    :source: limits of plug pins and capacitors are stated at rated voltage
    """
    return sqrt(2) * position.supply_v if position.supply_v and _across_mains(position, charge) else charge.each_v


def continuous_voltage(position: Position, charge: PlannedCharge) -> float:
    """The volts a resistor across a part bears for good: the supply (rms, +10 %) across the mains, else what is planned.

    :param position: the place
    :param charge: what was planned for it
    :returns: volts
    :raises InputError: never
    :source: mains tolerance of IEC 60038
    """
    return position.supply_v * MAINS_HIGH if position.supply_v and _across_mains(position, charge) else charge.each_v


def _across_mains(position: Position, charge: PlannedCharge) -> bool:
    basis = position.surroundings.basis or ROLES[position.role].basis
    return basis == Basis.MAINS and charge.discharges == 1


def recharged_by(role: Role | None, surroundings: Surroundings) -> str:
    """What may charge a position again after it was emptied."""
    basis = surroundings.basis or (ROLES[role].basis if role else None)
    return RECHARGED.get(basis, MAY_RECHARGE) if basis else MAY_RECHARGE


def circuit_cautions(role: Role | None) -> tuple[str, ...]:
    """Short warnings that belong to what a position does, whatever it holds."""
    return (ROLES[role].caution,) if role and ROLES[role].caution else ()


def explain_charge(charge: PlannedCharge) -> str:
    """The arithmetic of a planned charge, as a technician would check it."""
    volts = show(charge.voltage.voltage_v, "V")
    whole = f"E = ½CV² with C at the top of its tolerance, {show(charge.whole_f, 'F')}, and {volts}: {charge.voltage.rests_on}."
    if charge.discharges == 1:
        return whole
    if charge.each.energy_j >= charge.hazard.energy_j:
        alone = (
            f"{show(charge.highest_f, 'F')} at the top of its tolerance and {show(charge.each_v, 'V')}: {charge.voltage.rests_on}"
        )
        return f"E = ½CV² of one of the {charge.discharges} that has the whole voltage alone, {alone}. Each is emptied by itself."
    return f"{whole} Each of the {charge.discharges} is emptied by itself and planned at {show(charge.each_v, 'V')}."
