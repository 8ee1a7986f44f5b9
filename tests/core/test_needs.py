"""What a place demands of a replacement, and in which words."""

import unittest
from typing import Any

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.metering import Accuracy, resolution
from dusky_heron.core.model import Need, Part, PartKind, Position, Role
from dusky_heron.core.selection import describe, fit, need_of, rank
from tests import some


def need(marking: str, role: Role = Role.MOTOR_RUN, supply: float | None = 230, **more: Any) -> Need:
    return need_of(Position("C1", role, read_marking(marking), supply, 50, **more))


class Needs(unittest.TestCase):
    """Derived from role, marking, supply and space."""

    def test_a_motor_run_place(self) -> None:
        wanted = need("20 µF ±10 % 450 V cl. C / 400 V cl. B P2 25/085/21")
        low, marked, high = wanted.sections_f[0]
        self.assertAlmostEqual(low * 1e6, 19)  # ±5 % of the marked value, whatever tolerance the old part had
        self.assertAlmostEqual(marked * 1e6, 20)
        self.assertAlmostEqual(high * 1e6, 21)
        self.assertEqual(wanted.duty, (("C", 450), ("B", 400)))
        self.assertEqual((wanted.protection, wanted.upper_c), ("P2", 85))

    def test_classes_at_equal_voltage(self) -> None:
        """A part of class B at 450 V is better than C at 450 V and B at 400 V together; C at 450 V alone is not."""
        wanted = need("20 µF 450 V cl. C / 400 V cl. B P2")

        def taken(marking: str) -> bool:
            return bool(rank(wanted, [Part("p", PartKind.MOTOR_RUN, read_marking(marking))]).accepted)

        self.assertTrue(taken("20 µF 450 V~ cl. B P2"))
        self.assertTrue(taken("20 µF 500 V~ cl. B P2"))
        self.assertFalse(taken("20 µF 450 V~ cl. C P2"))
        self.assertFalse(taken("20 µF 400 V~ cl. B P2"))

    def test_of_two_ratings_lower_is_held_against_lower_and_higher_against_higher(self) -> None:
        wanted = need("30+5 µF ±6 % 370/440 VAC")

        def taken(marking: str) -> bool:
            return bool(rank(wanted, [Part("p", PartKind.MOTOR_RUN, read_marking(marking))]).accepted)

        self.assertTrue(taken("30+5 µF ±6 % 370/440 VAC"))
        self.assertTrue(taken("30+5 µF ±6 % 440 VAC"))
        self.assertTrue(taken("5+30 µF ±6 % 440 VAC"))  # the same dual, printed the other way round
        turned = rank(wanted, [Part("p", PartKind.MOTOR_RUN, read_marking("5+30 µF ±6 % 440 VAC"))]).accepted[0]
        self.assertEqual(turned.reasons[0], "5 µF + 30 µF, as marked.")
        self.assertFalse(taken("30+5 µF ±6 % 370 VAC"))
        self.assertFalse(taken("30+30 µF ±6 % 440 VAC"))

    def test_each_class_of_a_double_is_held_against_its_own_rating(self) -> None:
        wanted = need("4n7 X1 440~ Y2 300~", Role.X)
        self.assertEqual([(asked.name, asked.old_v) for asked in wanted.sections_classes[0]], [("X1", 440), ("Y2", 300)])

        def taken(marking: str) -> bool:
            return bool(rank(wanted, [Part("p", PartKind.CERAMIC_SAFETY, read_marking(marking))]).accepted)

        self.assertTrue(taken("4n7 X1 440~ Y2 300~"))
        self.assertTrue(taken("4n7 Y1 500~"))
        self.assertFalse(taken("4n7 X1 300~ Y2 300~"))
        self.assertFalse(taken("4n7 X1 440~ Y2 250~"))
        self.assertFalse(taken("4n7 X2 440~ Y2 300~"))

    def test_a_fault_current_is_kept(self) -> None:
        wanted = need("45 µF ±5 % 440 VAC 10 000 AFC")
        parts = [Part(t, PartKind.MOTOR_RUN, read_marking(t)) for t in ("45 µF ±5 % 440 VAC", "45 µF ±5 % 440 VAC 10000 AFC")]
        answer = rank(wanted, parts)
        self.assertEqual([c.part.part_id for c in answer.accepted], ["45 µF ±5 % 440 VAC 10000 AFC"])
        self.assertEqual(answer.rejected[0].reasons[0].rule_id, "duty.fault_current")

    def test_an_x_place_demands_the_class_the_old_part_had_or_x2(self) -> None:
        self.assertEqual(need("1 µF X1 440 V~", Role.X).place_classes, ("X1",))
        self.assertEqual(need("1 µF 630 VDC", Role.X).place_classes, ("X2",))
        self.assertEqual(need("1 µF X2 310 V~", Role.X, place_classes=("X1", "Y2")).place_classes, ("X1", "Y2"))

    def test_a_start_part_in_a_run_place_says_nothing_about_the_place(self) -> None:
        with self.assertRaises(InputError) as caught:
            need("189-227 µF 250 VAC")
        self.assertEqual(caught.exception.field, "marking")

    def test_in_words(self) -> None:
        self.assertEqual(
            describe(need("1 µF K X2 305 V~ 40/100/21/C", Role.X, pitch_mm=27.5)),
            ("X2 or better", "900 nF to 1.5 µF", "305 V AC or more", "100 °C or more", "pitch 27.5 mm"),
        )
        self.assertEqual(
            describe(need("30+5 µF ±6 % 440 VAC cl. B P2")),
            ("28.5 to 31.5 µF", "4.75 to 5.25 µF", "440 V AC or more", "class B or better at 440 V", "P2 or better"),
        )


class Fit(unittest.TestCase):
    """Bodies turn in their space; leads bend one step of pitch."""

    def part(self, size: tuple[float, float, float] | None = None, pitch: float | None = None) -> Part:
        return Part("p", PartKind.FILM_SAFETY, read_marking("1 µF X2 310~"), size_mm=size, pitch_mm=pitch)

    def place(self, **more: Any) -> Need:
        return need("1 µF X2 310~", Role.X, **more)

    def test_a_body_may_be_turned_flat_but_not_stood_up(self) -> None:
        place = self.place(space_mm=(20.0, 34.0, 30.0))
        self.assertIsNone(fit.too_big(place, self.part((31.5, 16, 25))))
        self.assertIn("larger than the space", some(fit.too_big(place, self.part((31.5, 16, 30.5)))))
        self.assertIn("larger than the space", some(fit.too_big(place, self.part((35, 16, 25)))))

    def test_what_is_not_known_refuses_nothing(self) -> None:
        self.assertIsNone(fit.too_big(self.place(), self.part((500, 500, 500))))
        self.assertIsNone(fit.too_big(self.place(space_mm=(1.0, 1.0, 1.0)), self.part()))
        self.assertIsNone(fit.pitch_too_far(self.place(pitch_mm=22.5), self.part()))

    def test_steps_of_pitch(self) -> None:
        place = self.place(pitch_mm=22.5)
        steps = {pitch: fit.pitch_steps(place, self.part(pitch=pitch)) for pitch in (10.0, 15.0, 22.5, 27.5, 37.5)}
        self.assertEqual(steps, {10: 2, 15: 1, 22.5: 0, 27.5: 1, 37.5: 2})


class Counts(unittest.TestCase):
    """The last digit of a counting display, decade by decade."""

    def test_resolution_of_a_6000_count_meter(self) -> None:
        for farads, digit in ((5.999e-9, 1e-12), (6.1e-9, 10e-12), (12.9e-6, 10e-9), (59e-6, 10e-9), (61e-6, 100e-9), (0, 0)):
            self.assertAlmostEqual(resolution(farads, Accuracy(1, 1, 6000)), digit)
