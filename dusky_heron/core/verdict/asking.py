"""What to measure next: the cheapest that settles, at most three askings for a part, and an end where no meter can tell."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import replace

from dusky_heron.core.model import ROLES, Condition, Evidence, Finding, Measurement, Position, Quantity, Word

Able = Callable[[Measurement], bool]
# Cheapest first: what is in every hand before what is fetched, and what asks for volts of its own last.
COST: Mapping[Quantity, int] = {
    Quantity.CAPACITANCE: 0, Quantity.RESISTANCE: 1, Quantity.DISSIPATION: 2, Quantity.ESR: 2,
    Quantity.INSULATION: 4, Quantity.LEAKAGE: 5,
}  # fmt: skip
ASKS_FIRST = frozenset({Word.UNKNOWN, Word.REPLACE})  # what waits for an answer; what a part to be kept lacks is asked for anyway
FETCHED = 3  # more, where a new part has to be fetched and measured as well
COUNTED = frozenset({Condition.LIFTED, Condition.REMOVED, Condition.NEW_PART})  # what answers an asking
MOST_ASKINGS = 3  # of any part
MOST_OF_ONE = 2  # of one quantity: once, and once with a finer meter
ENDS = "No meter tried here settles it: compare it with a new part on the same meter, or measure it elsewhere."
NONE_HERE = "No meter of this workshop settles it: compare it with a new part on the same meter, or measure it elsewhere."
ENDS_Y = "No meter tried here settles it, and on a place a person may touch any doubt replaces it."


def ended(position: Position, evidence: Evidence, findings: Iterable[Finding], able: Able | None) -> Iterator[Finding]:
    """The findings, those that were asked about often enough brought to an end: to watch, in a place people may touch to replace.

    :param position: the place
    :param evidence: what was measured
    :param findings: what the rules say
    :param able: whether a meter at hand can take a measurement; None where nothing is known of the meters
    :returns: findings; one that nothing at hand settles, or whose own quantity was read twice or part three times, asks no more
    :raises InputError: never
    :source: ILAC-G8: a decision rule says beforehand what becomes of a reading that decides nothing
    """
    end = ROLES[position.role].doubt
    for finding in findings:
        ask = finding.settled_by
        asked_out = ask is not None and _often_enough(evidence, ask)
        none_here = ask is not None and able is not None and finding.word in ASKS_FIRST and _begun(evidence, ask) and not able(ask)
        if not asked_out and not none_here:
            yield finding
        elif finding.word == Word.UNKNOWN:
            last = ENDS_Y if end == Word.REPLACE else ENDS if asked_out else NONE_HERE
            yield replace(finding, word=end, sentence=f"{finding.sentence} {last}", settled_by=None)
        else:
            yield replace(finding, settled_by=None)


def _begun(evidence: Evidence, ask: Measurement) -> bool:
    """Whether anything of the part was measured: the first measurement is asked for whatever meters there are."""
    return any(r.section == ask.section and r.condition in COUNTED for r in evidence.readings)


def _often_enough(evidence: Evidence, ask: Measurement) -> bool:
    """Whether the asked quantity was read twice already, or any three of this part were."""
    counts: dict[object, int] = {}
    for reading in evidence.readings:
        if reading.section == ask.section and reading.condition in COUNTED and reading.quantity in COST:
            key = reading.condition if reading.condition == Condition.NEW_PART else reading.quantity
            counts[key] = counts.get(key, 0) + 1
    own = counts.get(ask.condition if ask.condition == Condition.NEW_PART else ask.quantity, 0)
    return own >= MOST_OF_ONE or sum(min(count, MOST_OF_ONE) for count in counts.values()) >= MOST_ASKINGS


def next_of(findings: Iterable[Finding], word: Word) -> Measurement | None:
    """The measurement to take next: what settles a verdict that cannot be told, or what a part to be kept still lacks.

    Of equals in price the one that settles most findings. When several findings ask for the same reading, it is asked for with
    the smallest error any of them needs.

    :param findings: what the rules say
    :param word: the verdict; one to replace asks only where all it rests on is a lone reading that goes against its mark
    :returns: Measurement, or None
    :raises InputError: never
    :source: the cheapest measurement that can change the word
    """
    wanted = (Word.UNKNOWN,) if word == Word.UNKNOWN else (Word.KEEP,) if word in (Word.KEEP, Word.WATCH) else ()
    asked: dict[tuple[object, ...], list[Measurement]] = {}
    findings = tuple(findings)
    if word == Word.REPLACE and all(finding.settled_by for finding in findings if finding.word == Word.REPLACE):
        wanted = (Word.REPLACE,)
    for finding in findings:
        if finding.word in wanted and (ask := finding.settled_by):
            asked.setdefault((ask.section, ask.quantity, ask.condition), []).append(ask)
    if not asked:
        return None
    cheapest = min(asked.values(), key=lambda asks: (_price(asks[0]), -len(asks), asks[0].section))
    return min(cheapest, key=lambda ask: ask.error)


def _price(ask: Measurement) -> int:
    return COST.get(ask.quantity, max(COST.values()) + 1) + (FETCHED if ask.condition == Condition.NEW_PART else 0)
