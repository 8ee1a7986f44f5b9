"""Proof of work, what it costs, and handing back, from outside."""

from datetime import date, datetime
from decimal import Decimal
from enum import StrEnum
from typing import Annotated
from uuid import UUID

from pydantic import Field

from dusky_heron.core.model import Quantity
from dusky_heron.core.returning.checks import Otherwise, Outcome
from dusky_heron.core.selection.ways import Way
from dusky_heron.presented import Answer, Schema
from dusky_heron.record.schemas import Line, Name, Number, Typed

Money = Annotated[Decimal, Number, Field(ge=-1_000_000, le=1_000_000, max_digits=9, decimal_places=3)]


class CheckState(StrEnum):
    """Where a check stands."""

    MISSING = "missing"
    PASSES = Outcome.PASSES.value
    FAILS = Outcome.FAILS.value
    UNCLEAR = Outcome.UNCLEAR.value
    SIGNED = "signed"


class ProofCheckOut(Answer):
    """A check: what it asks for, and where it stands: missing, passes, fails, cannot tell, or signed by a lead."""

    id: str
    title: str
    place: str
    how: str
    limit: str
    source: str
    unit: str
    quantity: Quantity | Otherwise | None
    against: str
    readings: int
    measured_as: Quantity | None
    required: bool
    state: CheckState
    sentence: str
    typed: str
    by_name: str
    at: datetime | None
    sequence: int


class SoakOut(Answer):
    """A soak: how long, since when, what is left of it, and whether it held."""

    minutes: float
    started_at: datetime
    ends_at: datetime
    left_s: float
    ended: bool
    held: bool
    note: str
    by_name: str
    sequence: int


class PlaceOut(Answer):
    """A place that asked for another part: how it is filled, why where it is without one, and whether that is done."""

    position_id: UUID
    name: str
    part: str
    way: Way | None
    reason: str
    fitted: bool


class HandbackOut(Answer):
    """Where a job stands before it goes back: its checks, soak and places; `missing` says what keeps it here."""

    job_id: UUID
    checks: list[ProofCheckOut]
    soak: SoakOut | None
    soak_minutes: float
    places: list[PlaceOut]
    missing: list[str]
    returned_at: datetime | None
    returned_by: str
    warranty_until: date | None


class ProofCheckIn(Schema):
    """What was read for a check, or yes or no; the figure it is held against, and the test lead, where it has such."""

    check_id: Annotated[Name, Field(max_length=120)]
    value: Annotated[Line, Field(max_length=400)]
    meter_id: UUID | None = None
    against: Typed = ""
    lead: Typed = ""


class SoakIn(Schema):
    """How long to soak; empty for the usual time. `links_off` that every link was taken off."""

    minutes: Annotated[float, Field(gt=0, le=10_000)] | None = None
    links_off: bool = False


class SoakEnd(Schema):
    """How a soak ended."""

    held: bool
    note: Line = ""


class DeviationIn(Schema):
    """A check a lead signs off as it is, with the reason."""

    check_id: Annotated[Name, Field(max_length=120)]
    reason: Annotated[Line, Field(min_length=5)]


class QuoteLine(Answer):
    """One line: a part or what else is charged, how many, and the price of one."""

    text: Name
    quantity: Annotated[Decimal, Number, Field(ge=0, le=100_000, max_digits=9, decimal_places=3)]
    each: Money


class QuoteIn(Schema):
    """What a job costs; `version` 0 for the first time."""

    version: Annotated[int, Field(ge=0, le=2_000_000_000)] = 0
    lines: Annotated[list[QuoteLine], Field(max_length=100)]
    minutes: Annotated[int, Field(ge=0, le=100_000)] = 0


class QuoteOut(Answer, QuoteIn):
    """A quote or invoice: its lines with their sums, labour, tax, total, and the warranty that goes with it.

    `unpriced` are lines of parts whose price nobody knows, before it was written down; a `credit` is what the customer gets back.
    """

    credit: bool
    amounts: list[str]
    labour: str
    net: str
    tax: str
    gross: str
    currency: str
    hourly_rate: str
    tax_percent: str
    warranty_months: int
    unpriced: list[str]


class ReturnIn(Schema):
    """Handing back, or taking back on the bench, with a few words; `links_off` that every link was taken off."""

    note: Line = ""
    links_off: bool = False
