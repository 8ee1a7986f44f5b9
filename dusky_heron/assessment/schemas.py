"""Readings and verdicts, from outside."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import Field

from dusky_heron.core.model import Condition, Quantity, Sign, Word
from dusky_heron.presented import Figure, Schema
from dusky_heron.record.schemas import Typed


class ReadingIn(Schema):
    """A reading as typed from the meter; ESR with the frequency it was taken at."""

    value: Typed
    meter_id: UUID
    quantity: Quantity = Quantity.CAPACITANCE
    frequency: Typed = ""
    condition: Condition = Condition.LIFTED
    section: Annotated[int, Field(ge=0, le=11)] = 0


class SeenIn(Schema):
    """A sign seen on the part."""

    sign: Sign


class ReadingOut(Schema):
    """A reading with its interval."""

    section: int
    quantity: str
    value: Figure
    interval: str
    condition: str
    meter_name: str
    at: datetime
    by_name: str


class SeenOut(Schema):
    """A sign seen."""

    sign: Sign
    at: datetime
    by_name: str


class FindingOut(Schema):
    """One reason of a verdict."""

    rule_id: str
    word: Word
    sentence: str
    reading: str
    limit: str
    source: str


class VerdictOut(Schema):
    """A verdict with its reasons, worst first."""

    word: Word
    asks_for_another_part: bool
    reasons: list[FindingOut]
    next_measurement: str | None
    rules_version: str


class RecordedOut(Schema):
    """When the verdict was last recorded, and by whom."""

    word: Word
    at: datetime
    by_name: str


class ZoneOut(Schema):
    """A stretch of capacitance on a bar, as shares of its length, and the value at its upper end."""

    word: Word
    says: str
    start: float
    width: float
    edge: Figure


class BarOut(Schema):
    """A section on its window: zones, the marked value and the newest reading with its interval, as shares of the bar."""

    section: int
    zones: list[ZoneOut]
    marked: float
    marked_value: Figure
    reading: Figure | None
    at: float | None
    low: float | None
    high: float | None


class AssessmentOut(Schema):
    """Everything known about the part in a position; `differs` when the verdict is not the recorded one."""

    readings: list[ReadingOut]
    signs: list[SeenOut]
    bars: list[BarOut]
    verdict: VerdictOut
    recorded: RecordedOut | None
    differs: bool


class StandingOut(Schema):
    """Where a position stands: its last recorded word and last reading."""

    word: Word | None
    reading: Figure | None
    interval: str


class TouchCheckOut(Schema):
    """One limit of touch current."""

    id: str
    meets: bool
    sentence: str
    source: str


class TouchOut(Schema):
    """Touch current of every Y part of a job together; `missing` says what is needed first."""

    missing: str
    counted: str = ""
    normal: Figure | None = None
    neutral_open: Figure | None = None
    checks: list[TouchCheckOut] = []


class CommonOut(Schema):
    """Which terminal is common, the sections from it, and a sentence."""

    common: str
    sections: list[str]
    sentence: str
