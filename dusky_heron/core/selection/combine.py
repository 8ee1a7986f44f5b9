"""When no single part fits: two in parallel, two in series, singles for a dual; searched in the drawer."""

import bisect
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum

from dusky_heron.core.model import Need, Part, Policy, Role
from dusky_heron.core.model.roles import POLARISED
from dusky_heron.core.quantities import show
from dusky_heron.core.selection.rules import HARD_RULES

OF_THE_WHOLE = {
    "capacitance.window",
    "circuit.simulated",
    "sections.count",
    "fit.space",
    "fit.pitch",
    "policy.larger",
    "policy.dual",
}
VALUE_RULES = frozenset(OF_THE_WHOLE)
SERIES_RULES = VALUE_RULES | {"voltage.dc"}
MOST = 20  # shown


class Way(StrEnum):
    """How parts are put together."""

    PARALLEL = "parallel"
    SERIES = "series"
    SINGLES = "singles"


@dataclass(frozen=True, slots=True)
class Combination:
    """Parts that take a place together: what they come to, what has to be made, and how far it lies from the marked value.

    `worst_share_v` of a string is what one part stands at the old rating, by the spread of its tolerance.
    """

    way: Way
    parts: tuple[Part, ...]
    sections_f: tuple[float, ...]
    low_f: float
    high_f: float
    worst_share_v: float | None
    makes: tuple[str, ...]
    off: float


def combinations(need: Need, parts: Iterable[Part], policy: Policy | None = None) -> tuple[Combination, ...]:
    """Search the drawer for parts that take a place together, nearest to the marked value first.

    Every part stands every rule but those of value, sections and fit by itself. Parallel adds capacitance; of two equal
    electrolytics in series each carries half, worst by tolerance, and capacitance halves; a dual takes a single for each section.

    :param need: what the place demands
    :param parts: the drawer, with quantities
    :param policy: of the workshop
    :returns: the best, at most twenty
    :raises InputError: never
    :source: capacitances in parallel and in series; voltage shared inversely to capacitance
    """
    policy, drawer = policy or Policy(), [part for part in parts if part.quantity > 0 and len(part.marking.sections) == 1]
    alone = _stand(need, drawer, policy, VALUE_RULES)
    found: list[Combination] = []
    if len(need.sections_f) > 1:
        found += _singles(need, alone) if policy.dual != "dual" or need.role is not Role.MOTOR_RUN else []
    else:
        found += _parallel(need, alone)
        if "Y1" in need.place_classes:
            found += _y_pair(need, _stand(need, drawer, policy, VALUE_RULES | {"class.safety", "voltage.safety"}))
        if need.role in POLARISED and need.old_dc_v:
            found += _series(need, _stand(need, drawer, policy, SERIES_RULES))
    if not policy.larger and "policy.larger" not in policy.overridden:
        marked = sum(section[1] for section in need.sections_f)
        found = [one for one in found if sum(one.sections_f) <= marked * (1 + 1e-9)]
    found.sort(key=lambda c: (round(c.off, 4), len(c.parts), sum(p.price or 0.0 for p in c.parts), [p.part_id for p in c.parts]))
    return tuple(found[:MOST])


def _stand(need: Need, drawer: Sequence[Part], policy: Policy, but: frozenset[str]) -> list[Part]:
    """The parts that no rule refuses, but for those that speak of the whole; smallest first."""
    rules = [rule for rule in HARD_RULES if rule.applies(need.role) and rule.id not in but and rule.id not in policy.overridden]
    kept = [part for part in drawer if not any(rule.check(need, part, policy) for rule in rules)]
    return sorted(kept, key=lambda part: (part.marking.capacitance_f, part.part_id))


def _window(need: Need) -> tuple[float, float, float]:
    low, marked, high = need.sections_f[0]
    for limit in need.circuit:
        low, high = (max(low, limit.farads), high) if limit.least else (low, min(high, limit.farads))
    return low * (1 - 1e-9), marked, high * (1 + 1e-9)


def _spread(part: Part) -> tuple[float, float]:
    section = part.marking.sections[0]
    return section.lowest_f, section.highest_f


def _parallel(need: Need, parts: Sequence[Part]) -> Iterator[Combination]:
    low, marked, high = _window(need)
    values = [part.marking.capacitance_f for part in parts]
    for index, first in enumerate(parts):
        start = max(bisect.bisect_left(values, low - values[index]), index)
        for other in range(start, bisect.bisect_right(values, high - values[index])):
            second = parts[other]
            if other == index and first.quantity < 2:
                continue
            total = values[index] + values[other]
            (a, b), (c, d) = _spread(first), _spread(second)
            makes = ("Both across the place, side by side: a strap, fixed, the same voltage and class each.",)
            yield Combination(Way.PARALLEL, (first, second), (total,), a + c, b + d, None, makes, abs(total / marked - 1))


def _series(need: Need, parts: Sequence[Part]) -> Iterator[Combination]:
    """Two of the same, each for half the voltage."""
    low, marked, high = _window(need)
    volts = need.old_dc_v or 0.0
    for part in parts:
        total, rated = part.marking.capacitance_f / 2, part.marking.rated_dc_v
        if part.quantity < 2 or rated is None or not low <= total <= high:
            continue
        least, most = _spread(part)
        worst = volts * most / (least + most)  # the smaller of two takes the larger share
        if worst > rated:
            continue
        makes = (
            f"In series with a balancing resistor across each: {show(worst, 'V')} at worst on one.",
            "See the series string bench for the resistors and their loss.",
        )
        yield Combination(Way.SERIES, (part, part), (total,), least / 2, most / 2, worst, makes, abs(total / marked - 1))


def _singles(need: Need, parts: Sequence[Part]) -> Iterator[Combination]:
    """The nearest single for each section of a dual or a can."""
    chosen: list[Part] = []
    left = {part.part_id: part.quantity for part in parts}
    for low, marked, high in need.sections_f:
        fitting = [p for p in parts if low * (1 - 1e-9) <= p.marking.capacitance_f <= high * (1 + 1e-9) and left[p.part_id] > 0]
        if not fitting:
            return
        best = min(fitting, key=lambda p: (abs(p.marking.capacitance_f / marked - 1), p.price or 0.0, p.part_id))
        left[best.part_id] -= 1
        chosen.append(best)
    values = tuple(part.marking.capacitance_f for part in chosen)
    spreads = [_spread(part) for part in chosen]
    off = max(abs(value / marked - 1) for value, (_, marked, _) in zip(values, need.sections_f, strict=True))
    common = "commons strapped" if need.role is Role.MOTOR_RUN else "minus strapped"
    makes = (
        f"Singles on a terminal strip, both fixed, {common}, wires recorded first.",
        "The old sections are disconnected, never left in parallel.",
    )
    lows, highs = sum(low for low, _ in spreads), sum(high for _, high in spreads)
    yield Combination(Way.SINGLES, tuple(chosen), values, lows, highs, None, makes, off)


def _y_pair(need: Need, parts: Sequence[Part]) -> Iterator[Combination]:
    """Two equal Y2 for a Y1, each rated for the whole voltage: only where the standard of the equipment allows it."""
    low, marked, high = _window(need)
    for part in parts:
        total, rated = part.marking.capacitance_f / 2, part.marking.rated_ac_v or 0.0
        if part.quantity < 2 or "Y2" not in part.marking.class_names or rated < (need.supply_v or 0.0) or not low <= total <= high:
            continue
        least, most = _spread(part)
        makes = ("Two equal Y2 in series for a Y1, only where the equipment's own standard allows it: a decision to be recorded.",)
        yield Combination(Way.SERIES, (part, part), (total,), least / 2, most / 2, None, makes, abs(total / marked - 1))
