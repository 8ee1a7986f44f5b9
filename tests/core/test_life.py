"""Life of electrolytics and the rest of a set, against closed forms and a seeded draw of many sets."""

import datetime
import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.ageing.life import Costs, compare_batch, electrolytic_life, failure_within
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Evidence, Position, Role, ServiceLife, Surroundings, Word
from dusky_heron.core.verdict import judge
from tests import drawn_by

USED = st.floats(0, 1.5)


class Life(unittest.TestCase):
    """Twice the life for each ten degrees less."""

    def test_worked_examples(self) -> None:
        for rated, at, runs, hours in ((2000, 85, 85, 2000), (2000, 105, 65, 32000), (5000, 105, 110, 5000 / math.sqrt(2))):
            self.assertAlmostEqual(electrolytic_life(rated, at, runs), hours)

    def test_hours_used_are_held_against_it(self) -> None:
        """5 000 h at 105 °C are 40 000 h at 75 °C. Made in week 23 of 2019, 8 h a day to June 2026: 20 400 h, 51 %."""
        today = datetime.date(2026, 6, 1)
        marking = read_marking("82 µF M 400 VDC 1923", today=today)
        for hours, word, said in ((8, Word.KEEP, "used 51 % of its life; used up about 2033"), (16, Word.WATCH, "used 102 %")):
            around = Surroundings(life=ServiceLife(5000, 105, 75, hours))
            answer = judge(Position("C1", Role.SMPS_BULK, marking, 230, 50, surroundings=around), Evidence(), today=today)
            found = next(reason for reason in answer.reasons if reason.rule_id == "age.life")
            self.assertEqual(found.word, word)
            self.assertIn(said, found.sentence)


class Siblings(unittest.TestCase):
    """The chance that a part of the same set follows."""

    def test_closed_form(self) -> None:
        """At 80 % of life, to 100 %: 1 − exp(0.8³ − 1) = 1 − exp(−0.488) = 0.386."""
        self.assertAlmostEqual(failure_within(0.8, 1.0), 1 - math.exp(-0.488))
        self.assertAlmostEqual(failure_within(0, 1.0), 1 - math.exp(-1))
        self.assertEqual(failure_within(0.5, 0.5), 0)

    @given(USED, USED, USED, st.floats(0.5, 6))
    def test_chances_of_parts_of_a_time_multiply(self, a: float, b: float, c: float, shape: float) -> None:
        first, second, third = sorted((a, b, c))
        survive = (1 - failure_within(first, second, shape)) * (1 - failure_within(second, third, shape))
        self.assertAlmostEqual(survive, 1 - failure_within(first, third, shape), places=9)

    def test_many_sets_drawn_at_random_agree(self) -> None:
        """200 000 sets of three with Weibull lives, all of them alive at 0.7 of the life; how many lose one before 0.9."""
        draw = drawn_by(60252)
        alive = failed = 0
        while alive < 60_000:
            lives = [draw.weibullvariate(1.0, 3.0) for _ in range(3)]
            if min(lives) > 0.7:
                alive += 1
                failed += min(lives) < 0.9
        found = compare_batch(3, 0.7, 0.9, Costs(2, 10, 60, 100))
        self.assertAlmostEqual(failed / alive, found.any_fails, delta=4 * math.sqrt(0.25 / alive))

    def test_both_schools_in_money(self) -> None:
        """Two more cans of 4 with 15 minutes at 60 cost 38; a 63 % chance of a return of 150 costs 94: replace the set.

        0.8 to 1.0 of life: one fails 0.386, any of two 1 − 0.614² = 0.623. Of young parts hardly any fails: only the failed.
        """
        old = compare_batch(2, 0.8, 1.0, Costs(4, 15, 60, 150))
        self.assertAlmostEqual(old.any_fails, 1 - math.exp(-2 * 0.488))
        self.assertAlmostEqual(old.set_costs, 38)
        self.assertAlmostEqual(old.failed_costs, 150 * old.any_fails)
        self.assertEqual(old.cheaper, "set")
        self.assertEqual(compare_batch(2, 0.1, 0.2, Costs(4, 15, 60, 150)).cheaper, "failed")

    @given(st.integers(1, 50), USED, st.floats(0, 0.5))
    def test_more_siblings_are_never_less_risk(self, many: int, used: float, more: float) -> None:
        costs = Costs(1, 1, 1, 1)
        few, most = (compare_batch(n, used, used + more, costs) for n in (many, many + 1))
        self.assertTrue(few.one_fails <= few.any_fails <= most.any_fails <= 1)

    def test_bad_input(self) -> None:
        for call, field in (
            (lambda: failure_within(0.5, 0.4), "used_then"), (lambda: failure_within(math.nan, 1), "used_now"),
            (lambda: failure_within(0, 1, 0), "shape"), (lambda: electrolytic_life(0, 105, 60), "rated_h"),
            (lambda: electrolytic_life(5000, 105, 900), "runs_c"), (lambda: compare_batch(0, 0, 1, Costs(1, 1, 1, 1)), "siblings"),
            (lambda: compare_batch(1, 0, 1, Costs(-1, 1, 1, 1)), "part"),
            (lambda: compare_batch(1, 0, 1, Costs(1, 1, 1, math.inf)), "a_return"),
        ):  # fmt: skip
            with self.assertRaises(InputError) as caught:
                call()
            self.assertEqual(caught.exception.field, field)
