"""How equipment was found, from outside."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import BeforeValidator, Field, StringConstraints

from dusky_heron.core.wiring import FoundKind
from dusky_heron.presented import Answer, Schema
from dusky_heron.record.schemas import Line, Name, Printed

Share = Annotated[float, Field(ge=0, le=1)]


class LineIn(Schema):
    """One line in the technician's own shorthand."""

    text: Printed


class ConnectorPinOut(Answer):
    """A pin of a connector with the wires in it, each by its colours; none for an empty one."""

    name: str
    wires: list[list[str]]


class LineOut(Answer):
    """A line as typed and as read; a wire has colours and two ends, a connector its name and pins, the rest a note."""

    id: UUID
    kind: FoundKind
    title: str
    typed: str
    colours: list[str]
    start: str
    end: str
    note: str
    name: str
    pins: list[ConnectorPinOut]
    position_id: UUID | None
    at: datetime
    by_name: str
    sequence: int
    struck: bool


class PhotoPointIn(Schema):
    """A point on a photo, as shares of its width and height, and the position or the line it shows."""

    x: Share
    y: Share
    label: Annotated[Name, StringConstraints(max_length=80)]
    position_id: UUID | None = None
    line_id: UUID | None = None


class PhotoPointOut(Answer, PhotoPointIn):
    """A marked point."""

    id: UUID
    sequence: int
    struck: Annotated[bool, BeforeValidator(lambda entry: entry is not None)]


class ShownOut(Answer):
    """Where on which photo something is shown."""

    photo_id: UUID
    x: Share
    y: Share
    label: str


class PhotoIn(Schema):
    """What is said of a photo beside its file."""

    caption: Line = ""


class PhotoOut(Answer):
    """A photo with its points; the picture itself has an address of its own."""

    id: UUID
    caption: str
    width: int
    height: int
    digest: str
    at: datetime
    by_name: str
    sequence: int
    struck: bool
    points: list[PhotoPointOut]


class MapOut(Answer):
    """How a job was found: lines and photos, oldest first."""

    lines: list[LineOut]
    photos: list[PhotoOut]
