"""What an entry and a verification look like from outside, and the field types every schema uses."""

import re
from datetime import date, datetime
from typing import Annotated, Any
from uuid import UUID

from pydantic import AfterValidator, BeforeValidator, Field, StringConstraints

from dusky_heron.presented import Answer, Schema
from dusky_heron.record.typed import number_typed, plainly_typed

UNPRINTABLE = re.compile(r"[\x00-\x08\x0b-\x1f]")  # every control character of C0 but tabulator and line feed


def printable(text: str) -> str:
    """Refuse control characters, which no label carries and PostgreSQL cannot keep."""
    if UNPRINTABLE.search(text):
        raise ValueError("Use letters, figures and signs only.")
    return text


Line = Annotated[str, StringConstraints(max_length=200, strip_whitespace=True), AfterValidator(printable)]
Name = Annotated[str, StringConstraints(min_length=1, max_length=200, strip_whitespace=True), AfterValidator(printable)]
Typed = Annotated[
    str, StringConstraints(max_length=40, strip_whitespace=True), AfterValidator(printable), AfterValidator(plainly_typed)
]
Number = BeforeValidator(number_typed)  # beside a numeric type: figures as typed, with a comma or a point
Printed = Annotated[str, StringConstraints(max_length=300, strip_whitespace=True), AfterValidator(printable)]
Note = Annotated[str, StringConstraints(max_length=2000, strip_whitespace=True), AfterValidator(printable)]
Version = Annotated[int, Field(ge=1, le=2_000_000_000)]
Day = Annotated[date, Field(ge=date(1950, 1, 1), le=date(2199, 12, 31))]


class EntryOut(Answer):
    """One line of a record; `taken_at` of one that waited, `struck_by` the entry that struck it."""

    sequence: int
    at: datetime | None
    by: UUID | None
    by_name: str
    kind: str
    body: dict[str, Any]
    hash: str
    taken_at: datetime | None
    struck_by: int | None
    may_strike: bool


class StrikeIn(Schema):
    """Why a line is struck; nothing within the seconds in which its writer may take it back."""

    reason: Line = ""


class StruckOut(Answer):
    """A line that was struck."""

    sequence: int


class FreshOut(Answer):
    """The newest entry, where the asker wrote it and may still take it back: what it is, and for how many seconds."""

    sequence: int
    kind: str
    about: str
    left_s: float


class BeatOut(Answer):
    """How many entries a chain has, and what may still be taken back without a reason."""

    entries: int
    fresh: FreshOut | None


class VerifiedOut(Answer):
    """Whether a record is whole: the first entry that does not fit, and in sentences what its rows are not any more."""

    whole: bool
    length: int
    head: str
    first_altered: int | None
    differs: list[str]
