"""Rules of motor run capacitors (IEC 60252-1)."""

from collections.abc import Iterator

from dusky_heron.core.markings.model import Section
from dusky_heron.core.model import Finding, Role, Word
from dusky_heron.core.verdict.registry import Case, Rule
from dusky_heron.core.verdict.windows import Window, judge_sections, printed_or

ROLES = frozenset({Role.MOTOR_RUN})


def _window(section: Section, case: Case) -> Window:
    low, high, says, source = printed_or(section, case.limits["motor_run.tolerance"])
    return Window(low, high, low, says, source)


def _capacitance(rule: Rule, case: Case) -> Iterator[Finding]:
    yield from judge_sections(rule, case, _window)


def _duty(rule: Rule, case: Case) -> Iterator[Finding]:
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


def _voltage(rule: Rule, case: Case) -> Iterator[Finding]:
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


RULES = (
    Rule("motor_run.capacitance", "Capacitance inside its tolerance", "IEC 60252-1", ROLES, _capacitance),
    Rule("motor_run.duty", "Made for continuous AC duty", "IEC 60252-1", ROLES, _duty),
    Rule("motor_run.voltage", "Rated for the supply at least", "IEC 60252-1", ROLES, _voltage),
)
