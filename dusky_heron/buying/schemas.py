"""Buying, from outside; money in the workshop's currency, two places."""

import re
from datetime import date, datetime
from decimal import Decimal, InvalidOperation
from typing import Annotated
from uuid import UUID

from pydantic import AfterValidator, Field

from dusky_heron.core.model import PartKind
from dusky_heron.presented import Answer, Schema
from dusky_heron.record.schemas import Day, Line, Name, Number, Printed, Version

Money = Annotated[Decimal, Number, Field(ge=0, le=1_000_000, max_digits=9, decimal_places=2)]
Many = Annotated[int, Field(ge=1, le=100_000)]
BREAK = re.compile(r"^\s*(\d{1,6})\s*[:=x×]\s*(\d{1,7}(?:[.,]\d{1,2})?)\s*$")
MOST_BREAKS = 12


class SupplierIn(Schema):
    """A supplier; `service_code` is its name at the price service, where it has one."""

    name: Name
    postage: Money = Decimal(0)
    minimum_order: Money = Decimal(0)
    days: Annotated[int, Field(ge=0, le=365)] = 0
    counter: bool = False
    service_code: Annotated[Line, Field(max_length=60)] = ""


class SupplierEdit(SupplierIn):
    """A supplier as changed."""

    version: Version


class SupplierOut(Answer, SupplierIn):
    """A supplier."""

    id: UUID
    version: int


def breaks_of(typed: str) -> list[tuple[int, str]]:
    """Price breaks as typed, `1: 0.42, 10: 0.36`, or one price alone; raises ValueError with a sentence."""
    text = typed.strip()
    if re.fullmatch(r"\d{1,7}([.,]\d{1,2})?", text):
        text = f"1: {text}"
    found: list[tuple[int, str]] = []
    for piece in re.split(r"[;\n]|,(?=\s)", text):
        match = BREAK.match(piece)
        if match is None:
            raise ValueError(f"“{piece.strip()[:30]}” is no price break: 1: 0.42, 10: 0.36.")
        try:
            found.append((int(match[1]), str(Decimal(match[2].replace(",", ".")).quantize(Decimal("0.01")))))
        except InvalidOperation:
            raise ValueError("That amount is too large.") from None
    if [start for start, _ in found] != sorted({start for start, _ in found}) or found[0][0] < 1 or len(found) > MOST_BREAKS:
        raise ValueError("Name the breaks in order, from the smallest number to the largest, each once.")
    return found


def _readable(typed: str) -> str:
    breaks_of(typed)
    return typed


class OfferIn(Schema):
    """A supplier's price for a part, with its breaks as typed: `1: 0.42, 10: 0.36`."""

    supplier_id: UUID
    part_id: UUID
    code: Annotated[Line, Field(max_length=60)] = ""
    prices: Annotated[str, Field(max_length=300), AfterValidator(_readable)]
    pack: Many = 1
    available: Annotated[int, Field(ge=0, le=10_000_000)] | None = None


class OfferOut(Answer, OfferIn):
    """An offer; `stale` says how old its price is when that matters."""

    id: UUID
    version: int
    supplier_name: str
    marking: str
    at: datetime
    stale: str


class WantIn(Schema):
    """A part to buy, for a place or for the drawer."""

    part_id: UUID
    quantity: Many = 1
    position_id: UUID | None = None
    needed_by: Day | None = None
    only_this: bool = False


class OrderSpecifiedIn(Schema):
    """Order what a place asks for, to its specification."""

    needed_by: Day | None = None


class CameIn(Schema):
    """What came for a specification: as printed, what it is made as, how many, its lot, date code and price."""

    marking: Printed
    kind: PartKind
    quantity: Many = 1
    place: Annotated[Line, Field(max_length=60)] = ""
    lot: Annotated[Line, Field(max_length=60)] = ""
    date_code: Annotated[Line, Field(max_length=20)] = ""
    price: Money | None = None


class WantOut(Answer):
    """A line of the shopping list, with what was ordered for it; without a part, what a supplier has to know."""

    id: UUID
    version: int
    part_id: UUID | None
    marking: str
    specification: list[str]
    quantity: int
    left: int
    job_id: UUID | None
    job_number: int | None
    position_name: str
    needed_by: date | None
    late: bool
    alternates: int
    by_name: str


class OrderedOut(Answer):
    """Units on their way."""

    id: UUID
    marking: str
    quantity: int
    received: int
    each: Decimal
    supplier_name: str
    due: date
    overdue: bool
    job_number: int | None
    position_name: str


class BasketLine(Answer):
    """Units of one offer."""

    marking: str
    code: str
    units: int
    each: Decimal
    cost: Decimal
    serves: str
    stale: str


class ParcelOut(Answer):
    """What to buy from one supplier."""

    supplier_id: UUID
    name: str
    days: int
    lines: list[BasketLine]
    goods: Decimal
    postage: Decimal
    total: Decimal


class BasketOut(Answer):
    """The cheapest basket for all that is on the list, beside buying for each job alone and at the counter.

    `proved` when nothing cheaper exists, else `off_by` says how much cheaper one might be. Where a comparison leaves something
    out, it says how many units.
    """

    parcels: list[ParcelOut]
    total: Decimal
    proved: bool
    off_by: Decimal
    missing: list[str]
    apart: Decimal | None
    counter: Decimal | None
    counter_lacks: int


class ListOut(Answer):
    """The shopping list, what is on its way, and the cheapest basket."""

    wants: list[WantOut]
    ordered: list[OrderedOut]
    basket: BasketOut


class OrderIn(Schema):
    """Order a supplier's parcel of the basket, for the total that was shown."""

    supplier_id: UUID
    total: Money


class ReceiveIn(Schema):
    """How many came, with their lot and date code; `closed` when no more will."""

    quantity: Annotated[int, Field(ge=0, le=100_000)]
    lot: Annotated[Line, Field(max_length=60)] = ""
    date_code: Annotated[Line, Field(max_length=20)] = ""
    closed: bool = False


class DropIn(Schema):
    """Take a line off the list."""

    version: Version


class PricesOut(Answer):
    """What the price service answered: offers renewed, and suppliers that gave none, each with why."""

    renewed: int
    silent: list[str]
