"""Good or bad: every rule speaks, the worst reason decides."""

import datetime
from collections.abc import Iterable, Mapping

from dusky_heron.core.model import SEVERITY, Evidence, Finding, Limit, Measurement, Position, Quantity, Verdict, Word
from dusky_heron.core.schools import default_schools
from dusky_heron.core.verdict import (
    age,
    capacitance,
    conduction,
    dissipation,
    dropper_balance,
    electrolytic,
    insulation,
    looks,
    marking,
    meters,
    ratings,
    two_core,
)
from dusky_heron.core.verdict.registry import DEFAULT_LIMITS, Case, Rule

RULES: tuple[Rule, ...] = (
    *marking.RULES,
    *capacitance.RULES,
    *dropper_balance.RULES,
    *ratings.RULES,
    *two_core.RULES,
    *electrolytic.RULES,
    *insulation.RULES,
    *conduction.RULES,
    *dissipation.RULES,
    *meters.RULES,
    *age.RULES,
    *looks.RULES,
)
RULES_VERSION = "6"


def judge(
    position: Position,
    evidence: Evidence,
    *,
    limits: Mapping[str, Limit] = DEFAULT_LIMITS,
    today: datetime.date,
    schools: Mapping[str, str] | None = None,
) -> Verdict:
    """Judge the part in a position by every rule of its role; the worst finding decides.

    Order of words, best first: keep, watch, unknown, replace, condemn. Readings are intervals: wholly inside passes,
    wholly outside fails, across the limit cannot be told, unless the meter is much finer than the limit: then the conservative
    side is taken.

    :param position: the place, its role, its part's marking and the supply
    :param evidence: readings and signs
    :param limits: limits by id; the table `verdict_limits` with the workshop's changes
    :param today: the day of the judgement
    :param schools: the workshop's choices where practitioners disagree, by question; the defaults when None
    :returns: Verdict with reasons worst first, of open ones that first whose measurement settles most; and that measurement
    :raises InputError: never for evidence that could be built
    :source: each finding names its own; interval rule ISO 14253-1
    """
    case = Case(position, evidence, limits, today, schools or default_schools())
    found = [finding for rule in RULES if rule.applies(position.role) for finding in rule.judge(rule, case)]
    worst = max((finding.word for finding in found), key=SEVERITY.__getitem__)
    asked = _settling(found) if worst == Word.UNKNOWN else None
    reasons = sorted(found, key=lambda f: (-SEVERITY[f.word], asked is None or f.settled_by != asked))
    return Verdict(worst, tuple(reasons), asked, RULES_VERSION)


def _settling(reasons: Iterable[Finding]) -> Measurement | None:
    """Of the measurements that would each settle an open finding, the one that settles most; the easiest of equals.

    When several findings ask for the same reading, it is asked for with the smallest error any of them needs.
    """
    asked: dict[tuple[object, ...], list[Measurement]] = {}
    for finding in reasons:
        if finding.word == Word.UNKNOWN and (ask := finding.settled_by):
            asked.setdefault((ask.section, ask.quantity, ask.condition), []).append(ask)
    if not asked:
        return None
    easy = list(Quantity)
    most = max(asked.values(), key=lambda asks: (len(asks), -easy.index(asks[0].quantity), -asks[0].section))
    return min(most, key=lambda ask: ask.error)
