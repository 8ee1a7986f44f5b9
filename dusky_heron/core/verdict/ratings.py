"""Class, kind and voltage of a part against its place (IEC 60384-14, IEC 60252-1)."""

import math
from collections.abc import Iterator

from dusky_heron.core.discharge.rating import rating_voltage
from dusky_heron.core.model import ROLES, Basis, Condition, Finding, Quantity, Role, Word
from dusky_heron.core.model.roles import CLASSED, ServiceDuty, Volts, roles_that
from dusky_heron.core.model.voltages import RatingVoltage
from dusky_heron.core.selection.safety_class import may_replace
from dusky_heron.core.verdict.registry import Case, Rule


def _class(rule: Rule, case: Case) -> Iterator[Finding]:
    place = case.position.place_classes or (ROLES[case.position.role].usual_class,)
    printed = case.position.marking.class_names
    answer = may_replace(place, printed)
    word, sentence = (Word.KEEP, answer.reason) if answer.allowed else (Word.CONDEMN, answer.reason)
    if printed == ("X3",) and not case.position.place_classes and case.position.role == Role.X:
        word, sentence = Word.WATCH, "X3 is an old class without an impulse test: take an X2 or better when it is replaced."
    if case.position.role == Role.DROPPER and not printed and case.position.marking.rated_ac_v:
        word = Word.WATCH
        sentence = "It prints an AC rating and no class: only a film part made for series use with the mains belongs here."
    shown = " ".join(printed) or "no class printed"
    yield rule.says(word, sentence, reading=shown, limit=f"{' and '.join(place)} or better")


def _class_voltage(rule: Rule, case: Case) -> Iterator[Finding]:
    rated = [c.rated_ac_v for c in case.position.marking.classes if c.rated_ac_v]
    supply = case.position.supply_v
    if not rated:
        if case.position.marking.classes:
            yield rule.says(Word.WATCH, "Its class prints no volts: what is it rated for?", limit="a rated AC voltage")
        return
    if supply is None:
        sentence = f"Its class is rated {max(rated):g} V AC. The supply across it is not known: what is it?"
        yield rule.says(Word.KEEP, sentence, reading=f"{max(rated):g} V AC")
        return
    low = max(rated) < supply
    yield rule.says(
        Word.REPLACE if low else Word.KEEP,
        f"Its class is rated {max(rated):g} V AC, {'below' if low else 'not below'} the {supply:g} V supply.",
        reading=f"{max(rated):g} V AC",
        limit=f"at least {supply:g} V AC",
    )


def _run_duty(rule: Rule, case: Case) -> Iterator[Finding]:
    marking = case.position.marking
    if marking.printed_range:
        yield rule.says(
            Word.CONDEMN,
            "A start capacitor in a run place: it is made for seconds, not for continuous duty.",
            reading="a printed range",
            limit="continuous duty",
        )
    elif marking.rated_ac_v is None and marking.rated_dc_v is not None:
        yield rule.says(
            Word.CONDEMN,
            "A DC part in a motor run place: it is not made for continuous AC.",
            reading=f"{marking.rated_dc_v:g} V DC",
            limit="an AC rating",
        )


def _rated_for(rule: Rule, case: Case, *, alternating: bool) -> Iterator[Finding]:
    """The rating of each section against the volts of its place, the higher of those worked out and those read in service."""
    position = case.position
    needed = rating_voltage(position)
    if needed is not None and needed.alternating != alternating:
        return
    kind = Volts.AC if alternating else Volts.DC
    if needed is None and ROLES[position.role].volts not in (kind, Volts.EITHER):
        return
    marking, sections = position.marking, position.marking.sections
    if alternating and any(printed.rated_ac_v for printed in marking.classes):
        needed = None  # the supply is held against the class
    for number, section in enumerate(sections):
        needs = max(
            (n for n in (needed, _in_service(case, number, alternating=alternating)) if n), key=lambda n: n.volts, default=None
        )
        rated = section.rated_ac_v if alternating else section.rated_dc_v
        name = position.part_names[number] if len(sections) > 1 else ""
        subject = f"{name.capitalize()} is" if name else "It is"
        unit = "V AC" if alternating else "V DC"
        if needs is None:
            if rated and not marking.classes:
                sentence = f"{subject} rated {rated:g} V. What lies across it in normal work is not known: what does?"
                yield rule.says(Word.KEEP, sentence, reading=f"{rated:g} {unit}")
            return
        if rated is None:
            yield from _unrated(rule, case, number, subject, needs)
        elif not alternating and rated < (marking.rated_dc_v or 0.0) and needed is needs:
            continue  # a section of less stands elsewhere in the circuit
        else:
            low = rated < needs.volts * (1 - 1e-9)
            yield rule.says(
                Word.REPLACE if low else Word.KEEP,
                f"{subject} rated {rated:g} V, {'below' if low else 'not below'} the {needs.volts:.4g} V of its place.",
                reading=f"{rated:g} {unit}",
                limit=f"at least {needs.volts:.4g} {unit}: {needs.rests_on}",
            )


def _in_service(case: Case, number: int, *, alternating: bool) -> RatingVoltage | None:
    """The highest volts read across it in service, at the top of the meter's error."""
    quantity = Quantity.VOLTS_AC if alternating else Quantity.VOLTS_DC
    read = [r for r in case.evidence.of(number, quantity) if r.condition == Condition.IN_SERVICE and math.isfinite(r.high)]
    return RatingVoltage(max(r.value for r in read), alternating, "read across it in service") if read else None


def _unrated(rule: Rule, case: Case, number: int, subject: str, needs: RatingVoltage) -> Iterator[Finding]:
    """A part that prints nothing of the kind its place is on: on the mains a DC part is condemned, else its volts are asked for."""
    section, marking = case.position.parts[number], case.position.marking
    direct = section.rated_dc_v or marking.rated_dc_v
    if needs.alternating and case.position.role in CLASSED:
        return  # its class decides
    if needs.alternating and direct:
        sentence = f"{subject} rated {direct:g} V DC only, and stands on AC: its DC volts say nothing of that."
        yield rule.says(Word.CONDEMN, sentence, reading=f"{direct:g} V DC", limit=f"at least {needs.volts:.4g} V AC")
    elif needs.alternating:
        sentence = f"{subject} of no printed volts: what is it rated for?"
        yield rule.says(Word.WATCH, sentence, limit=f"at least {needs.volts:.4g} V AC")
    elif not needs.alternating:
        alternating = section.rated_ac_v or marking.rated_ac_v
        if alternating is None or math.sqrt(2) * alternating < needs.volts:
            shown = f"{alternating:g} V AC" if alternating else "no volts printed"
            word = Word.REPLACE if alternating else Word.WATCH
            yield rule.says(
                word, f"{subject} not rated on DC: what is it rated for?", reading=shown, limit=f"at least {needs.volts:.4g} V DC"
            )


def _rated_ac(rule: Rule, case: Case) -> Iterator[Finding]:
    yield from _rated_for(rule, case, alternating=True)


def _rated_dc(rule: Rule, case: Case) -> Iterator[Finding]:
    yield from _rated_for(rule, case, alternating=False)


def _internal_bleeder(rule: Rule, case: Case) -> Iterator[Finding]:
    bleeder = case.position.surroundings.bleeder
    if bleeder and bleeder.open:
        yield rule.says(
            Word.REPLACE,
            "The bleeder inside it is open: it keeps its charge after the supply is off.",
            reading="open",
            limit="a bleeder inside",
        )


SAFETY = "IEC 60384-14"
EVERY: frozenset[Role] = frozenset()
RUN = roles_that(lambda row: row.basis == Basis.MOTOR and row.duty == ServiceDuty.CONTINUOUS)
OVEN = roles_that(lambda row: row.basis == Basis.MAGNETRON)
INSIDE = "maker's type: an internal bleeder is part of it"
PEAK = "the peak of its supply at +10 % (IEC 60038)"
RULES = (
    *(Rule(f"{role}.class", "Safety class right for the place", SAFETY, frozenset({role}), _class) for role in sorted(CLASSED)),
    Rule("class.voltage", "Rated voltage of the class not below the supply", SAFETY, CLASSED, _class_voltage),
    Rule("rating.ac", "Rated for the AC volts of its place", "IEC 60252-1, IEC 61071", EVERY, _rated_ac),
    Rule("rating.dc", "Rated for the DC volts of its place", PEAK, EVERY, _rated_dc),
    Rule("motor_run.duty", "Made for continuous AC duty", "IEC 60252-1", RUN, _run_duty),
    Rule(
        "magnetron.bleeder",
        "The bleeder inside is whole",
        "maker's type: an internal bleeder is part of it",
        OVEN,
        _internal_bleeder,
    ),
)
