"""When no single part fits: two in parallel, two in series, singles for a dual; searched in the drawer."""

import bisect
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace

from dusky_heron.core.model import Floor, Need, Part, Policy, Role
from dusky_heron.core.model.roles import MOTORS, POLARISED
from dusky_heron.core.quantities import show
from dusky_heron.core.selection.conditions import conditions_of
from dusky_heron.core.selection.rules import chassis_f, refusals_of, rules_for
from dusky_heron.core.selection.ways import Way

OF_THE_WHOLE = {
    "capacitance.window",
    "circuit.simulated",
    "sections.count",
    "touch.current",
    "fit.space",
    "fit.pitch",
    "policy.larger",
    "policy.dual",
}
VALUE_RULES = frozenset(OF_THE_WHOLE)
SERIES_RULES = VALUE_RULES | {"voltage.dc", "voltage.old"}
Y_PAIR_RULES = VALUE_RULES | {"class.safety", "voltage.safety", "voltage.old"}
MOST = 20  # shown


@dataclass(frozen=True, slots=True)
class Combination:
    """Parts that take a place together: what they come to, what has to be made, and how far it lies from the marked value.

    `worst_share_v` of a string is what one part stands at the volts of the place, by the spread of its tolerance; `to_sign` what
    somebody has to sign before they are taken.
    """

    way: Way
    parts: tuple[Part, ...]
    sections_f: tuple[float, ...]
    low_f: float
    high_f: float
    worst_share_v: float | None
    makes: tuple[str, ...]
    off: float
    to_sign: tuple[str, ...] = ()


def combinations(need: Need, parts: Iterable[Part], policy: Policy | None = None) -> tuple[Combination, ...]:
    """Search the drawer for parts that take a place together, nearest to the marked value first.

    Every part stands every rule but those of value, sections and fit by itself, in its own share of the place; what leads to the
    chassis is added up and held against touch current. Parallel adds capacitance; of two equal electrolytics in series each
    carries half, worst by tolerance, and capacitance halves; a dual, a can or a network takes a single for each section.

    :param need: what the place demands
    :param parts: the drawer, with quantities
    :param policy: of the workshop
    :returns: the best, at most twenty
    :raises InputError: never
    :source: capacitances in parallel and in series; voltage shared inversely to capacitance; IEC 60384-14 (two Y2 for a Y1)
    """
    policy, drawer = policy or Policy(), [part for part in parts if part.quantity > 0 and len(part.marking.sections) == 1]
    found: list[Combination] = []
    if len(need.sections_f) > 1:
        found += _singles(need, drawer, policy) if policy.dual != "dual" or need.role is not Role.MOTOR_RUN else []
    else:
        found += _parallel(need, _stand(need, drawer, policy, VALUE_RULES))
        if "Y1" in need.place_classes:
            found += _y_pair(need, _stand(need, drawer, policy, Y_PAIR_RULES))
        if need.role in POLARISED and need.floor(alternating=False):
            found += _series(need, _stand(need, drawer, policy, SERIES_RULES))
    if not policy.larger and "policy.larger" not in policy.overridden:
        found = [one for one in found if sum(one.sections_f) <= need.marked_f * (1 + 1e-9)]
    found.sort(key=lambda c: (round(c.off, 4), len(c.parts), sum(p.price or 0.0 for p in c.parts), [p.part_id for p in c.parts]))
    return tuple(found[:MOST])


def share_of(need: Need, number: int) -> Need:
    """What one section of a place demands by itself: its window, its classes, its volts.

    :param need: what the whole place demands
    :param number: which section, from 0
    :returns: Need of one section
    :raises InputError: never
    :source: each section keeps its own volts and class
    """
    own = need.sections_dc_v[number] if need.sections_dc_v else None
    elsewhere = own is not None and own < max(need.sections_dc_v)

    def floor(whole: Floor) -> Floor:
        if whole.alternating or own is None:
            return whole
        return Floor(False, None, own) if elsewhere else replace(whole, old_v=own)

    return replace(
        need,
        sections_f=(need.sections_f[number],),
        floors=tuple(map(floor, need.floors)),
        sections_classes=(need.sections_classes[number],) if need.sections_classes else (),
        sections_dc_v=(),
        spread=(need.spread[number],) if need.spread else (),
    )


def _stand(need: Need, drawer: Sequence[Part], policy: Policy, but: frozenset[str]) -> list[Part]:
    """The parts that no rule refuses, but for those that speak of the whole; smallest first."""
    rules = rules_for(need, but | policy.overridden)
    kept = [part for part in drawer if next(refusals_of(need, part, policy, rules), None) is None]
    return sorted(kept, key=lambda part: (part.marking.capacitance_f, part.part_id))


def _signed(need: Need, parts: Sequence[Part], farads: float) -> tuple[str, ...]:
    """What has to be signed of each part, and of all that leads to the chassis together; each once."""
    apart = replace(need, beyond=())
    found = [said for part in parts for said in conditions_of(apart, part)[0]]
    found += [f"{limit.beyond[:1].upper()}{limit.beyond[1:]}." for limit in need.beyond if farads > limit.farads * (1 + 1e-9)]
    return tuple(dict.fromkeys(found))


def _touches(need: Need, farads: float) -> bool:
    """Whether what leads to the chassis together passes the limit of touch current."""
    return need.touch is not None and farads > need.touch.farads * (1 + 1e-9)


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
            leads = chassis_f(need, first) + chassis_f(need, second)
            if (other == index and first.quantity < 2) or (leads and _touches(need, leads)):
                continue
            total = values[index] + values[other]
            (a, b), (c, d) = _spread(first), _spread(second)
            makes = ("Both across the place, side by side: a strap, fixed, the same voltage and class each.",)
            signed = _signed(need, (first, second), leads or b + d)
            yield Combination(Way.PARALLEL, (first, second), (total,), a + c, b + d, None, makes, abs(total / marked - 1), signed)


def _series(need: Need, parts: Sequence[Part]) -> Iterator[Combination]:
    """Two of the same, each for half the voltage."""
    low, marked, high = _window(need)
    floor = need.floor(alternating=False)
    volts = max(floor.circuit_v or 0.0, floor.old_v or 0.0) if floor else 0.0
    for part in parts:
        total, rated = part.marking.capacitance_f / 2, part.marking.rated_dc_v
        if not volts or part.quantity < 2 or rated is None or not low <= total <= high:
            continue
        least, most = _spread(part)
        worst = volts * most / (least + most)  # the smaller of two takes the larger share
        if worst > rated:
            continue
        makes = (
            f"In series with a balancing resistor across each: {show(worst, 'V')} at worst on one.",
            "See the series string bench for the resistors and their loss.",
        )
        signed = _signed(need, (part, part), most / 2)
        yield Combination(Way.SERIES, (part, part), (total,), least / 2, most / 2, worst, makes, abs(total / marked - 1), signed)


def _singles(need: Need, drawer: Sequence[Part], policy: Policy) -> Iterator[Combination]:
    """The nearest single for each section of a dual, a can or a network, each in its own share."""
    chosen: list[Part] = []
    left = {part.part_id: part.quantity for part in drawer}
    shares = [share_of(need, number) for number in range(len(need.sections_f))]
    for share in shares:
        low, marked, high = share.sections_f[0]
        fitting = [
            p
            for p in _stand(share, drawer, policy, VALUE_RULES)
            if low * (1 - 1e-9) <= p.marking.capacitance_f <= high * (1 + 1e-9) and left[p.part_id] > 0
        ]
        if not fitting:
            return
        best = min(fitting, key=lambda p: (abs(p.marking.capacitance_f / marked - 1), p.price or 0.0, p.part_id))
        left[best.part_id] -= 1
        chosen.append(best)
    values = tuple(part.marking.capacitance_f for part in chosen)
    spreads = [_spread(part) for part in chosen]
    to_chassis = [any(name[0] == "Y" for name in share.place_classes) for share in shares]
    leads = sum(part.marking.highest_f for part, to in zip(chosen, to_chassis, strict=True) if to)
    if leads and _touches(need, leads):
        return
    off = max(abs(value / marked - 1) for value, (_, marked, _) in zip(values, need.sections_f, strict=True))
    common = "commons strapped" if need.role in MOTORS else "what was common strapped" if need.place_classes else "minus strapped"
    makes = (
        f"Singles on a terminal strip, each fixed, {common}, wires recorded first.",
        "The old sections are disconnected, never left in parallel.",
    )
    lows, highs = sum(low for low, _ in spreads), sum(high for _, high in spreads)
    signed = _signed(need, chosen, leads or highs)
    yield Combination(Way.SINGLES, tuple(chosen), values, lows, highs, None, makes, off, signed)


def _y_pair(need: Need, parts: Sequence[Part]) -> Iterator[Combination]:
    """Two equal Y2 for a Y1, each rated for the whole voltage: only where the standard of the equipment allows it."""
    low, marked, high = _window(need)
    for part in parts:
        total = part.marking.capacitance_f / 2
        rated = max((one.rated_ac_v or 0.0 for one in part.marking.classes if one.name == "Y2"), default=0.0)
        least, most = _spread(part)
        leads = most / 2 if need.role is Role.Y else 0.0
        whole = bool(need.supply_v) and rated >= (need.supply_v or 0.0)
        if part.quantity < 2 or not whole or not low <= total <= high or (leads and _touches(need, leads)):
            continue
        makes = ("Two equal Y2 in series, each rated for the whole voltage across them.",)
        asks = "Two Y2 in series for a Y1: only where the equipment's own standard allows it, which somebody has to have read."
        signed = (asks, *_signed(need, (part, part), leads or most / 2))
        yield Combination(Way.SERIES, (part, part), (total,), least / 2, most / 2, None, makes, abs(total / marked - 1), signed)
