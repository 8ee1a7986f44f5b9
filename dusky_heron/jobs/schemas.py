"""Jobs and positions, from outside."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Annotated, Literal, Protocol
from uuid import UUID

from pydantic import AfterValidator, BeforeValidator, Field, StringConstraints

from dusky_heron.core.discharge.planning import MOST_PARTS
from dusky_heron.core.model import (
    Arrangement,
    Basis,
    Condition,
    LeadForm,
    PartKind,
    Position,
    Quantity,
    Reach,
    Role,
    Sign,
    Topology,
    Word,
)
from dusky_heron.jobs.stages import Stage
from dusky_heron.presented import Answer, Figure, MarkingOut, Schema
from dusky_heron.record.schemas import Day, Line, Name, Note, Printed, Typed, Version

Millimetres = Annotated[float, Field(gt=0, le=2000)]
MOST_PITCH_MM = 200.0
CircuitAsks = Literal["dropper", "life", "reaches", "ripple", "pulse"]
Celsius = Annotated[float, Field(ge=-60, le=200)]


class ProtectionClass(StrEnum):
    """Protection against electric shock (IEC 61140)."""

    UNKNOWN = ""
    ONE = "I"
    TWO = "II"


class Connection(StrEnum):
    """How the equipment takes its supply."""

    UNKNOWN = ""
    PLUG = "plug"
    FIXED = "fixed"


class JobIn(Schema):
    """What is written down at intake; supply as typed."""

    title: Name
    customer: Line = ""
    maker: Line = ""
    model: Line = ""
    serial: Line = ""
    supply_voltage: Typed
    supply_frequency: Typed
    protection_class: ProtectionClass = ProtectionClass.UNKNOWN
    connection: Connection = Connection.UNKNOWN
    standard: Annotated[Line, Field(max_length=60)] = ""
    two_core: bool = False
    live_chassis: bool = False
    symptom: Note = ""
    promised_by: Day | None = None


class JobEdit(JobIn):
    """A job as changed."""

    version: Version


class HandOverIn(Schema):
    """A word for whoever goes on with a job."""

    says: Annotated[Line, Field(min_length=1, max_length=500)]


class HandedOut(Answer):
    """What was left for whoever goes on: the last word of it, by whom, when."""

    says: str
    by_name: str
    at: datetime
    sequence: int


class JobOut(Answer, JobIn):
    """A job; `from_file` of one that came from another server, `accepted` with its signatures by a lead here."""

    id: UUID
    version: int
    number: int
    opened_at: datetime
    returned_at: datetime | None
    from_file: bool
    accepted: bool


def read_pitches(typed: str) -> tuple[float, ...]:
    """Pitches in mm as typed; raises ValueError with a sentence."""
    found = []
    for piece in typed.replace(";", " ").replace(", ", " ").split():
        try:
            pitch = float(piece.rstrip("m").replace(",", "."))
        except ValueError:
            pitch = math.nan
        if not 0 < pitch <= MOST_PITCH_MM:
            raise ValueError(f"“{piece[:20]}” is no pitch in mm: 10, 22.5.")
        found.append(pitch)
    return tuple(found)


def readable_pitches(typed: str) -> str:
    """Pitches that can be read, as they were typed."""
    read_pitches(typed)
    return typed


class PositionIn(Schema):
    """A position: its name on the drawing, what it does, what is printed on its part, the space in mm, how it is mounted.

    `other_pitches` are the board's other holes, mm, as typed: `10, 22.5`; `wet` is a place that is wet, dusty or medical.
    """

    name: Annotated[Name, StringConstraints(max_length=40)]
    role: Role
    marking: Printed
    length_mm: Millimetres | None = None
    width_mm: Millimetres | None = None
    height_mm: Millimetres | None = None
    pitch_mm: Millimetres | None = None
    other_pitches: Annotated[Typed, AfterValidator(readable_pitches)] = ""
    lead_form: Annotated[LeadForm | None, BeforeValidator(lambda typed: typed or None)] = None
    hot_neighbour: bool = False
    wet: bool = False


class PositionEdit(PositionIn):
    """A position as changed."""

    version: Version


class SurroundingsIn(Schema):
    """The circuit around a position, as typed: what feeds it, how its parts are connected, what is fitted to empty it.

    Of a dropper also its rectifier, the rail it is clamped at, its series resistor and what it feeds, a state a line; of an
    electrolytic the life its data sheet states, and what it has run at. Of the old part what it is made as where its marking does
    not say, and what data sheet or circuit say it carries: ripple current, ESR, dv/dt in V/µs, peak current; of a Y part what it
    leads to.
    """

    basis: Annotated[Basis | None, BeforeValidator(lambda typed: typed or None)] = None
    voltage: Typed = ""
    confirmed: bool = False
    arrangement: Arrangement = Arrangement.SINGLE
    count: Annotated[int, Field(ge=1, le=MOST_PARTS)] = 1
    balancing: Typed = ""
    bleeder: Typed = ""
    bleeder_working_v: Annotated[float, Field(gt=0, le=100_000)] | None = None
    bleeder_measured: Typed = ""
    topology: Annotated[Topology | None, BeforeValidator(lambda typed: typed or None)] = None
    rail: Typed = ""
    loads: Note = ""
    series: Typed = ""
    zener: Typed = ""
    life_h: Annotated[float, Field(gt=0, le=1e6)] | None = None
    life_at_c: Celsius | None = None
    runs_at_c: Celsius | None = None
    hours_a_day: Annotated[float, Field(gt=0, le=24)] | None = None
    made_as: Annotated[PartKind | None, BeforeValidator(lambda typed: typed or None)] = None
    reaches: Annotated[Reach | None, BeforeValidator(lambda typed: typed or None)] = None
    ripple: Typed = ""
    esr: Typed = ""
    dvdt: Annotated[float, Field(gt=0, le=1e6)] | None = None
    peak: Typed = ""


class SurroundingsEdit(SurroundingsIn):
    """The circuit as changed."""

    version: Version


class SurroundingsOut(Answer, SurroundingsIn):
    """The circuit as it would be typed again."""


class PositionOut(Answer, PositionIn):
    """A position, with what its marking was read as, the circuit around it, and what else of the circuit bears on its verdict."""

    id: UUID
    job_id: UUID
    version: int
    role_title: str
    read: MarkingOut
    surroundings: SurroundingsOut
    circuit_asks: list[CircuitAsks]
    parts: str

    @property
    def provisional(self) -> bool:
        """Whether its marking leaves a question open."""
        return self.read.provisional


class Named(Protocol):
    """A position as far as it has a name."""

    @property
    def id(self) -> UUID:
        """Which."""

    @property
    def name(self) -> str:
        """On the drawing."""

    @property
    def provisional(self) -> bool:
        """Whether its marking leaves a question open."""


@dataclass(frozen=True, slots=True)
class Place:
    """A position where many are looked through: its name, whether its marking is settled, and what the core knows of it.

    `shown` is how it looks from outside, worked out where it is wanted.
    """

    id: UUID
    name: str
    provisional: bool
    known: Position
    shown: "Callable[[], PositionOut]"


class StandardOut(Answer):
    """A standard that may apply to the equipment, with its discharge limit."""

    id: str
    applies_to: str


class ChoiceOption(Answer):
    """One thing to choose, and its words."""

    id: str
    title: str


class SignOption(Answer):
    """A sign that can be seen, the word it leads to, and why."""

    id: Sign
    title: str
    word: Word
    sentence: str


class StageOption(Answer):
    """A stage of the work, in its order."""

    id: Stage
    title: str


class ExtraOption(Answer):
    """What belongs to a reading besides its value, and of which quantities, conditions and roles; none named: of any."""

    field: str
    label: str
    quantities: list[Quantity]
    conditions: list[Condition]
    roles: list[Role]
    not_roles: list[Role]


class QuantityOption(Answer):
    """A quantity that can be read, its words, and how one is typed."""

    id: Quantity
    title: str
    example: str


class ConditionOption(Answer):
    """How a part may be connected while it is read."""

    id: Condition
    title: str


class ResistorSize(Answer):
    """A size of resistor and the volts it may work at."""

    title: str
    working_v: float


class VocabularyOut(Answer):
    """What forms offer to choose from, in the core's own words, and the workshop's supply."""

    roles: list[ChoiceOption]
    standards: list[StandardOut]
    kinds: list[ChoiceOption]
    origins: list[ChoiceOption]
    lead_forms: list[ChoiceOption]
    constructions: list[ChoiceOption]
    bases: list[ChoiceOption]
    reaches: list[ChoiceOption]
    arrangements: list[ChoiceOption]
    resistor_sizes: list[ResistorSize]
    stages: list[StageOption]
    conditions: list[ConditionOption]
    quantities: list[QuantityOption]
    extras: list[ExtraOption]
    methods: list[ChoiceOption]
    topologies: list[ChoiceOption]
    signs: list[SignOption]
    found_kinds: list[ChoiceOption]
    live_caution: str
    supply_voltage: Figure
    supply_frequency: Figure
