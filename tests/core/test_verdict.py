"""Verdicts from readings as intervals: good, bad, marginal and insufficient cases, and their monotony."""

import datetime
import unittest

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.markings import read_marking
from dusky_heron.core.metering import Accuracy, interval
from dusky_heron.core.model import SEVERITY, Condition, Evidence, Position, Reading, Role, Sign, Verdict, Word
from dusky_heron.core.verdict import judge
from dusky_heron.core.verdict.looks import CONDEMNING
from tests import some

TODAY = datetime.date(2026, 6, 1)
METER = Accuracy(2, 3, 6000)


def position(text: str, role: Role = Role.MOTOR_RUN, supply: float = 230) -> Position:
    return Position("C1", role, read_marking(text), supply, 50)


def reading(farads: float, accuracy: Accuracy = METER, condition: Condition = Condition.LIFTED, section: int = 0) -> Reading:
    return Reading(farads, *interval(farads, accuracy), condition, section)


def verdict(text: str, *readings: Reading, role: Role = Role.MOTOR_RUN, signs: frozenset[Sign] = frozenset()) -> Verdict:
    return judge(position(text, role), Evidence(readings, signs), today=TODAY)


PUMP = "16 µF ±5 % 450 V~"


class Metering(unittest.TestCase):
    """A reading is an interval: ± (percent of reading + counts)."""

    def test_guard_band_by_hand(self) -> None:
        low, high = interval(12.9e-6, METER)  # 6000 counts: 10 nF a count; 258 nF + 30 nF
        self.assertAlmostEqual(low, 12.612e-6)
        self.assertAlmostEqual(high, 13.188e-6)
        self.assertEqual(interval(0, METER), (0, 0))

    @given(st.floats(1e-12, 1), st.floats(0, 10), st.floats(0, 20))
    def test_the_reading_lies_inside(self, farads: float, percent: float, counts: float) -> None:
        low, high = interval(farads, Accuracy(percent, counts, 4000))
        self.assertTrue(0 <= low <= farads <= high)


class MotorRun(unittest.TestCase):
    """IEC 60252-1: printed tolerance, else ±10 %."""

    def test_good_bad_marginal_and_insufficient(self) -> None:
        for farads, word in ((16.0e-6, Word.KEEP), (12.9e-6, Word.REPLACE), (15.1e-6, Word.UNKNOWN), (17.9e-6, Word.REPLACE)):
            with self.subTest(farads):
                self.assertEqual(verdict(PUMP, reading(farads)).word, word)
        self.assertEqual(verdict(PUMP).word, Word.UNKNOWN)

    def test_the_deciding_reason_names_reading_limit_and_source(self) -> None:
        worst = verdict(PUMP, reading(12.9e-6)).reasons[0]
        self.assertEqual(worst.rule_id, "motor_run.capacitance")
        self.assertIn("12.9 µF", worst.reading)
        self.assertIn("15.2 to 16.8 µF", worst.limit)
        self.assertTrue(worst.source)

    def test_without_a_printed_tolerance_ten_per_cent(self) -> None:
        self.assertEqual(verdict("16 µF 450 V~", reading(14.9e-6)).word, Word.KEEP)
        self.assertEqual(verdict("16 µF 450 V~", reading(14.6e-6, Accuracy(0.5, 1, 6000))).word, Word.WATCH)
        self.assertEqual(verdict("16 µF 450 V~", reading(14.0e-6)).word, Word.REPLACE)

    def test_in_circuit_only_screens(self) -> None:
        answer = verdict(PUMP, reading(16e-6, condition=Condition.IN_CIRCUIT))
        self.assertEqual(answer.word, Word.UNKNOWN)
        self.assertEqual(some(answer.next_measurement).condition, Condition.LIFTED)

    def test_both_sections_of_a_dual_are_judged(self) -> None:
        dual = "30+5 µF ±6% 440 VAC"
        self.assertEqual(some(verdict(dual, reading(30e-6)).next_measurement).section, 1)
        self.assertEqual(verdict(dual, reading(30e-6), reading(3.1e-6, section=1)).word, Word.REPLACE)

    def test_wrong_parts_are_condemned_whatever_they_measure(self) -> None:
        self.assertEqual(verdict("189-227 µF 330 VAC", reading(208e-6)).word, Word.CONDEMN)
        self.assertEqual(verdict("16 µF 450 VDC", reading(16e-6)).word, Word.CONDEMN)

    def test_rated_below_the_supply(self) -> None:
        self.assertEqual(verdict("16 µF ±5 % 220 V~", reading(16e-6)).word, Word.REPLACE)

    @given(st.floats(0, 16e-6), st.floats(0, 16e-6), st.sampled_from([PUMP, "16 µF 450 V~"]))
    def test_a_lower_reading_never_improves_the_word(self, one: float, other: float, text: str) -> None:
        low, high = sorted((one, other))
        self.assertGreaterEqual(SEVERITY[verdict(text, reading(low)).word], SEVERITY[verdict(text, reading(high)).word])

    @given(st.floats(8e-6, 24e-6), st.floats(0.1, 1))
    def test_a_finer_meter_never_turns_a_decision_round(self, farads: float, finer: float) -> None:
        coarse = verdict(PUMP, reading(farads)).word
        fine = verdict(PUMP, reading(farads, Accuracy(2 * finer, 3 * finer, 6000))).word
        self.assertFalse({coarse, fine} == {Word.REPLACE, Word.KEEP})

    @given(st.floats(1e-6, 30e-6), st.sampled_from(sorted(CONDEMNING)))
    def test_a_condemning_sign_always_condemns(self, farads: float, sign: Sign) -> None:
        self.assertEqual(verdict(PUMP, reading(farads), signs=frozenset({sign})).word, Word.CONDEMN)


class XParts(unittest.TestCase):
    """IEC 60384-14: printed tolerance is healthy, below −20 % replace, class decides."""

    def test_loss(self) -> None:
        for farads, word in ((1.0e-6, Word.KEEP), (0.85e-6, Word.WATCH), (0.81e-6, Word.UNKNOWN), (0.6e-6, Word.REPLACE)):
            with self.subTest(farads):
                self.assertEqual(verdict("1 µF K X2 310~", reading(farads), role=Role.X).word, word)

    def test_a_class_rated_below_the_supply_is_replaced(self) -> None:
        self.assertEqual(verdict("1 µF K X2 125~", reading(1e-6), role=Role.X).word, Word.REPLACE)
        self.assertEqual(verdict("1 µF K X2 250~", reading(1e-6), role=Role.X).word, Word.KEEP)  # the standard allows +10 %

    def test_an_old_class_is_watched_and_an_unclassed_place_asks_for_x2(self) -> None:
        self.assertEqual(verdict("1 µF K X3 250~", reading(1e-6), role=Role.X).word, Word.WATCH)
        self.assertIn("X2", verdict("1 µF K 250~", reading(1e-6), role=Role.X).reasons[0].limit)

    def test_a_dc_film_across_the_mains_is_condemned(self) -> None:
        answer = verdict("1 µF K 630 VDC", reading(1e-6), role=Role.X)
        self.assertEqual((answer.word, answer.reasons[0].rule_id), (Word.CONDEMN, "x.class"))
