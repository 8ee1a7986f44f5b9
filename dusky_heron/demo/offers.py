"""Invented suppliers and their prices, by one rule; the price service's stand-in answers from the same."""

import csv
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from pathlib import Path

PARTS = Path(__file__).with_name("parts.csv")
CENT = Decimal("0.01")


@dataclass(frozen=True, slots=True)
class Seller:
    """A supplier of the demo: what it sells is every so-many-th part, at a factor of the drawer's price, in packs."""

    name: str
    postage: str
    minimum_order: str
    days: int
    service_code: str
    every: int
    factor: str
    falls: tuple[tuple[int, str], ...]
    pack: int = 1


SELLERS = (
    Seller("Marram Parts by post", "4.95", "10.00", 2, "marram", 1, "1.00", ((10, "0.88"), (50, "0.75"))),
    Seller("Saltpan Electric", "7.50", "30.00", 5, "saltpan", 1, "0.82", ((5, "0.92"), (25, "0.80")), 5),
    Seller("Quayside counter", "0.00", "0.00", 0, "", 3, "1.60", ()),
)
TODAY_FACTOR = {"marram": "1.00", "saltpan": "1.03"}  # what the price service asks, beside what was written down before


@dataclass(frozen=True, slots=True)
class SellersOffer:
    """What a seller asks for one row of the drawer."""

    row: int
    code: str
    breaks: tuple[tuple[int, Decimal], ...]
    pack: int
    available: int


def offers_of(seller: Seller, factor: str = "1.00") -> Iterator[SellersOffer]:
    """A seller's offers, in the order of the drawer's list."""
    with PARTS.open(encoding="utf-8") as file:
        for row, part in enumerate(csv.DictReader(file)):
            if not part["price"] or part["origin"] not in ("", "new") or row % seller.every:
                continue
            each = Decimal(part["price"]) * Decimal(seller.factor) * Decimal(factor)
            prices = ((1, each), *((start, each * Decimal(fall)) for start, fall in seller.falls))
            pack = seller.pack if each < 1 else 1
            yield SellersOffer(
                row=row,
                code=f"{(seller.service_code or 'q')[0].upper()}-{1000 + row}",
                breaks=tuple((start, max(CENT, price.quantize(CENT))) for start, price in prices),
                pack=pack,
                available=(row * 7 % 90 + 4) // pack * pack + pack,
            )
