"""Good or bad: every rule speaks, the worst reason decides."""

import datetime
from collections.abc import Mapping

from dusky_heron.core.model import SEVERITY, Evidence, Limit, Position, Role, Verdict, Word
from dusky_heron.core.schools import default_schools
from dusky_heron.core.verdict import (
    age,
    capacitance,
    conduction,
    dropper_balance,
    leaks,
    looks,
    losses,
    marking,
    meters,
    ratings,
    refused,
    two_core,
)
from dusky_heron.core.verdict.asking import Able, ended, next_of
from dusky_heron.core.verdict.registry import DEFAULT_LIMITS, Case, Rule

RULES: tuple[Rule, ...] = (
    *marking.RULES,
    *capacitance.RULES,
    *dropper_balance.RULES,
    *ratings.RULES,
    *two_core.RULES,
    *losses.RULES,
    *leaks.RULES,
    *conduction.RULES,
    *refused.RULES,
    *meters.RULES,
    *age.RULES,
    *looks.RULES,
)
RULES_VERSION = "7"
OF_ROLE = {role: tuple(rule for rule in RULES if rule.applies(role)) for role in Role}


def judge(
    position: Position,
    evidence: Evidence,
    *,
    limits: Mapping[str, Limit] = DEFAULT_LIMITS,
    today: datetime.date,
    schools: Mapping[str, str] | None = None,
    able: Able | None = None,
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
    :param able: whether a meter at hand can take a measurement; None where nothing is known of the meters, and any may be had
    :returns: Verdict with reasons worst first, of open ones that first whose measurement is asked for; and that measurement
    :raises InputError: never for evidence that could be built
    :source: each finding names its own; interval rule ISO 14253-1
    """
    case = Case(position, evidence, limits, today, schools or default_schools())
    said = [finding for rule in OF_ROLE[position.role] for finding in rule.judge(rule, case)]
    found = list(ended(position, evidence, said, able))
    worst = max((finding.word for finding in found), key=SEVERITY.__getitem__)
    asked = next_of(found, worst)
    first = worst == Word.UNKNOWN  # what is asked for settles it; of a part to be kept it is only what is lacking
    reasons = sorted(found, key=lambda f: (-SEVERITY[f.word], (f.settled_by == asked) != first if asked else False))
    return Verdict(worst, tuple(reasons), asked, RULES_VERSION)
