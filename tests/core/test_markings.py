"""What is printed on motor and X parts, and what it means."""

import datetime
import unittest

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.dates import date_code
from tests import some

TODAY = datetime.date(2026, 6, 1)


class Values(unittest.TestCase):
    """Capacitance and tolerance in the notations of the trade (IEC 60062)."""

    def test_one_value_in_many_notations(self) -> None:
        cases = {
            "16 µF": 16e-6, "16uF": 16e-6, "16 MFD 440VAC": 16e-6, "16 MF 440VAC": 16e-6, "12,5 µF": 12.5e-6,
            "µ68": 680e-9, "u68 X2": 680e-9, "0.68 µF X2": 680e-9, "680n": 680e-9, "680 nF": 680e-9, "n47": 470e-12,
            "4n7": 4.7e-9, "47p": 47e-12, "2µ2": 2.2e-6, "104K275 X2": 100e-9, "683 X2": 68e-9, "159 X2": 1.5e-12,
            "158 X2": 0.15e-12, "0.15K X2": 150e-9, ".68 X2 275~": 680e-9, "100 MMFD": 100e-12, "100 µµF": 100e-12,
        }  # fmt: skip
        for text, farads in cases.items():
            with self.subTest(text):
                self.assertAlmostEqual(read_marking(text).capacitance_f / farads, 1, places=9)

    def test_a_capital_letter_after_the_value_is_a_tolerance_never_kilo(self) -> None:
        marking = read_marking("0.15K X2 275")
        self.assertEqual((some(marking.tolerance).minus, some(marking.tolerance).plus), (-0.10, 0.10))
        self.assertAlmostEqual(some(marking.sections[0].low_f), 135e-9)

    def test_volts_of_the_whole_are_the_volts_of_its_sections(self) -> None:
        """Whatever the notation: what is rated is rated section by section, for rules look at sections."""
        for text in ("47/25", "220/35", "100/63 105 °C", "32+32 µF 500 VDC", "30+5 µF 370/440 VAC", "2A104J", "22 µF V~ 250",
                     "0.1 + 2 x 0.0027 µF X1 Y2 250 V~", "40/20/20 MFD 450/450/25 WVDC", "104K275 X2"):  # fmt: skip
            with self.subTest(text):
                one = read_marking(text)
                for whole, own in (("rated_dc_v", max), ("rated_ac_v", min)):
                    printed = [v for v in (getattr(section, whole) for section in one.sections) if v]
                    self.assertEqual(own(printed, default=None), getattr(one, whole))

    def test_printed_tolerances(self) -> None:
        for text, minus, plus in (
            ("16 µF ±5 %", -0.05, 0.05), ("16 µF +/-6%", -0.06, 0.06), ("10 µF +10/-5% 400V~", -0.05, 0.10),
            ("10 µF -10/+50", -0.10, 0.50), ("100n Z", -0.20, 0.80),
        ):  # fmt: skip
            with self.subTest(text):
                tolerance = read_marking(text).tolerance
                self.assertAlmostEqual(some(tolerance).minus, minus)
                self.assertAlmostEqual(some(tolerance).plus, plus)

    def test_below_ten_picofarad_a_letter_is_absolute(self) -> None:
        self.assertAlmostEqual(some(read_marking("4p7 C").sections[0].high_f), 4.95e-12)

    def test_duals_ranges_and_multiples(self) -> None:
        self.assertEqual([s.capacitance_f for s in read_marking("30+5 µF 370/440 VAC").sections], [30e-6, 5e-6])
        self.assertEqual([s.capacitance_f for s in read_marking("30 µF + 5 µF 440V~").sections], [30e-6, 5e-6])
        self.assertEqual(len(read_marking("16+8+8 µF").sections), 3)
        start = read_marking("189-227 µF 110-125 VAC")
        self.assertTrue(start.printed_range)
        self.assertAlmostEqual(start.capacitance_f, 208e-6)
        self.assertEqual((start.sections[0].low_f, start.sections[0].high_f), (189e-6, 227e-6))

    def test_millifarad_or_microfarad_is_offered_both_ways(self) -> None:
        motor, can = read_marking("16 mF 450 VAC"), read_marking("2.2 mF 450 VDC")
        self.assertAlmostEqual(motor.capacitance_f, 16e-6)
        self.assertAlmostEqual(motor.alternatives[0].capacitance_f, 16e-3)
        self.assertAlmostEqual(can.capacitance_f, 2.2e-3)
        self.assertAlmostEqual(can.alternatives[0].capacitance_f, 2.2e-6)


class Ratings(unittest.TestCase):
    """Voltages, classes, climate, motor duty and dates."""

    def test_ac_and_dc(self) -> None:
        for text in ("275V~", "275 VAC", "AC 275V", "275~", "275 V ac"):
            self.assertEqual(read_marking(f"100n {text}").rated_ac_v, 275, text)
        for text in ("630VDC", "630V-", "630 V=", "630WVDC"):
            self.assertEqual(read_marking(f"100n {text}").rated_dc_v, 630, text)

    def test_bare_volts_take_their_kind_from_the_part(self) -> None:
        self.assertEqual(read_marking("0.1 µF X2 275V").rated_ac_v, 275)
        self.assertEqual(read_marking("16 µF 450V P2").rated_ac_v, 450)
        self.assertEqual(read_marking("1200 µF 360 V").rated_dc_v, 360)
        film = read_marking("0.1 µF 630V")
        self.assertEqual((film.rated_ac_v, film.rated_dc_v), (None, None))
        self.assertEqual({(m.rated_ac_v, m.rated_dc_v) for m in film.alternatives}, {(630, None), (None, 630)})

    def test_two_ac_ratings_are_judged_by_the_lower(self) -> None:
        marking = read_marking("30+5 µF 370/440 VAC")
        self.assertEqual((marking.rated_ac_v, marking.ac_ratings), (370, (370, 440)))

    def test_each_class_has_its_own_rated_voltage(self) -> None:
        own = read_marking("4n7 X1 440~ Y2 300~").classes
        self.assertEqual([(c.name, c.rated_ac_v) for c in own], [("X1", 440), ("Y2", 300)])
        shared = read_marking("4n7 X1/Y1 400~").classes
        self.assertEqual([(c.name, c.rated_ac_v) for c in shared], [("X1", 400), ("Y1", 400)])

    def test_climate(self) -> None:
        climate = read_marking("1 µF X2 310~ 40/110/56/B").climate
        self.assertEqual((some(climate).lower_c, some(climate).upper_c, some(climate).damp_heat_days), (-40, 110, 56))
        self.assertEqual(some(read_marking("16 µF 450~ 25/085/21").climate).upper_c, 85)

    def test_motor_duty_keeps_voltage_class_pairs(self) -> None:
        duty = read_marking("20 µF 450 V cl. C / 400 V cl. B P2").duty
        self.assertEqual(some(duty).pairs, (("C", 450), ("B", 400)))
        self.assertEqual(some(duty).protection_class, "P2")
        self.assertEqual(some(read_marking("45/5 MFD 440VAC 10 000 AFC").duty).fault_current_a, 10_000)
        self.assertEqual(some(read_marking("16 µF 450~ 10000 h").duty).pairs, (("B", 450),))

    def test_a_date_code_offers_every_past_reading(self) -> None:
        dates = read_marking("16 µF 450~ 1923", today=TODAY).dates
        self.assertEqual([(d.year, d.week) for d in dates], [(2019, 23), (2023, 19)])
        self.assertEqual([(d.year, d.week) for d in read_marking("16 µF 450~ 2830", today=TODAY).dates], [])

    def test_r_for_the_point_is_of_the_unit_its_kind_has(self) -> None:
        """4R7: microfarads in electrolytics and motor parts, picofarads in ceramics; elsewhere both, and it is asked."""
        for text, farads, asked in (
            ("4R7 63V bipolar electrolytic", 4.7e-6, False), ("4R7 450 V~ RUN", 4.7e-6, False), ("4R7 50V", 4.7e-6, True),
            ("4R7 ceramic 50V", 4.7e-12, True), ("4R7 Y2 250~", 4.7e-12, True),
        ):  # fmt: skip
            read = read_marking(text, today=TODAY)
            self.assertAlmostEqual(read.sections[0].capacitance_f / farads, 1, 9, text)
            self.assertEqual(read.provisional, asked, text)

    def test_what_is_no_date_code_is_none(self) -> None:
        for code in ("ABC", "A1B2", "12", "12345", "１９２３", "AZ", "1A", ""):
            self.assertEqual(date_code(code, TODAY), (), code)
        self.assertEqual([(d.year, d.week) for d in date_code(" 1923 ", TODAY)], [(2019, 23), (2023, 19)])

    def test_unread_text_is_shown(self) -> None:
        self.assertEqual(read_marking("16 µF 450 V~ quayside").unread, "quayside")


class Garbage(unittest.TestCase):
    """Bad text is an InputError with a sentence, never a crash and never an absurd value."""

    def test_nothing_to_read(self) -> None:
        for text in ("", "   ", "X2", "0 µF", "50 F", "x" * 301):
            with self.subTest(text), self.assertRaises(InputError) as caught:
                read_marking(text)
            self.assertEqual(caught.exception.field, "marking")

    @given(st.text(alphabet="0123456789.,+-/±%~ µunpmFVACDXYPSKJM=()\x00é", max_size=40))
    def test_any_text_gives_a_value_of_the_trade_or_a_sentence(self, text: str) -> None:
        try:
            marking = read_marking(text)
        except InputError as error:
            self.assertTrue(error.sentence.endswith("."))
            return
        for section in marking.sections:
            self.assertTrue(0.01e-12 <= section.capacitance_f <= 10)

    @given(
        st.floats(0.1, 90).map(lambda v: f"{v:.3g}"),
        st.sampled_from(["±5 %", "±10%", "J", "K"]),
        st.sampled_from(["450 V~", "AC 400V", "275 VAC"]),
        st.permutations(range(3)),
    )
    def test_composite_markings_read_back(self, value: str, tolerance: str, volts: str, order: list[int]) -> None:
        parts = [f"{value} µF {tolerance}", volts, "P2"]
        marking = read_marking(" ".join(parts[i] for i in order))
        self.assertAlmostEqual(marking.capacitance_f * 1e6, float(value))
        self.assertEqual(some(marking.tolerance).plus, 0.10 if tolerance in ("±10%", "K") else 0.05)
        self.assertIn(f"{marking.rated_ac_v:g}", volts)
        self.assertEqual(marking.unread, "")
