"""What a repair costs: parts and minutes into a sum with tax, each line rounded as it is printed."""

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Decimal

from dusky_heron.core.errors import InputError

MOST = Decimal("1e7")
USUAL_PLACES = 2
PLACES = {  # ISO 4217, minor units of the currencies in use; of metals, funds and units of account there are no notes
    0: "BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX VND VUV XAF XOF XPF",
    2: "AED AFN ALL AMD AOA ARS AUD AWG AZN BAM BBD BDT BMD BND BOB BRL BSD BTN BWP BYN BZD CAD CDF CHF CNY COP CRC CUP CVE CZK "
    "DKK DOP DZD EGP ERN ETB EUR FJD FKP GBP GEL GHS GIP GMD GTQ GYD HKD HNL HTG HUF IDR ILS INR IRR JMD KES KGS KHR KPW KYD KZT "
    "LAK LBP LKR LRD LSL MAD MDL MGA MKD MMK MNT MOP MRU MUR MVR MWK MXN MYR MZN NAD NGN NIO NOK NPR NZD PAB PEN PGK PHP PKR PLN "
    "QAR RON RSD RUB SAR SBD SCR SDG SEK SGD SHP SLE SOS SRD SSP STN SVC SYP SZL THB TJS TMT TOP TRY TTD TWD TZS UAH USD UYU UZS "
    "VES WST XCD XCG YER ZAR ZMW ZWG",
    3: "BHD IQD JOD KWD LYD OMR TND",
}
_PLACES_OF = {code: places for places, codes in PLACES.items() for code in codes.split()}


@dataclass(frozen=True, slots=True)
class Sum:
    """Each line, their sum without tax, the tax, and with it."""

    lines: tuple[Decimal, ...]
    net: Decimal
    tax: Decimal
    gross: Decimal


def places_of(currency: str) -> int:
    """How many digits stand behind the point in a currency.

    :param currency: three letters of ISO 4217
    :returns: 0 of the yen, 2 of most, 3 of some dinars
    :raises InputError: no currency in use (`currency`)
    :source: ISO 4217, list one: minor units

    >>> places_of("JPY"), places_of("EUR"), places_of("KWD")
    (0, 2, 3)
    """
    if currency not in _PLACES_OF:
        raise InputError("currency", f"“{currency[:3]}” is no currency in use by ISO 4217: three letters, such as EUR.")
    return _PLACES_OF[currency]


def add_up(lines: Iterable[tuple[Decimal, Decimal]], tax_percent: Decimal, places: int = USUAL_PLACES) -> Sum:
    """Add up lines of a quantity and a price each; tax on the whole, rounded half up to the smallest unit of the currency.

    :param lines: quantity and price of one, in the workshop's currency; hours count in parts
    :param tax_percent: of the sum without tax, 0 to 100
    :param places: digits behind the point, `places_of` the currency
    :returns: Sum
    :raises InputError: a line or the tax out of range (`lines`, `tax_percent`)
    :source: Directive 2006/112/EC leaves rounding to local rules; half up on the total is usual

    >>> str(add_up([(Decimal("2"), Decimal("1.45")), (Decimal("0.75"), Decimal("48"))], Decimal("20")).gross)
    '46.68'
    """
    if not 0 <= tax_percent <= 100:
        raise InputError("tax_percent", "Tax is 0 to 100 %.")
    smallest = Decimal(1).scaleb(-places)
    found = []
    for quantity, each in lines:
        amount = (quantity * each).quantize(smallest, ROUND_HALF_UP)
        if not abs(amount) < MOST:
            raise InputError("lines", "One line is more than ten million.")
        found.append(amount)
    net = sum(found, Decimal(0).quantize(smallest))
    tax = (net * tax_percent / 100).quantize(smallest, ROUND_HALF_UP)
    return Sum(tuple(found), net, tax, net + tax)
