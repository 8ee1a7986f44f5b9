"""The right replacement: what the place demands, hard refusals, then ranking."""

import math
from collections.abc import Iterable
from dataclasses import replace

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings.ratings import MOTOR
from dusky_heron.core.model import (
    Candidate,
    Need,
    Origin,
    Part,
    Policy,
    Refusal,
    Rejected,
    Role,
    Selection,
)
from dusky_heron.core.quantities import show
from dusky_heron.core.selection import fit
from dusky_heron.core.selection.need import describe, need_of
from dusky_heron.core.selection.rules import ELECTROLYTIC, HARD_RULES, PULSED, RIPPLED, HardRule

__all__ = ["DEFAULT_POLICY", "describe", "need_of", "rank"]
DEFAULT_POLICY = Policy()
PREFERRED_OVER_NOMINAL = 1.1
BEYOND, SALVAGED_BEHIND, OLD_BEHIND = 3.0, 3.0, 0.5  # in the points of a score, where one is a lead bent


def rank(need: Need, parts: Iterable[Part], policy: Policy = DEFAULT_POLICY) -> Selection:
    """Refuse what may not take the place, with every reason; rank the rest, best first.

    The score is a penalty, lower is better: distance from the marked value, missing preferred voltage margin or humidity
    grade, work to fit, none in the drawer.

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
    rules = [rule for rule in HARD_RULES if rule.applies(need.role)]
    judged: dict[tuple[object, ...], Candidate | Rejected] = {}  # a drawer holds many parts alike but for lot and place
    for part in parts:
        alike = _judged_by(part)
        answer = replace(judged[alike], part=part) if alike in judged else _judge(need, part, policy, rules)
        judged.setdefault(alike, answer)
        if isinstance(answer, Candidate):
            accepted.append(answer)
        else:
            rejected.append(answer)
    accepted.sort(key=lambda c: (c.score, c.part.price or 0.0, c.part.part_id))
    rejected.sort(key=lambda r: (_distance(need, r.part), len(r.reasons), r.part.part_id))
    return Selection(tuple(accepted), tuple(rejected))


def _judged_by(part: Part) -> tuple[object, ...]:
    """All that a judgement looks at: two parts that share it are judged alike."""
    made = (part.kind, part.origin, part.quantity > 0, part.humidity_grade, part.lead_form, part.measured)
    return (id(part.marking), *made, part.size_mm, part.pitch_mm, part.ripple_a, part.dvdt_v_s)


def _judge(need: Need, part: Part, policy: Policy, rules: list[HardRule]) -> Candidate | Rejected:
    said = [(rule, sentence) for rule in rules if (sentence := rule.check(need, part, policy))]
    standing = [(rule, sentence) for rule, sentence in said if rule.id not in policy.overridden]
    if standing:
        return Rejected(part, tuple(Refusal(rule.id, sentence, rule.source, not rule.demand) for rule, sentence in standing))
    return _candidate(need, part, tuple(f"Overridden: {sentence}" for _, sentence in said))


def _distance(need: Need, part: Part) -> float:
    """How far the capacitance lies from the marked value, as a ratio, whatever the number of sections."""
    marked = sum(section[1] for section in need.sections_f)
    return round(abs(math.log(part.marking.capacitance_f / marked)), 2)


def _candidate(need: Need, part: Part, overridden: tuple[str, ...]) -> Candidate:
    score, reasons, conditions = 2.0 * len(overridden), [], list(overridden)
    offered = sorted(section.capacitance_f for section in part.marking.sections)
    wanted = sorted(marked for _, marked, _ in need.sections_f)
    off = max(abs(have / want - 1) for have, want in zip(offered, wanted, strict=False))
    score += 10 * off
    values = " + ".join(show(s.capacitance_f, "F") for s in part.marking.sections)
    reasons.append(f"{values}, as marked." if off < 1e-6 else f"{values}, {off * 100:.0f} % from the marked value.")
    rated = part.marking.rated_ac_v
    if rated and need.old_ac_ratings:
        reasons.append(f"{rated:g} V AC for the old {min(need.old_ac_ratings):g} V AC.")
    if rated and need.supply_v and rated < PREFERRED_OVER_NOMINAL * need.supply_v:
        score += 1
        reasons.append("Less than 10 % above the nominal supply.")
    score += _duty_penalty(need, part, reasons)
    if need.role in (Role.X, Role.DROPPER) and not part.humidity_grade:
        score += 0.5
        reasons.append("Not a humidity-tested grade.")
    if need.old_dc_v and part.marking.rated_dc_v:
        reasons.append(f"{part.marking.rated_dc_v:g} V DC for the old {need.old_dc_v:g} V DC.")
    adaptations = fit.adaptations(need, part)
    score += max(0, len(adaptations) - 1)  # the last is the distance to keep
    score += _beyond(need, part, conditions)
    if need.role == Role.X and part.marking.capacitance_f > sum(marked for _, marked, _ in need.sections_f):
        conditions.append("Larger than marked: check the discharge time at the plug and the standby current.")
    conditions += _to_confirm(need, part)
    score += _origin_penalty(part, conditions)
    if part.quantity < 1:
        score += 2
        conditions.append("None in the drawer: order it.")
    return Candidate(part, round(score, 6), tuple(reasons), adaptations, tuple(conditions))


def _beyond(need: Need, part: Part, conditions: list[str]) -> float:
    """A part beyond a limit of its surroundings ranks behind one within, and says what lies there."""
    found = [limit.beyond for limit in need.beyond if part.marking.highest_f > limit.farads * (1 + 1e-9)]
    conditions += [f"{says[:1].upper()}{says[1:]}." for says in found]
    return BEYOND * len(found)


def _origin_penalty(part: Part, conditions: list[str]) -> float:
    """A part that is not new ranks behind one that is, whatever it costs, and says what it asks for."""
    if part.origin == Origin.SALVAGED:
        conditions.append("Salvaged: its measurements on record before it goes in.")
        return SALVAGED_BEHIND
    if part.origin == Origin.OLD_STOCK and part.kind in ELECTROLYTIC:
        conditions.append("Old stock: re-form it first, and measure its leakage.")
        return OLD_BEHIND
    return 0.0


def _to_confirm(need: Need, part: Part) -> list[str]:
    """What the marking does not tell and somebody has to look up."""
    grown = part.marking.capacitance_f > sum(marked for _, marked, _ in need.sections_f) * (1 + 1e-6)
    found = []
    if need.role in RIPPLED and part.ripple_a is None:
        found.append("Its ripple current is not on record: compare the data sheets.")
    if need.role in PULSED and need.dvdt_v_s is None:
        found.append("The dv/dt and peak current of the old part are not known: compare the data sheets.")
    if need.role == Role.RESERVOIR and grown:
        found.append("Larger than marked: check the rectifier on the supply bench.")
    if need.role == Role.DROPPER and grown and not need.circuit:
        found.append("Larger than marked: the zener takes the rest; note its rating.")
    if need.role == Role.MOTOR_START:
        found.append("A bleed resistor that was fitted goes back across it.")
    return found


def _duty_penalty(need: Need, part: Part, reasons: list[str]) -> float:
    """A motor part that says nothing about its protection ranks behind one that fails open only."""
    if need.role != Role.MOTOR_RUN:
        return 0.0
    protection = part.marking.duty.protection_class if part.marking.duty else None
    if protection is None:
        reasons.append("No protection class printed.")
        return 0.5
    reasons.append(f"{protection}: {MOTOR['protection_means'][protection]}.")
    return 0.0 if MOTOR["protection_rank"][protection] >= 2 else 0.25
