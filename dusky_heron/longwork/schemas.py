"""Long work, from outside."""

from typing import Any
from uuid import UUID

from dusky_heron.longwork.models import State
from dusky_heron.presented import Answer


class Paper(Answer):
    """A file that long work made, and how many bytes it has."""

    name: str
    content_type: str
    size: int


class WorkOut(Answer):
    """Where a piece of long work stands; `answer` once it is done, a sentence at `field` when it was refused."""

    id: UUID
    kind: str
    name: str
    state: State
    done: int
    total: int
    stop_asked: bool
    field: str
    sentence: str
    answer: Any


class PaperWork(WorkOut):
    """Work whose answer is a file, to be fetched from it."""

    answer: Paper | None
