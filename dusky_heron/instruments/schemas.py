"""Instruments, from outside."""

from datetime import date
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from dusky_heron.core.discharge.tools import Construction
from dusky_heron.core.metering.accuracy import Method
from dusky_heron.core.model import Quantity
from dusky_heron.presented import Answer, Figure, Schema
from dusky_heron.record.schemas import Day, Name, Note, Typed, Version

Percent = Annotated[float, Field(ge=0, le=50)]


class MeterIn(Schema):
    """A meter: ±(percent of reading + counts) on a display of so many counts; other quantities and ranges a line each."""

    name: Name
    percent: Percent
    counts: Annotated[float, Field(ge=0, le=1000)]
    display_counts: Annotated[int, Field(ge=100, le=10_000_000)]
    accuracies: Note = ""
    method: Method = Method.TIMED_CHARGE
    frequency: Typed = ""
    calibration_due: Day | None = None
    highest_voltage: Typed = "600 V"
    category: Literal["", "II", "III", "IV"] = ""
    category_voltage: Typed = ""
    input_resistance: Typed = "10 MΩ"
    high_voltage_probe: bool = False
    two_pole: bool = False


class MeterEdit(MeterIn):
    """A meter as changed."""

    version: Version


class MeterOut(Answer):
    """A meter, and which quantities it can measure by what is kept of it."""

    measures: list[Quantity]

    id: UUID
    version: int
    name: str
    percent: float
    counts: float
    display_counts: int
    accuracies: str
    method: Method
    frequency: str
    calibration_due: date | None
    overdue: bool
    highest_voltage: str
    category: str
    category_voltage: str
    input_resistance: str
    high_voltage_probe: bool
    two_pole: bool


class ResistorIn(Schema):
    """A discharge resistor, values as typed."""

    name: Name
    resistance: Typed
    tolerance_percent: Percent
    power: Typed
    construction: Construction
    working_voltage: Typed
    pulse_energy: Typed = ""


class ResistorEdit(ResistorIn):
    """A discharge resistor as changed."""

    version: Version


class ResistorOut(Answer):
    """A discharge resistor."""

    id: UUID
    version: int
    name: str
    resistance: Figure
    tolerance_percent: float
    power: Figure
    construction: Construction
    working_voltage: Figure
    pulse_energy: Figure | None
