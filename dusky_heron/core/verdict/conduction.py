"""What conducts is no capacitor: shorts in every role, leakage that heats, and a bleeder inside that has gone."""

import math
from collections.abc import Iterator
from dataclasses import replace

from dusky_heron.core.ageing.leakage import leakage_in_service
from dusky_heron.core.discharge.planning import MAINS_HIGH
from dusky_heron.core.model import ROLES, Basis, Condition, Finding, Measurement, Position, Quantity, Reading, Role, Word
from dusky_heron.core.model.roles import MOTORS, roles_that
from dusky_heron.core.quantities import show
from dusky_heron.core.verdict.bounds import Bound, at_least, said
from dusky_heron.core.verdict.registry import Case, Rule

SHORT_OHM = 1e3  # lifted and without its bleeder: no part in any role has so little, and no meter errs by so much
UNKNOWN_OHM = 1e6  # where no volts are known: no whole film or ceramic part has less
HEATS_W = 0.1  # turned into heat inside a part made to turn none into it
BLEEDER_WITHIN = 0.10  # a bleeder whose tolerance is not printed
GONE = 3.0  # times a bleeder, above which it is not there: a drifted resistor seldom grows so far
SEEN_OHM = 10e6  # below this an ohmmeter sees what no whole film part lets through, once it is charged
CLASSED_V = 100.0  # IEC 60384-14 tests insulation at 100 V
CONDUCTING = (Quantity.RESISTANCE, Quantity.INSULATION)
SHARE_OF_CURRENT = 0.1  # of a dropper's current, that may pass beside its capacitor
OVEN = roles_that(lambda row: row.basis == Basis.MAGNETRON)
OVEN_BLEEDER_OHM = 10e6  # usual inside the high-voltage capacitor of an oven
BLED_INSIDE = OVEN | {Role.POWER_FACTOR}  # where a bleeder that is noted lies inside the part or on its terminals (IEC 61048, 8)


def bleeder_inside(position: Position) -> float | None:
    """The resistor inside a part: as printed, or as noted where it belongs to the part; a board's is out with a lead lifted."""
    if position.marking.bleeder_ohm:
        return position.marking.bleeder_ohm
    around = position.surroundings.bleeder
    return around.marked_ohm if around and position.role in BLED_INSIDE else None


def beside_bleeder(reading: Reading, bleeder_ohm: float) -> Reading:
    """A resistance with a known one beside it taken out, as an interval.

    1/R = 1/R_read − 1/R_b, at the ends of both; what reads as much as the bleeder may have nothing beside it.

    :param reading: resistance or insulation
    :param bleeder_ohm: the bleeder as marked, ±10 %
    :returns: the reading of what is beside it; its high end infinite where there may be nothing
    :raises InputError: never
    :source: resistances in parallel
    """

    def out(read: float, bleeder: float) -> float:
        left = (1 / read if read else math.inf) - 1 / bleeder
        return 1 / left if left > 0 else math.inf

    low = out(reading.low, bleeder_ohm * (1 + BLEEDER_WITHIN))
    high = out(reading.high, bleeder_ohm * (1 - BLEEDER_WITHIN))
    low = low if math.isfinite(low) else reading.low
    value = min(max(out(reading.value, bleeder_ohm), low), high)
    return replace(reading, low=low, high=high, value=value if math.isfinite(value) else low)


def shows_bleeder(reading: Reading, bleeder_ohm: float) -> bool:
    """Whether a reading may be the bleeder alone."""
    return reading.low <= bleeder_ohm * (1 + BLEEDER_WITHIN) and reading.high >= bleeder_ohm * (1 - BLEEDER_WITHIN)


def _read(case: Case) -> Iterator[tuple[int, Reading, float | None]]:
    """Every deciding reading of resistance or insulation, with the bleeder inside; one beyond an unknown range tells nothing."""
    bleeder = bleeder_inside(case.position)
    for number in range(len(case.position.parts)):
        for quantity in CONDUCTING:
            reading = case.evidence.deciding(number, quantity)
            if reading and not reading.beyond_range:
                yield number, reading, bleeder


def _short(rule: Rule, case: Case) -> Iterator[Finding]:
    for number, reading, bleeder in _read(case):
        alone = beside_bleeder(reading, bleeder) if bleeder else reading
        if alone.low >= SHORT_OHM:
            continue
        name = case.position.part_names[number]
        subject = name.capitalize() if name else "It"
        limit = f"at least {show(SHORT_OHM, 'Ω')}"
        if alone.high < SHORT_OHM:
            yield rule.says(Word.CONDEMN, f"{subject} conducts: it is shorted.", reading=said(reading), limit=limit)
        else:
            yield rule.says(Word.REPLACE, f"{subject} conducts, about as a short does.", reading=said(reading), limit=limit)


def heating_volts(position: Position) -> float | None:
    """The volts a leak heats at: the highest mains across an AC place, of a motor part its own; else its rated volts."""
    marking, role = position.marking, position.role
    mains = position.supply_v * MAINS_HIGH if position.supply_v and ROLES[role].on_mains else 0.0
    rated = marking.rated_ac_v or marking.rated_dc_v or 0.0
    return (max(mains, rated) if role in MOTORS else mains or rated) or None


def _heat(rule: Rule, case: Case) -> Iterator[Finding]:
    position = case.position
    volts = heating_volts(position)
    if case.made.likeliest.polar:
        return
    for number, reading, bleeder in _read(case):
        if bleeder and (shows_bleeder(reading, bleeder) or reading.low > bleeder):
            continue
        least = volts**2 / HEATS_W if volts else UNKNOWN_OHM
        if position.role == Role.DROPPER and position.supply_hz:
            siemens = 2 * math.pi * position.supply_hz * position.parts[number].capacitance_f
            least = max(least, 1 / (SHARE_OF_CURRENT * siemens))
        limit = f"{show(HEATS_W, 'W')} at {volts:g} V: {show(least, 'Ω')}" if volts else f"{show(least, 'Ω')}, its volts not known"
        alone = beside_bleeder(reading, bleeder) if bleeder else reading
        yield at_least(rule, alone, Bound(least, position.its("resistance", number), limit))


def _seen(rule: Rule, case: Case) -> Iterator[Finding]:
    """A film part of few megohms on an ohmmeter: it still charges, or leaks; its insulation tells."""
    bleeder = bleeder_inside(case.position)
    for number in range(len(case.position.parts)):
        reading = case.evidence.deciding(number, Quantity.RESISTANCE)
        if reading is None or reading.beyond_range or case.made.likeliest.polar or reading.high >= SEEN_OHM:
            continue
        if reading.low < SHORT_OHM or (bleeder and shows_bleeder(reading, bleeder)):
            continue
        if case.evidence.deciding(number, Quantity.INSULATION) is None:
            sentence = "It leaks, or the ohmmeter still charges it: measure its insulation after a minute."
            ask = Measurement(Quantity.INSULATION, Condition.LIFTED, number, sentence, volts=CLASSED_V)
            yield rule.says(Word.UNKNOWN, sentence, reading=said(reading), limit=f"at least {show(SEEN_OHM, 'Ω')}", settled_by=ask)


def _leaking(rule: Rule, case: Case) -> Iterator[Finding]:
    """An electrolytic that lets more through at an ohmmeter's volts than it may at its rated ones: or it still charges. Ask."""
    for number, reading, _ in _read(case):
        section = case.position.parts[number]
        if not case.made.likeliest.polar or not section.rated_dc_v or reading.quantity != Quantity.RESISTANCE:
            continue
        least = section.rated_dc_v / leakage_in_service(section.rated_dc_v, section.capacitance_f)
        if reading.high >= least or case.evidence.deciding(number, Quantity.LEAKAGE):
            continue
        sentence = "It leaks, or the ohmmeter still charges it: measure its leakage at rated volts after some minutes."
        ask = Measurement(Quantity.LEAKAGE, Condition.LIFTED, number, sentence, volts=section.rated_dc_v)
        yield rule.says(Word.UNKNOWN, sentence, reading=said(reading), limit=f"at least {show(least, 'Ω')}", settled_by=ask)


def _not_read(rule: Rule, case: Case) -> Iterator[Finding]:
    """Capacitance does not show a leak: where one would matter its resistance is asked for, and the part is kept only so far."""
    if not ROLES[case.position.role].leak:
        return
    for number in range(len(case.position.parts)):
        if any(case.evidence.deciding(number, quantity) for quantity in (*CONDUCTING, Quantity.LEAKAGE)):
            continue
        name = case.position.part_names[number]
        sentence = f"Measure {f'the resistance of {name}' if name else 'its resistance'} too: its capacitance does not show a leak."
        ask = Measurement(Quantity.RESISTANCE, Condition.LIFTED, number, sentence)
        yield rule.says(Word.KEEP, sentence, settled_by=ask)


def _bleeder_usual(rule: Rule, case: Case) -> Iterator[Finding]:
    """An oven part of which nobody knows a bleeder: one is usual, and where none shows it is asked about."""
    if bleeder_inside(case.position):
        return
    for number, reading, _ in _read(case):
        if reading.low <= GONE * OVEN_BLEEDER_OHM:
            continue
        if reading.quantity == Quantity.RESISTANCE and case.evidence.deciding(number, Quantity.INSULATION) is None:
            sentence = "No bleeder shows, and the ohmmeter may still charge it: measure its insulation after a minute."
            ask = Measurement(Quantity.INSULATION, Condition.LIFTED, number, sentence)
            yield rule.says(Word.UNKNOWN, sentence, reading=said(reading), settled_by=ask)
        else:
            usual = show(OVEN_BLEEDER_OHM, "Ω")
            sentence = f"No bleeder shows inside it, and parts of ovens have one of {usual} as a rule. Has its type? Note it."
            yield rule.says(Word.WATCH, sentence, reading=said(reading), limit="a bleeder inside")


def _bleeder_gone(rule: Rule, case: Case) -> Iterator[Finding]:
    for number, reading, bleeder in _read(case):
        if not bleeder or reading.low <= GONE * bleeder:
            continue
        if reading.quantity == Quantity.RESISTANCE and reading.high == math.inf:
            if case.evidence.deciding(number, Quantity.INSULATION) is None:
                sentence = "OL may be the ohmmeter still charging it: measure its insulation, which shows the bleeder inside."
                ask = Measurement(Quantity.INSULATION, Condition.LIFTED, number, sentence)
                yield rule.says(Word.UNKNOWN, sentence, reading=said(reading), settled_by=ask)
        else:
            yield rule.says(
                Word.REPLACE,
                "The bleeder inside it is open: it keeps its charge after the supply is off.",
                reading=said(reading),
                limit=f"its bleeder of {show(bleeder, 'Ω')}",
            )


EVERY: frozenset[Role] = frozenset()
RULES = (
    Rule("conduction.short", "Not shorted", "what every capacitor is: an insulator", EVERY, _short),
    Rule("conduction.heat", "No leakage that heats it", "P = U²/R", EVERY, _heat),
    Rule("conduction.leakage", "No leak an ohmmeter sees", "usual data-sheet figures of leakage", EVERY, _leaking),
    Rule("conduction.seen", "No leak of a film part that an ohmmeter sees", "IEC 60384-14, insulation", EVERY, _seen),
    Rule("conduction.not_read", "Its resistance was read", "a leak heats, P = U²/R", EVERY, _not_read),
    Rule("conduction.bleeder", "The bleeder inside is there", "its marking", EVERY, _bleeder_gone),
    Rule("conduction.usual", "A bleeder that is usual shows", "usual make of oven capacitors", OVEN, _bleeder_usual),
)
