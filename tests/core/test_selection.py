"""Which class may stand where, and which part of the drawer may take a place."""

import itertools
import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.model import ClassName
from dusky_heron.core.model import Origin, Part, PartKind, Policy, Position, Role, Selection
from dusky_heron.core.selection import need_of, rank
from dusky_heron.core.selection.safety_class import may_replace

# Place: the single classes IEC 60384-14 (and caution) lets stand in it.
ACCEPTED = {
    "X1": {"X1", "Y1"},
    "X2": {"X2", "X1", "Y2", "Y1"},
    "X3": {"X3", "X2", "X1", "Y2", "Y1"},
    "Y1": {"Y1"},
    "Y2": {"Y2", "Y1"},
    "Y3": {"Y3", "Y2", "Y1"},
    "Y4": {"Y4", "Y2", "Y1"},
}
DOUBLES = [(x, y) for x in ClassName if x[0] == "X" for y in ClassName if y[0] == "Y"]


class SafetyClasses(unittest.TestCase):
    """Every pair of single, double and unclassed."""

    def test_every_place_against_every_offer(self) -> None:
        singles = [(name,) for name in ClassName]
        for place, offered in itertools.product([*singles, *DOUBLES], [(), *singles, *DOUBLES]):
            with self.subTest(place=place, offered=offered):
                answer = may_replace(place, offered)
                self.assertEqual(answer.allowed, all(ACCEPTED[wanted] & set(offered) for wanted in place))
                self.assertTrue(answer.reason and answer.rule_id.startswith("class."))

    def test_an_x_never_replaces_a_y_and_no_class_never_a_safety_part(self) -> None:
        self.assertEqual(may_replace("Y2", ("X1",)).rule_id, "class.x_for_y")
        self.assertEqual(may_replace("X2", ()).rule_id, "class.missing")
        self.assertTrue(may_replace((), ()).allowed)

    def test_y2_in_an_x1_place_is_refused_as_caution(self) -> None:
        self.assertIn("caution", may_replace("X1", ("Y2",)).reason)
        self.assertTrue(may_replace("X1", ("X1", "Y2")).allowed)

    def test_two_y2_for_y1_needs_a_decision(self) -> None:
        answer = may_replace("Y1", ("Y2",))
        self.assertFalse(answer.allowed)
        self.assertIn("series", answer.conditions[0])

    def test_text_forms_and_unknown_names(self) -> None:
        self.assertTrue(may_replace("X1/Y2", ("Y1",)).allowed)
        self.assertFalse(may_replace("X1Y2", ("X2", "Y2")).allowed)
        for place, offered, field in (("Z9", (), "place"), ("X2", ("X5",), "offered")):
            with self.assertRaises(InputError) as caught:
                may_replace(place, offered)
            self.assertEqual(caught.exception.field, field)


def part(text: str, kind: PartKind = PartKind.MOTOR_RUN, **more: Any) -> Part:
    return Part(text, kind, read_marking(text), **more)


def choose(place: str, role: Role, *parts: Part, policy: Policy | None = None, **more: Any) -> Selection:
    position = Position("C1", role, read_marking(place), 230, 50, **more)
    return rank(need_of(position), parts, policy or Policy())


class Ranking(unittest.TestCase):
    """Part against place: accepted or refused, and by which rule."""

    PUMP = "16 µF ±5 % 450 V~ cl. B P2 25/085/21"
    GOOD = "16 µF ±5 % 450 V~ cl. B P2 25/085/21"
    FILTER = "1 µF K X2 310 V~"

    def test_refusals_of_a_motor_run_place(self) -> None:
        cases = {
            ("16-20 µF 450 V~", PartKind.MOTOR_START): "role.start_for_run",
            ("16 µF 450 VDC", PartKind.FILM_DC): "role.dc_on_mains",
            ("16 µF ±5 % 400 V~ cl. B P2 25/085/21", PartKind.MOTOR_RUN): "voltage.ac",
            ("20 µF ±5 % 450 V~ cl. B P2 25/085/21", PartKind.MOTOR_RUN): "capacitance.window",
            ("16 µF ±5 % 450 V~ cl. C P2 25/085/21", PartKind.MOTOR_RUN): "duty.operating_class",
            ("16 µF ±5 % 450 V~ cl. B P0 25/085/21", PartKind.MOTOR_RUN): "duty.protection",
            ("16 µF ±5 % 450 V~ cl. B P2 25/070/21", PartKind.MOTOR_RUN): "temperature.upper",
            ("16+5 µF ±5 % 450 V~ cl. B P2 25/085/21", PartKind.MOTOR_RUN): "sections.count",
        }
        for (text, kind), rule_id in cases.items():
            with self.subTest(text):
                answer = choose(self.PUMP, Role.MOTOR_RUN, part(text, kind))
                self.assertIn(rule_id, [refusal.rule_id for refusal in answer.rejected[0].reasons])

    def test_refusals_of_an_x_place(self) -> None:
        for text, kind, rule_id in (
            ("1 µF K 630 VDC", PartKind.FILM_DC, "class.safety"),
            ("1 µF K X2 275 V~", PartKind.FILM_SAFETY, "voltage.old"),
            ("680 nF K X2 310 V~", PartKind.FILM_SAFETY, "capacitance.window"),
            ("1 µF X3 310 V~", PartKind.FILM_SAFETY, "class.safety"),
        ):
            with self.subTest(text):
                answer = choose(self.FILTER, Role.X, part(text, kind))
                self.assertIn(rule_id, [refusal.rule_id for refusal in answer.rejected[0].reasons])

    def test_each_class_is_judged_by_its_own_voltage(self) -> None:
        offered = part("1 µF X1 310~ Y2 250~", PartKind.FILM_SAFETY)
        self.assertEqual(len(choose(self.FILTER, Role.X, offered).accepted), 1)

    def test_fit_salvage_and_stock(self) -> None:
        wide = part(self.FILTER, PartKind.FILM_SAFETY, pitch_mm=27.5, humidity_grade=True)
        bent = choose(self.FILTER, Role.X, wide, pitch_mm=22.5).accepted[0]
        self.assertIn("22.5 mm", bent.adaptations[0])
        far = choose(self.FILTER, Role.X, part(self.FILTER, PartKind.FILM_SAFETY, pitch_mm=37.5), pitch_mm=22.5)
        self.assertEqual(far.rejected[0].reasons[0].rule_id, "fit.pitch")
        big = part(self.GOOD, size_mm=(60.0, 60.0, 90.0))
        self.assertEqual(
            choose(self.PUMP, Role.MOTOR_RUN, big, space_mm=(50.0, 50.0, 90.0)).rejected[0].reasons[0].rule_id, "fit.space"
        )
        old = part(self.GOOD, origin=Origin.SALVAGED)
        self.assertEqual(choose(self.PUMP, Role.MOTOR_RUN, old).rejected[0].reasons[0].rule_id, "policy.salvaged")
        allowed = Policy(salvaged_roles=frozenset({Role.MOTOR_RUN}))
        self.assertEqual(len(choose(self.PUMP, Role.MOTOR_RUN, old, policy=allowed).accepted), 1)
        self.assertIn("order", choose(self.PUMP, Role.MOTOR_RUN, part(self.GOOD, quantity=0)).accepted[0].conditions[0])

    def test_what_a_run_part_promises_is_told_in_hours_and_in_its_own_words(self) -> None:
        place = need_of(Position("C1", Role.MOTOR_RUN, read_marking("16 µF ±5 % 450 V~"), 230, 50))
        for printed, hours, said in (("cl. B", -10_000, "10000 h"), ("cl. C", -3000, "3000 h"), ("", 0, "none printed")):
            (taken,) = rank(place, [Part("p", PartKind.MOTOR_RUN, read_marking(f"16 µF ±5 % 450 V~ {printed}"))]).accepted
            told = {point.about: (point.points, point.says) for point in taken.points}
            self.assertEqual(told["operating class"], (hours, said), printed)

    def test_a_tenth_above_the_nominal_voltage_is_not_tight_and_less_is(self) -> None:
        """On 250 V: 275 V is exactly 1.1 times it."""
        place = need_of(Position("CX1", Role.X, read_marking("1 µF X2 250~"), 250, 50))
        margins = {}
        for volts in (274, 275, 276):
            (taken,) = rank(place, [Part("p", PartKind.FILM_SAFETY, read_marking(f"1 µF K X2 {volts}~"))]).accepted
            margins[volts] = next(point.points for point in taken.points if point.about == "voltage margin")
        self.assertEqual((margins[275], margins[276], margins[274] > 0), (0.0, 0.0, True))

    def test_the_nearer_value_ranks_first(self) -> None:
        other = part("16.5 µF ±5 % 450 V~ cl. B P2 25/085/21")
        accepted = choose(self.PUMP, Role.MOTOR_RUN, other, part(self.GOOD)).accepted
        self.assertEqual([c.part.part_id for c in accepted], [self.GOOD, other.part_id])

    @given(st.sampled_from([370, 400, 420, 440, 450]), st.integers(0, 200))
    def test_raising_the_voltage_never_makes_a_part_unacceptable(self, volts: int, more: int) -> None:
        def taken(v: int) -> bool:
            return bool(choose(self.PUMP, Role.MOTOR_RUN, part(f"16 µF ±5 % {v} V~ cl. B P2 25/085/21")).accepted)

        self.assertLessEqual(taken(volts), taken(volts + more))

    def test_every_role_is_ranked(self) -> None:
        for role in Role:
            self.assertEqual(choose("1 µF 400 V", role).accepted, ())
