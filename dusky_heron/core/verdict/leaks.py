"""What leaks: insulation resistance of film and ceramic parts, leakage of electrolytics, at volts that say something of them."""

import math
from collections.abc import Iterator
from dataclasses import replace

from dusky_heron.core.ageing.leakage import leakage_in_service
from dusky_heron.core.discharge.rating import rating_voltage
from dusky_heron.core.markings.model import Section
from dusky_heron.core.model import ROLES, Condition, Finding, Measurement, Quantity, Reading, Word
from dusky_heron.core.quantities import show
from dusky_heron.core.verdict.bounds import Bound, at_least, at_most, not_at_room, said
from dusky_heron.core.verdict.conduction import CLASSED_V, beside_bleeder, bleeder_inside, shows_bleeder
from dusky_heron.core.verdict.registry import Case, Rule

IN_SERVICE = 0.5  # of the insulation of a new part
SHORTED_OHM = 1e6  # below this no film or ceramic part is whole
TESTER_V = (10.0, 25.0, 50.0, 100.0, 250.0, 500.0, 1000.0)  # settings of insulation testers (IEC 61557-2) and of 60384-1
NEAR_V = 0.9  # of the volts asked for, from which a reading counts
EARLY_S = 120.0  # before this a leakage still falls
OVER_V = 1.1  # of rated volts, above which any electrolytic leaks


def insulation_limit(case: Case, section: Section) -> float:
    """The least insulation in service: half of a new one's, by what the part is most likely made of.

    :param case: the place with its part
    :param section: which of its capacitances
    :returns: ohms
    :raises InputError: never
    :source: table `materials`: IEC 60384-14 at 100 V after 1 min, no bleeder inside, and the like of other materials
    """
    return IN_SERVICE * case.made.likeliest.insulation(section.capacitance_f)


def asked_volts(case: Case, section: Section) -> float | None:
    """The volts a leak has to be measured at: rated ones, those of the place if less; of a film part the setting of a tester.

    :param case: the place with its part
    :param section: which of its capacitances
    :returns: volts; None where neither rating nor place is known
    :raises InputError: never
    :source: IEC 60384-4 (leakage at rated volts), IEC 60384-14 (100 V), IEC 60384-1 (settings of insulation tests)
    """
    rated = section.rated_dc_v or (section.rated_ac_v and math.sqrt(2) * section.rated_ac_v) or case.position.marking.rated_dc_v
    works = rating_voltage(case.position)
    direct = works.volts if works and not works.alternating else None
    known = min((v for v in (rated, direct) if v), default=None)
    if case.made.likeliest.polar or known is None:
        return known
    most = known if Quantity.INSULATION in ROLES[case.position.role].asks else min(known, CLASSED_V)
    return max((v for v in TESTER_V if v <= most), default=most)


def _leaks(rule: Rule, case: Case, quantity: Quantity) -> Iterator[Finding]:
    for number, section in enumerate(case.position.parts):
        reading = case.evidence.deciding(number, quantity)
        wanted = Quantity.LEAKAGE if case.made.likeliest.polar else Quantity.INSULATION
        if reading is None:
            demanded = Quantity.INSULATION in ROLES[case.position.role].asks and quantity == wanted
            other = Quantity.LEAKAGE if quantity == Quantity.INSULATION else Quantity.INSULATION
            if demanded and case.evidence.deciding(number, other) is None:
                yield _ask(rule, case, number, section, wanted, "")
        elif reading.beyond_range:
            yield _ask(
                rule, case, number, section, quantity, "Over a range whose end is not kept: type its end, such as >60M.", reading
            )
        elif why := not_at_room(reading):
            yield _ask(rule, case, number, section, quantity, why, reading)
        elif case.made.likeliest.polar:
            yield from _polar(rule, case, number, section, reading)
        else:
            yield from _insulation(rule, case, number, section, reading)


def _ask(
    rule: Rule, case: Case, number: int, section: Section, quantity: Quantity, why: str, reading: Reading | None = None
) -> Finding:
    volts, name = asked_volts(case, section), case.position.part_names[number]
    at = f"at {volts:g} V" if volts else "at its working voltage"
    noun = "leakage" if quantity == Quantity.LEAKAGE else "insulation"
    how = ", after 2 to 5 minutes" if quantity == Quantity.LEAKAGE else ", after a minute"
    sentence = f"{why} Measure {f'the {noun} of {name}' if name else f'its {noun}'} {at}{how}, one lead lifted.".strip()
    limit = insulation_limit(case, section)
    error = 0.05 * (leakage_in_service(volts, section.capacitance_f) if volts else math.inf)
    error = 0.05 * limit if quantity == Quantity.INSULATION and limit else error
    ask = Measurement(quantity, Condition.LIFTED, number, sentence, error, volts=volts)
    return rule.says(Word.UNKNOWN, sentence, reading=said(reading) if reading else "", settled_by=ask)


def _polar(rule: Rule, case: Case, number: int, section: Section, reading: Reading) -> Iterator[Finding]:
    """An electrolytic: the current at its volts, however it was read; bad at fewer volts is bad at its own."""
    wanted = asked_volts(case, section)
    if reading.volts is None:
        yield _ask(
            rule, case, number, section, Quantity.LEAKAGE, "At how many volts was that? Without them it says nothing.", reading
        )
        return
    if wanted is None:
        yield rule.says(Word.UNKNOWN, "It prints no volts: what it may leak is not known.", reading=said(reading))
        return
    amperes = reading if reading.quantity == Quantity.LEAKAGE else _through(reading, reading.volts)
    at = max(wanted, reading.volts)
    limit = leakage_in_service(min(at, section.rated_dc_v or at), section.capacitance_f)
    bound = Bound(limit, case.position.its("leakage", number), f"{show(limit, 'A')} at {at:g} V in service")
    finding = at_most(rule, amperes, bound)
    enough, early = reading.volts >= NEAR_V * wanted, reading.seconds is not None and reading.seconds < EARLY_S
    if finding.word != Word.REPLACE and not enough:
        why = f"At {reading.volts:g} V it says nothing of {wanted:g} V."
        yield _ask(rule, case, number, section, Quantity.LEAKAGE, why, reading)
    elif finding.word == Word.REPLACE and early:
        yield _ask(rule, case, number, section, Quantity.LEAKAGE, "It still falls so early.", reading)
    elif finding.word == Word.REPLACE and section.rated_dc_v and reading.volts > OVER_V * section.rated_dc_v:
        yield _ask(rule, case, number, section, Quantity.LEAKAGE, f"{reading.volts:g} V is above its rating.", reading)
    else:
        yield finding


def _through(reading: Reading, volts: float) -> Reading:
    """A resistance as the current through it, or a current as the resistance it means, at so many volts."""

    def other(value: float) -> float:
        return volts / value if value else math.inf

    value = other(reading.value)
    quantity = Quantity.LEAKAGE if reading.quantity == Quantity.INSULATION else Quantity.INSULATION
    low, high = other(reading.high) if math.isfinite(reading.high) else 0.0, other(reading.low)
    return replace(reading, value=value if math.isfinite(value) else low, low=low, high=high, quantity=quantity)


def _insulation(rule: Rule, case: Case, number: int, section: Section, reading: Reading) -> Iterator[Finding]:
    """Film, paper, mica, ceramic: the resistance, what is known to lie inside taken out; bad at fewer volts is bad at its own."""
    limit, bleeder, wanted = insulation_limit(case, section), bleeder_inside(case.position), asked_volts(case, section)
    told = f"at least {show(limit, 'Ω')} in service, half of a new one's"
    if reading.quantity == Quantity.LEAKAGE:
        if reading.volts is None:
            why = "At how many volts was that? Without them it says nothing."
            yield _ask(rule, case, number, section, Quantity.LEAKAGE, why, reading)
            return
        reading = _through(reading, reading.volts)
    bled = bleeder and (shows_bleeder(reading, bleeder) or reading.low > bleeder)
    alone = beside_bleeder(reading, bleeder) if bleeder else reading
    facts = ROLES[case.position.role]
    heats_only = facts.on_mains and not facts.class_needed  # what a leak does there its heat decides
    if not bled and alone.high < SHORTED_OHM and not heats_only:
        yield rule.says(Word.CONDEMN, "It conducts: it is shorted or wet inside.", reading=said(reading), limit=told)
        return
    finding = at_least(rule, alone, Bound(limit, case.position.its("insulation", number), told))
    if bled:
        finding = rule.says(Word.KEEP, "It shows the bleeder inside it, and nothing beside.", reading=said(reading), limit=told)
    elif finding.word != Word.REPLACE and (reading.volts is None or (wanted and reading.volts < NEAR_V * wanted)):
        why = f"At {reading.volts:g} V it says nothing of {wanted:g} V." if reading.volts else "At how many volts was that?"
        finding = _ask(rule, case, number, section, Quantity.INSULATION, why, reading)
    yield finding


def _read_as(quantity: Quantity) -> Rule:
    title = "Leakage at rated volts" if quantity == Quantity.LEAKAGE else "Insulation resistance in service"
    source = "usual planning figures of data sheets" if quantity == Quantity.LEAKAGE else "IEC 60384-14"

    def judge(rule: Rule, case: Case) -> Iterator[Finding]:
        yield from _leaks(rule, case, quantity)

    return Rule(str(quantity), title, source, frozenset(), judge)


RULES = (_read_as(Quantity.INSULATION), _read_as(Quantity.LEAKAGE))
