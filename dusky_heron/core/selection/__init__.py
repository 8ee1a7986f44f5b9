"""The right replacement: what the place demands, hard refusals, then ranking."""

import math
from collections.abc import Iterable, Sequence
from dataclasses import replace

from dusky_heron.core.errors import InputError
from dusky_heron.core.model import Candidate, Need, Part, Policy, Refusal, Rejected, Selection
from dusky_heron.core.selection.conditions import conditions_of
from dusky_heron.core.selection.fit import adaptations
from dusky_heron.core.selection.need import describe, need_of
from dusky_heron.core.selection.points import order_of, points_of, reasons_of
from dusky_heron.core.selection.rules import HARD_RULES, HardRule, refusals_of, rules_for

__all__ = ["DEFAULT_POLICY", "describe", "need_of", "rank", "why_before"]
DEFAULT_POLICY = Policy()
OVERRIDDEN = 2.0  # points of a demand set aside


def rank(need: Need, parts: Iterable[Part], policy: Policy = DEFAULT_POLICY) -> Selection:
    """Refuse what may not take the place, with every reason; rank the rest, best first.

    The score is a penalty, lower is better: what a part loses in each respect (`points`), summed. Between equal scores the finer
    respects decide one after the other, and price last.

    A demand that was overridden does not refuse: what it would have said stands among the conditions.

    :param need: what the place demands
    :param parts: the drawer
    :param policy: what the workshop decided for itself, and the demands it overrode here
    :returns: Selection; rejected parts nearest in capacitance first, so that near misses are seen
    :raises InputError: a rule overridden that is hard or unknown (`overridden`)
    :source: each refusal names its own
    """
    demands = {rule.id for rule in HARD_RULES if rule.demand}
    for rule_id in policy.overridden - demands:
        raise InputError("overridden", f"Nobody may override {rule_id}.")
    accepted: list[Candidate] = []
    rejected: list[Rejected] = []
    rules = rules_for(need)
    judged: dict[tuple[object, ...], Candidate | Rejected] = {}  # a drawer holds many parts alike but for lot and place
    for part in parts:
        alike = _judged_by(part)
        answer = replace(judged[alike], part=part) if alike in judged else _judge(need, part, policy, rules)
        judged.setdefault(alike, answer)
        if isinstance(answer, Candidate):
            accepted.append(answer)
        else:
            rejected.append(answer)
    accepted.sort(key=order_of)
    rejected.sort(key=lambda r: (_distance(need, r.part), len(r.reasons), r.part.part_id))
    return Selection(tuple(accepted), tuple(rejected))


def why_before(first: Candidate, second: Candidate) -> str:
    """Why one candidate stands before another, in one line: the respect in which it gains most, else the first finer one.

    :param first: the one before
    :param second: the one behind
    :returns: sentence
    :raises InputError: never
    :source: the order of preference, `points`
    """
    gains = [(theirs.points - own.points, own, theirs) for own, theirs in zip(first.points, second.points, strict=True)]
    coarse = [gain for gain in gains if not gain[1].fine] if first.score != second.score else []
    best = max(coarse, key=lambda gain: gain[0]) if coarse else next((gain for gain in gains if gain[0] > 0), None)
    if best and best[0] > 0:
        _, own, theirs = best
        return f"Before the next by its {own.about}: {own.says} against {theirs.says}."
    if first.part.price is not None and first.part.price < (second.part.price or 0.0):
        return "Equal to the next but for its price."
    return "Equal to the next in every respect on record."


def _judged_by(part: Part) -> tuple[object, ...]:
    """All that a judgement looks at: two parts that share it are judged alike."""
    made = (part.kind, part.origin, part.quantity > 0, part.humidity_grade, part.lead_form, part.measured, part.made)
    sheet = (part.ripple_a, part.dvdt_v_s, part.peak_a, part.esr_ohm)
    return (id(part.marking), *made, part.size_mm, part.pitch_mm, *sheet)


def _judge(need: Need, part: Part, policy: Policy, rules: Sequence[HardRule]) -> Candidate | Rejected:
    said = list(refusals_of(need, part, policy, rules))
    standing = [(rule, sentence) for rule, sentence in said if rule.id not in policy.overridden]
    if standing:
        return Rejected(part, tuple(Refusal(rule.id, sentence, rule.source, not rule.demand) for rule, sentence in standing))
    overridden = tuple(f"Overridden: {sentence}" for _, sentence in said)
    to_sign, to_know = conditions_of(need, part)
    fits = adaptations(need, part)
    points = points_of(need, part, fits)
    score = OVERRIDDEN * len(overridden) + sum(point.points for point in points if not point.fine)
    conditions = (*overridden, *to_sign, *to_know)
    return Candidate(part, round(score, 6), reasons_of(need, part), fits, conditions, to_sign, points)


def _distance(need: Need, part: Part) -> float:
    """How far the capacitance lies from the marked value, as a ratio, whatever the number of sections."""
    return round(abs(math.log(part.marking.capacitance_f / need.marked_f)), 2)
