"""The fastest combination of the workshop's resistors that keeps every constraint of a discharge.

The time to any target is in proportion to the resistance, so the fastest tool is the lowest one that is allowed. Each
resistor, and each pair, is first given what it needs of the whole (in series a least resistance, in parallel a least
conductance), so that a sorted list can be entered where a partner may do and left where it no longer helps.
"""

import bisect
import itertools
import math
from collections import defaultdict
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from dusky_heron.core.discharge.bleeders import e24_below
from dusky_heron.core.discharge.energy import DEFAULT as HAZARD
from dusky_heron.core.discharge.limits import WorkingLimit
from dusky_heron.core.discharge.planning import PlannedCharge
from dusky_heron.core.discharge.tools import (
    MIN_TAU_S,
    MOST_RESISTORS,
    OUTER_SERIES,
    PEAK_A,
    PULSE,
    Construction,
    Resistor,
    Shape,
    Tool,
    judge_tool,
    pulse_limit,
    resistance_of,
    worst_shares,
)
from dusky_heron.core.quantities import show

WORTH_JOINING = 0.9  # of the time of the best single resistor: a combination that saves less is not shown
SINGLE_ENOUGH_S = 30.0  # s: one resistor that is this quick is offered before any combination
LOAD_MARGIN = 0.95  # of a resistor's value, ±5 %, at which the peak current still holds
E24_STEP = 1.16  # the widest step of the E24 series, 1.3 to 1.5, is a factor of 1.154


@dataclass(frozen=True, slots=True)
class _Element:
    """A resistor or a pair as one thing: its lowest and highest value, and what it needs of the whole it stands in.

    Values are ohms when elements stand in series, siemens in parallel. `most` is the highest whole it may stand in.
    """

    resistors: tuple[Resistor, ...]
    low: float
    high: float
    needs: float
    most: float


def rank_tools(resistors: tuple[Resistor, ...], charge: PlannedCharge, limit: WorkingLimit) -> tuple[Tool, ...]:
    """Judge every resistor, and the fastest combination of each shape where it saves time: the allowed first, fastest first.

    :param resistors: what the workshop owns
    :param charge: what is to be emptied, worst case
    :param limit: the working limit that applies
    :returns: tools in order of preference, then the single ones that are refused
    :raises InputError: a value is out of range
    :source: as `judge_tool`
    """
    judged = [judge_tool(Shape.SINGLE, (resistor,), charge, limit) for resistor in resistors]
    best = min((tool.times[-1].worst_s for tool in judged if tool.allowed), default=math.inf)
    for shape in (Shape.SERIES, Shape.PARALLEL, Shape.SERIES_PAIRS, Shape.PARALLEL_PAIRS):
        chosen = fastest(shape, resistors, charge)
        if chosen:
            combined = judge_tool(shape, chosen, charge, limit)
            judged += [combined] if combined.times[-1].worst_s < WORTH_JOINING * best else []
    return tuple(sorted(judged, key=lambda tool: (len(tool.refusals), tool.times[-1].worst_s, len(tool.shares), tool.name)))


def recommended(tools: tuple[Tool, ...]) -> Tool | None:
    """The tool to offer first: simple before fast. A combination comes first only where one is slow.

    :param tools: as ranked
    :returns: a tool that is allowed, or None
    :raises InputError: never
    :source: fewer joints to come loose under a charge
    """
    allowed = [tool for tool in tools if tool.allowed]
    single = next((tool for tool in allowed if tool.shape == Shape.SINGLE), None)
    if not allowed or single is None:
        return allowed[0] if allowed else None
    quickest, alone = allowed[0].times[-1].worst_s, single.times[-1].worst_s
    return allowed[0] if alone > SINGLE_ENOUGH_S and quickest < alone / 2 else single


def beyond_tools(charge: PlannedCharge, *, tool_found: bool) -> str:
    """What comes next where no tool of the workshop may do it, or where nobody does it alone; nothing where neither is so.

    The fixed load that would do it: R ≥ V₀/1 A from E24 at its low tolerance, wire-wound, and the watts its pulse asks for.

    :param charge: what is to be emptied, worst case
    :param tool_found: whether a tool of the workshop may
    :returns: a sentence, or ""
    :raises InputError: never
    :source: peak current and planning figures of the table `resistor_pulse`; 1 kJ of the table `hazard_bands`
    """
    alone = max(charge.hazard.energy_j, charge.each.energy_j) < HAZARD["arc_j"]
    if alone and tool_found:
        return ""
    who = "" if alone else "Over 1 kJ: two persons, one of them licensed for this, and the rule of the equipment's maker. "
    if tool_found:
        return f"{who}The tool below stands it."
    ohm = max(e24_below(charge.each_v / PEAK_A / LOAD_MARGIN * E24_STEP), 1.0)
    stands, _ = pulse_limit(Resistor("", "", ohm, 0.05, 1.0, Construction.WIREWOUND, charge.each_v), ohm * charge.nominal_f)
    watts = (
        f"at least {show(charge.each.energy_j / stands, 'W', digits=2)}" if stands else "of a pulse energy its data sheet states"
    )
    what = f"a fixed wire-wound load of {show(ohm, 'Ω')}, {watts} and {show(charge.each_v, 'V')}"
    return f"{who}No tool of the workshop takes it: {what}, switched on from a distance, and one that stays on while hands are in."


def fastest(shape: Shape, resistors: tuple[Resistor, ...], charge: PlannedCharge) -> tuple[Resistor, ...] | None:
    """The lowest resistance of one shape, of two to four resistors, that keeps every constraint.

    Peak current, each resistor's share of the voltage within its working voltage, and its share of the energy within the
    pulse it stands, all within the tolerances.

    :param shape: series, parallel, or pairs
    :param resistors: what the workshop owns
    :param charge: what is to be emptied, worst case
    :returns: the resistors in the order of the shape, or None when no combination will do
    :raises InputError: never
    :source: as `judge_tool`
    """
    kept = _few_of_a_kind(resistors)
    volts, energy = charge.each_v, charge.each.energy_j

    def keeps(chosen: tuple[Resistor, ...]) -> bool:
        low, _, _ = resistance_of(shape, chosen)
        if volts > low * PEAK_A:
            return False
        for resistor, (voltage, part) in zip(chosen, worst_shares(shape, chosen), strict=True):
            stands, _ = pulse_limit(resistor, low * charge.nominal_f)
            if voltage * volts > resistor.working_v or stands is None or part * energy > stands:
                return False
        return True

    pairs = list(itertools.combinations(kept, 2))
    if shape in OUTER_SERIES:
        least = volts / PEAK_A
        if shape == Shape.SERIES:
            return _lowest(_sizes([_in_series((r,), charge, energy) for r in kept]), least, keeps)
        return _lowest(_twice([_in_series(pair, charge, energy) for pair in pairs]), least, keeps)
    if shape == Shape.PARALLEL:
        return _highest(_sizes([e for r in kept if (e := _in_parallel((r,), charge, energy))]), keeps)
    return _highest(_twice([e for pair in pairs if (e := _in_parallel(pair, charge, energy))]), keeps)


def _few_of_a_kind(resistors: tuple[Resistor, ...]) -> list[Resistor]:
    """No more of one kind than a tool can hold: further ones make the same tools again."""
    kinds: dict[tuple[object, ...], list[Resistor]] = defaultdict(list)
    for r in resistors:
        kind = (r.resistance_ohm, r.tolerance, r.rated_w, r.construction, r.working_v, r.pulse_j)
        if len(kinds[kind]) < MOST_RESISTORS:
            kinds[kind].append(r)
    return [resistor for found in kinds.values() for resistor in found]


def _least(energy_j: float, resistor: Resistor, capacitance_f: float) -> float:
    """The least total ohms at which ohms × pulse limit reaches an energy × ohms; the limit grows with the time constant."""
    if resistor.pulse_j is not None:
        return energy_j / resistor.pulse_j
    row, watts, shortest = PULSE[resistor.construction], resistor.rated_w, MIN_TAU_S / capacitance_f
    fast = energy_j / (row["j_per_w"] * watts)
    if "slow_j_per_w" not in row or fast * capacitance_f <= row["fast_tau_s"]:
        return float(max(fast, shortest))
    slope = (row["slow_j_per_w"] - row["j_per_w"]) / (row["slow_tau_s"] - row["fast_tau_s"])
    start, rise = row["j_per_w"] - slope * row["fast_tau_s"], slope * capacitance_f
    between = (math.sqrt(start**2 + 4 * rise * energy_j / watts) - start) / (2 * rise)
    least = between if between * capacitance_f <= row["slow_tau_s"] else energy_j / (row["slow_j_per_w"] * watts)
    return float(max(least, shortest))


def _in_series(group: tuple[Resistor, ...], charge: PlannedCharge, energy_j: float) -> _Element:
    """A resistor, or two in parallel, as a link of a series tool; needs are necessary, `keeps` decides."""
    low, high = (1 / sum(1 / r.low_ohm for r in group), 1 / sum(1 / r.high_ohm for r in group))
    needs = max(high * charge.each_v / min(r.working_v for r in group) - (high - low), 0.0)
    for r in group:
        part = 1 / r.low_ohm / (1 / r.low_ohm + sum(1 / o.high_ohm for o in group if o is not r))
        needs = max(needs, _least(energy_j * low * part, r, charge.nominal_f))
    return _Element(group, low, high, needs, math.inf)


def _in_parallel(group: tuple[Resistor, ...], charge: PlannedCharge, energy_j: float) -> _Element | None:
    """A resistor, or two in series, as a branch of a parallel tool; None when it cannot stand the voltage or the energy."""
    low, high = 1 / sum(r.high_ohm for r in group), 1 / sum(r.low_ohm for r in group)
    needs, most = 0.0, PEAK_A / charge.each_v if charge.each_v else math.inf
    for r in group:
        part = r.high_ohm / (r.high_ohm + sum(o.low_ohm for o in group if o is not r))
        if part * charge.each_v > r.working_v:
            return None
        needs = max(needs, _least_siemens(energy_j * high * part, r, charge.nominal_f))
        if r.pulse_j is None:
            most = min(most, charge.nominal_f / MIN_TAU_S)
    return _Element(group, low, high, needs, most) if needs <= most * (1 + 1e-12) else None


def _least_siemens(energy_s: float, resistor: Resistor, capacitance_f: float) -> float:
    """The least total siemens at which siemens × pulse limit reaches an energy × siemens."""
    if resistor.pulse_j is not None:
        return energy_s / resistor.pulse_j
    row, watts = PULSE[resistor.construction], resistor.rated_w
    if "slow_j_per_w" not in row:
        return float(energy_s / (row["j_per_w"] * watts))
    slow = energy_s / (row["slow_j_per_w"] * watts)
    if slow <= capacitance_f / row["slow_tau_s"]:
        return float(slow)
    slope = (row["slow_j_per_w"] - row["j_per_w"]) / (row["slow_tau_s"] - row["fast_tau_s"])
    start = row["j_per_w"] - slope * row["fast_tau_s"]
    between = (energy_s / watts - slope * capacitance_f) / start
    return float(between if between <= capacitance_f / row["fast_tau_s"] else energy_s / (row["j_per_w"] * watts))


Halves = tuple[list[_Element], list[_Element]]


def _sizes(singles: list[_Element]) -> Iterator[Halves]:
    """Two, three and four of them, as two halves that are joined."""
    pairs = [_join(a, b) for a, b in itertools.combinations(singles, 2)]
    yield singles, singles
    yield singles, pairs
    yield pairs, pairs


def _twice(pairs: list[_Element]) -> Iterator[Halves]:
    """Two pairs."""
    yield pairs, pairs


def _join(a: _Element, b: _Element) -> _Element:
    both = a.resistors + b.resistors
    return _Element(both, a.low + b.low, a.high + b.high, max(a.needs, b.needs), min(a.most, b.most))


Keeps = Callable[[tuple[Resistor, ...]], bool]


def _lowest(halves: Iterator[Halves], least: float, keeps: Keeps) -> tuple[Resistor, ...] | None:
    """The two halves in series with the lowest sum that does."""
    best, found = math.inf, None
    for lefts, rights in halves:
        ordered = sorted(rights, key=lambda e: e.low)
        lows = [e.low for e in ordered]
        for a in lefts:
            for b in itertools.islice(ordered, bisect.bisect_left(lows, max(least, a.needs) * (1 - 1e-12) - a.low), None):
                if a.low + b.low >= best:
                    break
                if a.low + b.low < b.needs * (1 - 1e-12) or a.high + b.high >= best or _overlap(a, b):
                    continue
                if keeps(a.resistors + b.resistors):
                    best, found = a.high + b.high, a.resistors + b.resistors
    return found


def _highest(halves: Iterator[Halves], keeps: Keeps) -> tuple[Resistor, ...] | None:
    """The two halves in parallel with the highest sum of siemens that does."""
    best, found = 0.0, None
    for lefts, rights in halves:
        ordered = sorted(rights, key=lambda e: -e.high)
        highs = [-e.high for e in ordered]
        for a in lefts:
            for b in itertools.islice(ordered, bisect.bisect_left(highs, a.high - a.most * (1 + 1e-12)), None):
                high = a.high + b.high
                if high <= best or high < a.needs * (1 - 1e-12):
                    break
                total = a.low + b.low
                if total <= best or not b.needs * (1 - 1e-12) <= high <= b.most * (1 + 1e-12) or _overlap(a, b):
                    continue
                if keeps(a.resistors + b.resistors):
                    best, found = total, a.resistors + b.resistors
    return found


def _overlap(a: _Element, b: _Element) -> bool:
    return any(mine is other for mine in a.resistors for other in b.resistors)
