"""Proving dead: which pairs to measure, which meter may do it, which part can never be proved, and what a proof takes."""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from dusky_heron.core.discharge.energy import classify
from dusky_heron.core.discharge.falling import HANDS_IN_V
from dusky_heron.core.discharge.planning import PlannedCharge
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings.model import Marking, Section
from dusky_heron.core.metering.volts import Volts
from dusky_heron.core.model import QUANTITY_TITLES, Arrangement, Basis, Condition, Evidence, Quantity, Reading, Role, Surroundings
from dusky_heron.core.model.materials import made_of
from dusky_heron.core.model.terms import NOT_DECIDING
from dusky_heron.core.quantities import show

MULTIMETER_UP_TO_V = 1000.0
TIMES_TARGET = 10.0  # the meter is proved on a source of at least so many times the target
AGREES_WITHIN = 0.10  # of its first reading: a known source that differs by more proves nothing, however coarse the meter
FAR_LOW = 0.5  # of the marked value: below this a joint inside may be broken
NOTHING_LEFT = 0.05  # of the marked value: metallised film wears down whole, but below a twentieth it is a joint, not wear
LOADS_OHM = 1e6  # a meter of less on volts loads away what is only coupled in
CATEGORIES = ("II", "III", "IV")
CHARGING = frozenset({Quantity.INSULATION, Quantity.LEAKAGE})  # what is read with volts of the tester on the part
HEALING = frozenset({"polypropylene", "polyester", "paper"})  # metallised, these heal, and wear down whole as they do


class MeterKind(StrEnum):
    """What is laid on to prove a part empty: a two-pole detector tells mains from none, never the hands-in target."""

    MULTIMETER = "multimeter"
    PROBE = "probe"
    TWO_POLE = "two_pole"


@dataclass(frozen=True, slots=True)
class Voltmeter:
    """What a meter, or a meter with its probe, may be laid across."""

    name: str
    highest_v: float
    category: str = ""
    category_v: float = 0.0
    kind: MeterKind = MeterKind.MULTIMETER
    input_ohm: float = 10e6

    @property
    def probe(self) -> bool:
        """Whether it is a high-voltage probe."""
        return self.kind == MeterKind.PROBE


@dataclass(frozen=True, slots=True)
class PairReading:
    """What a pair of terminals showed, on DC and on AC, and on AC at low impedance; None where it was not measured."""

    pair: str
    dc: Volts | None
    ac: Volts | None
    low: Volts | None = None

    @property
    def decides_ac(self) -> Volts | None:
        """The AC that counts: at low impedance where it was read so."""
        return self.low or self.ac


@dataclass(frozen=True, slots=True)
class KnownSource:
    """What the meter showed on a source that is known to be live, before and after, of one kind."""

    before: Volts
    after: Volts


@dataclass(frozen=True, slots=True)
class Left:
    """A voltage that is left on a pair: the field it was typed into, what it means, and that in short."""

    field: str
    short: str
    sentence: str
    voltage_v: float


def proof_pairs(marking: Marking, around: Surroundings) -> tuple[str, ...]:
    """Every pair of terminals, and each terminal to chassis, that has to be measured.

    In a bank the parts share their terminals, and each is measured across itself, since its link may be broken. In a string each
    joint is a terminal. Parts of several sections have all theirs, each part by itself.

    :param marking: what is printed on each part, for its sections
    :param around: how the parts are connected
    :returns: pairs in words, in the order to measure them
    :raises InputError: never
    :source: any two points may hold a voltage that the others do not show
    """
    ends = _terminals(marking)
    several = around.count > 1 and around.arrangement != Arrangement.SINGLE
    if not several:
        return _all_pairs(ends)
    if len(ends) > 2:
        return tuple(f"part {k}: {pair}" for k in range(1, around.count + 1) for pair in _all_pairs(ends))
    if around.arrangement == Arrangement.PARALLEL:
        parts = tuple(f"across part {k}" for k in range(1, around.count + 1))
        return (*parts, "one side to chassis", "other side to chassis")
    return _all_pairs(("top", *(f"joint {k}" for k in range(1, around.count)), "bottom"))


def _terminals(marking: Marking) -> tuple[str, ...]:
    """The terminals of one part that no other section shares; those of a network to earth are the lines, and earth is chassis."""
    sections = marking.sections
    to_earth = sum(section.is_y for section in sections)
    if to_earth and len(sections) > 1:
        return ("line", "neutral") if to_earth <= 2 else tuple(f"line {k}" for k in range(1, to_earth + 1))
    if len(sections) > 1:
        return ("common", *(f"section {k}" for k in range(1, len(sections) + 1)))
    return ("one terminal", "the other")


def _all_pairs(ends: Sequence[str]) -> tuple[str, ...]:
    between = tuple(f"{a} to {b}" for a, b in itertools.combinations(ends, 2))
    return (*between, *(f"{end} to chassis" for end in ends))


def needs_probe(charge: PlannedCharge, role: Role | None, around: Surroundings) -> bool:
    """Whether a bare multimeter is refused: above 1 kV, and on magnetron supplies."""
    magnetron = role == Role.MAGNETRON or around.basis == Basis.MAGNETRON
    return magnetron or charge.voltage.voltage_v > MULTIMETER_UP_TO_V


def meter_refusals(
    meter: Voltmeter,
    charge: PlannedCharge,
    *,
    role: Role | None,
    around: Surroundings,
    fixed_wiring: bool,
    after_probe_v: float | None = None,
) -> tuple[str, ...]:
    """Why a meter may not be used to prove a charge gone; empty when it may.

    :param meter: what it may be laid across
    :param charge: what was planned
    :param role: what the position does
    :param around: the circuit
    :param fixed_wiring: equipment on fixed wiring asks for CAT III, on a plug for CAT II
    :param after_probe_v: the most a probe left possible, volts, where one was laid on first and the part shorted since
    :returns: sentences
    :raises InputError: never
    :source: IEC 61010-2-033 (meters), IEC 61010-031 (probes), measurement categories of IEC 61010-1
    """
    if meter.kind == MeterKind.TWO_POLE:
        return (f"A two-pole detector tells that the mains is gone, never that less than {HANDS_IN_V:g} V is left.",)
    volts = charge.voltage.voltage_v if after_probe_v is None else after_probe_v
    said = []
    if after_probe_v is None and needs_probe(charge, role, around) and not meter.probe:
        said.append("A bare multimeter is refused here: a rated high-voltage probe, supply off, never live.")
    if meter.highest_v < volts:
        said.append(f"{meter.name} is made for {show(meter.highest_v, 'V')}: {show(volts, 'V')} may be there.")
    if not meter.probe:
        asked = "III" if fixed_wiring else "II"
        if meter.category not in CATEGORIES:
            said.append(f"The measurement category of {meter.name} is not known: enter it under Meters.")
        elif CATEGORIES.index(meter.category) < CATEGORIES.index(asked):
            said.append(f"CAT {meter.category} is not enough: CAT {asked} is asked for here.")
        elif meter.category_v < min(volts, MULTIMETER_UP_TO_V):
            said.append(f"CAT {meter.category} {show(meter.category_v, 'V')} does not cover {show(volts, 'V')}.")
    return tuple(said)


def hides_charge(marking: Marking, evidence: Evidence, *, role: Role | None = None, charge: PlannedCharge | None = None) -> str:
    """Why a part cannot be proved empty from outside, or "" when it can: it read open or far low, whatever it read in circuit.

    Metallised film wears down whole, and is condemned for it, not feared, as long as it shows a twentieth of its value. A part that
    could not pass the touch limit whole hides nothing that matters.

    :param marking: what is printed
    :param evidence: readings of it, oldest first; only one with a lead lifted or the part out takes back an earlier one
    :param role: what it does, None when not known
    :param charge: what was planned for it, None when not known
    :returns: a sentence or ""
    :raises InputError: never
    :source: a broken joint inside hides a charge, and may remake; self-healing of metallised film (IEC 60384-14, IEC 60252-1)
    """
    least = NOTHING_LEFT if _wears_whole(marking, role) else FAR_LOW
    for number, section in evidence.by_part(marking.sections):
        if charge and classify(section.highest_f, charge.voltage.voltage_v).band == "below_touch":
            continue
        reading = _found_low(evidence.of(number, Quantity.CAPACITANCE), section, least)
        if reading:
            return (
                f"It reads {show(reading.value, 'F')} of {show(section.capacitance_f, 'F')}: a broken joint inside may hide a "
                "charge. It cannot be proved empty from outside: short it through the resistor, keep it shorted, tag it."
            )
    return ""


def charged_by(quantity: Quantity, volts: float | None) -> str:
    """Why a proof counts no more after a reading: an insulation or leakage tester puts its volts on the part.

    :param quantity: what was read
    :param volts: the test volts as they were noted, None where nobody did
    :returns: a sentence, or "" where the meter leaves less than the hands-in target
    :raises InputError: never
    :source: IEC 61557-2: not every tester empties what it has charged; E = ½ C V²

    >>> charged_by(Quantity.LEAKAGE, 63.0)
    'A leakage reading at 63 V has charged it: empty it, and prove it again before a hand touches it.'
    """
    if quantity not in CHARGING or (volts is not None and volts < HANDS_IN_V):
        return ""
    at = f" at {show(volts, 'V')}" if volts else ""
    what = QUANTITY_TITLES[quantity].lower()
    read = f"{'An' if what[:1] in 'aeiou' else 'A'} {what} reading{at}"
    return f"{read} has charged it: empty it, and prove it again before a hand touches it."


def unread(marking: Marking, evidence: Evidence, *, parts: int = 1, charge: PlannedCharge | None = None) -> str:
    """What a proof leaves open until the capacitance of a part was read: a joint inside may hide a charge, and remake when moved.

    :param marking: what is printed
    :param evidence: readings of it; one beyond its range tells nothing
    :param parts: how many parts or sections have to be read, all of a bank or a string
    :param charge: what was planned for it, None when not known
    :returns: a sentence, or "" for a part that was read, or that could not pass the touch limit whole
    :raises InputError: never
    :source: a broken joint inside hides a charge from every meter outside, as in `hides_charge`
    """
    if charge and charge.each.band == "below_touch":
        return ""
    told = [r for r in evidence.readings if r.quantity == Quantity.CAPACITANCE and r.condition != Condition.NEW_PART]
    if {r.section for r in told if not r.beyond_range} >= set(range(max(parts, len(marking.sections)))):
        return ""
    return (
        "A joint inside may hide a charge from every meter: move it with an insulated tool, and read its capacitance before hands."
    )


def _found_low(readings: Sequence[Reading], section: Section, least: float) -> Reading | None:
    found = None
    for reading in readings:
        if reading.condition == Condition.NEW_PART:
            continue
        if reading.high < least * section.capacitance_f:
            found = reading
        elif reading.condition not in NOT_DECIDING:
            found = None
    return found


def _wears_whole(marking: Marking, role: Role | None) -> bool:
    """Whether a part is metallised film by what is printed on it: a code of such film, a safety class, the duty of a motor part."""
    healing = all(material.key in HEALING for material in made_of(marking, role).plausible)
    printed = any(token.text.upper().startswith("MK") for token in marking.tokens)
    return healing and (printed or bool(marking.classes) or marking.duty is not None)


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


def left_on(readings: Sequence[PairReading], *, input_ohm: float = 10e6) -> tuple[Left, ...]:
    """The readings that show a voltage at or above the hands-in target: the part is not empty, whatever the others show.

    :param readings: what each pair showed so far
    :param input_ohm: resistance of the meter: a few AC volts on a high one may be coupled in, which a low-impedance reading decides
    :returns: one Left for each
    :raises InputError: never
    :source: hands-in target
    """
    found = []
    for index, reading in enumerate(readings):
        for kind, volts in (("dc", reading.dc), ("ac", reading.decides_ac)):
            if volts is None or abs(volts.shown) < HANDS_IN_V:
                continue
            ghost = kind == "ac" and reading.low is None and input_ohm >= LOADS_OHM
            short = f"{show(abs(volts.shown), 'V')} {kind.upper()} is left, {reading.pair}"
            after = " Coupled in, or real? A low-impedance reading decides." if ghost else " Empty it again."
            found.append(Left(f"readings.{index}.{kind}", short, f"{short}: it is not empty.{after}", abs(volts.shown)))
    return tuple(found)


def check_first_stage(asked: Sequence[str], readings: Sequence[Volts | None]) -> float:
    """Whether a probe shows every pair below what a multimeter may be laid across, by the interval of each reading.

    :param asked: the pairs of `proof_pairs`
    :param readings: what the probe showed of each on DC, in the same order
    :returns: the most that may be there, volts
    :raises InputError: a pair is missing or may hold 1 kV or more; the field names the pair
    :source: IEC 61010-031; a multimeter's highest voltage of 1 kV
    """
    if len(readings) != len(asked):
        raise InputError("probe_readings", "Measure every pair that is listed with the probe first.")
    most = 0.0
    for index, (pair, volts) in enumerate(zip(asked, readings, strict=True)):
        if volts is None:
            raise InputError(f"probe_readings.{index}", f"Measure it with the probe first, {pair}.")
        if volts.high >= MULTIMETER_UP_TO_V:
            may = show(volts.high, "V")
            raise InputError(f"probe_readings.{index}", f"Up to {may} may be left, {pair}: no multimeter on it. Empty it again.")
        most = max(most, volts.high)
    return most


def check_source(kind: str, known: KnownSource) -> None:
    """Whether a meter is proved on one kind: a source of ten times the target, and the same again within its error.

    :param kind: "dc" or "ac", for the field
    :param known: what it showed before and after
    :returns: nothing
    :raises InputError: too small a source, or it no longer shows the same; fields `known_before`, `known_after`, with `_ac` on AC
    :source: live–dead–live sequence of IEC 60364 and EN 50110-1; at most ±10 % however coarse the meter
    """
    suffix, before, after = "_ac" if kind == "ac" else "", known.before, known.after
    least = TIMES_TARGET * HANDS_IN_V
    for field, shown in (("known_before", before), ("known_after", after)):
        if abs(shown.shown) + min(shown.error, AGREES_WITHIN * abs(shown.shown)) < least:
            said = f"A known source of {least:g} V {kind.upper()} or more: the meter is not proved on less."
            raise InputError(f"{field}{suffix}", said)
    allowed = min(AGREES_WITHIN * abs(before.shown), before.error + after.error)
    if abs(abs(after.shown) - abs(before.shown)) > allowed * (1 + 1e-9):
        raise InputError(f"known_after{suffix}", "The known source no longer shows what it did: nothing is proved.")


def check_proof(asked: Sequence[str], readings: Sequence[PairReading], known_dc: KnownSource, known_ac: KnownSource) -> float:
    """Whether a live–dead–live sequence proves a part below the hands-in target, by the interval of every reading.

    :param asked: the pairs of `proof_pairs`
    :param readings: what each showed, in the same order
    :param known_dc: what the meter showed on a known source of DC before and after
    :param known_ac: and on one of AC
    :returns: the most that may be left, volts
    :raises InputError: the meter was not proved, a pair is missing, a voltage is or may be left; the field names the pair
    :source: live–dead–live sequence of IEC 60364 and EN 50110-1; ISO/IEC Guide 98-3

    >>> known = KnownSource(Volts(230, 227, 233), Volts(229, 226, 232))
    >>> check_proof(["a to b"], [PairReading("a to b", Volts(0.4, 0.2, 0.6), Volts(0.01, 0, 0.05))], known, known)
    0.6
    """
    check_source("dc", known_dc)
    check_source("ac", known_ac)
    if [reading.pair for reading in readings] != list(asked):
        raise InputError("readings", "Measure every pair that is listed, and each terminal to chassis.")
    for index, reading in enumerate(readings):
        for kind, volts in (("dc", reading.dc), ("ac", reading.ac)):
            if volts is None:
                raise InputError(f"readings.{index}.{kind}", f"Measure it on {kind.upper()} too, {reading.pair}.")
    for left in left_on(readings):
        raise InputError(left.field, left.sentence)
    return _most_left(readings)


def _most_left(readings: Sequence[PairReading]) -> float:
    """The most that may be left by any reading; refused where that reaches the target."""
    most = 0.0
    for index, reading in enumerate(readings):
        for kind, volts in (("dc", reading.dc), ("ac", reading.decides_ac)):
            if volts is None:
                continue
            if volts.high >= HANDS_IN_V:
                what = f"{show(abs(volts.shown), 'V')} may be {show(volts.high, 'V')} on this range of the meter, {reading.pair}"
                raise InputError(
                    f"readings.{index}.{kind}", f"{what}: that proves nothing below {HANDS_IN_V:g} V. A finer range tells."
                )
            most = max(most, volts.high)
    return most
