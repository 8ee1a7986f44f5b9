"""Readings as typed with what belongs to them, load lists, changed reasons, and what schools say of the drawer."""

import math
import unittest
from dataclasses import replace
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.circuit.typed_loads import read_loads
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.metering.accuracy import Accuracy, Method, Specification
from dusky_heron.core.metering.taking import Taken, TypedReading, take
from dusky_heron.core.model import Condition, Dropper, Origin, PartKind, Position, Quantity, Role, Surroundings, Topology, Word
from dusky_heron.core.schools import default_schools, selection_policy
from dusky_heron.core.selection.combine import combinations
from dusky_heron.core.verdict.difference import differences
from tests import loose
from tests.core.test_replacement_cases import part, place, refusals

HAND = Specification.of_capacitance(Accuracy(2, 3, 6000))
BRIDGE = Specification({Quantity.CAPACITANCE: (Accuracy(0.2, 2, 40000),)}, Method.LCR_PARALLEL, 120.0)
PUMP = Position("C1", Role.MOTOR_RUN, read_marking("16 µF ±5 % 450 V~"), 230, 50)
RUN, DUAL = "16 µF ±5 % 450 V~ cl. B P2 25/085/21", "40+5 µF ±5 % 450 V~ cl. B P2 25/085/21"
HALF_WAVE = Surroundings(dropper=Dropper(Topology.HALF_WAVE, 24, ()))
DOSING = Position("CD1", Role.DROPPER, read_marking("680 nF K X2 305~"), 230, 50, surroundings=HALF_WAVE)


def taken(value: str, where: Position = PUMP, meter: Specification = HAND, **typed: Any) -> Taken:
    given_: dict[str, object] = {"quantity": Quantity.CAPACITANCE, "condition": Condition.LIFTED, **typed}
    return take(TypedReading(value, **given_), meter, where)  # type: ignore[arg-type]


class Taking(unittest.TestCase):
    """What becomes of what was typed."""

    def test_a_plain_reading_stays_as_it_is(self) -> None:
        """12.9 µF ±(2 % + 3 counts of 10 nF): 12.61 to 13.19 µF."""
        found = taken("12.9u")
        self.assertEqual((found.quantity, found.condition, found.typed), (Quantity.CAPACITANCE, Condition.LIFTED, "12.9u"))
        self.assertAlmostEqual(found.value.low, 12.612e-6)

    def test_a_parallel_bridge_needs_no_correction_for_a_resistor(self) -> None:
        found = taken("15.8u", meter=BRIDGE, condition=Condition.IN_CIRCUIT, parallel_ohm="10k")
        self.assertAlmostEqual(found.value.value, 15.8e-6)
        self.assertEqual(found.typed, "15.8u with 10k across it")

    def test_a_current_becomes_the_capacitance_it_stands_for(self) -> None:
        """A half wave steps by the rail, a bridge by twice that: 49 mA on 230 V behind 24 V is 682 nF, or 690 behind 48."""
        live = {"quantity": Quantity.CURRENT, "condition": Condition.IN_SERVICE, "voltage": "230 V"}
        whole = 49e-3 / (2 * math.pi * 50 * 230)
        self.assertAlmostEqual(taken("49 mA", DOSING, **loose(live)).value.value, whole)
        railed = taken("49 mA", DOSING, **loose(live), rail="24 V")
        self.assertTrue(1.002 < railed.value.value / whole < 1.01)
        self.assertEqual((railed.quantity, railed.condition), (Quantity.CAPACITANCE, Condition.IN_SERVICE))

    def test_what_does_not_fit_together_is_refused_at_its_field(self) -> None:
        for typed, field in (
            ({"quantity": Quantity.ESR, "parallel_ohm": "1k"}, "parallel_ohm"), ({"parallel_ohm": "many"}, "parallel_ohm"),
            ({"parallel_f": "1"}, "parallel_f"), ({"parallel_f": "1 nF", "loss": "x"}, "loss"),
            ({"frequency": "fast"}, "frequency"),
            ({"quantity": Quantity.CURRENT, "voltage": "x"}, "voltage"), ({"condition": Condition.IN_SERVICE}, "quantity"),
        ):  # fmt: skip
            with self.subTest(typed), self.assertRaises(InputError) as caught:
                taken("1 Ω" if typed.get("quantity") == Quantity.ESR else "2 A" if "voltage" in typed else "16u", **typed)
            self.assertEqual(caught.exception.field, field)


class Loads(unittest.TestCase):
    """What a supply feeds, a line for each state."""

    @given(st.lists(st.tuples(st.from_regex(r"[a-z][a-z ]{0,20}[a-z]", fullmatch=True), st.integers(1, 500)), max_size=8))
    def test_lines_read_back_what_was_put_in(self, states: list[tuple[str, int]]) -> None:
        read = read_loads("\n".join(f"{name} {milliamps} mA" for name, milliamps in states))
        self.assertEqual([(s.name, round(s.current_a * 1000)) for s in read], states)

    def test_a_line_without_name_or_current_is_refused(self) -> None:
        for text in ("valve", "34 mA", "valve 3 V", "valve -1 mA", "\n".join(f"s{k}x 1 mA" for k in range(9))):
            with self.subTest(text), self.assertRaises(InputError) as caught:
                read_loads(text)
            self.assertEqual(caught.exception.field, "loads")


class Differences(unittest.TestCase):
    """What a judgement says otherwise than a recorded one."""

    def reason(self, rule_id: str, word: str, sentence: str = "s") -> dict[str, str]:
        return {"rule_id": rule_id, "word": word, "sentence": sentence, "reading": "", "limit": "", "source": "x"}

    def test_order_alone_is_no_change_and_the_gravest_stands_first(self) -> None:
        one, two, three = self.reason("a", "keep"), self.reason("b", "watch"), self.reason("c", "condemn")
        self.assertEqual(differences([one, two], [two, one]), ())
        changes = differences([one, two], [self.reason("a", "watch"), two, three])
        self.assertEqual([(c.rule_id, c.before_word, c.now_word) for c in changes], [
            ("c", None, Word.CONDEMN), ("a", Word.KEEP, Word.WATCH),
        ])  # fmt: skip
        self.assertEqual((changes[0].before, changes[0].now), ("", "s By x."))


class Drawer(unittest.TestCase):
    """Salvaged parts by the school that was chosen."""

    def test_never_for_safety_and_motor_places(self) -> None:
        usual = selection_policy(default_schools()).salvaged_roles
        self.assertFalse(usual & {Role.X, Role.Y, Role.DROPPER, Role.MOTOR_RUN, Role.MOTOR_START})
        self.assertIn(Role.SMOOTHING, usual)
        self.assertEqual(selection_policy(default_schools() | {"salvaged": "never"}).salvaged_roles, frozenset())

    def test_with_its_measurements_on_record_only(self) -> None:
        policy = selection_policy(default_schools() | {"salvaged": "measured"})
        need = place(Role.SMPS_BULK, "82 µF M 400 VDC 105 °C")
        bare = part(PartKind.ELECTROLYTIC, "82 µF M 400 VDC 105 °C", origin=Origin.SALVAGED)
        self.assertEqual(refusals(need, bare, policy), {"policy.salvaged"})
        self.assertEqual(refusals(need, replace(bare, measured=True), policy), set())
        self.assertEqual(refusals(need, bare, selection_policy(default_schools())), set())
        run = part(PartKind.MOTOR_RUN, RUN, origin=Origin.SALVAGED, measured=True)
        self.assertEqual(refusals(place(Role.MOTOR_RUN, RUN), run, policy), {"policy.salvaged"})

    def test_nothing_larger_where_the_workshop_says_so(self) -> None:
        never, need = selection_policy(default_schools() | {"larger": "never"}), place(Role.SMPS_BULK, "82 µF M 400 VDC 105 °C")
        for text, expected in (("100 µF M 400 VDC 105 °C", {"policy.larger"}), ("82 µF M 450 VDC 105 °C", set())):
            self.assertEqual(refusals(need, part(PartKind.ELECTROLYTIC, text), never), expected)
            self.assertEqual(refusals(need, part(PartKind.ELECTROLYTIC, text), selection_policy(default_schools())), set())
        halves = [replace(part(PartKind.ELECTROLYTIC, f"{f} µF M 400 VDC 105 °C"), part_id=f) for f in ("47", "33", "39")]
        sums = {round(sum(c.sections_f) * 1e6) for c in combinations(need, halves, never)}
        self.assertTrue(sums and max(sums) <= 82, sums)
        self.assertIn(86, {round(sum(c.sections_f) * 1e6) for c in combinations(need, halves)})

    def test_a_dual_or_singles_for_a_dual(self) -> None:
        need, dual = place(Role.MOTOR_RUN, DUAL), part(PartKind.MOTOR_RUN, DUAL)
        singles = [replace(part(PartKind.MOTOR_RUN, f"{f} µF ±5 % 450 V~ cl. B P2 25/085/21"), part_id=f) for f in ("40", "5")]
        for school, refused_, together in (("either", set(), 1), ("dual", set(), 0), ("singles", {"policy.dual"}, 1)):
            policy = selection_policy(default_schools() | {"dual": school})
            self.assertEqual(refusals(need, dual, policy), refused_, school)
            self.assertEqual(len(combinations(need, singles, policy)), together, school)
