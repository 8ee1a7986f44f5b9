"""How long electrolytics last, and whether to replace the rest of a set when one of it failed."""

import math
from dataclasses import dataclass

from dusky_heron.core.errors import InputError, Range

HOURS = Range("Life", 0.0, 1e6, "h", open_low=True)
DEGREES = Range("Temperature", -60.0, 200.0, "°C")
SHARE = Range("Share of life used", 0.0, 20.0, "")
SHAPE = Range("Weibull shape", 0.5, 20.0, "")
COST = Range("Cost", 0.0, 1e7, "")
MINUTES = Range("Minutes", 0.0, 1e5, "min")
SIBLINGS = Range("Siblings", 1.0, 200.0, "")
USUAL_SHAPE = 3.0  # wear-out, unless set


def electrolytic_life(rated_h: float, rated_c: float, runs_c: float) -> float:
    """Life of an electrolytic at its own temperature: L = L0 · 2^((T0 − T)/10).

    :param rated_h: life its data sheet states, hours
    :param rated_c: at this temperature, °C
    :param runs_c: what it runs at, °C
    :returns: hours
    :raises InputError: a value out of range
    :source: ten-degree rule of data sheets

    >>> electrolytic_life(5000, 105, 65)
    80000.0
    """
    HOURS.check("rated_h", rated_h)
    return rated_h * 2 ** ((DEGREES.check("rated_c", rated_c) - DEGREES.check("runs_c", runs_c)) / 10)


def years_left(marked: float, read: float, years: float, limit: float) -> float:
    """Years until a film part that loses capacitance crosses a limit, on a straight line from what is marked.

    :param marked: when new
    :param read: now, in the same unit
    :param years: between the two
    :param limit: below it
    :returns: years, 0 when it is crossed already, infinite when it has lost nothing
    :raises InputError: never
    :source: straight line

    >>> years_left(16, 14, 10, 13)
    5.0
    """
    if read <= limit:
        return 0.0
    lost = marked - read
    return (read - limit) / (lost / years) if lost > 0 and years > 0 else math.inf


def failure_within(used_now: float, used_then: float, shape: float = USUAL_SHAPE) -> float:
    """The chance that a part still good now fails before a later time: 1 − exp(u0^k − u1^k), u in shares of its life.

    :param used_now: share of life used now
    :param used_then: share of life used then, not less than now
    :param shape: Weibull shape k; above 1 for wear-out
    :returns: chance, 0 to 1
    :raises InputError: a value out of range, or a time before now (`used_then`)
    :source: conditional Weibull distribution, its scale the life

    >>> round(failure_within(0.8, 1.0), 3)
    0.386
    """
    SHARE.check("used_now", used_now)
    if SHARE.check("used_then", used_then) < used_now:
        raise InputError("used_then", "That lies before now.")
    SHAPE.check("shape", shape)
    return -math.expm1(used_now**shape - used_then**shape)


@dataclass(frozen=True, slots=True)
class Costs:
    """What replacing one more now costs in money, and what a return costs."""

    part: float
    minutes_each: float
    hourly_rate: float
    a_return: float

    @property
    def each(self) -> float:
        """One more part, fitted now."""
        COST.check("part", self.part)
        COST.check("hourly_rate", self.hourly_rate)
        return self.part + MINUTES.check("minutes_each", self.minutes_each) / 60 * self.hourly_rate


@dataclass(frozen=True, slots=True)
class Batch:
    """Both schools compared, in money: the chance that one of the siblings fails, what each school costs, the cheaper one.

    `cheaper` is "set" or "failed", the ids of the school `batch`.
    """

    one_fails: float
    any_fails: float
    failed_costs: float
    set_costs: float
    cheaper: str


def compare_batch(siblings: int, used_now: float, used_then: float, costs: Costs, shape: float = USUAL_SHAPE) -> Batch:
    """Replace only what failed, or the set: parts and minutes now against the chance of a return times its cost.

    :param siblings: parts of the same type, age and temperature that still work
    :param used_now: share of their life used now
    :param used_then: share of their life used when the warranty ends
    :param costs: of one more part fitted now, and of a return
    :param shape: Weibull shape
    :returns: Batch
    :raises InputError: a value out of range
    :source: chance that any of n fails, 1 − (1 − p)^n; expected cost
    """
    SIBLINGS.check("siblings", siblings)
    one = failure_within(used_now, used_then, shape)
    any_fails = -math.expm1(siblings * math.log1p(-one)) if one < 1 else 1.0
    left, whole = any_fails * COST.check("a_return", costs.a_return), siblings * costs.each
    return Batch(one, any_fails, left, whole, "set" if whole < left else "failed")
