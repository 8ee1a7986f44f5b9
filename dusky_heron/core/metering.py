"""Readings: as intervals, from one model to another, without what lies in parallel, and which terminal is common."""

import itertools
import math
from collections.abc import Mapping
from dataclasses import dataclass

from dusky_heron.core.errors import CAPACITANCE, RESISTANCE, InputError, Range
from dusky_heron.core.model import QUANTITY_UNITS, Quantity
from dusky_heron.core.quantities import parse_quantity

SHARE = Range("Accuracy", 0.0, 100.0, "%")
COUNTS = Range("Counts", 0.0, 1000.0, "counts")
LOSS = Range("Loss factor D", 0.0, 1e4, "")
FREQUENCY = Range("Frequency", 0.0, 1e9, "Hz", open_low=True)
RELATIVE_ERROR = Range("Relative error", 0.0, 0.5, "")
MOST_TERMINALS = 8
OTHERS = 0.10  # of reading: what is not capacitance, where the maker's figure is not kept
NOTHING_F = 1e-12  # F a count on the lowest range
NO_READING, DASHES = ("ol", "o.l", "o.l.", "0l", "0.l", "0.l."), ("---", "--", "- - -", "----")
READABLE: Mapping[Quantity, Range] = {
    Quantity.CAPACITANCE: Range("Capacitance", 0.0, 10.0, "F"),
    Quantity.ESR: Range("ESR", 0.0, 1e9, "Ω"),
    Quantity.INSULATION: Range("Insulation", 0.0, 1e15, "Ω"),
    Quantity.LEAKAGE: Range("Leakage", 0.0, 10.0, "A"),
}


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


@dataclass(frozen=True, slots=True)
class Value:
    """A reading with its interval, in SI units; `high` is infinite for a lower bound."""

    value: float
    low: float
    high: float


def reads_open(text: str) -> bool:
    """Whether what was typed is what a meter shows, or a technician writes, where nothing joins two points."""
    typed = text.strip().lower()
    return typed == "open" or typed in NO_READING or typed in DASHES


def read_value(text: str, quantity: Quantity, accuracy: Accuracy) -> Value:
    """A reading as typed from a meter: a value, `>60M` for one beyond its range, `OL`, `0.L` or `---` for none.

    Capacitance has the accuracy its maker states; the others, whose accuracy is not kept, are taken as ±10 %. No capacitance
    at all (`---`) reads as nothing, up to the last digit; a bound has no upper end.

    :param text: as typed
    :param quantity: what was measured
    :param accuracy: of the meter for capacitance
    :returns: Value
    :raises InputError: not a value of this quantity, out of range, or an overload that says nothing (field `value`)
    :source: ISO/IEC Guide 98-3, limits of error as stated by the maker

    >>> read_value(">60M", Quantity.INSULATION, Accuracy(2, 3, 6000)).high
    inf
    """
    typed, limits = text.strip(), READABLE[quantity]
    if typed.lower() in NO_READING or typed in DASHES:
        return _overload(typed, quantity, accuracy)
    bound = typed.startswith(">")
    if bound and quantity != Quantity.INSULATION:
        raise InputError("value", "Only insulation is read as more than a range: measure it on a range that shows it.")
    value = parse_quantity(typed.lstrip("> "), QUANTITY_UNITS[quantity], limits, field="value")
    if quantity == Quantity.CAPACITANCE:
        low, high = interval(value, accuracy)
    else:
        low, high = value * (1 - OTHERS), value * (1 + OTHERS)
    return Value(value, low, math.inf if bound else high)


def _overload(typed: str, quantity: Quantity, accuracy: Accuracy) -> Value:
    if quantity == Quantity.CAPACITANCE and typed in DASHES:
        return Value(0.0, 0.0, NOTHING_F * accuracy.counts)
    if quantity == Quantity.CAPACITANCE:
        raise InputError("value", "Over its range: the part is shorted, leaks, or is too large. Measure its insulation or ESR.")
    raise InputError("value", "Say where the range of the meter ends, such as >60M.")


def to_series(cp_f: float, d: float) -> tuple[float, float]:
    """The series capacitance of a part measured in the parallel model: Cs = Cp (1 + D²); D is the same.

    :param cp_f: farads, more than 0 up to 1000
    :param d: loss factor, 0 to 10 000
    :returns: series capacitance in farads, and D
    :raises InputError: not a number, or out of range
    :source: equivalence of series and parallel impedance at one frequency

    >>> round(to_series(1e-6, 0.5)[0] * 1e6, 9)
    1.25
    """
    CAPACITANCE.check("cp_f", cp_f)
    return cp_f * (1 + LOSS.check("d", d) ** 2), d


def to_parallel(cs_f: float, d: float) -> tuple[float, float]:
    """The parallel capacitance of a part measured in the series model: Cp = Cs / (1 + D²); D is the same.

    :param cs_f: farads, more than 0 up to 1000
    :param d: loss factor, 0 to 10 000
    :returns: parallel capacitance in farads, and D
    :raises InputError: not a number, or out of range
    :source: equivalence of series and parallel impedance at one frequency
    """
    CAPACITANCE.check("cs_f", cs_f)
    return cs_f / (1 + LOSS.check("d", d) ** 2), d


def without_parallel_resistor(cp_f: float, d: float, frequency_hz: float, resistance_ohm: float) -> tuple[float, float]:
    """A parallel-model reading with a known resistor across the part taken out: D − 1/(2πf Cp R), capacitance unchanged.

    Exact for a reading with frequency and model; a timed-charge reading cannot be corrected so.

    :param cp_f: farads in the parallel model, more than 0 up to 1000
    :param d: loss factor as read, 0 to 10 000
    :param frequency_hz: of the meter, more than 0 up to 1e9
    :param resistance_ohm: across the part, more than 0 up to 1e15
    :returns: parallel capacitance in farads, and the part's own D
    :raises InputError: out of range, or the resistor alone would lose more than was read (field `resistance_ohm`)
    :source: admittances in parallel add
    """
    CAPACITANCE.check("cp_f", cp_f)
    LOSS.check("d", d)
    FREQUENCY.check("frequency_hz", frequency_hz)
    own = d - 1 / (2 * math.pi * frequency_hz * cp_f * RESISTANCE.check("resistance_ohm", resistance_ohm))
    if own < -1e-9 * max(d, 1.0):
        raise InputError("resistance_ohm", "That resistor alone would lose more than was read: check its value.")
    return cp_f, max(own, 0.0)


@dataclass(frozen=True, slots=True)
class CommonTerminal:
    """Which terminal is common, None when it cannot be told; the sections by their other terminal; whether readings agree.

    An open section is left out of `sections`.
    """

    common: str | None
    sections: dict[str, float]
    agrees: bool


def find_common(readings: Mapping[tuple[str, str], float | None], *, relative_error: float = 0.05) -> CommonTerminal:
    """The common terminal of a part with several sections, from readings between pairs of its terminals.

    From the common terminal each section reads by itself; between two others the two are in series, C₁C₂/(C₁+C₂).
    A terminal is common when every reading agrees with that; with two that could be, none is named.

    :param readings: farads by pair of terminals, None when the pair reads open
    :param relative_error: what each reading may be wrong by, 0 to 0.5
    :returns: CommonTerminal
    :raises InputError: no pairs, a pair twice or of one terminal, more than eight terminals, or a value out of range
    :source: capacitances in series

    >>> find_common({("a", "b"): 30e-6, ("a", "c"): 5e-6, ("b", "c"): 4.3e-6}).common
    'a'
    """
    RELATIVE_ERROR.check("relative_error", relative_error)
    known = _pairs(readings)
    terminals = sorted({terminal for pair in known for terminal in pair})
    if len(terminals) > MOST_TERMINALS:
        raise InputError("readings", f"A part has at most {MOST_TERMINALS} terminals.")
    possible = {}
    for terminal in terminals:
        sections = _sections_from(terminal, terminals, known, relative_error)
        if sections is not None and _explains(sections, known, relative_error):
            possible[terminal] = {name: value for name, value in sections.items() if value is not None}
    if len(possible) != 1:
        return CommonTerminal(None, {}, bool(possible))
    common, found = possible.popitem()
    return CommonTerminal(common, found, agrees=True)


def _pairs(readings: Mapping[tuple[str, str], float | None]) -> dict[frozenset[str], float | None]:
    known: dict[frozenset[str], float | None] = {}
    for (one, other), value in readings.items():
        pair = frozenset((one, other))
        if len(pair) != 2 or pair in known:
            raise InputError("readings", "Each reading is between two terminals, and each pair is read once.")
        known[pair] = None if value is None else CAPACITANCE.check("readings", value)
    if not known:
        raise InputError("readings", "Measure at least two pairs of terminals.")
    return known


def _sections_from(
    common: str, terminals: list[str], known: dict[frozenset[str], float | None], error: float
) -> dict[str, float | None] | None:
    """The section of each other terminal if this one were common; None when that is impossible.

    A section that was not read by itself is worked out from the series with one that was: C = C₁ r / (C₁ − r).
    """
    others = [terminal for terminal in terminals if terminal != common]
    sections = {other: known[pair] for other in others if (pair := frozenset((common, other))) in known}
    for missing in (other for other in others if other not in sections):
        for beside, value in tuple(sections.items()):
            series = known.get(frozenset((missing, beside)))
            if series is None or value is None:
                continue
            if value - series <= error * (value + series):
                return None  # two in series are less than either
            sections[missing] = value * series / (value - series)
            break
    return sections


def _explains(sections: dict[str, float | None], known: dict[frozenset[str], float | None], error: float) -> bool:
    for one, other in itertools.combinations(sections, 2):
        if (pair := frozenset((one, other))) not in known:
            continue
        first, second, read = sections[one], sections[other], known[pair]
        if first is None or second is None:
            if read is not None:
                return False
            continue
        if read is None:
            return False
        series = first * second / (first + second)
        if abs(series - read) > error * (series + read):
            return False
    return True
