"""Good or bad: every rule speaks, the worst reason decides."""

import datetime
from collections.abc import Mapping

from dusky_heron.core.model import ROLE_TITLES, SEVERITY, Evidence, Finding, Limit, Position, Verdict, Word
from dusky_heron.core.verdict import age, capacitance, electrolytic, insulation, looks, meters, ratings
from dusky_heron.core.verdict.registry import DEFAULT_LIMITS, Case, Rule

RULES: tuple[Rule, ...] = (
    *capacitance.RULES,
    *ratings.RULES,
    *electrolytic.RULES,
    *insulation.RULES,
    *meters.RULES,
    *age.RULES,
    *looks.RULES,
)
RULES_VERSION = "2"


def judge(position: Position, evidence: Evidence, *, limits: Mapping[str, Limit] = DEFAULT_LIMITS, today: datetime.date) -> Verdict:
    """Judge the part in a position by every rule of its role; the worst finding decides.

    Order of words, best first: keep, watch, unknown, replace, condemn. Readings are intervals: wholly inside passes,
    wholly outside fails, across the limit cannot be told.

    :param position: the place, its role, its part's marking and the supply
    :param evidence: readings and signs
    :param limits: limits by id; the table `verdict_limits` with the workshop's changes
    :param today: the day of the judgement
    :returns: Verdict with reasons worst first, and the measurement that would settle the worst open one
    :raises InputError: never for evidence that could be built
    :source: each finding names its own; interval rule ISO 14253-1
    """
    case = Case(position, evidence, limits, today)
    found = [finding for rule in RULES if rule.applies(position.role) for finding in rule.judge(rule, case)]
    if not any(rule.roles and rule.applies(position.role) for rule in RULES):
        found.append(_no_rules(position))
    reasons = tuple(sorted(found, key=lambda finding: -SEVERITY[finding.word]))
    word = reasons[0].word
    asked = next((f.settled_by for f in reasons if f.settled_by), None) if word == Word.UNKNOWN else None
    return Verdict(word, reasons, asked, RULES_VERSION)


def _no_rules(position: Position) -> Finding:
    sentence = f"There are no rules here yet for this role ({ROLE_TITLES[position.role]}): decide by its standard."
    return Finding("role.no_rules", Word.UNKNOWN, sentence, "", "", "none")
