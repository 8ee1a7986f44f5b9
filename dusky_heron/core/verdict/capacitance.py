"""Capacitance of every role: printed tolerance, else the usual one of the role; what loss may still be watched."""

import datetime
import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from dusky_heron.core.markings.model import Section
from dusky_heron.core.model import ROLES, Evidence, Finding, Limit, Position, Role, Word
from dusky_heron.core.model.materials import made_of
from dusky_heron.core.verdict.registry import DEFAULT_LIMITS, Case, Rule
from dusky_heron.core.verdict.windows import Window, judge_sections, printed_or


def window_of(role: Role, section: Section, case: Case) -> Window:
    """Where the capacitance of a section is healthy in a role, and below which it is lost."""
    low, high, says, source = printed_or(section, case.limits[f"{role}.tolerance"])
    loss = case.limits.get(f"{role}.loss")
    if loss is None:
        return Window(low, high, low, says, source)
    lost = min(low, section.capacitance_f * (1 - loss.value))
    return Window(low, high, lost, says, f"{source}; {loss.value * 100:g} % loss by {loss.source}")


@dataclass(frozen=True, slots=True)
class Zone:
    """A stretch of capacitance and the word a reading wholly inside it leads to; farads."""

    word: Word
    says: str
    low_f: float
    high_f: float


SHOWN_LOW, SHOWN_HIGH = 0.6, 1.3  # of the marked value: how much is drawn when nothing lies outside it


def zones(position: Position, number: int, evidence: Evidence, *, limits: Mapping[str, Limit] = DEFAULT_LIMITS) -> tuple[Zone, ...]:
    """What each capacitance of a section would mean in its role, lowest first.

    :param position: the place with its part's marking
    :param number: which of its parts or sections
    :param evidence: a reading outside the usual stretch widens it
    :param limits: limits by id
    :returns: zones without gaps, from below the lowest to above the highest that is drawn
    :raises InputError: never
    :source: as the capacitance rule of the role
    """
    section = position.parts[number]
    window = window_of(position.role, section, Case(position, evidence, limits, datetime.date.min))
    reading = evidence.screening(number)
    low, high = section.capacitance_f * SHOWN_LOW, max(section.capacitance_f, window.high_f) * SHOWN_HIGH
    if reading:
        low, high = min(low, reading.low), max(high, reading.high if math.isfinite(reading.high) else reading.value)
    edges = (
        Zone(Word.REPLACE, "lost", low, window.watch_low_f),
        Zone(Word.WATCH, "watch", window.watch_low_f, window.low_f),
        Zone(Word.KEEP, "healthy", window.low_f, window.high_f),
        Zone(Word.UNKNOWN, "measure its leakage", window.high_f, high)
        if section.high_f is None and made_of(position.marking, position.role).likeliest.polar
        else Zone(Word.REPLACE, "too high", window.high_f, high),
    )
    return tuple(zone for zone in edges if zone.high_f > zone.low_f)


def _capacitance(rule: Rule, case: Case) -> Iterator[Finding]:
    role = case.position.role
    doubt = Word.REPLACE if ROLES[role].doubt == Word.REPLACE else Word.UNKNOWN
    yield from judge_sections(rule, case, lambda section, known: window_of(role, section, known), doubt=doubt)


RULES = tuple(
    Rule(
        f"{role}.capacitance",
        "Capacitance inside its tolerance, loss within limits",
        facts.decides,
        frozenset({role}),
        _capacitance,
    )
    for role, facts in ROLES.items()
)
