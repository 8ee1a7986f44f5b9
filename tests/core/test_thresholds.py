"""Rules exactly at their figures: what just counts, and what just does not."""

import unittest

from dusky_heron.core.ageing.life import Costs, compare_batch, failure_within
from dusky_heron.core.discharge.bleeders import read_bleeder
from dusky_heron.core.errors import RESISTANCE, InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import PartKind
from dusky_heron.core.quantities import parse_quantity
from dusky_heron.core.selection.question import likely_kind


class AtTheFigure(unittest.TestCase):
    """One case below, at and above each."""

    def test_resistors_in_series(self) -> None:
        for text, count in (("150k", 1), ("1 x 150k", 1), ("2 x 150k", 2), ("20 × 150k", 20)):
            self.assertEqual(read_bleeder(text), (150e3, count))
        for text in ("0 x 150k", "21 x 150k"):
            with self.assertRaisesRegex(InputError, "1 to 20"):
                read_bleeder(text)

    def test_a_y_part_is_ceramic_to_10_nf(self) -> None:
        for text, kind in (
            ("9.9 nF", PartKind.CERAMIC_SAFETY),
            ("10 nF", PartKind.CERAMIC_SAFETY),
            ("11 nF", PartKind.FILM_SAFETY),
        ):
            self.assertEqual(likely_kind(read_marking(f"{text} Y2 250 V~")), kind)

    def test_a_bare_figure_may_be_volts_from_16(self) -> None:
        for figure, about in ((10, "unread"), (16, "voltage"), (25, "voltage")):
            (doubt,) = read_marking(f"100 µF {figure}").doubts
            self.assertEqual(doubt.about, about)

    def test_of_a_wrong_unit_twenty_letters_are_said(self) -> None:
        with self.assertRaises(InputError) as raised:
            parse_quantity("5 " + "q" * 30, "Ω", RESISTANCE)
        self.assertIn(f"“{'q' * 20}”", str(raised.exception))

    def test_what_fails_for_certain_fails_in_any_number(self) -> None:
        """u1 = 20 lives: 1 − exp(0.5^k − 20^k) is 1 as a float."""
        self.assertEqual(failure_within(0.5, 20.0), 1.0)
        batch = compare_batch(3, 0.5, 20.0, Costs(part=2, minutes_each=6, hourly_rate=50, a_return=200))
        self.assertEqual((batch.any_fails, batch.cheaper), (1.0, "set"))
        self.assertLess(compare_batch(3, 0.5, 0.51, Costs(part=2, minutes_each=6, hourly_rate=50, a_return=200)).any_fails, 0.2)
