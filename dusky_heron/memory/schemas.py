"""What was seen before, from outside."""

from datetime import date, datetime
from enum import StrEnum
from uuid import UUID

from dusky_heron.core.model import Word
from dusky_heron.presented import Answer


class FailedOut(Answer):
    """A part that failed: where, what was printed on it, why, how old it was, and what took its place."""

    name: str
    role: str
    marking: str
    word: Word
    why: str
    reading: str
    age: str
    fixed_with: str


class SeenBeforeOut(Answer):
    """An earlier job on the same model, or one that is spelt much like it."""

    job_id: UUID
    number: int
    title: str
    model: str
    same: bool
    symptom: str
    opened_at: datetime
    returned: bool
    failed: list[FailedOut]


class Warranty(StrEnum):
    """Whether the workshop still stands for its work on a set; `here` while that work is not done."""

    RUNS = "runs"
    OVER = "over"
    NONE = "none"
    HERE = "here"


class PartThenOut(Answer):
    """What stood in a place when a job went back: `fitted` then with its lot and date code, and what was read there last."""

    name: str
    marking: str
    fitted: bool
    lot: str
    reading: str


class CameBackOut(Answer):
    """An earlier job on the same set: how it is known again, `surely` or to be asked; what was done, and what is otherwise."""

    job_id: UUID
    number: int
    title: str
    surely: bool
    by: str
    opened_at: datetime
    returned_at: datetime | None
    warranty: Warranty
    warranty_until: date | None
    symptom: str
    parts: list[PartThenOut]
    differs: list[str]


class GroupBy(StrEnum):
    """By what failures are put together."""

    ROLE = "role"
    CLASS = "class"
    KIND = "kind"


class SurvivingOut(Answer):
    """From this age on so large a share still works, per cent, and its band of 95 %."""

    years: float
    share: float
    low: float
    high: float


class FailuresOut(Answer):
    """A group of parts: looked at, failed, of known age; the curve where enough failed, and the age at which half had."""

    title: str
    looked_at: int
    failed: int
    dated: int
    median: str
    says: str
    steps: list[SurvivingOut]


class HitOut(Answer):
    """An entry that holds the words: in which job, who wrote it when, and the piece with them."""

    job_id: UUID
    number: int
    title: str
    kind: str
    says: str
    by_name: str
    at: datetime | None
