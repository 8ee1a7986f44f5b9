"""The drawer, from outside."""

from datetime import datetime
from decimal import Decimal
from enum import StrEnum
from typing import Annotated
from uuid import UUID

from pydantic import BeforeValidator, Field

from dusky_heron.core.markings.model import ClassName
from dusky_heron.core.model import LeadForm, Origin, PartKind
from dusky_heron.longwork.schemas import WorkOut
from dusky_heron.presented import Answer, DoubtOut, Figure, Schema
from dusky_heron.record.schemas import Line, Number, Printed, Typed, Version
from dusky_heron.stock.models import MOST_OF_ONE

Millimetres = Annotated[float, Number, Field(gt=0, le=2000)]


class PartIn(Schema):
    """A part: its marking as printed, its size in mm (length, width, height over the board or base).

    From its data sheet the ripple current it stands, rms at twice the mains, dv/dt in V/µs, peak current, and ESR at 100 Hz; of a
    salvaged part what was measured.
    """

    marking: Printed
    kind: PartKind
    origin: Origin = Origin.NEW
    quantity: Annotated[int, Field(ge=0, le=MOST_OF_ONE)] = 0
    place: Annotated[Line, Field(max_length=60)] = ""
    lot: Annotated[Line, Field(max_length=60)] = ""
    date_code: Annotated[Line, Field(max_length=20)] = ""
    lead_form: Annotated[LeadForm | None, BeforeValidator(lambda typed: typed or None)] = None
    measured: Line = ""
    length_mm: Millimetres | None = None
    width_mm: Millimetres | None = None
    height_mm: Millimetres | None = None
    pitch_mm: Millimetres | None = None
    humidity_grade: bool = False
    ripple: Typed = ""
    dvdt: Annotated[float, Number, Field(gt=0, le=1e6)] | None = None
    peak: Typed = ""
    esr: Typed = ""
    price: Annotated[Decimal, Number, Field(ge=0, max_digits=9, decimal_places=2)] | None = None


class DrawerState(StrEnum):
    """How a part of the drawer stands."""

    IN_STOCK = "in_stock"
    NONE_LEFT = "none_left"
    SALVAGED = "salvaged"
    UNSETTLED = "unsettled"


class PartAge(StrEnum):
    """How long ago a part was made: over five years, or nobody knows."""

    OLD = "old"
    UNDATED = "undated"


class DrawerIn(Schema):
    """What of the drawer is asked for: what answers to every word, and to each of the rest that is given."""

    words: Line = ""
    kind: PartKind | None = None
    safety_class: ClassName | None = None
    pitch_mm: Millimetres | None = None
    state: DrawerState | None = None
    age: PartAge | None = None


class PartEdit(PartIn):
    """A part as changed."""

    version: Version


class PartOut(Answer, PartIn):
    """A part, with what its marking was read as."""

    id: UUID
    version: int
    kind_title: str
    origin_title: str
    capacitance: list[Figure]
    ratings: str
    unread: str
    doubts: list[DoubtOut]


class MoveIn(Schema):
    """How many were taken out (fewer than none), put in, or counted, and why in a few words."""

    change: Annotated[int, Field(ge=-MOST_OF_ONE, le=MOST_OF_ONE)] = 0
    counted: Annotated[int, Field(ge=0, le=MOST_OF_ONE)] | None = None
    says: Line = ""


class MovementOut(Answer):
    """A change of a part's quantity."""

    change: int
    why: str
    says: str
    at: datetime
    by_name: str


class MovementsOut(Answer):
    """A part, and every change of its quantity, the newest first."""

    part: PartOut
    movements: list[MovementOut]


class RefusedRow(Answer):
    """A row that cannot be taken: its line, the column, and why."""

    line: int
    column: str
    sentence: str
    marking: str


class ImportOut(Answer):
    """What a stock list adds, changes, leaves as it is and refuses; `id` once it has been taken."""

    adds: int = 0
    changes: int = 0
    same: int = 0
    refused: int = 0
    rows: list[RefusedRow] = []
    columns: list[str] = []
    unknown: list[str] = []
    added: list[str] = []
    changed: list[str] = []
    unsettled: list[str] = []
    id: int | None


class ImportWork(WorkOut):
    """A stock list in the worker's hands."""

    answer: ImportOut | None
