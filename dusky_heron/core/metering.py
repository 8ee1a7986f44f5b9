"""Readings as intervals: what a meter's stated accuracy leaves open."""

from dataclasses import dataclass

from dusky_heron.core.errors import CAPACITANCE, InputError, Range

SHARE = Range("Accuracy", 0.0, 100.0, "%")
COUNTS = Range("Counts", 0.0, 1000.0, "counts")


@dataclass(frozen=True, slots=True)
class Accuracy:
    """A meter's capacitance accuracy as its maker states it: ±(percent of reading + counts of the last digit shown)."""

    percent: float
    counts: float
    display_counts: int


def resolution(value_f: float, accuracy: Accuracy) -> float:
    """The last digit of the lowest decade range that shows a value on a display of so many counts.

    :param value_f: farads, 0 allowed
    :param accuracy: with display_counts such as 4000 or 6000
    :returns: farads a count
    :raises InputError: a value out of range
    :source: decade ranges of a counting display
    """
    if value_f == 0:
        return 0.0
    return last_digit(CAPACITANCE.check("value", value_f), accuracy.display_counts)


def last_digit(value: float, display_counts: int) -> float:
    """The last digit of the lowest decade range that shows a value, in the unit of the value.

    :param value: more than 0
    :param display_counts: such as 4000 or 6000
    :returns: one count
    :raises InputError: never
    :source: decade ranges of a counting display
    """
    step = 1e-15
    while value > display_counts * step * (1 + 1e-12):
        step *= 10
    return step


def interval(value_f: float, accuracy: Accuracy) -> tuple[float, float]:
    """The values a reading may stand for: value ± (percent of reading + counts × resolution), never below zero.

    :param value_f: the reading, farads, 0 allowed
    :param accuracy: as the maker states it
    :returns: low and high, farads
    :raises InputError: a value out of range
    :source: ISO/IEC Guide 98-3, limits of error as stated by the maker

    >>> low, high = interval(12.9e-6, Accuracy(2, 3, 6000))
    >>> round(low * 1e6, 3), round(high * 1e6, 3)
    (12.612, 13.188)
    """
    if value_f < 0:
        raise InputError("value", "A capacitance is not negative: check the leads.")
    error = value_f * accuracy.percent / 100 + accuracy.counts * resolution(value_f, accuracy)
    return max(0.0, value_f - error), value_f + error
