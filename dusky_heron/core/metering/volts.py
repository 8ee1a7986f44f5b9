"""A voltage as a meter shows it, with what the range it was taken on may be wrong by."""

import re
from dataclasses import dataclass, replace

from dusky_heron.core.errors import InputError, Range
from dusky_heron.core.metering.accuracy import OTHERS, Accuracy, Specification, last_digit
from dusky_heron.core.model import Quantity
from dusky_heron.core.quantities import parse_quantity

READ_VOLTS = Range("The reading", -1e6, 1e6, "V")
UNKNOWN_COUNTS = 3.0  # of the last digit, where the maker's figure is not kept: usual of hand meters on volts
EXPONENT = re.compile(r"\d[eE][-+]?\d")
SHOWN = re.compile(r"[-+]?\s*(?P<figures>[\d.,' ]*\d)\s*[.,]?\s*(?P<unit>.*)")


@dataclass(frozen=True, slots=True)
class Volts:
    """A voltage read: what was shown, signed, and the least and the most it may be without its sign, volts."""

    shown: float
    low: float
    high: float

    @property
    def error(self) -> float:
        """What it may be wrong by, volts."""
        return self.high - abs(self.shown)


@dataclass(frozen=True, slots=True)
class VoltRanges:
    """What is kept of a meter's volts of one kind: its ranges, the counts of its display, and the most it is made for.

    `fixed` is a probe, which keeps its last digit however little it shows; a hand meter of which one line is kept ranges down.
    """

    ranges: tuple[Accuracy, ...]
    display_counts: int
    highest_v: float
    fixed: bool = False

    @classmethod
    def of(cls, meter: Specification, quantity: Quantity, highest_v: float, *, fixed: bool) -> "VoltRanges":
        """The volts of a meter, DC or AC."""
        kept = meter.ranges.get(quantity, ())
        return cls(kept, meter.display_counts(quantity) or 2000, highest_v, fixed)

    def _digit(self, accuracy: Accuracy) -> float:
        return last_digit(accuracy.full_scale or self.highest_v, self.display_counts)

    def _meant(self, shown: float, digit: float) -> list[tuple[Accuracy, float]]:
        """The ranges a reading may have been taken on, each with its last digit: what was typed tells the finest."""
        unknown = Accuracy(OTHERS * 100, UNKNOWN_COUNTS, self.display_counts)
        kept = [replace(a, full_scale=a.full_scale or self.highest_v) for a in self.ranges] or [unknown]
        holds = [a for a in kept if shown <= (a.full_scale or self.highest_v)] or kept[-1:]
        if self.fixed:
            return [(holds[0], max(digit, self._digit(holds[0])))]
        if len(kept) == 1:
            return [(kept[0], digit)]
        coarse = [a for a in holds if self._digit(a) <= digit * (1 + 1e-9)] or holds[:1]
        return [(a, max(digit, self._digit(a))) for a in coarse]

    def error(self, shown: float, digit: float) -> float:
        """What a reading may be wrong by at most, volts: the worst of the ranges it may have been taken on.

        :param shown: without its sign, volts
        :param digit: the last digit that was typed, volts
        :returns: ±(per cent of reading + per cent of range + counts × last digit), and what was rounded away by hand
        :raises InputError: never
        :source: ISO/IEC Guide 98-3, limits of error as stated by the maker
        """
        worst = 0.0
        for accuracy, last in self._meant(shown, digit):
            of_range = (accuracy.full_scale or 0.0) * accuracy.percent_of_range / 100
            rounded = digit if digit > self._digit(accuracy) and (self.ranges and len(self.ranges) > 1) else 0.0
            worst = max(worst, shown * accuracy.percent / 100 + of_range + accuracy.counts * last + rounded)
        return worst

    def nothing(self, target_v: float) -> str:
        """What *below the last digit* is on this meter, as typed: of the coarsest range that can still tell the target."""
        digits = sorted({self._digit(a) for a in self.ranges} or {last_digit(self.highest_v, self.display_counts)}, reverse=True)
        steps = digits if self.fixed or len(digits) > 1 else [digits[0] / 10**k for k in range(3)]
        told = next((d for d in steps if d + self.error(d, d) < target_v), steps[-1])
        return f"<{told:g}"


def read_volts(text: str, ranges: VoltRanges, *, field: str) -> Volts:
    """A voltage as typed from a meter: `0.2`, `-12 mV`, or `<0.1` for one below that last digit.

    The last digit typed tells on which range it was taken: `0.4` cannot be of a range that ends in volts.

    :param text: as typed
    :param ranges: of the meter it was read from
    :param field: where it was typed
    :returns: Volts
    :raises InputError: no voltage, or out of range; the field as given
    :source: as `VoltRanges.error`

    >>> round(read_volts("0.4", VoltRanges((Accuracy(0.5, 2, 6000),), 6000, 1000), field="dc").high, 6)
    0.602
    """
    typed = text.strip()
    under = typed.startswith("<")
    typed = typed.lstrip("<").strip()
    shown = parse_quantity(typed, "V", READ_VOLTS, field=field)
    digit = _digit_of(typed, shown, field)
    size = abs(shown)
    if under:
        if shown < 0:
            raise InputError(field, "Below a last digit has no sign: <0.1.")
        return Volts(0.0, 0.0, size + ranges.error(size, max(digit, size)))
    error = ranges.error(size, digit)
    return Volts(shown, max(0.0, size - error), size + error)


def _digit_of(typed: str, shown: float, field: str) -> float:
    """The worth of the last digit typed, volts."""
    if EXPONENT.search(typed):
        return 1.0  # no meter shows it so: nothing is known of its digits
    match = SHOWN.fullmatch(typed)
    if match is None:  # 4k7: the last figure after the letter is its last digit, never less than a thousandth of it
        return abs(shown) / 1000
    factor = parse_quantity(f"1 {match['unit']}", "V", READ_VOLTS, field=field)
    figures = match["figures"]
    after = re.split(r"[.,]", figures)[-1] if re.search(r"[.,]", figures) else ""
    grouped = shown != 0 and abs(shown) / factor == float(re.sub(r"[^\d]", "", figures))
    return factor * (1.0 if grouped else 10.0 ** -len(after))
