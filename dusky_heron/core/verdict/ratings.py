"""Class, kind and voltage of a part against its place (IEC 60384-14, IEC 60252-1)."""

import math
from collections.abc import Iterator, Mapping

from dusky_heron.core.discharge.planning import CORRECTED_V, MAINS_HIGH
from dusky_heron.core.model import ROLE_BASIS, Arrangement, Basis, Finding, Position, Role, Word
from dusky_heron.core.model.terms import DIRECT_ROLES
from dusky_heron.core.selection.safety_class import may_replace
from dusky_heron.core.verdict.registry import Case, Rule

MOTOR = frozenset({Role.MOTOR_RUN})
USUAL_CLASS: Mapping[Role, tuple[str, ...]] = {Role.X: ("X2",), Role.Y: ("Y2",), Role.DROPPER: ("X2",)}


def _class(rule: Rule, case: Case) -> Iterator[Finding]:
    place = case.position.place_classes or USUAL_CLASS[case.position.role]
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
    if not rated or supply is None:
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


def _motor_voltage(rule: Rule, case: Case) -> Iterator[Finding]:
    rated, supply = case.position.marking.rated_ac_v, case.position.supply_v
    if rated is None or supply is None:
        return
    word = Word.REPLACE if rated < supply else Word.KEEP
    sentence = (
        f"Rated {rated:g} V AC on a {supply:g} V supply, and the auxiliary winding lifts it higher."
        if word == Word.REPLACE
        else f"Rated {rated:g} V AC, not below the {supply:g} V supply."
    )
    yield rule.says(word, sentence, reading=f"{rated:g} V AC", limit=f"at least {supply:g} V AC")


def rating_voltage(position: Position) -> float | None:
    """What a part of a DC place must be rated for: the highest in normal work at highest mains, of its own share.

    Rectified mains, one phase or three, √2 × supply × 1.10; each half of a doubler the same; a transformer √2 × secondary × 1.10;
    400 V behind power-factor correction; in a string of equal parts with balancing resistors the share of one.

    :param position: the place
    :returns: volts; None where its circuit is not known
    :raises InputError: never
    :source: peak of a sine wave; mains tolerance of IEC 60038
    """
    around = position.surroundings
    basis = around.basis or ROLE_BASIS.get(position.role)
    fed = {
        Basis.RECTIFIED: position.supply_v,
        Basis.DOUBLER: position.supply_v,
        Basis.THREE_PHASE_BRIDGE: position.supply_v,
        Basis.TRANSFORMER: around.volts,
    }.get(basis) if basis else None  # fmt: skip
    volts = CORRECTED_V if basis == Basis.POWER_FACTOR_CORRECTION else math.sqrt(2) * MAINS_HIGH * fed if fed else None
    if volts is None:
        return None
    return volts / around.count if around.arrangement == Arrangement.SERIES and basis != Basis.DOUBLER else volts


def _dc_voltage(rule: Rule, case: Case) -> Iterator[Finding]:
    needed = rating_voltage(case.position)
    if needed is None:
        return
    for number, section in enumerate(case.position.marking.sections):
        rated = section.rated_dc_v
        if rated is None or rated < (case.position.marking.rated_dc_v or 0.0):
            continue  # a section of less stands elsewhere in the circuit
        name = case.position.part_names[number] if len(case.position.marking.sections) > 1 else ""
        low = rated < needed
        yield rule.says(
            Word.REPLACE if low else Word.KEEP,
            f"{name.capitalize() + ' is' if name else 'It is'} rated {rated:g} V, {'below' if low else 'not below'} the "
            f"{needed:.0f} V of its place at the highest mains.",
            reading=f"{rated:g} V DC",
            limit=f"at least {needed:.0f} V DC",
        )


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
RULES = (
    *(Rule(f"{role}.class", "Safety class right for the place", SAFETY, frozenset({role}), _class) for role in USUAL_CLASS),
    *(
        Rule(f"{role}.voltage", "Rated voltage of the class not below the supply", SAFETY, frozenset({role}), _class_voltage)
        for role in USUAL_CLASS
    ),
    Rule("rating.dc", "Rated for the volts of its place", "the peak of its supply at +10 % (IEC 60038)", DIRECT_ROLES, _dc_voltage),
    Rule("motor_run.duty", "Made for continuous AC duty", "IEC 60252-1", MOTOR, _run_duty),
    Rule("motor_run.voltage", "Rated for the supply at least", "IEC 60252-1", MOTOR, _motor_voltage),
    Rule(
        "magnetron.bleeder",
        "The bleeder inside is whole",
        "maker's type: an internal bleeder is part of it",
        frozenset({Role.MAGNETRON}),
        _internal_bleeder,
    ),
)
