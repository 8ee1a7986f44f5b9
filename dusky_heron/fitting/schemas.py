"""The fitting list, from outside."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import Field

from dusky_heron.presented import Answer, Schema
from dusky_heron.record.schemas import Line, Note


class FitLineOut(Answer):
    """A line of the list; who ticked it, with their initials, and when."""

    id: str
    sentence: str
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


class TickIn(Schema):
    """A line ticked, or taken back."""

    line: Annotated[Note, Field(min_length=1, max_length=80)]
    done: bool = True
    note: Line = ""
