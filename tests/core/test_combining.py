"""Parts put together, against every pair tried; and one part for another from two markings."""

import itertools
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Basis, Need, Part, PartKind, Policy, Role, Surroundings
from dusky_heron.core.selection import rank
from dusky_heron.core.selection.combine import VALUE_RULES, combinations
from dusky_heron.core.selection.question import likely_kind, may_replace_part
from dusky_heron.core.selection.rules import HARD_RULES
from dusky_heron.core.selection.ways import Way, as_one
from tests import some
from tests.core.test_replacement_cases import BULK, CAN, FILTER, PUMP, part, place

MICROFARADS = (1, 1.5, 2.2, 3.3, 4.7, 5, 6.8, 8, 10, 11, 12, 15)
RUNS = st.lists(
    st.builds(
        lambda farads, volts, quantity, name: Part(
            name, PartKind.MOTOR_RUN, read_marking(f"{farads} µF ±5 % {volts} V~ cl. B P2 25/085/21"), quantity
        ),
        st.sampled_from(MICROFARADS), st.sampled_from((400, 450, 500)), st.integers(0, 3), st.uuids().map(str),
    ),
    max_size=9,
)  # fmt: skip


def stands(need: Need, offered: Part) -> bool:
    """No rule but those of the whole refuses it."""
    rules = (rule for rule in HARD_RULES if rule.applies(need.role) and rule.id not in VALUE_RULES)
    return not any(rule.check(need, offered, Policy()) for rule in rules)


class Combining(unittest.TestCase):
    """Parallel, series, singles."""

    @settings(max_examples=150, deadline=None)
    @given(RUNS)
    def test_parallel_pairs_are_those_brute_force_finds(self, drawer: list[Part]) -> None:
        need = place(Role.MOTOR_RUN, PUMP)
        pairs = set()
        for a, b in itertools.combinations_with_replacement(sorted(drawer, key=lambda p: p.part_id), 2):
            if (a is b and a.quantity < 2) or min(a.quantity, b.quantity) < 1 or not (stands(need, a) and stands(need, b)):
                continue
            if 15.2e-6 * (1 - 1e-9) <= a.marking.capacitance_f + b.marking.capacitance_f <= 16.8e-6 * (1 + 1e-9):
                pairs.add(frozenset((a.part_id, b.part_id)))
        found = combinations(need, drawer)
        self.assertEqual({frozenset(p.part_id for p in c.parts) for c in found}, pairs if len(pairs) <= 20 else
                         {frozenset(p.part_id for p in c.parts) for c in found})  # fmt: skip
        self.assertEqual(len(found), min(len(pairs), 20))
        for one in found:
            self.assertAlmostEqual(one.sections_f[0], sum(p.marking.capacitance_f for p in one.parts))
            self.assertTrue(one.low_f < one.sections_f[0] < one.high_f)
        self.assertEqual([c.off for c in found], sorted(c.off for c in found))

    def test_a_string_shares_its_voltage_by_tolerance(self) -> None:
        """Two 68 µF M 450 V at 500 V: worst 500 · 1.2/(0.8 + 1.2) = 300 V; of 250 V parts too much for either."""
        need = place(Role.RESERVOIR, CAN)
        strong = part(PartKind.ELECTROLYTIC, "68 µF M 450 VDC", quantity=2)
        weak = part(PartKind.ELECTROLYTIC, "68 µF M 250 VDC", quantity=2)
        (one,) = combinations(need, [strong, weak])
        self.assertEqual((one.way, one.parts), (Way.SERIES, (strong, strong)))
        self.assertAlmostEqual(some(one.worst_share_v), 300)
        self.assertAlmostEqual(one.sections_f[0] * 1e6, 34)
        self.assertIn("balancing resistor", one.makes[0])
        single = part(PartKind.ELECTROLYTIC, "68 µF M 450 VDC", quantity=1)
        self.assertEqual(combinations(need, [single]), ())

    def test_a_string_is_planned_with_its_circuit_and_never_with_parts_of_unknown_volts(self) -> None:
        """358 V behind a 230 V bridge: worst 215 V on one of two ±20 %; what prints no volts is no part of it."""
        around = Surroundings(basis=Basis.RECTIFIED)
        need = place(Role.SMPS_BULK, "82 µF M 200 VDC", surroundings=around)
        for volts, found in (("200 VDC", 0), ("215 VDC", 1), ("214 VDC", 0), ("", 0)):
            two = part(PartKind.ELECTROLYTIC, f"164 µF M {volts}".strip(), quantity=2)
            self.assertEqual(len(combinations(need, [two])), found, volts)

    def test_a_can_is_rebuilt_from_singles(self) -> None:
        need = place(Role.RESERVOIR, "32+32 µF 500 VDC")
        drawer = [part(PartKind.ELECTROLYTIC, marking, quantity=q) for marking, q in (("33 µF 500 VDC", 1), ("32 µF K 525 VDC", 1),
                  ("33 µF 450 VDC", 5), ("47 µF 500 VDC", 2))]  # fmt: skip
        (one,) = combinations(need, drawer)
        self.assertEqual([p.part_id for p in one.parts], ["32 µF K 525 VDC", "33 µF 500 VDC"])
        self.assertTrue(any("never left in parallel" in makes for makes in one.makes))
        self.assertEqual(combinations(need, drawer[:1]), ())

    def test_two_singles_for_a_dual(self) -> None:
        need = place(Role.MOTOR_RUN, "30+5 µF ±6 % 370/440 VAC")
        drawer = [part(PartKind.MOTOR_RUN, f"{farads} µF ±5 % {volts} VAC") for farads, volts in ((30, 440), (5, 440), (5, 370))]
        (one,) = combinations(need, drawer)
        self.assertEqual([p.part_id for p in one.parts], ["30 µF ±5 % 440 VAC", "5 µF ±5 % 440 VAC"])
        self.assertIn("commons strapped", one.makes[0])

    def test_two_y2_for_a_y1_are_a_decision(self) -> None:
        need = place(Role.Y, "2n2 M Y1 400 V~")
        (one,) = combinations(need, [part(PartKind.CERAMIC_SAFETY, "3n3 M Y2 300 V~", quantity=2)])
        self.assertAlmostEqual(one.sections_f[0] * 1e9, 1.65)
        self.assertIn("only where the equipment's own standard allows it", one.to_sign[0])
        for low in ("3n3 M Y2 220 V~", "3n3 M Y2 150 V~", "3n3 M X1 440 V~"):  # each stands the whole voltage, or is no pair
            self.assertEqual(combinations(need, [part(PartKind.CERAMIC_SAFETY, low, quantity=2)]), ())
        self.assertEqual(
            combinations(place(Role.Y, "2n2 M Y2 300 V~"), [part(PartKind.FILM_SAFETY, "1n K X1 440 V~", quantity=4)]), ()
        )

    def test_no_combination_of_what_is_refused(self) -> None:
        films = [part(PartKind.FILM_DC, "470 nF K 630 VDC", quantity=9), part(PartKind.ELECTROLYTIC, "10 µF 450 VDC", quantity=9)]
        self.assertEqual(combinations(place(Role.X, FILTER), films), ())
        self.assertEqual(combinations(place(Role.MOTOR_RUN, PUMP), films), ())


class AsOne(unittest.TestCase):
    """What parts put together are to the place afterwards."""

    def test_two_side_by_side_and_two_behind_each_other(self) -> None:
        """Two of 10 µF ±10 % 400 V: 20 µF, 18 to 22, 400 V beside each other; 5 µF, 4.5 to 5.5, 800 V behind each other."""
        part = read_marking("10 µF K 400 VDC film")
        for way, farads, low, high, volts in (
            (Way.PARALLEL, 20e-6, 18e-6, 22e-6, 400), (Way.SERIES, 5e-6, 4.5e-6, 5.5e-6, 800),
            (Way.SINGLE, 10e-6, 9e-6, 11e-6, 400),
        ):  # fmt: skip
            (one,) = as_one(way, [part, part]).sections
            for found, told in ((one.capacitance_f, farads), (one.lowest_f, low), (one.highest_f, high), (one.rated_dc_v, volts)):
                self.assertAlmostEqual((found or 0) / told, 1, 9, way)
        with self.assertRaises(InputError):
            as_one(Way.PARALLEL, [])

    def test_values_add_halve_or_stand_beside_each_other_and_the_lower_volts_bind(self) -> None:
        for way, texts, farads, volts in (
            (Way.SINGLE, ["82 µF M 400 VDC"], [82e-6], 400),
            (Way.PARALLEL, ["33 µF M 400 VDC", "47 µF M 350 VDC"], [80e-6], 350),
            (Way.SERIES, ["164 µF M 250 VDC", "164 µF M 250 VDC"], [82e-6], 500),
            (Way.SINGLES, ["33 µF M 500 VDC", "32 µF M 450 VDC"], [33e-6, 32e-6], 500),
        ):
            one = as_one(way, [read_marking(text) for text in texts])
            self.assertEqual([round(s.capacitance_f * 1e12) for s in one.sections], [round(f * 1e12) for f in farads], way)
            self.assertEqual(one.sections[0].rated_dc_v, volts, way)
            self.assertAlmostEqual(one.highest_f / one.capacitance_f, 1.2)
        pair = as_one(Way.SERIES, [read_marking("3n3 M Y2 300 V~")] * 2)
        self.assertAlmostEqual(pair.highest_f, 1.98e-9)
        network = as_one(Way.SINGLES, [read_marking(t) for t in ("100n K X1 300 V~", "2n7 M Y2 300 V~", "2n7 M Y2 300 V~")])
        self.assertEqual([c.name for c in network.classes], ["X1", "Y2"])
        self.assertRaises(InputError, as_one, Way.PARALLEL, [])


class Question(unittest.TestCase):
    """May this part replace that one."""

    def test_answers_from_two_markings(self) -> None:
        for old, new, role, allowed, says in (
            (FILTER, "1 µF K X2 310 V~ 40/110/56/B", None, True, ""),
            (FILTER, "1 µF K 630 VDC", None, False, "class.safety"),
            ("3n3 M Y2 300 V~", "3n3 K X1 440 V~", None, False, "class.safety"),
            (PUMP, "16-20 µF 330 VAC", None, False, "role.start_for_run"),
            (PUMP, "16 µF ±5 % 450 V~ cl. B P2 25/085/21", None, True, ""),
            ("189-227 µF 250 VAC", "200-220 µF 250 VAC", None, True, ""),
            (CAN, "100 µF 500 VDC", Role.RESERVOIR, False, "capacitance.window"),
            (BULK, "100 µF M 450 VDC 105 °C", Role.SMPS_BULK, True, ""),
            ("1.05 µF ±3 % 2100 V~", "1 µF ±3 % 2100 V~", Role.MAGNETRON, True, ""),
        ):
            with self.subTest(f"{new} for {old}"):
                answer = may_replace_part(old, new, role)
                self.assertEqual(answer.allowed, allowed, answer)
                self.assertTrue(answer.reasons if allowed else says in {r.rule_id for r in answer.refusals}, answer)

    def test_what_cannot_be_told_is_asked_for(self) -> None:
        for old, new, field in (("32 µF 500 VDC", "33 µF 500 VDC", "role"), ("no value", FILTER, "old"), (FILTER, "?", "new")):
            with self.assertRaises(InputError) as caught:
                may_replace_part(old, new)
            self.assertEqual(caught.exception.field, field)
        with self.assertRaises(InputError) as caught:
            may_replace_part("16-20 µF 330 VAC", PUMP, Role.MOTOR_RUN)
        self.assertEqual(caught.exception.field, "old")

    def test_kinds_told_by_a_marking(self) -> None:
        for marking, role, kind in (
            (FILTER, None, "film_safety"), ("3n3 M Y2 300 V~", None, "ceramic_safety"), ("100n K X1Y2 300 V~", None, "film_safety"),
            (PUMP, None, "motor_run"), ("189-227 µF 250 VAC", None, "motor_start"), ("47 nF J 1600 VDC", None, "film_dc"),
            ("82 µF 400 VDC", None, "electrolytic"), ("4 µF ±10 % 250 V~", Role.POWER_FACTOR, "film_ac"),
            ("1.05 µF 2100 V~", Role.MAGNETRON, "high_voltage_ac"),
        ):  # fmt: skip
            self.assertEqual(likely_kind(read_marking(marking), role).value, kind, marking)

    @given(st.sampled_from([FILTER, PUMP, "3n3 M Y2 300 V~", "680 nF K X2 305 V~", "5+30 µF ±6 % 440 VAC"]))
    def test_a_part_may_always_replace_its_like(self, marking: str) -> None:
        self.assertTrue(may_replace_part(marking, marking).allowed)

    def test_the_answer_is_that_of_the_drawer(self) -> None:
        offered = part(PartKind.FILM_SAFETY, "680 nF K X2 310 V~")
        refused = rank(place(Role.X, FILTER), [offered]).rejected[0].reasons
        self.assertEqual(may_replace_part(FILTER, "680 nF K X2 310 V~", supply_v=230).refusals, refused)
