"""What a part turns into heat: D and ESR against its material at the reading's frequency, and against a new part."""

import math
from collections.abc import Iterator
from dataclasses import replace

from dusky_heron.core.markings.model import Section
from dusky_heron.core.model import ROLES, Condition, Finding, Measurement, Quantity, Reading, Role, Word
from dusky_heron.core.model.roles import ServiceDuty, roles_that
from dusky_heron.core.quantities import show
from dusky_heron.core.tables import csv_table
from dusky_heron.core.verdict.bounds import Bound, at_most, not_at_room, said
from dusky_heron.core.verdict.registry import Case, Rule

TAN_DELTA_HZ = (100.0, 120.0)
LOW_HZ, USUAL_HZ = 120.0, 1000.0
LOWEST_TAN_DELTA = 0.08
ADDED_PER_MF, FROM_F = 0.02, 1e-3  # tan δ grows by 0.02 for each 1000 µF above 1000
WATCH_NEW, REPLACE_NEW = 1.5, 2.0  # times the ESR of a new part
LEADS_OHM = 0.05  # leads, clips and fuse, unless measured
LEADS_SHARE = 1 / 3  # of a limit, beyond which leads hide the part and a lower frequency is asked for
INSIDE_TOLERANCE = 0.20  # of a resistor inside, printed with the part
STARTS = roles_that(lambda row: row.duty == ServiceDuty.START)


def tan_delta(rated_v: float, capacitance_f: float) -> float:
    """The usual tan δ at 120 Hz, 20 °C of an aluminium electrolytic by its rated voltage.

    :param rated_v: rated DC voltage, volts
    :param capacitance_f: marked value, farads
    :returns: tan δ; of a voltage between two rows the next row up; 0.02 more for each 1000 µF above 1000
    :raises InputError: never
    :source: usual data-sheet values, table `tan_delta`

    >>> tan_delta(400, 82e-6), round(tan_delta(63, 4700e-6), 3), tan_delta(30, 1e-6)
    (0.25, 0.174, 0.14)
    """
    rows = [(float(row["rated_v"]), float(row["tan_delta"])) for row in csv_table("tan_delta")]
    base = next((tan for volts, tan in rows if volts >= rated_v), rows[-1][1])
    return base + ADDED_PER_MF * max(capacitance_f - FROM_F, 0.0) / FROM_F


def esr_limit(rated_v: float | None, capacitance_f: float, frequency_hz: float) -> float:
    """The most ESR of an electrolytic by tan δ: tan δ / (2πfC), for 100 and 120 Hz only.

    :param rated_v: rated DC voltage, volts; None takes the lowest usual tan δ, the conservative side
    :param capacitance_f: marked value, farads
    :param frequency_hz: 100 or 120
    :returns: ohms
    :raises InputError: never
    :source: ESR = tan δ / (2πfC)
    """
    tan = tan_delta(rated_v, capacitance_f) if rated_v else LOWEST_TAN_DELTA
    return tan / (2 * math.pi * frequency_hz * capacitance_f)


def loss_limit(case: Case, section: Section, hertz: float) -> float | None:
    """The most tan δ of a sound part at a frequency, with what leads and a resistor inside add; None where nothing is known of it.

    An electrolytic by its rated volts, at 100 and 120 Hz; a start part by the limit for such; other materials by their own figure,
    of several plausible ones the laxest. A resistor inside adds 2πfRC, and leads ωC · 50 mΩ.

    :param case: the place with its part, and the limits
    :param section: which of its capacitances
    :param hertz: frequency of the reading
    :returns: tan δ
    :raises InputError: never
    :source: tables `materials` and `tan_delta`; D = ωCR of a resistance in series
    """
    omega_c = 2 * math.pi * hertz * section.capacitance_f
    if case.made.likeliest.polar:
        if case.position.role in STARTS or (section.rated_dc_v is None and section.rated_ac_v is not None):
            return case.limits["start.loss_factor"].value if hertz <= LOW_HZ else None
        if hertz not in TAN_DELTA_HZ:
            return None
        base = tan_delta(section.rated_dc_v, section.capacitance_f) if section.rated_dc_v else LOWEST_TAN_DELTA
    else:
        known = [material.loss_at(hertz) for material in case.made.plausible if not material.polar]
        figures = [figure for figure in known if figure is not None]
        if not figures or len(figures) < len(known):
            return None
        base = max(figures) + omega_c * LEADS_OHM
    inside = case.position.marking.series_ohm
    return base + (omega_c * inside * (1 + INSIDE_TOLERANCE) if inside else 0.0)


def asked_hertz(case: Case, section: Section) -> float:
    """The frequency to measure loss at: 1 kHz; 120 Hz for electrolytics, and where leads would be a third of the limit or more."""
    if case.made.likeliest.polar:
        return LOW_HZ
    figure = max((f for m in case.made.plausible if not m.polar and (f := m.loss_at(USUAL_HZ))), default=1.0)
    return LOW_HZ if 2 * math.pi * USUAL_HZ * section.capacitance_f * LEADS_OHM > LEADS_SHARE * figure else USUAL_HZ


def _judge(rule: Rule, case: Case, number: int, quantity: Quantity) -> Iterator[Finding]:
    section, reading = case.position.parts[number], case.evidence.deciding(number, quantity)
    if reading is None:
        return
    if reading.beyond_range:
        yield _ask(rule, case, number, quantity, "Over the range of this meter: open, or too large for it.", reading)
        return
    if reading.frequency_hz is None:
        yield _ask(rule, case, number, quantity, "At what frequency was that? Without it nothing can be said.", reading)
        return
    if why := not_at_room(reading):
        yield _ask(rule, case, number, quantity, why, reading)
        return
    limit = loss_limit(case, section, reading.frequency_hz)
    if limit is None or _hidden(case, section, reading.frequency_hz):
        if not _same_meter(case, number, reading):
            yield _ask_other(rule, case, number, quantity, reading)
        return
    value = limit if quantity == Quantity.DISSIPATION else limit / (2 * math.pi * reading.frequency_hz * section.capacitance_f)
    noun = "loss factor" if quantity == Quantity.DISSIPATION else "ESR"
    told = f"D at most {limit:.2g}" if quantity == Quantity.DISSIPATION else f"{show(value, 'Ω')} by tan δ {limit:.2g}"
    unsure = not case.made.certain and not case.made.likeliest.polar
    told += f" at {reading.frequency_hz:g} Hz{_of_what(case, section, unsure=unsure)}"
    finding = at_most(rule, reading, Bound(value, case.position.its(noun, number), told))
    if unsure and finding.word == Word.REPLACE:
        finding = replace(finding, word=Word.WATCH, sentence=f"{finding.sentence} What it is made of is not known.")
    yield finding


def _of_what(case: Case, section: Section, *, unsure: bool) -> str:
    if unsure:
        return f", the laxest of {case.made.says()}"
    if case.made.likeliest.polar and not section.rated_dc_v:
        return ", the lowest usual one, as no voltage is printed"
    return ""


def _hidden(case: Case, section: Section, hertz: float) -> bool:
    """Whether the leads would be more than a third of what the material may lose, at a frequency that can be lowered."""
    figures = [figure for m in case.made.plausible if not m.polar and (figure := m.loss_at(hertz)) is not None]
    if case.made.likeliest.polar or hertz <= LOW_HZ or not figures:
        return False
    return 2 * math.pi * hertz * section.capacitance_f * LEADS_OHM > LEADS_SHARE * max(figures)


def _ask(rule: Rule, case: Case, number: int, quantity: Quantity, why: str, reading: Reading | None = None) -> Finding:
    section = case.position.parts[number]
    hertz = asked_hertz(case, section)
    limit = loss_limit(case, section, hertz)
    factor = 1.0 if quantity == Quantity.DISSIPATION else 1 / (2 * math.pi * hertz * section.capacitance_f)
    name, noun = case.position.part_names[number], "D" if quantity == Quantity.DISSIPATION else "ESR"
    at = "100 or 120 Hz" if hertz == LOW_HZ else f"{show(hertz, 'Hz')}"
    sentence = f"{why} Measure {f'the {noun} of {name}' if name else f'its {noun}'} at {at}, one lead lifted.".strip()
    error = limit * factor * 0.05 if limit else math.inf
    ask = Measurement(quantity, Condition.LIFTED, number, sentence, error, hertz)
    seen = said(reading) if reading else ""
    if not seen and (screened := case.evidence.screening(number, quantity)):
        seen = f"{show(screened.value, 'Ω')} in circuit"
    return rule.says(Word.UNKNOWN, sentence, reading=seen, settled_by=ask)


def _ask_other(rule: Rule, case: Case, number: int, quantity: Quantity, reading: Reading) -> Finding:
    """Of a reading at a frequency that tells nothing: another frequency, or for ESR a new part on the same meter."""
    hertz = reading.frequency_hz or 0.0
    section = case.position.parts[number]
    other = case.evidence.deciding(number, Quantity.ESR if quantity == Quantity.DISSIPATION else Quantity.DISSIPATION)
    if other and other.frequency_hz and loss_limit(case, section, other.frequency_hz) is not None:
        noun = "ESR" if quantity == Quantity.DISSIPATION else "loss factor"
        return rule.says(Word.KEEP, f"At {hertz:g} Hz no limit of it is known: its {noun} decides.", reading=said(reading))
    if quantity == Quantity.DISSIPATION or _hidden(case, section, hertz):
        return _ask(rule, case, number, quantity, f"At {hertz:g} Hz no limit of it is known.", reading)
    sentence = f"Measure a new part of the same value on the same meter at {show(hertz, 'Hz')}, or this one at 100 or 120 Hz."
    ask = Measurement(quantity, Condition.NEW_PART, number, sentence, frequency_hz=hertz)
    return rule.says(Word.UNKNOWN, sentence, reading=said(reading), settled_by=ask)


def _same_meter(case: Case, number: int, reading: Reading) -> Reading | None:
    """The newest reading of a new part at the same frequency, with the same meter."""
    news = (
        r for r in reversed(case.evidence.of(number, reading.quantity))
        if r.condition == Condition.NEW_PART and r.frequency_hz == reading.frequency_hz and r.meter == reading.meter
    )  # fmt: skip
    return next(news, None)


def _by_new_part(rule: Rule, case: Case, number: int, reading: Reading, *, alone: bool) -> Iterator[Finding]:
    new = _same_meter(case, number, reading)
    if new is None:
        if alone and reading.frequency_hz is not None:
            hertz = show(reading.frequency_hz, "Hz")
            sentence = f"Measure a new part of the same value on the same meter at {hertz}."
            ask = Measurement(reading.quantity, Condition.NEW_PART, number, sentence, frequency_hz=reading.frequency_hz)
            yield rule.says(Word.UNKNOWN, sentence, reading=said(reading), settled_by=ask)
        return
    if not new.value:
        word = Word.REPLACE if reading.low > 0 else Word.WATCH
        yield rule.says(word, f"{case.position.its('ESR', number)} is there, and a new part shows none.", reading=said(reading))
        return
    times = replace(
        reading,
        value=reading.value / new.value,
        low=reading.low / new.high,
        high=reading.high / new.low if new.low else math.inf,
    )
    bound = Bound(REPLACE_NEW, case.position.its("ESR", number), "", near=1 - WATCH_NEW / REPLACE_NEW)
    finding = at_most(rule, times, bound)
    if finding.word == Word.UNKNOWN and times.value >= REPLACE_NEW:
        finding = replace(finding, word=Word.REPLACE, settled_by=None)
    again = finding.settled_by and replace(finding.settled_by, error=new.value * bound.error)
    yield replace(
        finding,
        sentence=f"{case.position.its('ESR', number)} is {times.value:.2g} times that of a new part.",
        reading=said(reading),
        limit=f"below {REPLACE_NEW:g} times {show(new.value, 'Ω')}, watched from {WATCH_NEW:g}",
        source="against a new part on the same meter at the same frequency",
        settled_by=again,
    )


def _dissipation(rule: Rule, case: Case) -> Iterator[Finding]:
    for number in range(len(case.position.parts)):
        yield from _judge(rule, case, number, Quantity.DISSIPATION)


def _esr(rule: Rule, case: Case) -> Iterator[Finding]:
    school = case.schools["esr"]
    if school == "ignore":
        return
    for number in range(len(case.position.parts)):
        reading = case.evidence.deciding(number, Quantity.ESR)
        if reading is None:
            if Quantity.ESR in ROLES[case.position.role].asks:
                yield _ask(rule, case, number, Quantity.ESR, "")
            continue
        if school != "new_part":
            yield from _judge(rule, case, number, Quantity.ESR)
        if school != "tan_delta" and not reading.beyond_range:
            yield from _by_new_part(rule, case, number, reading, alone=school == "new_part")


EVERY: frozenset[Role] = frozenset()
RULES = (
    Rule("esr", "ESR against tan δ and against a new part", "usual limits of data sheets", EVERY, _esr),
    Rule("dissipation", "Loss factor of its material", "usual limits of data sheets", EVERY, _dissipation),
)
