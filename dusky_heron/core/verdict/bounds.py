"""A reading held against one bound, as an interval: wholly inside, near it, across it, wholly outside."""

from dataclasses import dataclass

from dusky_heron.core.model import QUANTITY_UNITS, Condition, Finding, Measurement, Reading, Word
from dusky_heron.core.quantities import show, show_range
from dusky_heron.core.verdict.registry import Rule


@dataclass(frozen=True, slots=True)
class Bound:
    """A bound in the unit of the reading: what is held against it (as a subject), and the bound in words with its source.

    `near` is the share of the bound within which a reading inside is watched; `fine` the share its meter may be wrong by for
    a reading across the bound to be taken as outside, the conservative side. `fine` is never more than `near`, so that a
    finer meter can turn such a reading into watch and never into keep.
    """

    value: float
    what: str
    said: str
    source: str = ""
    near: float = 0.10
    fine: float = 0.05

    @property
    def error(self) -> float:
        """What a meter may at most be wrong by to decide, in the unit of the reading."""
        return self.value * self.fine


TOO_NEAR = "it cannot be told from beyond with any meter here, so it is taken as beyond."


def at_most(rule: Rule, reading: Reading, bound: Bound) -> Finding:
    """A reading that may not exceed its bound."""
    return _held(rule, reading, bound, outside=reading.low > bound.value, inside=reading.high <= bound.value, too="too high")


def at_least(rule: Rule, reading: Reading, bound: Bound) -> Finding:
    """A reading that may not lie below its bound."""
    return _held(rule, reading, bound, outside=reading.high < bound.value, inside=reading.low >= bound.value, too="too low")


def _held(rule: Rule, reading: Reading, bound: Bound, *, outside: bool, inside: bool, too: str) -> Finding:
    ask = None
    if outside:
        word, sentence = Word.REPLACE, f"{bound.what} is {too}."
    elif inside and abs(reading.value - bound.value) < bound.near * bound.value:
        word, sentence = Word.WATCH, f"{bound.what} is within its limit, near it."
    elif inside:
        word, sentence = Word.KEEP, f"{bound.what} is within its limit."
    elif reading.within(bound.error):
        word, sentence = Word.REPLACE, f"{bound.what} lies at its limit: {TOO_NEAR}"
    else:
        word, sentence = Word.UNKNOWN, f"{bound.what} lies across its limit within this meter's error."
        ask = finer(reading, bound.error)
    return rule.says(word, sentence, reading=said(reading), limit=bound.said, source=bound.source or rule.source, settled_by=ask)


def finer(reading: Reading, error: float) -> Measurement:
    """The same measurement again, with a meter that is wrong by no more than this."""
    unit = QUANTITY_UNITS[reading.quantity]
    share = f" ({error / reading.value * 100:.2g} %)" if reading.value else ""
    return Measurement(
        reading.quantity,
        Condition.LIFTED if reading.condition == Condition.IN_CIRCUIT else reading.condition,
        reading.section,
        f"Measure it again with a meter within ±{show(error, unit, digits=2)}{share}.",
        error,
        reading.frequency_hz,
        about=reading.value,
    )


ROOM_C = (15.0, 35.0)  # standard atmospheric conditions for testing, IEC 60068-1


def not_at_room(reading: Reading) -> str:
    """Why a reading does not decide at its temperature; nothing at room temperature, or where none was noted."""
    if reading.temperature_c is None or ROOM_C[0] <= reading.temperature_c <= ROOM_C[1]:
        return ""
    return f"At {reading.temperature_c:g} °C it says little of 20 °C: let it come to room temperature."


def said(reading: Reading) -> str:
    """A reading with its interval in words."""
    unit = QUANTITY_UNITS[reading.quantity]
    if reading.beyond_range:
        return "beyond the range of the meter"
    if reading.high == float("inf"):
        return f"at least {show(reading.low, unit)}"
    return f"{show(reading.value, unit)} ({show_range(reading.low, reading.high, unit)})"
