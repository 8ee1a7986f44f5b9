"""ESR and leakage of electrolytics: against tan δ, against a new part, and against the usual data-sheet figures."""

import math
from collections.abc import Iterator

from dusky_heron.core.markings.model import Section
from dusky_heron.core.model import Condition, Finding, Measurement, Quantity, Reading, Role, Word
from dusky_heron.core.quantities import show, show_range
from dusky_heron.core.tables import csv_table
from dusky_heron.core.verdict.registry import Case, Rule

ROLES = frozenset({Role.RESERVOIR, Role.SMPS_BULK, Role.DC_LINK, Role.SMOOTHING})
ESR_DECIDES = frozenset({Role.SMPS_BULK, Role.DC_LINK, Role.SMOOTHING})  # where capacitance alone tells too little
TAN_DELTA_HZ = (100.0, 120.0)
ADDED_PER_MF, FROM_F = 0.02, 1e-3  # tan δ grows by 0.02 for each 1000 µF above 1000
WATCH_NEW, REPLACE_NEW = 1.5, 2.0  # times the ESR of a new part


def tan_delta(rated_v: float, capacitance_f: float) -> float:
    """The usual tan δ at 120 Hz, 20 °C of an aluminium electrolytic by its rated voltage.

    :param rated_v: rated DC voltage, volts
    :param capacitance_f: marked value, farads
    :returns: tan δ; 0.02 more for each 1000 µF above 1000
    :raises InputError: never
    :source: usual data-sheet values, table `tan_delta`

    >>> tan_delta(400, 82e-6), round(tan_delta(63, 4700e-6), 3)
    (0.25, 0.174)
    """
    rows = [(float(row["rated_v"]), float(row["tan_delta"])) for row in csv_table("tan_delta")]
    base = next((tan for volts, tan in reversed(rows) if volts <= rated_v), rows[0][1])
    return base + ADDED_PER_MF * max(capacitance_f - FROM_F, 0.0) / FROM_F


def esr_limit(rated_v: float, capacitance_f: float, frequency_hz: float) -> float:
    """The most ESR by tan δ: tan δ / (2πfC), for 100 and 120 Hz only.

    :param rated_v: rated DC voltage, volts
    :param capacitance_f: marked value, farads
    :param frequency_hz: 100 or 120
    :returns: ohms
    :raises InputError: never
    :source: ESR = tan δ / (2πfC)
    """
    return tan_delta(rated_v, capacitance_f) / (2 * math.pi * frequency_hz * capacitance_f)


def leakage_limit(rated_v: float, capacitance_f: float) -> float:
    """The most leakage at rated voltage after minutes: the lower of 0.01·C·V + 3 µA and 3·√(C·V) µA, C in µF.

    :param rated_v: rated DC voltage, volts
    :param capacitance_f: marked value, farads
    :returns: amperes
    :raises InputError: never
    :source: usual data-sheet figures; the type's own data sheet decides

    >>> round(leakage_limit(400, 82e-6) * 1e6)
    331
    """
    charge = capacitance_f * 1e6 * rated_v
    return min(0.01 * charge + 3, 3 * math.sqrt(charge)) * 1e-6


def _esr(rule: Rule, case: Case) -> Iterator[Finding]:
    for number, section in enumerate(case.position.marking.sections):
        reading = case.evidence.deciding(number, Quantity.ESR)
        if reading is None:
            if case.position.role in ESR_DECIDES:
                yield _ask_esr(rule, case, number)
            continue
        yield from _by_tan_delta(rule, case, number, section, reading)
        yield from _by_new_part(rule, case, number, reading)


def _ask_esr(rule: Rule, case: Case, number: int) -> Finding:
    ask = Measurement(Quantity.ESR, Condition.LIFTED, number, "Measure its ESR at 100 or 120 Hz, one lead lifted.")
    screened = case.evidence.screening(number, Quantity.ESR)
    return rule.says(
        Word.UNKNOWN, ask.sentence, reading=f"{show(screened.value, 'Ω')} in circuit" if screened else "", settled_by=ask
    )


def _by_tan_delta(rule: Rule, case: Case, number: int, section: Section, reading: Reading) -> Iterator[Finding]:
    rated = case.position.marking.rated_dc_v
    if reading.frequency_hz in TAN_DELTA_HZ and rated:
        limit = esr_limit(rated, section.capacitance_f, reading.frequency_hz)
        said = f"{show(limit, 'Ω')} by tan δ {tan_delta(rated, section.capacitance_f):.2g} at {reading.frequency_hz:g} Hz"
        yield _at_most(rule, reading, limit, said, "Its ESR", number)
    elif case.evidence.new_part(number, Quantity.ESR) is None:
        ask = Measurement(
            Quantity.ESR,
            Condition.NEW_PART,
            number,
            "Measure a new part of the same value on the same meter, or this one at 100 or 120 Hz.",
        )
        yield rule.says(Word.UNKNOWN, ask.sentence, reading=_said(reading), settled_by=ask)


def _by_new_part(rule: Rule, case: Case, number: int, reading: Reading) -> Iterator[Finding]:
    new = case.evidence.new_part(number, Quantity.ESR)
    if new is None or new.value <= 0:
        return
    times = reading.value / new.value
    word = Word.REPLACE if times >= REPLACE_NEW else Word.WATCH if times >= WATCH_NEW else Word.KEEP
    yield rule.says(
        word,
        f"Its ESR is {times:.2g} times that of a new part.",
        reading=_said(reading),
        limit=f"below {REPLACE_NEW:g} times {show(new.value, 'Ω')}, watched from {WATCH_NEW:g}",
        source="against a new part on the same meter",
    )


def _leakage(rule: Rule, case: Case) -> Iterator[Finding]:
    rated = case.position.marking.rated_dc_v
    for number, section in enumerate(case.position.marking.sections):
        reading = case.evidence.deciding(number, Quantity.LEAKAGE)
        if reading and rated:
            limit = leakage_limit(rated, section.capacitance_f)
            yield _at_most(rule, reading, limit, f"{show(limit, 'A')} at {rated:g} V", "Its leakage", number)


def _at_most(rule: Rule, reading: Reading, limit: float, said: str, what: str, number: int) -> Finding:
    """A reading that may not exceed a limit: outside replaces, across it cannot be told."""
    if reading.low > limit:
        return rule.says(Word.REPLACE, f"{what} is too high.", reading=_said(reading), limit=said)
    if reading.high <= limit:
        return rule.says(Word.KEEP, f"{what} is within its limit.", reading=_said(reading), limit=said)
    ask = Measurement(reading.quantity, reading.condition, number, "Measure with a meter of smaller error.")
    return rule.says(
        Word.UNKNOWN, f"{what} lies across its limit within this meter's error.", reading=_said(reading), limit=said, settled_by=ask
    )


def _said(reading: Reading) -> str:
    unit = "A" if reading.quantity == Quantity.LEAKAGE else "Ω"
    return f"{show(reading.value, unit)} ({show_range(reading.low, reading.high, unit)})"


RULES = (
    Rule("electrolytic.esr", "ESR against tan δ and against a new part", "usual tan δ of data sheets", ROLES, _esr),
    Rule("electrolytic.leakage", "Leakage at rated voltage", "usual data-sheet figures", ROLES, _leakage),
)
