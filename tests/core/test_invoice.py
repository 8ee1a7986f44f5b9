"""What a repair costs, to the smallest unit of its currency (ISO 4217); figures by hand."""

import unittest
from decimal import Decimal

from dusky_heron.core.errors import InputError
from dusky_heron.core.returning.invoice import add_up, places_of

LINES = [(Decimal("2"), Decimal("1.45")), (Decimal("0.75"), Decimal("48"))]  # 2.90 and 36.00


class Rounding(unittest.TestCase):
    """Each line as it is printed, tax on the whole, half up."""

    def test_by_currency(self) -> None:
        for code, tax, lines, gross in (
            ("EUR", "20", ["2.90", "36.00"], "46.68"),
            ("JPY", "20", ["3", "36"], "47"),  # 39 and 7.8 of tax
            ("KWD", "20", ["2.900", "36.000"], "46.680"),
            ("EUR", "7.7", ["2.90", "36.00"], "41.90"),  # 2.9953 of tax
            ("KWD", "7.7", ["2.900", "36.000"], "41.895"),
        ):
            with self.subTest(code, tax=tax):
                found = add_up(LINES, Decimal(tax), places_of(code))
                self.assertEqual([str(line) for line in found.lines], lines)
                self.assertEqual(str(found.gross), gross)

    def test_half_goes_up_at_the_last_place(self) -> None:
        for places, each, amount in ((0, "0.5", "1"), (2, "0.005", "0.01"), (2, "0.0049", "0.00"), (3, "0.0005", "0.001")):
            self.assertEqual(str(add_up([(Decimal(1), Decimal(each))], Decimal(0), places).net), amount)

    def test_places(self) -> None:
        for places, codes in (
            (0, "JPY KRW ISK VND CLP XOF XAF"),
            (2, "EUR GBP USD CHF HUF TRY"),
            (3, "KWD BHD TND OMR JOD IQD LYD"),
        ):
            for code in codes.split():
                self.assertEqual(places_of(code), places, code)

    def test_what_is_no_currency(self) -> None:
        for code in ("", "XYZ", "eur", "XAU", "EURO", "€"):
            with self.assertRaises(InputError) as caught:
                places_of(code)
            self.assertEqual(caught.exception.field, "currency")
