"""Rules of X capacitors, line to line (IEC 60384-14)."""

from collections.abc import Iterator

from dusky_heron.core.markings.model import Section
from dusky_heron.core.model import Finding, Role, Word
from dusky_heron.core.selection.safety_class import may_replace
from dusky_heron.core.verdict.registry import Case, Rule
from dusky_heron.core.verdict.windows import Window, judge_sections, printed_or

ROLES = frozenset({Role.X})


def _window(section: Section, case: Case) -> Window:
    loss = case.limits["x.loss"]
    low, high, says, source = printed_or(section, case.limits["x.tolerance"])
    return Window(
        low,
        high,
        min(low, section.capacitance_f * (1 - loss.value)),
        says,
        f"{source}; {loss.value * 100:g} % loss by {loss.source}",
    )


def _capacitance(rule: Rule, case: Case) -> Iterator[Finding]:
    yield from judge_sections(rule, case, _window)


def _class(rule: Rule, case: Case) -> Iterator[Finding]:
    place = case.position.place_classes or ("X2",)
    printed = case.position.marking.class_names
    answer = may_replace(place, printed)
    word, sentence = (Word.KEEP, answer.reason) if answer.allowed else (Word.CONDEMN, answer.reason)
    if printed == ("X3",) and not case.position.place_classes:
        word, sentence = Word.WATCH, "X3 is an old class without an impulse test: take an X2 or better when it is replaced."
    shown = " ".join(printed) or "no class printed"
    yield rule.says(word, sentence, reading=shown, limit=f"{' and '.join(place)} or better")


def _voltage(rule: Rule, case: Case) -> Iterator[Finding]:
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


RULES = (
    Rule("x.capacitance", "Capacitance inside its tolerance, loss within limits", "IEC 60384-14", ROLES, _capacitance),
    Rule("x.class", "Safety class right for the place", "IEC 60384-14", ROLES, _class),
    Rule("x.voltage", "Rated voltage of the class not below the supply", "IEC 60384-14", ROLES, _voltage),
)
