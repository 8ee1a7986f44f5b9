"""Comparing a reading, as an interval, with the window it should lie in (ISO 14253-1, ILAC-G8)."""

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace

from dusky_heron.core.markings.model import Section
from dusky_heron.core.model import Condition, Finding, Limit, Measurement, Quantity, Reading, Word
from dusky_heron.core.quantities import show, show_range
from dusky_heron.core.verdict.asking import COUNTED
from dusky_heron.core.verdict.bounds import TOO_NEAR, finer, said
from dusky_heron.core.verdict.registry import Case, Rule

AGAIN_LOW, AGAIN_HIGH = 0.25, 1.1  # of the mark, and of its upper tolerance: beyond these a slip is as likely as wear
FINE_OF_TOLERANCE, FINE_OF_MARKED = 0.05, 0.0025  # a meter this much finer than the window has the last word


@dataclass(frozen=True, slots=True)
class Window:
    """Where a capacitance is healthy, and where it may still be watched below that; farads."""

    low_f: float
    high_f: float
    watch_low_f: float
    says: str
    source: str

    def fine_f(self, marked_f: float) -> float:
        """What a meter may at most be wrong by for a reading across a limit to be taken as outside, farads."""
        tolerance = min(marked_f - self.low_f, self.high_f - marked_f)
        return max(FINE_OF_TOLERANCE * tolerance, FINE_OF_MARKED * marked_f)


DOUBT = "It cannot be told from its limit with this meter: on a place a person may touch, any doubt replaces it."
WindowOf = Callable[[Section, Case], Window]


def printed_or(section: Section, default: Limit) -> tuple[float, float, str, str]:
    """The printed limits of a section, or the default tolerance around its marked value, with words and source."""
    if section.low_f is not None and section.high_f is not None:
        return section.low_f, section.high_f, "printed tolerance", "its marking"
    low, high = section.capacitance_f * (1 - default.value), section.capacitance_f * (1 + default.value)
    return low, high, f"±{default.value * 100:g} %, none printed", default.source


def judge_sections(rule: Rule, case: Case, window_of: WindowOf, *, doubt: Word) -> Iterator[Finding]:
    """Judge every section of a part, or every part of a bank, by its window; `doubt` is the word for a reading across a limit."""
    sections = case.position.parts
    for index, section in enumerate(sections):
        finding = _judge_section(rule, case, index, window_of(section, case), doubt)
        name = case.position.part_names[index]
        yield finding if name in finding.sentence else _naming(name, finding)


def _naming(name: str, finding: Finding) -> Finding:
    """The finding, saying of which part it speaks."""
    return replace(finding, sentence=f"{name.capitalize()}: {finding.sentence[:1].lower()}{finding.sentence[1:]}")


def _judge_section(rule: Rule, case: Case, index: int, window: Window, doubt: Word) -> Finding:
    reading = case.evidence.deciding(index)
    limit = f"{show_range(window.low_f, window.high_f, 'F')} ({window.says})"
    fine = window.fine_f(case.position.parts[index].capacitance_f)
    if reading is None:
        in_circuit = case.evidence.screening(index) if case.schools["measure_where"] == "screen" else None
        seen = f"{show(in_circuit.value, 'F')} in circuit" if in_circuit else ""
        asked = _ask(case, index, screened=in_circuit is not None)
        ask = Measurement(Quantity.CAPACITANCE, Condition.LIFTED, index, asked, fine)
        return rule.says(Word.UNKNOWN, ask.sentence, reading=seen, limit=limit, source=window.source, settled_by=ask)
    section = case.position.parts[index]
    word, sentence = _compare(reading, window, case.limits["near_edge"].value, section)
    if reading.low > window.high_f and section.high_f is None and case.made.likeliest.polar and math.isfinite(reading.high):
        return _grown(rule, case, index, reading, limit)
    better = finer(reading, fine) if word == Word.UNKNOWN else _again(case, index, reading) if word == Word.REPLACE else None
    if word == Word.UNKNOWN and doubt != Word.UNKNOWN:
        word, sentence = doubt, DOUBT
    return rule.says(word, sentence, reading=said(reading), limit=limit, source=window.source, settled_by=better)


def _again(case: Case, index: int, reading: Reading) -> Measurement | None:
    """A lone reading that goes against its mark as no usual wear does: a slip of decimal, unit, pair or mark? Once more."""
    section = case.position.parts[index]
    taken = [one for one in case.evidence.of(index, Quantity.CAPACITANCE) if one.condition in COUNTED]
    if len(taken) > 1 or not (reading.high < AGAIN_LOW * section.capacitance_f or reading.low > AGAIN_HIGH * section.highest_f):
        return None
    marked, read = show(section.capacitance_f, "F"), "beyond its range" if reading.beyond_range else show(reading.value, "F")
    asked = f"{read} for {marked}: are pair, decimal, unit and mark read right? Measure it once more before anything rests on it."
    return Measurement(Quantity.CAPACITANCE, Condition.LIFTED, index, asked)


def _grown(rule: Rule, case: Case, index: int, reading: Reading, limit: str) -> Finding:
    """An electrolytic above a tolerance that it does not print: it may be made so, or it leaks; its leakage tells."""
    sentence = "Reads above its usual tolerance: it may be made so, or leak."
    if case.evidence.deciding(index, Quantity.LEAKAGE):
        return rule.says(Word.WATCH, f"{sentence} Its leakage was measured and decides.", reading=said(reading), limit=limit)
    sentence = f"{sentence} Measure its leakage at rated volts, after 2 to 5 minutes."
    ask = Measurement(Quantity.LEAKAGE, Condition.LIFTED, index, sentence, volts=case.position.parts[index].rated_dc_v)
    return rule.says(Word.UNKNOWN, sentence, reading=said(reading), limit=limit, settled_by=ask)


def _ask(case: Case, index: int, *, screened: bool) -> str:
    if screened:
        return "Measured in circuit only screens: lift one lead and measure again."
    return f"Lift one lead and measure {case.position.part_names[index] or 'its capacitance'}."


def _compare(reading: Reading, window: Window, edge: float, section: Section) -> tuple[Word, str]:
    if reading.beyond_range:
        return Word.UNKNOWN, "Over the range of this meter: shorted, leaking, or too large for it. Measure its insulation too."
    marked = section.capacitance_f
    off = (reading.value - marked) / marked
    where = f"{abs(off) * 100:.0f} % {'under' if off < 0 else 'over'} the marked {show(marked, 'F')}"
    if reading.high < window.watch_low_f:
        return Word.REPLACE, f"Reads {where}: lost too much."
    if reading.low > window.high_f:
        return Word.REPLACE, f"Reads {where}: above what is allowed."
    fine = window.fine_f(marked)
    if reading.low < window.watch_low_f or reading.high > window.high_f:
        if reading.within(fine):
            return Word.REPLACE, f"Reads {where}, at the limit: {TOO_NEAR}"
        return Word.UNKNOWN, f"Reads {where}, across the limit within this meter's error: cannot tell with this meter."
    if reading.low < window.low_f:
        return Word.WATCH, f"Reads {where}: below its tolerance, not yet lost."
    inner_low = window.low_f + max(edge * (marked - window.low_f), fine)
    inner_high = window.high_f - max(edge * (window.high_f - marked), fine)
    if reading.value < inner_low or reading.value > inner_high:
        return Word.WATCH, f"Reads {where}: inside its tolerance, near the edge."
    return Word.KEEP, f"Reads {where}: inside its tolerance."
