"""Readings and verdicts, from outside."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import BeforeValidator, Field, StringConstraints

from dusky_heron.core.model import Condition, Quantity, Role, Sign, Word
from dusky_heron.presented import Answer, Figure, Schema
from dusky_heron.record.schemas import Name, Number, Printed, Typed


class ReadingIn(Schema):
    """A reading as typed from the meter.

    ESR with the frequency it was taken at, insulation and leakage with the volts and the time; in circuit with what lies across
    the part; a current in service with its voltage, and of a dropper the rail and the X capacitor beside it.
    """

    value: Typed
    meter_id: UUID
    quantity: Quantity = Quantity.CAPACITANCE
    frequency: Typed = ""
    condition: Condition = Condition.LIFTED
    section: Annotated[int, Field(ge=0, le=63)] = 0
    volts: Typed = ""
    after: Typed = ""
    temperature_c: Annotated[float, Field(ge=-60, le=200)] | None = None
    parallel_ohm: Typed = ""
    parallel_f: Typed = ""
    loss: Typed = ""
    voltage: Typed = ""
    rail: Typed = ""
    beside: Typed = ""


class SeenIn(Schema):
    """A sign seen on the part."""

    sign: Sign


class ReadingOut(Answer):
    """A reading with its interval: what of, and how it was connected, also in words."""

    section: int
    quantity: Quantity
    what: str
    value: Figure
    interval: str
    typed: str
    at_volts: str
    temperature: str
    condition: Condition
    how: str
    meter_name: str
    overdue: bool
    at: datetime
    by_name: str
    sequence: int
    struck: bool


class SeenOut(Answer):
    """A sign seen."""

    sign: Sign
    at: datetime
    by_name: str
    sequence: int
    struck: Annotated[bool, BeforeValidator(lambda entry: entry is not None)]


class FindingOut(Answer):
    """One reason of a verdict."""

    rule_id: str
    word: Word
    sentence: str
    reading: str
    limit: str
    source: str


class AskOut(Answer):
    """The measurement to take next, with the frequency and the volts it is asked at; empty where they do not matter."""

    sentence: str
    quantity: Quantity
    condition: Condition
    section: int
    frequency: str
    volts: str


class VerdictOut(Answer):
    """A verdict with its reasons, worst first."""

    word: Word
    asks_for_another_part: bool
    reasons: list[FindingOut]
    next_measurement: AskOut | None
    rules_version: str


class RecordedOut(Answer):
    """When the verdict was last recorded, and by whom."""

    word: Word
    at: datetime
    by_name: str


class ZoneOut(Answer):
    """A stretch of capacitance on a bar, as shares of its length, and the value at its upper end."""

    word: Word
    says: str
    start: float
    width: float
    edge: Figure


class BarOut(Answer):
    """A section on its window: zones, the marked value and the newest reading with its interval, as shares of the bar."""

    section: int
    zones: list[ZoneOut]
    marked: float
    marked_value: Figure
    reading: Figure | None
    at: float | None
    low: float | None
    high: float | None


class ChangeOut(Answer):
    """What one rule said in the recorded verdict and says now; empty where it did or does not speak."""

    rule_id: str
    before: str
    now: str
    before_word: Word | None
    now_word: Word | None


class WayOut(Answer):
    """One thing that may be done, or must never be."""

    sentence: str
    never: bool


class AssessmentOut(Answer):
    """Everything known about the part in a position; `differs` when the verdict is not the recorded one, `changes` how.

    `part_names` are what is measured by itself: sections, or the parts of a bank. `ways` are what may be done with
    a line-to-chassis part on a two-core lead.
    """

    part_names: list[str]
    readings: list[ReadingOut]
    signs: list[SeenOut]
    bars: list[BarOut]
    verdict: VerdictOut
    recorded: RecordedOut | None
    differs: bool
    changes: list[ChangeOut]
    ways: list[WayOut]


class StandingOut(Answer):
    """Where a position stands: its word, whether that is recorded or only follows from marking and place, and last reading."""

    word: Word | None
    recorded: bool
    reading: Figure | None
    interval: str


class TouchCheckOut(Answer):
    """One limit of touch current."""

    id: str
    meets: bool
    sentence: str
    source: str


class TouchOut(Answer):
    """Touch current of every Y part of a job together; `missing` says what is needed first."""

    missing: str
    counted: str = ""
    normal: Figure | None = None
    neutral_open: Figure | None = None
    checks: list[TouchCheckOut] = []


class CommonOut(Answer):
    """Which terminal is common, the sections from it, and a sentence."""

    common: str
    sections: list[str]
    sentence: str


class BoardLineIn(Schema):
    """One line of a board: a position with what it reads; without a reading it is only named.

    Unless `role_chosen`, a role that the marking points to is taken before `role`, which is that of the line before.
    """

    name: Annotated[Name, StringConstraints(max_length=40)]
    role: Role
    role_chosen: bool = False
    marking: Printed
    value: Typed = ""
    meter_id: UUID | None = None
    condition: Condition = Condition.LIFTED


class BoardRow(Answer):
    """A position at a glance; `attention` is higher for what needs it more."""

    id: UUID
    name: str
    role_title: str
    marking: str
    parts: str
    marked: list[Figure]
    reading: Figure | None
    interval: str
    bar: BarOut
    word: Word
    sentence: str
    attention: int
    differs: bool
    provisional: bool


class BoardOut(Answer):
    """Every position of a job at a glance."""

    rows: list[BoardRow]


class BoardLineOut(Answer):
    """The position a line made."""

    position_id: UUID
    name: str
    role: Role
    word: Word


class EffectRow(Answer):
    """A verdict that would change."""

    job_id: UUID
    position_id: UUID
    job: str
    position: str
    now: Word
    then: Word
    sentence: str


class EffectOut(Answer):
    """What a change would do: how many verdicts were looked at, and those that would change."""

    judged: int
    rows: list[EffectRow]


Money = Annotated[float, Number, Field(ge=0, le=1e6)]


class BatchIn(Schema):
    """The rest of a set: how many more there are, their age and use, the warranty, and what parts, work and a return cost."""

    siblings: Annotated[int, Field(ge=1, le=200)] = 1
    age_years: Annotated[float, Field(gt=0, le=100)] | None = None
    used_percent: Annotated[float, Field(ge=0, le=500)] | None = None
    warranty_months: Annotated[float, Field(gt=0, le=240)] = 12
    part_price: Money = 0
    minutes_each: Annotated[float, Field(ge=0, le=10_000)] = 10
    hourly_rate: Money = 0
    return_cost: Money = 0
    shape: Annotated[float, Field(ge=0.5, le=20)] = 3


class BatchChoice(BatchIn):
    """What is decided of the rest of a set, on these figures."""

    choice: Literal["failed", "set"]


class BatchDecided(Answer):
    """A decision as it stands in the record."""

    choice: str
    sentence: str
    at: datetime
    by_name: str


class BatchOut(Answer):
    """Both schools compared; `missing` says what is needed first."""

    missing: str = ""
    age_years: float | None = None
    used_percent: float | None = None
    one_fails_percent: float | None = None
    any_fails_percent: float | None = None
    failed_costs: float | None = None
    set_costs: float | None = None
    cheaper: str = ""
    choice: str = ""
    recommends: str = ""
    policy: str = ""
    decided: BatchDecided | None = None
