"""Proving dead: which pairs to measure, which meter may do it, which part can never be proved, and how long a proof holds."""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

from dusky_heron.core.discharge.falling import HANDS_IN_V
from dusky_heron.core.discharge.planning import PlannedCharge
from dusky_heron.core.errors import InputError, Range
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import Arrangement, Basis, Evidence, Role, Surroundings
from dusky_heron.core.quantities import show

MULTIMETER_UP_TO_V = 1000.0
PROOF_S, FIRST_PROOF_S = 30 * 60.0, 60.0
AGREES = 0.8  # of its first reading that a known source has to show again
FAR_LOW = 0.5  # of the marked value: below this a joint inside may be broken
CATEGORIES = ("II", "III", "IV")
READ_VOLTS = Range("The reading", -1e6, 1e6, "V")


@dataclass(frozen=True, slots=True)
class Voltmeter:
    """What a meter, or a meter with its probe, may be laid across."""

    name: str
    highest_v: float
    category: str = ""
    category_v: float = 0.0
    high_voltage_probe: bool = False


@dataclass(frozen=True, slots=True)
class PairReading:
    """What a pair of terminals showed, on DC and on AC; None where it was not measured."""

    pair: str
    dc_v: float | None
    ac_v: float | None


@dataclass(frozen=True, slots=True)
class Left:
    """A voltage that is left on a pair: the field it was typed into, what it means, and that in short."""

    field: str
    short: str
    sentence: str
    voltage_v: float


def proof_pairs(marking: Marking, around: Surroundings) -> tuple[str, ...]:
    """Every pair of terminals, and each terminal to chassis, that has to be measured.

    :param marking: what is printed on each part, for its sections
    :param around: how the parts are connected
    :returns: pairs in words, in the order to measure them
    :raises InputError: never
    :source: any two points may hold a voltage that the others do not show
    """
    if any(section.is_y for section in marking.sections) and len(marking.sections) > 1:
        return ("line to neutral", "line to chassis", "neutral to chassis")
    if around.arrangement == Arrangement.PARALLEL and around.count > 1:
        parts = tuple(f"across part {k}" for k in range(1, around.count + 1))
        return (*parts, "one side to chassis", "other side to chassis")
    if around.arrangement == Arrangement.SERIES and around.count > 1:
        ends = ("top", *(f"joint {k}" for k in range(1, around.count)), "bottom")
    elif len(marking.sections) > 1:
        ends = ("common", *(f"section {k}" for k in range(1, len(marking.sections) + 1)))
    else:
        ends = ("one terminal", "the other")
    between = tuple(f"{a} to {b}" for a, b in itertools.combinations(ends, 2))
    return (*between, *(f"{end} to chassis" for end in ends))


def needs_probe(charge: PlannedCharge, role: Role | None, around: Surroundings) -> bool:
    """Whether a bare multimeter is refused: above 1 kV, and on magnetron supplies."""
    magnetron = role == Role.MAGNETRON or around.basis == Basis.MAGNETRON
    return magnetron or charge.voltage.voltage_v > MULTIMETER_UP_TO_V


def meter_refusals(
    meter: Voltmeter, charge: PlannedCharge, *, role: Role | None, around: Surroundings, fixed_wiring: bool
) -> tuple[str, ...]:
    """Why a meter may not be used to prove a charge gone; empty when it may.

    :param meter: what it may be laid across
    :param charge: what was planned
    :param role: what the position does
    :param around: the circuit
    :param fixed_wiring: equipment on fixed wiring asks for CAT III, on a plug for CAT II
    :returns: sentences
    :raises InputError: never
    :source: IEC 61010-2-033 (meters), IEC 61010-031 (probes), measurement categories of IEC 61010-1
    """
    volts = charge.voltage.voltage_v
    said = []
    if needs_probe(charge, role, around) and not meter.high_voltage_probe:
        said.append("A bare multimeter is refused here: a rated high-voltage probe, supply off, never live.")
    if meter.highest_v < volts:
        said.append(f"{meter.name} is made for {show(meter.highest_v, 'V')}: {show(volts, 'V')} may be there.")
    if not meter.high_voltage_probe:
        asked = "III" if fixed_wiring else "II"
        if meter.category not in CATEGORIES:
            said.append(f"The measurement category of {meter.name} is not known: enter it under Meters.")
        elif CATEGORIES.index(meter.category) < CATEGORIES.index(asked):
            said.append(f"CAT {meter.category} is not enough: CAT {asked} is asked for here.")
        elif meter.category_v < min(volts, MULTIMETER_UP_TO_V):
            said.append(f"CAT {meter.category} {show(meter.category_v, 'V')} does not cover {show(volts, 'V')}.")
    return tuple(said)


def hides_charge(marking: Marking, evidence: Evidence) -> str:
    """Why a part cannot be proved empty from outside, or "" when it can: it reads open or far low.

    :param marking: what is printed
    :param evidence: readings of it, oldest first; the newest of each section counts
    :returns: a sentence or ""
    :raises InputError: never
    :source: a broken joint inside hides a charge, and may remake
    """
    for number, section in evidence.by_part(marking.sections):
        reading = evidence.screening(number)
        if reading and reading.high < FAR_LOW * section.capacitance_f:
            return (
                f"It reads {show(reading.value, 'F')} of {show(section.capacitance_f, 'F')}: a broken joint inside may hide a "
                "charge. It cannot be proved empty from outside: short it through the resistor, keep it shorted, tag it."
            )
    return ""


def not_settled(marking: Marking, around: Surroundings) -> str:
    """Why a part is not proved yet: its marking leaves open what it may hold; "" when it is settled.

    Volts that only the marking would tell do not matter where a technician has confirmed the circuit. What class it has, and
    how far its value may be off, changes nothing about a reading of volts.

    :param marking: what is printed, as its place settles it
    :param around: the circuit around it
    :returns: a sentence or ""
    :raises InputError: never
    :source: the meter and the tool have to cover the voltage that is planned, and nothing is planned on what is not known

    >>> from dusky_heron.core.markings import read_marking
    >>> not_settled(read_marking("0.1 µF 630 V"), Surroundings())
    'Its marking is not settled: Which volts is it rated for? Nothing is proved until it is.'
    """
    known = {"class", "tolerance"} | ({"voltage"} if around.confirmed else set())
    asks = next((doubt.asks for doubt in marking.doubts if doubt.about not in known), "")
    return f"Its marking is not settled: {asks} Nothing is proved until it is." if asks else ""


def left_on(readings: Sequence[PairReading]) -> tuple[Left, ...]:
    """The readings that show a voltage at or above the hands-in target: the part is not empty, whatever the others show.

    :param readings: what each pair showed so far
    :returns: one Left for each
    :raises InputError: a reading is no voltage; the field names the pair
    :source: hands-in target
    """
    found = []
    for index, reading in enumerate(readings):
        for kind, volts in (("dc", reading.dc_v), ("ac", reading.ac_v)):
            field = f"readings.{index}.{kind}"
            if volts is not None and abs(READ_VOLTS.check(field, volts)) >= HANDS_IN_V:
                short = f"{show(abs(volts), 'V')} {kind.upper()} is left, {reading.pair}"
                found.append(Left(field, short, f"{short}: it is not empty. Empty it again.", abs(volts)))
    return tuple(found)


def check_proof(asked: Sequence[str], readings: Sequence[PairReading], known_before_v: float, known_after_v: float) -> float:
    """Whether a live–dead–live sequence proves a part below the hands-in target.

    :param asked: the pairs of `proof_pairs`
    :param readings: what each showed, in the same order
    :param known_before_v: what the meter showed on a known source first
    :param known_after_v: what it showed there again afterwards
    :returns: the highest voltage found, volts
    :raises InputError: the meter was not proved, a pair is missing, or a voltage is left; the field names the pair
    :source: live–dead–live sequence of IEC 60364 and EN 50110-1

    >>> check_proof(["a to b"], [PairReading("a to b", 0.4, 0.01)], 230, 229)
    0.4
    """
    for field, known in (("known_before", known_before_v), ("known_after", known_after_v)):
        if abs(READ_VOLTS.check(field, known)) <= HANDS_IN_V:
            raise InputError(field, f"A known source shows more than {HANDS_IN_V:g} V: the meter is not proved.")
    if abs(known_after_v) < AGREES * abs(known_before_v):
        raise InputError("known_after", "The known source no longer shows what it did: nothing is proved.")
    if [reading.pair for reading in readings] != list(asked):
        raise InputError("readings", "Measure every pair that is listed, and each terminal to chassis.")
    for index, reading in enumerate(readings):
        for kind, volts in (("dc", reading.dc_v), ("ac", reading.ac_v)):
            if volts is None:
                raise InputError(f"readings.{index}.{kind}", f"Measure it on {kind.upper()} too, {reading.pair}.")
    for left in left_on(readings):
        raise InputError(left.field, left.sentence)
    return max(abs(volts) for reading in readings for volts in (reading.dc_v, reading.ac_v) if volts is not None)


def proof_holds(rebound_v: float, seconds_since_first: float | None) -> float:
    """How long a proof of an unshorted part holds, in seconds.

    Where more than the hands-in target may creep back, the first proof holds a minute; one taken a minute or more after
    it holds half an hour.

    :param rebound_v: what may creep back, volts
    :param seconds_since_first: since the first proof after it was emptied, None for the first
    :returns: 60 or 1800 s
    :raises InputError: never
    :source: rebound is taken after a minute (IEC 60384-1); half an hour is the workshop's default
    """
    waited = seconds_since_first is not None and seconds_since_first >= FIRST_PROOF_S
    return PROOF_S if rebound_v <= HANDS_IN_V or waited else FIRST_PROOF_S
