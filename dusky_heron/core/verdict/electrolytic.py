"""ESR and leakage of electrolytics: against tan δ, against a new part, and against the usual data-sheet figures."""

import math
from collections.abc import Iterator

from dusky_heron.core.markings.model import Section
from dusky_heron.core.model import Condition, Finding, Measurement, Quantity, Reading, Role, Word
from dusky_heron.core.quantities import show
from dusky_heron.core.tables import csv_table
from dusky_heron.core.verdict.bounds import Bound, at_most, said
from dusky_heron.core.verdict.registry import Case, Rule

ROLES = frozenset({Role.RESERVOIR, Role.SMPS_BULK, Role.DC_LINK, Role.SMOOTHING})
LEAKS = ROLES | {Role.ENERGY_STORE}
ESR_DECIDES = frozenset({Role.SMPS_BULK, Role.DC_LINK, Role.SMOOTHING})  # where capacitance alone tells too little
TAN_DELTA_HZ = (100.0, 120.0)
ASKED_HZ = 120.0
LOWEST_TAN_DELTA = 0.08
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


def esr_limit(rated_v: float | None, capacitance_f: float, frequency_hz: float) -> float:
    """The most ESR by tan δ: tan δ / (2πfC), for 100 and 120 Hz only.

    :param rated_v: rated DC voltage, volts; None takes the lowest usual tan δ, the conservative side
    :param capacitance_f: marked value, farads
    :param frequency_hz: 100 or 120
    :returns: ohms
    :raises InputError: never
    :source: ESR = tan δ / (2πfC)
    """
    tan = tan_delta(rated_v, capacitance_f) if rated_v else LOWEST_TAN_DELTA
    return tan / (2 * math.pi * frequency_hz * capacitance_f)


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
    school = case.schools["esr"]
    if school == "ignore":
        return
    for number, section in enumerate(case.position.parts):
        reading = case.evidence.deciding(number, Quantity.ESR)
        if reading is None:
            if case.position.role in ESR_DECIDES:
                yield _ask_esr(rule, case, number, section)
            continue
        if school != "new_part":
            yield from _by_tan_delta(rule, case, number, section, reading)
        if school != "tan_delta":
            yield from _by_new_part(rule, case, number, reading, alone=school == "new_part")


def _ask_esr(rule: Rule, case: Case, number: int, section: Section) -> Finding:
    bound = _esr_bound(case, section, ASKED_HZ, number)
    name = case.position.part_names[number]
    sentence = f"Measure {f'the ESR of {name}' if name else 'its ESR'} at 100 or 120 Hz, one lead lifted."
    ask = Measurement(Quantity.ESR, Condition.LIFTED, number, sentence, bound.error, ASKED_HZ)
    screened = case.evidence.screening(number, Quantity.ESR)
    return rule.says(
        Word.UNKNOWN, ask.sentence, reading=f"{show(screened.value, 'Ω')} in circuit" if screened else "", settled_by=ask
    )


def _esr_bound(case: Case, section: Section, hertz: float, number: int) -> Bound:
    rated = section.rated_dc_v
    tan = tan_delta(rated, section.capacitance_f) if rated else LOWEST_TAN_DELTA
    limit = esr_limit(rated, section.capacitance_f, hertz)
    told = "" if rated else ", the lowest usual one, as no voltage is printed"
    return Bound(limit, case.position.its("ESR", number), f"{show(limit, 'Ω')} by tan δ {tan:.2g} at {hertz:g} Hz{told}")


def _by_tan_delta(rule: Rule, case: Case, number: int, section: Section, reading: Reading) -> Iterator[Finding]:
    if reading.frequency_hz in TAN_DELTA_HZ:
        yield at_most(rule, reading, _esr_bound(case, section, reading.frequency_hz, number))
    elif case.evidence.new_part(number, Quantity.ESR) is None:
        yield _ask_new_part(rule, number, reading)


def _ask_new_part(rule: Rule, number: int, reading: Reading) -> Finding:
    ask = Measurement(
        Quantity.ESR,
        Condition.NEW_PART,
        number,
        "Measure a new part of the same value on the same meter, or this one at 100 or 120 Hz.",
    )
    return rule.says(Word.UNKNOWN, ask.sentence, reading=said(reading), settled_by=ask)


def _by_new_part(rule: Rule, case: Case, number: int, reading: Reading, *, alone: bool) -> Iterator[Finding]:
    new = case.evidence.new_part(number, Quantity.ESR)
    if new is None:
        if alone:
            yield _ask_new_part(rule, number, reading)
        return
    times = reading.value / new.value if new.value > 0 else math.inf if reading.value > 0 else 1.0
    word = Word.REPLACE if times >= REPLACE_NEW else Word.WATCH if times >= WATCH_NEW else Word.KEEP
    told = f"{times:.2g} times that of a new part" if math.isfinite(times) else "there, and a new part shows none"
    yield rule.says(
        word,
        f"{case.position.its('ESR', number)} is {told}.",
        reading=said(reading),
        limit=f"below {REPLACE_NEW:g} times {show(new.value, 'Ω')}, watched from {WATCH_NEW:g}",
        source="against a new part on the same meter",
    )


def _leakage(rule: Rule, case: Case) -> Iterator[Finding]:
    for number, section in enumerate(case.position.parts):
        rated = section.rated_dc_v
        reading = case.evidence.deciding(number, Quantity.LEAKAGE)
        if reading and rated:
            limit = leakage_limit(rated, section.capacitance_f)
            yield at_most(rule, reading, Bound(limit, case.position.its("leakage", number), f"{show(limit, 'A')} at {rated:g} V"))


RULES = (
    Rule("electrolytic.esr", "ESR against tan δ and against a new part", "usual tan δ of data sheets", ROLES, _esr),
    Rule("electrolytic.leakage", "Leakage at rated voltage", "usual data-sheet figures", LEAKS, _leakage),
)
