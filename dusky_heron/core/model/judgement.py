"""What a rule judges by, and what it says."""

import math
from dataclasses import dataclass

from dusky_heron.core.model.terms import Condition, Quantity, Word


@dataclass(frozen=True, slots=True)
class Limit:
    """One number a rule judges by, with where it comes from; `unit` % for a fraction of the marked value, or years."""

    id: str
    value: float
    title: str
    source: str
    unit: str = "%"


@dataclass(frozen=True, slots=True)
class Measurement:
    """The measurement that would settle a finding.

    `error` is what its meter may at most be wrong by, in the SI unit of the quantity (a coarser one may leave it open);
    `frequency_hz` and `volts` where they matter; `about` is what it read before, of one to be measured again.
    """

    quantity: Quantity
    condition: Condition
    section: int
    sentence: str
    error: float = math.inf
    frequency_hz: float | None = None
    volts: float | None = None
    about: float | None = None


@dataclass(frozen=True, slots=True)
class Finding:
    """What one rule says: its word, the sentence, and the reading, limit and source behind it."""

    rule_id: str
    word: Word
    sentence: str
    reading: str
    limit: str
    source: str
    settled_by: Measurement | None = None


@dataclass(frozen=True, slots=True)
class Verdict:
    """The word for a position, its reasons worst first, and what to measure next.

    `next_measurement` settles what cannot be told yet; of a part to be kept it is what its evidence still lacks; of one to be
    replaced on a lone reading that goes against its mark it is that reading once more; else None.
    """

    word: Word
    reasons: tuple[Finding, ...]
    next_measurement: Measurement | None
    rules_version: str
