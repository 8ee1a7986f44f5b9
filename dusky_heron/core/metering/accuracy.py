"""What a meter may be wrong by, as its maker states it, and the interval a reading leaves."""

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum

from dusky_heron.core.errors import CAPACITANCE, InputError, Range
from dusky_heron.core.model import QUANTITIES, QUANTITY_TITLES, QUANTITY_UNITS, Measurement, Quantity
from dusky_heron.core.quantities import parse_quantity, show

OTHERS = 0.10  # of reading: what is not capacitance, where the maker's figure is not kept
NOTHING_F = 1e-12  # F a count on the lowest range
NO_READING, DASHES = ("ol", "o.l", "o.l.", "0l", "0.l", "0.l.", "over"), ("---", "--", "- - -", "----")
IN_OHMS, LEAST_OHM = frozenset({Quantity.RESISTANCE, Quantity.INSULATION, Quantity.ESR}), 1e-4
READABLE: Mapping[Quantity, Range] = {
    quantity: Range(one.title[0].upper() + one.title[1:], 0.0, one.most, one.unit) for quantity, one in QUANTITIES.items()
}


class Method(StrEnum):
    """How a meter finds a capacitance."""

    TIMED_CHARGE = "timed_charge"
    LCR_PARALLEL = "lcr_parallel"
    LCR_SERIES = "lcr_series"


METHOD_TITLES: Mapping[Method, str] = {
    Method.TIMED_CHARGE: "timed charge, as a multimeter does",
    Method.LCR_PARALLEL: "LCR, parallel model",
    Method.LCR_SERIES: "LCR, series model",
}


@dataclass(frozen=True, slots=True)
class Accuracy:
    """A meter's accuracy as its maker states it: ±(percent of reading + percent of range + counts of the last digit).

    `full_scale` is where a range ends, in SI units; without it the lowest decade that shows the value is meant.
    """

    percent: float
    counts: float
    display_counts: int
    percent_of_range: float = 0.0
    full_scale: float | None = None


@dataclass(frozen=True, slots=True)
class Specification:
    """What is kept of a meter: accuracy by quantity, ranges lowest first, and how it finds a capacitance."""

    ranges: Mapping[Quantity, tuple[Accuracy, ...]] = field(default_factory=dict)
    method: Method = Method.TIMED_CHARGE
    frequency_hz: float | None = None

    @classmethod
    def of_capacitance(cls, accuracy: Accuracy) -> "Specification":
        """A meter of which only the accuracy of its capacitance is kept."""
        return cls({Quantity.CAPACITANCE: (accuracy,)})

    def display_counts(self, quantity: Quantity) -> int | None:
        """The highest count it shows; of a quantity whose accuracy is not kept, that of another of its ranges."""
        kept = self.ranges.get(quantity) or next(iter(self.ranges.values()), ())
        return kept[0].display_counts if kept else None

    def highest(self, quantity: Quantity) -> float | None:
        """Where its highest range of a quantity ends; None when that is not kept."""
        kept = self.ranges.get(quantity, ())
        return kept[-1].full_scale if kept else None


ACCURACY = re.compile(
    r"(?P<what>[a-zδ ]+?)\s*(?:±|\+/-)\s*\(?\s*(?P<percent>\d+(?:[.,]\d+)?)\s*%\s*(?P<of>of range|rng|fs)?"
    r"(?:\s*\+\s*(?P<more>\d+(?:[.,]\d+)?)\s*(?P<unit>% of range|%\s*rng|%\s*fs|counts?|digits?|d)?)?\s*\)?"
    r"(?:\s*(?:up )?to\s+(?P<top>\S.*))?",
    re.IGNORECASE,
)
NAMES: Mapping[str, Quantity] = {
    **{title.lower(): quantity for quantity, title in QUANTITY_TITLES.items()},
    "c": Quantity.CAPACITANCE,
    "tan δ": Quantity.DISSIPATION,
    "r": Quantity.RESISTANCE,
    "ohms": Quantity.RESISTANCE,
    "ac volts": Quantity.VOLTS_AC,
    "volts ac": Quantity.VOLTS_AC,
    "dc volts": Quantity.VOLTS_DC,
    "volts dc": Quantity.VOLTS_DC,
    "current": Quantity.CURRENT,
    "ac current": Quantity.CURRENT,
}


def read_accuracies(text: str, display_counts: int) -> dict[Quantity, tuple[Accuracy, ...]]:
    """Accuracies as typed from a data sheet, a line for each range: such as `ESR ±(1 % + 2) to 20 Ω`.

    :param text: lines; empty ones are passed over
    :param display_counts: of the meter, for what a count is
    :returns: ranges by quantity, lowest first
    :raises InputError: a line that cannot be read, or a range twice (field `accuracies`)
    :source: makers' data sheets: ±(% of reading + counts), or with % of range

    >>> read_accuracies("ESR ±(1 % + 2) to 20 Ω", 6000)[Quantity.ESR][0].full_scale
    20.0
    """
    found: dict[Quantity, list[Accuracy]] = {}
    for line in filter(None, (line.strip() for line in text.splitlines())):
        quantity, accuracy = _read_line(line, display_counts)
        found.setdefault(quantity, []).append(accuracy)
    for quantity, ranges in found.items():
        ends = [a.full_scale or math.inf for a in ranges]
        if len(set(ends)) < len(ends):
            raise InputError("accuracies", f"{QUANTITY_TITLES[quantity]}: one line a range, each with its own end.")
        ranges.sort(key=lambda a: a.full_scale or math.inf)
    return {quantity: tuple(ranges) for quantity, ranges in found.items()}


def _read_line(line: str, display_counts: int) -> tuple[Quantity, Accuracy]:
    match = ACCURACY.fullmatch(line)
    if match is None or (quantity := NAMES.get(match["what"].strip().lower())) is None:
        raise InputError("accuracies", f"Cannot read “{line[:60]}”: type it as ESR ±(1 % + 2) to 20 Ω.")
    percent, more = (float((match[name] or "0").replace(",", ".")) for name in ("percent", "more"))
    more_of_range = (match["unit"] or "").startswith("%")
    if percent > 50 or more > 1000:
        raise InputError("accuracies", f"“{line[:60]}”: at most 50 % and 1000 counts.")
    top = match["top"]
    unit, limits = QUANTITY_UNITS[quantity], READABLE[quantity]
    return quantity, Accuracy(
        percent=0.0 if match["of"] else percent,
        counts=0.0 if more_of_range else more,
        display_counts=display_counts,
        percent_of_range=(percent if match["of"] else 0.0) + (more if more_of_range else 0.0),
        full_scale=parse_quantity(top, unit, limits, field="accuracies") if top else None,
    )


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


def interval(value: float, accuracy: Accuracy) -> tuple[float, float]:
    """The values a reading may stand for: value ± (percent of reading + percent of range + counts × resolution), never below zero.

    :param value: the reading in SI units, 0 allowed
    :param accuracy: as the maker states it
    :returns: low and high, SI units
    :raises InputError: a value out of range
    :source: ISO/IEC Guide 98-3, limits of error as stated by the maker

    >>> low, high = interval(12.9e-6, Accuracy(2, 3, 6000))
    >>> round(low * 1e6, 3), round(high * 1e6, 3)
    (12.612, 13.188)
    """
    if value < 0:
        raise InputError("value", "A reading is not negative: check the leads.")
    error = value * accuracy.percent / 100
    if accuracy.full_scale:
        error += accuracy.full_scale * accuracy.percent_of_range / 100
    shown = accuracy.full_scale or value
    error += accuracy.counts * last_digit(shown, accuracy.display_counts) if shown else 0.0
    return max(0.0, value - error), value + error


@dataclass(frozen=True, slots=True)
class Value:
    """A reading with its interval, in SI units; `high` is infinite for a lower bound, and for one beyond its range."""

    value: float
    low: float
    high: float


def reads_open(text: str) -> bool:
    """Whether what was typed is what a meter shows, or a technician writes, where nothing joins two points."""
    typed = text.strip().lower()
    return typed == "open" or typed in NO_READING or typed in DASHES


def read_value(text: str, quantity: Quantity, meter: Specification, *, expected: float | None = None) -> Value:
    """A reading as typed from a meter: a value, `>60M` for one beyond its range, `OL`, `0.L` or `---` for none.

    A quantity whose accuracy is not kept is taken as ±10 %. No capacitance at all (`---`) reads as nothing, up to the last
    digit. Beyond a range is a result with no upper end: from where the range ends when that is kept, else from zero.
    D is also read as a percentage or as Q: `2 %`, `Q 50`.

    :param text: as typed
    :param quantity: what was measured
    :param meter: what is kept of it: what it can show tells a decimal comma from a thousand
    :param expected: about what it should be, SI units
    :returns: Value
    :raises InputError: not a value of this quantity, out of range, or above the meter's highest range (field `value`)
    :source: ISO/IEC Guide 98-3, limits of error as stated by the maker

    >>> read_value(">60M", Quantity.INSULATION, Specification()).high
    inf
    """
    typed = text.strip()
    if typed in DASHES and quantity == Quantity.CAPACITANCE:
        kept = meter.ranges.get(quantity)
        return Value(0.0, 0.0, NOTHING_F * max(kept[0].counts if kept else 1.0, 1.0))
    if typed.lower() in NO_READING or typed in DASHES:
        end = meter.highest(quantity) or 0.0
        return Value(end, end, math.inf)
    value = _parse(typed.lstrip("> "), quantity, expected, meter.display_counts(quantity))
    if quantity in IN_OHMS and 0 < value < LEAST_OHM:
        raise InputError("value", "Less than 0.1 mΩ: no meter here shows that. Was it farads? Choose what was measured.")
    low, high = _interval(value, quantity, meter)
    return Value(value, low, math.inf if typed.startswith(">") else high)


OHMS = frozenset({Quantity.RESISTANCE, Quantity.INSULATION})  # what a meter ranges by itself where one line is kept of it


def fine_enough(meter: Specification, ask: Measurement) -> bool:
    """Whether a meter can take a measurement that is asked for, and is as fine as is asked.

    :param meter: what is kept of the meter
    :param ask: quantity, and of one to be measured again about what it reads and what the meter may at most be wrong by
    :returns: bool
    :raises InputError: never
    :source: the accuracy its maker states

    >>> from dusky_heron.core.model import Condition
    >>> hand = Specification.of_capacitance(Accuracy(2, 3, 6000))
    >>> ask = Measurement(Quantity.CAPACITANCE, Condition.LIFTED, 0, "", 4e-8)
    >>> fine_enough(hand, ask), fine_enough(hand, replace(ask, about=15.2e-6))
    (True, False)
    """
    if not can_measure(meter, ask.quantity):
        return False
    if ask.about is None:
        return True
    try:
        low, high = _interval(ask.about, ask.quantity, meter)
    except InputError:  # beyond its ranges
        return False
    return max(ask.about - low, high - ask.about) <= ask.error * (1 + 1e-9)


BRIDGED = frozenset({Quantity.CAPACITANCE, Quantity.DISSIPATION, Quantity.ESR})  # what a bridge measures besides its kept ranges
HANDY = frozenset({Quantity.CAPACITANCE, Quantity.RESISTANCE, Quantity.VOLTS_DC, Quantity.VOLTS_AC, Quantity.RIPPLE})
SAME_RANGE = {Quantity.RIPPLE: Quantity.VOLTS_AC}  # read on the range of another quantity


def can_measure(meter: Specification, quantity: Quantity) -> bool:
    """Whether a meter can measure a quantity: a range of it is kept, or every meter of its kind has one.

    :param meter: what is kept of the meter; of one of which nothing is kept nothing is known, and anything is taken
    :param quantity: what is to be measured
    :returns: bool; insulation, leakage and current only where a range is kept
    :raises InputError: never
    :source: a hand meter reads capacitance, resistance and volts; an LCR bridge capacitance, D and ESR

    >>> can_measure(Specification(method=Method.LCR_SERIES, ranges={Quantity.ESR: (Accuracy(1, 2, 6000),)}), Quantity.INSULATION)
    False
    """
    if not meter.ranges or quantity in meter.ranges or SAME_RANGE.get(quantity) in meter.ranges:
        return True
    if meter.method != Method.TIMED_CHARGE:
        return quantity in BRIDGED
    return set(meter.ranges) == {Quantity.CAPACITANCE} and quantity in HANDY


def _parse(typed: str, quantity: Quantity, expected: float | None, counts: int | None) -> float:
    limits = READABLE[quantity]
    if quantity != Quantity.DISSIPATION:
        return parse_quantity(typed, QUANTITY_UNITS[quantity], limits, field="value", expected=expected, counts=counts)
    if typed[:1] in "Qq" and typed:
        quality = parse_quantity(typed[1:].lstrip(" ="), "%", Range("Q", 0.0, 1e6, "", open_low=True), field="value")
        return 1 / quality
    plain = parse_quantity(typed.lstrip("Dd= "), "%", Range("D", 0.0, 1e6, ""), field="value")
    return limits.check("value", plain / 100 if typed.rstrip().endswith("%") else plain)


def _interval(value: float, quantity: Quantity, meter: Specification) -> tuple[float, float]:
    kept = meter.ranges.get(quantity, ())
    if not kept:
        return value * (1 - OTHERS), value * (1 + OTHERS)
    accuracy = next((a for a in kept if a.full_scale is None or value <= a.full_scale), None)
    if accuracy is None:
        end = show(kept[-1].full_scale or 0.0, QUANTITY_UNITS[quantity])
        raise InputError("value", f"The highest range of this meter ends at {end}: check the reading, or type OL.")
    if quantity in OHMS and len(kept) == 1 and not accuracy.percent_of_range:
        accuracy = replace(accuracy, full_scale=None)  # an ohmmeter ranges down by itself: counts of the range it shows
    return interval(value, accuracy)
