"""Values as technicians type and read them."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.errors import CAPACITANCE, POWER, RESISTANCE, VOLTAGE, InputError, Range
from dusky_heron.core.quantities import parse_quantity, show, show_range, show_time


class Quantities(unittest.TestCase):
    """Parse and print."""

    def test_typed_values(self) -> None:
        for text, unit, limits, value in (
            ("12.9u", "F", CAPACITANCE, 12.9e-6), ("12,9 µF", "F", CAPACITANCE, 12.9e-6), ("3n2", "F", CAPACITANCE, 3.2e-9),
            ("16 MFD", "F", CAPACITANCE, 16e-6), ("4k7", "Ω", RESISTANCE, 4700), ("15 000", "Ω", RESISTANCE, 15_000),
            ("4R7", "Ω", RESISTANCE, 4.7), ("2M2", "Ω", RESISTANCE, 2.2e6), ("2.5 kV", "V", VOLTAGE, 2500),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertEqual(parse_quantity(text, unit, limits), value)

    def test_what_cannot_be_read_is_said_at_its_field(self) -> None:
        for text in ("", "12.9", "OL", "12 V", "-5u", "1e400u", "u", "12..9u", "9" * 400 + "u"):
            with self.subTest(text), self.assertRaises(InputError) as caught:
                parse_quantity(text, "F", CAPACITANCE, field="value")
            self.assertEqual(caught.exception.field, "value")

    def test_printed_values(self) -> None:
        self.assertEqual(show(680e-9, "F"), "680 nF")
        self.assertEqual(show(1.2e-3, "F"), "1\u00a0200 µF")
        self.assertEqual(show(0.99999e-6, "F"), "1 µF")
        self.assertEqual(show(4700, "Ω"), "4.7 kΩ")
        self.assertEqual(show_range(12.612e-6, 13.188e-6, "F"), "12.6 to 13.2 µF")
        self.assertEqual(show_range(900e-9, 1.1e-6, "F"), "900 nF to 1.1 µF")
        self.assertEqual(
            [show_time(t) for t in (0.1913, 90, 150, 9000, 360_000)], ["190 ms", "90 s", "2.5 min", "2.5 h", "4.2 days"]
        )

    def test_large_and_small_volts_and_ohms(self) -> None:
        for value, unit, said in (
            (636.4, "V", "636 V"), (2100, "V", "2.1 kV"), (12_345, "V", "12.3 kV"), (-40, "V", "−40 V"), (0, "V", "0 V"),
            (999.6, "Ω", "1 kΩ"), (10e6, "Ω", "10 MΩ"), (0.0123, "s", "12.3 ms"), (3240, "J", "3.24 kJ"), (0.00025, "J", "250 µJ"),
        ):  # fmt: skip
            self.assertEqual(show(value, unit), said)

    @given(st.floats(1e-12, 9e-3))
    def test_what_is_printed_reads_back(self, farads: float) -> None:
        self.assertAlmostEqual(parse_quantity(show(farads, "F"), "F", CAPACITANCE) / farads, 1, delta=0.006)

    @given(st.floats(1e-3, 9e5), st.sampled_from([("V", VOLTAGE), ("Ω", RESISTANCE), ("W", POWER)]))
    def test_in_every_unit(self, value: float, unit: tuple[str, Range]) -> None:
        self.assertAlmostEqual(parse_quantity(show(value, unit[0]), unit[0], unit[1]) / value, 1, delta=0.006)
