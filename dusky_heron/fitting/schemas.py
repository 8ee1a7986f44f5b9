"""The fitting list, from outside."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import Field

from dusky_heron.asfound.schemas import ShownOut
from dusky_heron.fitting.models import Beside
from dusky_heron.presented import Answer, Schema
from dusky_heron.record.schemas import Line, Note


class FitLineOut(Answer):
    """A line of the list, with the points on photos that show it; who ticked it, with their initials, and when."""

    id: str
    sentence: str
    photos: list[ShownOut]
    done: bool
    initials: str
    by_name: str
    at: datetime | None
    note: str
    sequence: int


class FittingOut(Answer):
    """The list of a place; `missing` says what comes first, `fitted_at` when all of it was ticked."""

    position_id: UUID
    part: str
    lot: str
    lines: list[FitLineOut]
    missing: str
    fitted_at: datetime | None


class BesideOut(Answer):
    """Something that is no capacitor, checked or replaced."""

    what: Beside
    title: str
    replaced: bool
    says: str
    by_name: str
    at: datetime
    sequence: int


class BesideKind(Answer):
    """One thing that is no capacitor, and its words."""

    id: Beside
    title: str


class BesideListOut(Answer):
    """What else was checked or replaced in a job, and what can be noted so."""

    kinds: list[BesideKind]
    rows: list[BesideOut]


class BesideIn(Schema):
    """Something that is no capacitor: checked, with what it read, or replaced, with what went in."""

    what: Beside
    replaced: bool = False
    says: Annotated[Line, Field(min_length=1)]


class TickIn(Schema):
    """A line ticked, or taken back."""

    line: Annotated[Note, Field(min_length=1, max_length=80)]
    done: bool = True
    note: Line = ""
