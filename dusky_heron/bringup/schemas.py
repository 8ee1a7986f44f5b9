"""The first power, from outside; values as typed."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import Field

from dusky_heron.presented import Answer, Figure, Schema
from dusky_heron.record.schemas import Line, Typed


class PlanIn(Schema):
    """How a job is powered up; `version` 0 for the first time. Steps in per cent, `25 50 100`; empty for the usual ones."""

    version: Annotated[int, Field(ge=0, le=2_000_000_000)] = 0
    kind: Typed
    rail: Typed = ""
    current: Typed = ""
    standby: Typed = ""
    steps: Annotated[Line, Field(max_length=100)] = ""
    closed: bool = False


class KindOut(Answer):
    """A kind of supply, and how it is brought up."""

    id: str
    title: str
    says: str


class StepOut(Answer):
    """One point of the plan; `done` once something was read there."""

    percent: float
    rail: Figure | None
    current: Figure | None
    stop: Figure | None
    dwell: Figure
    done: bool


class LampOut(Answer):
    """The lamp to put in series, with a healthy load and with a short behind it."""

    watts: Figure
    healthy: str
    shorted: str


class LoggedOut(Answer):
    """What was read at a step."""

    percent: float
    limiter: str
    rail: Figure | None
    current: Figure | None
    expected: Figure | None
    note: str
    says: str
    stop: bool
    at: datetime
    by_name: str
    sequence: int


class PowerPlanOut(Answer, PlanIn):
    """How a job is powered up, as it would be typed again."""


class PowerUpOut(Answer):
    """How a job is powered up, what to do before, the lamp, the steps, what was read, and what it says before the next.

    `asks_why` after a step that was not as expected: it is read again with a note, or the power stays off.
    """

    job_id: UUID
    plan: PowerPlanOut
    kinds: list[KindOut]
    says: str
    before: list[str]
    case: str
    lamp: LampOut | None
    no_lamp: str
    steps: list[StepOut]
    next: StepOut | None
    log: list[LoggedOut]
    trend: str
    stop: bool
    asks_why: bool


class StepIn(Schema):
    """What was read at a step, and again a little later where it was; looked at, smelt and heard in a few words."""

    percent: Annotated[float, Field(gt=0, le=120)]
    limiter: Annotated[Line, Field(max_length=60)] = ""
    rail: Typed = ""
    current: Typed = ""
    later: Typed = ""
    note: Line = ""
    stopped: bool = False
    links_off: bool = False
