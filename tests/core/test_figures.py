"""Numbers typed by hands of many lands: what tells a decimal comma from a thousand, and what is asked."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.discharge.decay_log import read_log
from dusky_heron.core.errors import CAPACITANCE, RESISTANCE, VOLTAGE, InputError, Range
from dusky_heron.core.figures import readings, told
from dusky_heron.core.metering.accuracy import Accuracy, Specification, read_value
from dusky_heron.core.model import Quantity
from dusky_heron.core.quantities import parse_quantity
from tests import drawn_by, loose

METER = Specification({Quantity.VOLTS_DC: (Accuracy(0.5, 3, 6000),), Quantity.CAPACITANCE: (Accuracy(2, 3, 6000),)})


def as_shown(value: float, counts: int = 6000) -> str:
    """What a display of so many counts shows of a value: four figures, the point where the range has it."""
    places = 3
    while places and value * 10**places > counts:
        places -= 1
    return f"{value:.{places}f}"


class Figures(unittest.TestCase):
    """What figures may stand for (ISO 80000-1: comma or point divides, a small space groups)."""

    def test_readings(self) -> None:
        for figures, numbers in (
            ("1200", ["1200"]), ("1,200", ["1.200", "1200"]), ("1.200", ["1.200", "1200"]), ("0,200", ["0.200"]),
            (",200", ["0.200"]),
            ("12,34", ["12.34"]), ("1,2000", ["1.2000"]), ("1 200", ["1200"]), ("1'200", ["1200"]), ("1,234,567", ["1234567"]),
            ("1.234.567", ["1234567"]), ("1.234,5", ["1234.5"]), ("1,234.5", ["1234.5"]), ("1 234,5", ["1234.5"]), ("1,2,3", []),
            ("1.2.3", []), ("12,34.5", []), ("1234,567", ["1234.567"]), ("10,000", ["10.000", "10000"]),
        ):  # fmt: skip
            with self.subTest(figures):
                self.assertEqual(list(readings(figures)), numbers)

    def test_one_comma_before_three_figures_is_asked_about(self) -> None:
        for text in ("1,200", "1,200 V", "10,000", "−1,200 V", "2,500 kV"):
            with self.subTest(text), self.assertRaises(InputError) as caught:
                parse_quantity(text, "V", Range("Voltage", -1e6, 1e9, "V"), field="volts")
            self.assertEqual(caught.exception.field, "volts")
            self.assertIn("?", caught.exception.sentence)

    def test_what_is_smaller_than_any_figure_is_none(self) -> None:
        for text in ("1e-200 V", "1e-320", "9e-31 V"):
            with self.assertRaises(InputError) as raised:
                parse_quantity(text.replace(" V", "") + " F", "F", CAPACITANCE, field="c")
            self.assertIn("more than 0", raised.exception.sentence)
        self.assertEqual(parse_quantity("1e-29 F", "F", CAPACITANCE, field="c"), 1e-29)

    def test_what_tells(self) -> None:
        small, large = Range("Voltage", 0.0, 100.0, "V"), Range("Voltage", 100.0, 1e9, "V")
        signed = Range("Voltage", -10.0, 10.0, "V")
        for text, more, value in (
            ("1.200", {}, 1.2), ("0,412", {}, 0.412), ("12,5", {}, 12.5), ("1 200 V", {}, 1200), ("1'200", {}, 1200),
            ("1,200", {"decimal": ","}, 1.2), ("1,200", {"decimal": "."}, 1200), ("1,200", {"expected": 1150.0}, 1200),
            ("1,200", {"expected": 1.5}, 1.2), ("1,200", {"counts": 6000}, 1.2), ("120,000,000", {"limits": large}, 1.2e8),
            ("−5 V", {"limits": signed}, -5), ("—5", {"limits": signed}, -5), ("１２ V", {}, 12),
            ("1,200", {"limits": small}, 1.2), ("1,200", {"limits": large}, 1200),
        ):  # fmt: skip
            with self.subTest(text, more=more):
                self.assertEqual(parse_quantity(text, "V", **({"limits": VOLTAGE} | loose(more))), value)

    def test_where_the_comma_divides_a_point_groups(self) -> None:
        self.assertEqual(parse_quantity("1.200", "V", VOLTAGE, decimal=","), 1200)
        self.assertEqual(read_log("0;212,4\n1;1.200"), [(0, 212.4), (1, 1200)])

    def test_more_than_a_meter_shows_is_asked_about(self) -> None:
        self.assertEqual(parse_quantity("6,000", "V", VOLTAGE, counts=6000), 6.0)
        self.assertRaises(InputError, parse_quantity, "6,001", "V", VOLTAGE, counts=6000)

    def test_far_off_what_is_expected(self) -> None:
        for expected, value in ((1.2 * 30, 1.2), (1200 / 30, 1200.0), (1200 / 29.9, 1200.0)):
            if expected != 36.0:
                self.assertEqual(parse_quantity("1,200", "V", VOLTAGE, expected=expected), value)
        self.assertRaises(InputError, parse_quantity, "1,200", "V", VOLTAGE, expected=36.5)

    def test_other_units_ask_too(self) -> None:
        self.assertRaises(InputError, parse_quantity, "4,700 kΩ", "Ω", RESISTANCE)
        self.assertRaises(InputError, parse_quantity, "1,200 µF", "F", CAPACITANCE)

    def test_a_known_sign_rewrites_only_what_is_open(self) -> None:
        for text, decimal, plain in (
            ("1,200 V", ".", "1200 V"), ("1,200 V", ",", "1.200 V"), ("1.200", ",", "1200"), ("1.200", ".", "1.200"),
            ("12,5 and 1,200", ".", "12,5 and 1200"), ("0,200", ".", "0,200"), ("1,200", "", "1,200"), ("1,2,300", ".", "1,2,300"),
        ):  # fmt: skip
            with self.subTest(text, decimal=decimal):
                self.assertEqual(told(text, decimal), plain)

    @given(st.from_regex(r"[0-9.,' ]{1,12}", fullmatch=True))
    def test_a_number_or_none_and_never_more_than_two(self, figures: str) -> None:
        found = readings(figures.strip() or "1")
        self.assertLessEqual(len(found), 2)
        for number in found:
            self.assertTrue(math.isfinite(float(number)))


class Ordinary(unittest.TestCase):
    """Five hundred ordinary cases ask nothing."""

    def test_what_a_meter_of_6000_counts_shows_is_read_with_comma_and_point(self) -> None:
        chance = drawn_by(6000)
        for _ in range(250):
            value = 10 ** chance.uniform(-2, 3)
            shown = as_shown(value)
            for text in (shown, shown.replace(".", ",")):
                with self.subTest(text):
                    self.assertEqual(read_value(text, Quantity.VOLTS_DC, METER).value, float(shown))
                    self.assertAlmostEqual(read_value(f"{text} µF", Quantity.CAPACITANCE, METER).value / (float(shown) * 1e-6), 1)

    def test_logs_of_both_styles(self) -> None:
        chance = drawn_by(6001)
        for _ in range(250):
            start, tau, step = chance.uniform(20, 900), chance.uniform(2, 100), chance.choice((0.5, 1, 2.5, 5))
            rows = [(k * step, as_shown(start * math.exp(-k * step / tau))) for k in range(chance.randint(6, 20))]
            for decimal, between in ((".", ", "), (".", ";"), (",", ";"), (",", "\t"), (",", " ")):
                text = "\n".join(f"{t:g}{between}{v}".replace(".", decimal) for t, v in rows)
                with self.subTest(text):
                    self.assertEqual(read_log(text), [(t, float(v)) for t, v in rows])


class Logs(unittest.TestCase):
    """One format through a whole log."""

    def test_one_line_tells_for_all(self) -> None:
        self.assertEqual(read_log("0;1,200\n1;1,100\n2;0,95"), [(0, 1.2), (1, 1.1), (2, 0.95)])
        self.assertEqual(read_log("0.5;1,200\n1;1,100"), [(0.5, 1200), (1, 1100)])
        self.assertEqual(read_log("0;1,200.5\n1;1,100"), [(0, 1200.5), (1, 1100)])

    def test_with_nothing_to_tell_it_asks(self) -> None:
        for text in ("0;1,200", "0;1,200\n1;1,100", "0;212,4\n0.5;1,200"):
            with self.subTest(text), self.assertRaises(InputError) as caught:
                read_log(text)
            self.assertEqual(caught.exception.field, "rows")

    def test_the_sign_of_the_workshop_tells_where_the_log_does_not(self) -> None:
        self.assertEqual(read_log("0;1,200", decimal=","), [(0, 1.2)])
        self.assertEqual(read_log("0;1,200", decimal="."), [(0, 1200)])
        self.assertEqual(read_log("0;1,200\n1;0,9", decimal="."), [(0, 1.2), (1, 0.9)])
