"""Two meters that disagree by more than their errors: leakage or ESR, which one more measurement settles."""

import itertools
from collections.abc import Iterator

from dusky_heron.core.model import NOT_DECIDING, Condition, Finding, Measurement, Quantity, Reading, Word
from dusky_heron.core.quantities import show_range
from dusky_heron.core.verdict.registry import Case, Rule

SETTLES = {True: Quantity.LEAKAGE, False: Quantity.INSULATION}  # by whether the part is an electrolytic
ASKS = {
    Quantity.LEAKAGE: "Measure its leakage at working voltage: it would make meters read high, each in its own way.",
    Quantity.INSULATION: "Measure its insulation at working voltage: leakage makes meters read high, each in its own way.",
}


def _disagree(rule: Rule, case: Case) -> Iterator[Finding]:
    asked = SETTLES[case.made.likeliest.polar]
    for number, _ in enumerate(case.position.parts):
        apart = _furthest_apart(case.evidence.of(number, Quantity.CAPACITANCE))
        if apart is None:
            continue
        one, other = apart
        said = f"{one.meter} {show_range(one.low, one.high, 'F')}, {other.meter} {show_range(other.low, other.high, 'F')}"
        if case.evidence.deciding(number, asked):
            yield rule.says(Word.WATCH, f"Two meters disagree; its {asked} has been measured and decides.", reading=said)
        else:
            ask = Measurement(asked, Condition.LIFTED, number, ASKS[asked])
            sentence = f"Two meters disagree by more than their errors: leakage, ESR, or another frequency. {ask.sentence}"
            yield rule.says(Word.UNKNOWN, sentence, reading=said, limit="their intervals meet", settled_by=ask)


def _furthest_apart(readings: list[Reading]) -> tuple[Reading, Reading] | None:
    """The newest readings of two meters whose intervals do not meet, out of circuit."""
    newest = {reading.meter: reading for reading in readings if reading.condition not in NOT_DECIDING}
    gaps = [(max(a.low - b.high, b.low - a.high), a, b) for a, b in itertools.combinations(newest.values(), 2)]
    widest = max(gaps, key=lambda gap: gap[0], default=None)
    return (widest[1], widest[2]) if widest and widest[0] > 0 else None


def _overdue(rule: Rule, case: Case) -> Iterator[Finding]:
    """Of the readings that decide, those taken with a meter past its calibration date."""
    meters = sorted({reading.meter for reading in case.evidence.all_deciding if reading.overdue})
    if meters:
        sentence = f"{' and '.join(meters)}: calibration was overdue. Check it on a known part, or measure again."
        yield rule.says(Word.WATCH, sentence, reading="a reading that decides", limit="a meter within its calibration")


RULES = (
    Rule("meters.disagree", "Two meters agree within their errors", "ISO 14253-1", frozenset(), _disagree),
    Rule("meters.overdue", "Meters within their calibration", "ISO/IEC 17025, 6.4", frozenset(), _overdue),
)
