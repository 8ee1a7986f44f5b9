"""Where a reading turns: just below, at and above each limit of the reader, and the tolerances it assumes."""

import unittest

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import likely, read_marking
from dusky_heron.core.markings.likely import NO_SUCH_PART, ODD, UNUSUAL_V, USUAL_V
from dusky_heron.core.markings.values import SERIES, grouping_cost, in_series, significant
from dusky_heron.core.model import ROLES, Role

# E24 from its formula: 10^(k/24) to two figures, but for the eight that IEC 60063 rounds otherwise.
E24 = {round(10 ** (1 + k / 24)) for k in range(24)} - {26, 29, 32, 35, 38, 42, 46, 83} | {27, 30, 33, 36, 39, 43, 47, 82}


class Assumed(unittest.TestCase):
    """No tolerance printed: what it is planned with, by the kind of part."""

    def test_each_kind(self) -> None:
        for text, low, high in (
            ("470 µF 400 VDC", -20, 20), ("470 µF 63 VDC electrolytic", -20, 20), ("40 MFD 450 VDC", -20, 50),
            ("40 µF 450 WVDC", -20, 50),
            ("0.1 µF 630 VDC", -20, 20), ("22 nF 400 VDC MKT", -20, 20), ("0.5 µF 400 VDC paper", -20, 20),
            ("250 pF mica 500 VDC", -20, 20),
            ("0.1 µF X2 275 V~", -20, 20), ("2200 pF Y2 250 V~", -20, 20), ("16 µF 450 V~", -10, 10), ("16 µF 450 V~ P2", -10, 10),
            ("30+5 µF 440 VAC", -10, 10), ("10 nF 50 VDC ceramic", -20, 80), ("4700 pF 1000 VDC", -20, 80),
            ("100 nF 400 VDC", -20, 20),
            ("0.9 µF 100 VDC", -20, 20), ("10 nF X7R 50 VDC", -20, 80),
        ):  # fmt: skip
            with self.subTest(text):
                (section, *_) = read_marking(text).sections
                self.assertEqual((section.low_f, section.high_f), (None, None))
                self.assertAlmostEqual(section.lowest_f / section.capacitance_f, 1 + low / 100)
                self.assertAlmostEqual(section.highest_f / section.capacitance_f, 1 + high / 100)
                self.assertIn("No tolerance is printed", " ".join(read_marking(text).assumptions))

    def test_the_largest_ceramic(self) -> None:
        for text, plus in (("100000 pF 50 VDC", 0.8), ("120000 pF 50 VDC", 0.2)):
            (section,) = read_marking(text).sections
            self.assertAlmostEqual(section.highest_f / section.capacitance_f, 1 + plus)

    def test_a_printed_one_is_not_assumed(self) -> None:
        read = read_marking("470 µF M 400 VDC")
        self.assertEqual((read.sections[0].assumed.plus, read.highest_f, read.lowest_f), (0.0, 470e-6 * 1.2, 470e-6 * 0.8))


class Kinds(unittest.TestCase):
    """From which value bare volts are taken for DC, and asked."""

    def test_bare_volts(self) -> None:
        for text, asked, first in (
            ("101 µF 63 V", False, (None, 63.0)), ("100 µF 63 V", True, (None, 63.0)), ("1 µF 63 V", True, (None, 63.0)),
            ("0.99 µF 63 V", True, (None, None)), ("1 µF 63 V MKT", True, (None, None)), ("0.1 µF X2 275 V", False, (275.0, None)),
            ("8 µF 450 V cl. B", False, (450.0, None)), ("8 µF 450 V electrolytic", False, (None, 450.0)),
        ):  # fmt: skip
            with self.subTest(text):
                read = read_marking(text)
                self.assertEqual((read.provisional, (read.rated_ac_v, read.rated_dc_v)), (asked, first))

    def test_a_bare_figure_beside_a_class_is_its_volts_from_100_to_1000(self) -> None:
        for figure, volts in (("99", None), ("100", 100.0), ("275", 275.0), ("1000", 1000.0)):
            self.assertEqual(read_marking(f"0.1 µF X2 {figure}").rated_ac_v, volts, figure)

    def test_millifarads_of_a_modern_can(self) -> None:
        for text, first in (("50 mF 25 VDC", 50e-3), ("51 mF 25 VDC", 51e-6), ("10 mF 250 VAC", 10e-6)):
            read = read_marking(text)
            self.assertAlmostEqual(read.capacitance_f / first, 1)
            self.assertTrue(read.provisional)

    def test_figures_without_a_unit(self) -> None:
        for text, farads, asked in (
            ("104 X2 275~", 100e-9, False), ("104 400VDC", 100e-9, True), ("220 100VDC", 220e-6, True),
            ("220 101VDC", 22e-12, True),
            ("107 tantalum 16VDC", 100e-6, False), ("104 tantalum 35VDC", 100e-9, False), ("103 tantalum 35VDC", 10e-9, True),
            ("100 tantalum 16VDC", 100e-6, False), ("470 electrolytic 16VDC", 470e-6, False),
            ("104 electrolytic 16VDC", 100e-9, True),
            ("47 ceramic", 47e-12, False), ("47 MKT 100VDC", 47e-6, True), ("47 25VDC", 47e-6, True),
            ("2200 16VDC", 2200e-6, False),
        ):  # fmt: skip
            with self.subTest(text):
                read = read_marking(text)
                self.assertAlmostEqual(read.capacitance_f / farads, 1)
                self.assertEqual(read.provisional, asked)

    def test_smallest_and_largest(self) -> None:
        for text in ("0.009 pF 50VDC", "11 F 5 VDC"):
            self.assertRaises(InputError, read_marking, text)
        for text, farads in (("0.01 pF 50VDC", 0.01e-12), ("10 F 5.5 VDC", 10.0)):
            self.assertAlmostEqual(read_marking(text).capacitance_f / farads, 1)


class Together(unittest.TestCase):
    """Ranges and sections, surge and sections' volts, bleeders and resistors in series."""

    def test_two_figures_with_a_dash(self) -> None:
        for text, sections, asked in (
            ("100-130 µF 250 VAC", 1, False), ("100-131 µF 250 VAC", 1, True), ("100-159 µF 250 VAC", 1, True),
            ("100-299 µF 250 VAC", 1, True), ("100-300 µF 250 VAC", 2, False), ("100-130 µF 250 VDC", 2, True),
            ("100-160 µF 250 VDC", 2, False), ("50-30 µF 250 VDC", 2, False), ("100 to 300 µF 250 VAC", 1, False),
            ("20 to 30 µF 250 VDC", 1, False), ("20 to 30 to 40 µF 250 VDC", 1, True),
        ):  # fmt: skip
            with self.subTest(text):
                read = read_marking(text)
                self.assertEqual((len(read.sections), read.provisional), (sections, asked))

    def test_a_pair_of_direct_volts(self) -> None:
        for text, rated, surge, asked in (
            ("32 µF 450/525 VDC", 450.0, 525.0, False), ("32 µF 500/1500 VDC", 500.0, 1500.0, False),
            ("32+32 µF 450/525 VDC", 450.0, 525.0, True), ("32+16 µF 400/520 VDC", 400.0, 520.0, True),
            ("32+16 µF 400/521 VDC", 521.0, None, False), ("32+16 µF 450/300 VDC", 450.0, None, False),
        ):  # fmt: skip
            with self.subTest(text):
                read = read_marking(text)
                self.assertEqual((read.rated_dc_v, read.surge_v, read.provisional), (rated, surge, asked))

    def test_a_surge_below_the_working_volts_is_read_the_other_way(self) -> None:
        read = read_marking("20 µF 450 VDC surge 525 VDC")
        self.assertEqual((read.rated_dc_v, read.surge_v), (450.0, 525.0))

    def test_the_same_value_twice_is_one_and_another_is_asked(self) -> None:
        for text, asked in (
            ("0.47 µF 470 nF 275 V~ X2", False),
            ("0.47 µF 471 nF 275 V~ X2", True),
            ("0.47 µF 480 nF X2 275 V~", True),
        ):
            self.assertEqual(read_marking(text).provisional, asked, text)

    def test_a_resistor_is_in_series_below_ten_kilohms(self) -> None:
        for text, series, bleeder in (
            ("0.1 µF 9.9 kΩ 275 V~ X2", 9900.0, None), ("0.1 µF 10 kΩ 275 V~ X2", None, 10e3),
            ("0.1 µF + 100 Ω X2 275 V~", 100.0, None),
            ("0.1 µF + 10 kΩ X2 275 V~", 10e3, None), ("0.1 µF + 1 MΩ X2 275 V~", None, 1e6),
            ("0.1 µF // 100 Ω X2 275 V~", None, 100.0),
            ("1 µF X2 275 V~ 4k7 Ω", 4700.0, None), ("1 µF X2 275 V~ discharge resistor 5 kΩ", None, 5000.0),
        ):  # fmt: skip
            with self.subTest(text):
                read = read_marking(text)
                self.assertEqual((read.series_ohm, read.bleeder_ohm), (series, bleeder))

    def test_damp_heat_of_a_climate(self) -> None:
        for text, days in (("40/110/56", 56), ("25/085/21", 21), ("40/100/10", 10), ("10/070/04", 4)):
            climate = read_marking(f"1 µF X2 310 V~ {text}").climate
            assert climate is not None
            self.assertEqual(climate.damp_heat_days, days)
        self.assertTrue(read_marking("1 µF X2 310 V~ 40/110/55").provisional)

    def test_dates_stand_alone_and_never_come_out_of_words(self) -> None:
        for text, dated, asked in (
            ("16 µF 450 V~ 1923", True, False), ("16 µF 450 V~ L9", True, False), ("16 µF 450 V~ XL9", False, True),
            ("16 µF 450 V~ L95", False, True), ("16 µF 450 V~ 6099", False, True), ("16 µF 450 V~ 954", False, True),
        ):  # fmt: skip
            with self.subTest(text):
                read = read_marking(text)
                self.assertEqual((bool(read.dates), read.provisional), (dated, asked))


class Notations(unittest.TestCase):
    """Every row of what is printed in several ways."""

    def test_uneven_limits_without_a_per_cent_sign(self) -> None:
        for low, high in ((20, 80), (10, 50), (20, 50), (10, 30), (10, 100), (5, 10), (20, 100), (10, 75), (10, 5), (20, 30)):
            tolerance = read_marking(f"10 µF -{low}/+{high} 63 VDC").tolerance
            assert tolerance is not None
            self.assertEqual((round(tolerance.minus * -100), round(tolerance.plus * 100)), (low, high))
        for text in ("10 µF -25/+85 63 VDC", "10 µF -40/+105 63 VDC"):
            read = read_marking(text)
            self.assertIsNone(read.tolerance)
            self.assertIsNotNone(read.climate)

    def test_ohms_in_every_scale(self) -> None:
        for typed, ohm in (
            ("47 Ω", 47), ("47R", 47), ("47 ohm", 47), ("4.7 kΩ", 4700), ("4,7 kΩ", 4700), ("4.7 KΩ", 4700), ("2.2 MΩ", 2.2e6),
            ("100 Ом", 100), ("4k7 Ω", 4700),
        ):  # fmt: skip
            read = read_marking(f"0.1 µF X2 275 V~ {typed}")
            self.assertEqual(read.series_ohm or read.bleeder_ohm, ohm, typed)

    def test_reactive_power(self) -> None:
        for text, farads in (
            ("25 kvar 400 V~ 50 Hz", 25e3 / (314.159265 * 400**2)), ("2500 var 230 V~ 60 Hz", 2500 / (376.991118 * 230**2)),
        ):  # fmt: skip
            self.assertAlmostEqual(read_marking(text).capacitance_f / farads, 1, places=6)
        self.assertRaises(InputError, read_marking, "25 kvar")

    def test_volts_behind_and_before(self) -> None:
        for typed, ac, dc in (
            ("V~ 250", 250, None), ("VDC 400", None, 400), ("WV 450", None, 450), ("AC 250", 250, None), ("~ 250 V", 250, None),
            ("250 V~", 250, None), ("2.5 kV DC", None, 2500), ("250~", 250, None), ("63-", None, 63), ("2 000 V-", None, 2000),
        ):  # fmt: skip
            read = read_marking(f"0.1 µF {typed}")
            self.assertEqual((read.rated_ac_v, read.rated_dc_v, read.provisional), (ac, dc, False), typed)

    def test_each_section_has_its_own_tolerance_where_each_prints_one(self) -> None:
        first, second = read_marking("40 µF ±10% 450 VDC + 20 µF ±20% 300 VDC").sections
        self.assertAlmostEqual(first.highest_f, 44e-6)
        self.assertAlmostEqual(second.highest_f, 24e-6)


class Likely(unittest.TestCase):
    """What no such part has."""

    def test_at_the_limits_of_what_is_made(self) -> None:
        for text, cost in (
            ("100 pF X2 275 V~", 0.0), ("99 pF X2 275 V~", NO_SUCH_PART), ("50 µF X2 275 V~", 0.0),
            ("51 µF X2 275 V~", NO_SUCH_PART),
            ("1 pF Y2 250 V~", ODD), ("1 µF Y2 250 V~", 0.0), ("1.1 µF Y2 250 V~", NO_SUCH_PART), ("0.1 µF X2 1000 V~", 0.0),
            ("0.1 µF X2 1100 V~", NO_SUCH_PART), ("0.1 µF X2 50 V~", 0.0), ("0.1 µF X2 40 V~", NO_SUCH_PART),
            ("0.2 µF 450 V~ cl. B", 0.0), ("0.19 µF 450 V~ cl. B", NO_SUCH_PART), ("2000 µF 250 V~ P2", 0.0),
            ("2001 µF 250 V~ P2", NO_SUCH_PART), ("3000 µF 250 V~", 0.0), ("3001 µF 250 V~", NO_SUCH_PART), ("10 µF 16 V~", 0.0),
            ("10 µF 10 V~", NO_SUCH_PART), ("10 pF 250 V~", 0.0), ("9 pF 250 V~", ODD), ("0.9 µF 4 VDC", 0.0),
            ("0.9 µF 2.5 VDC", NO_SUCH_PART), ("1 µF 2.5 VDC", 0.0), ("0.25 F 400 VDC", 0.0), ("0.26 F 400 VDC", ODD),
            ("470 µF 401 VDC", UNUSUAL_V),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertAlmostEqual(likely.cost(read_marking(text)), cost)

    def test_usual_volts_are_the_preferred_numbers_and_the_mains_of_the_world(self) -> None:
        preferred = {round(k * 10**power, 1) for power in range(1, 4) for k in (1.0, 1.25, 1.6, 2.0, 2.5, 4.0, 5.0, 6.3)}
        self.assertLessEqual(
            preferred - {12.5, 20, 40, 6300} | {35, 63, 450, 6300, 275, 305, 310, 330, 370, 440, 475, 2100}, set(USUAL_V)
        )
        self.assertFalse({v + 1 for v in USUAL_V if v > 20} & USUAL_V)

    def test_values_of_a_series(self) -> None:
        self.assertEqual(
            set(SERIES) - {11, 13, 16, 20, 24, 30, 36, 43, 51, 62, 75, 91}, {10, 12, 15, 18, 22, 27, 33, 39, 47, 56, 68, 82}
        )
        self.assertEqual(set(SERIES), E24)
        for figures, there in (
            ("4700", True),
            ("0.047", True),
            ("4.7", True),
            ("471", False),
            ("100", True),
            ("25", True),
            ("26", False),
        ):
            self.assertEqual(in_series(figures), there, figures)
        self.assertEqual([significant(text) for text in ("0.0470", "1234", "100", "10.05")], [2, 4, 1, 4])

    def test_nobody_prints_a_zero_that_says_nothing(self) -> None:
        self.assertLess(grouping_cost(1, "10,000"), grouping_cost(0, "10,000"))
        self.assertLess(grouping_cost(0, "1,234"), grouping_cost(1, "1,234"))

    def test_a_place_takes_what_is_made_for_it(self) -> None:
        for role, (least, most) in ((role, facts.made_f) for role, facts in ROLES.items()):
            self.assertGreaterEqual(most / least, 100, role)
        self.assertEqual((ROLES[Role.X].made_f, ROLES[Role.Y].made_f), ((100e-12, 100e-6), (1e-12, 1e-6)))
