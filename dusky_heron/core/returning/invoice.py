"""What a repair costs: parts and minutes into a sum with tax, each line rounded as it is printed."""

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Decimal

from dusky_heron.core.errors import InputError

CENT = Decimal("0.01")
MOST = Decimal("1e7")


@dataclass(frozen=True, slots=True)
class Sum:
    """Each line, their sum without tax, the tax, and with it."""

    lines: tuple[Decimal, ...]
    net: Decimal
    tax: Decimal
    gross: Decimal


def add_up(lines: Iterable[tuple[Decimal, Decimal]], tax_percent: Decimal) -> Sum:
    """Add up lines of a quantity and a price each; tax on the whole, rounded half up to the cent.

    :param lines: quantity and price of one, in the workshop's currency; hours count in parts
    :param tax_percent: of the sum without tax, 0 to 100
    :returns: Sum
    :raises InputError: a line or the tax out of range (`lines`, `tax_percent`)
    :source: Directive 2006/112/EC leaves rounding to local rules; half up on the total is usual

    >>> str(add_up([(Decimal("2"), Decimal("1.45")), (Decimal("0.75"), Decimal("48"))], Decimal("20")).gross)
    '46.68'
    """
    if not 0 <= tax_percent <= 100:
        raise InputError("tax_percent", "Tax is 0 to 100 %.")
    found = []
    for quantity, each in lines:
        amount = (quantity * each).quantize(CENT, ROUND_HALF_UP)
        if not abs(amount) < MOST:
            raise InputError("lines", "One line is more than ten million.")
        found.append(amount)
    net = sum(found, Decimal(0))
    tax = (net * tax_percent / 100).quantize(CENT, ROUND_HALF_UP)
    return Sum(tuple(found), net, tax, net + tax)
