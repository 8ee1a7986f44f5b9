"""Checks before handing back, the fitting list, and how long parts last: against worked examples and published figures."""

import math
import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.ageing.survival import Lasted, median_life, survival
from dusky_heron.core.circuit.typed_loads import read_loads
from dusky_heron.core.discharge.limits import limits_of, limits_table
from dusky_heron.core.discharge.touch_current import touch_limits
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.metering.accuracy import Accuracy, Method, Specification
from dusky_heron.core.model import Bleeder, Dropper, Equipment, Position, Quantity, Role, Surroundings, Topology
from dusky_heron.core.returning.checks import Check, Outcome, Repaired, checks_for, measures, soak_left, take_check
from dusky_heron.core.selection.fitting_list import EMPTY, PHOTO, Filling, fitting_list
from dusky_heron.core.selection.ways import Way
from dusky_heron.core.wiring import PutBack
from tests import some

METER = Specification()  # ±10 % of anything
SIX_MP = [6, 6, 6, 7, 10, 13, 16, 22, 23]  # weeks to relapse
CENSORED = [6, 9, 10, 11, 17, 19, 20, 25, 32, 32, 34, 35]  # and those still well


def place(role: Role, marking: str, name: str = "C1", **around: object) -> Position:
    return Position(name, role, read_marking(marking), 230.0, 50.0, surroundings=Surroundings(**around))  # type: ignore[arg-type]


def asked(
    *places: Position, protection: str = "I", plug: bool = True, new: bool = True, rail_v: float | None = None
) -> dict[str, Check]:
    rows = limits_table()
    work = Repaired(
        protection, False, plug, places, frozenset(p.name for p in places) if new else frozenset(),
        limits_of(rows, "IEC 60335-1 (22.5)", role=None, capacitance_f=1e-6, from_v=325.0),
        touch_limits(rows, "IEC 60335-1 (22.5)", Equipment(protection)), rail_v,
    )  # fmt: skip
    return {check.id: check for check in checks_for(work)}


class Asked(unittest.TestCase):
    """What a repair asks for follows from class, connection and roles."""

    def test_by_class(self) -> None:
        one, two = asked(), asked(protection="II")
        self.assertEqual((one["earth"].high, one["insulation"].low), (0.1, 1e6))
        self.assertNotIn("earth", two)
        self.assertEqual(two["insulation"].low, 2e6)
        self.assertEqual(asked(protection="")["insulation"].low, 2e6)  # not known: the stricter of the two

    def test_an_x_filter_on_a_plug_is_read_ten_times_against_34_volts(self) -> None:
        found = asked(place(Role.X, "1 µF K X2 305 V~"))
        pins = found["pins"]
        self.assertEqual((pins.high, pins.readings), (34.0, 10))
        self.assertNotIn("pins", asked(place(Role.X, "1 µF K X2 305 V~"), plug=False))

    def test_without_a_standard_the_strictest_limit_counts_and_says_so(self) -> None:
        y, rows = place(Role.Y, "4n7 M Y2 250~"), limits_table()
        pins = limits_of(rows, None, role=None, capacitance_f=1e-6, from_v=325.0)
        work = Repaired(
            "", False, True, (y, place(Role.X, "1 µF X2 305~", "CX1")), frozenset(), pins, touch_limits(rows, None, Equipment())
        )
        found = {check.id: check for check in checks_for(work)}
        self.assertEqual((found["touch"].high, found["pins"].high), (0.00025, 34.0))
        self.assertIn("the strictest of", found["touch"].source)

    def test_y_parts_ask_for_touch_current_and_medical_equipment_approves_none(self) -> None:
        y = place(Role.Y, "4n7 M Y2 250~")
        self.assertEqual(asked(y)["touch"].high, 0.00075)
        rows = touch_limits(limits_table(), "IEC 60601-1 (8.4.3)", Equipment())
        work = Repaired("I", False, True, (y,), frozenset({"C1"}), (), rows)
        medical = next(check for check in checks_for(work) if check.id == "touch")
        self.assertEqual(take_check(medical, "1 uA", METER).outcome, Outcome.FAILS)

    def test_a_droppers_idle_current_is_2_pi_f_c_v_less_what_its_clamp_holds(self) -> None:
        """680 nF on 230 V, 50 Hz: 49.1 mA; ±10 % of it and ±10 % of the mains either way."""
        nominal = 2 * math.pi * 50 * 680e-9 * 230
        idle = asked(place(Role.DROPPER, "680 nF K X2 305 V~"))["idle:C1"]
        self.assertAlmostEqual(some(idle.low), nominal * 0.81, 6)
        self.assertAlmostEqual(some(idle.high), nominal * 1.21, 6)
        around = Dropper(Topology.BRIDGE, 24.0, read_loads("standby 8 mA", 24.0))
        known = asked(place(Role.DROPPER, "680 nF K X2 305 V~", dropper=around))
        self.assertLess(some(known["idle:C1"].low), nominal * 0.81)
        self.assertGreater(some(known["idle:C1"].low), nominal * 0.81 * 0.95)
        self.assertLess(some(known["factor:C1"].high), 0.35)
        self.assertEqual((known["holds:C1"].unit, known["holds:C1"].limit), ("", "yes"))

    def test_idle_current_at_the_mains_it_was_read_at_with_all_across_the_line(self) -> None:
        """680 nF ±10 % and 100 nF ±20 % at 230 V 50 Hz: 50 to 62.6 mA; at 217 V 47.2 to 59 mA."""
        amperes = 2 * math.pi * 50 * 230
        found = asked(place(Role.DROPPER, "680 nF K X2 305 V~"), place(Role.X, "100 nF M X2 305 V~", "CX1"))
        idle = found["idle:C1"]
        low, high = amperes * (612e-9 + 80e-9), amperes * (748e-9 + 120e-9)
        self.assertAlmostEqual(some(idle.low), low * 0.9)
        fine = Specification({q: (Accuracy(0, 0, 60000),) for q in (Quantity.CURRENT, Quantity.VOLTS_AC)})
        for share, volts, outcome in (
            (0.999, "230", Outcome.FAILS), (1.001, "230 V", Outcome.PASSES), (0.95, "217", Outcome.PASSES),
            (0.94, "217", Outcome.FAILS),
            (1.001, "", Outcome.UNCLEAR), (0.89, "", Outcome.FAILS),
        ):  # fmt: skip
            read = take_check(idle, f"{low * share * 1000:.4f} mA", fine, against=volts)
            self.assertEqual(read.outcome, outcome, (share, volts))
        self.assertEqual(take_check(idle, f"{high * 1.001 * 1000:.4f} mA", fine, against="230").outcome, Outcome.FAILS)
        self.assertEqual(take_check(idle, f"{high * 0.999 * 1000:.4f} mA", fine, against="230").outcome, Outcome.PASSES)
        with self.assertRaises(InputError) as caught:
            take_check(idle, "50 mA", fine, against="many")
        self.assertEqual(caught.exception.field, "against")

    def test_of_a_known_circuit_too_what_is_across_the_line_counts(self) -> None:
        """100 nF ±20 % at 253 V and 50 Hz draw 9.5 mA more at most, nearly in phase with the dropper's own."""
        around = Dropper(Topology.BRIDGE, 24.0, read_loads("standby 8 mA", 24.0))
        dropper = place(Role.DROPPER, "680 nF K X2 305 V~", dropper=around)
        alone, beside = asked(dropper), asked(dropper, place(Role.X, "100 nF M X2 305 V~", "CX1"))
        more = some(beside["idle:C1"].high) - some(alone["idle:C1"].high)
        self.assertAlmostEqual(more, 2 * math.pi * 50 * 120e-9 * 253, delta=0.0005)
        self.assertNotIn("factor:C1", beside)

    def test_capacitance_in_service_from_amperes_and_volts_each_section_by_itself(self) -> None:
        """16 µF at 400 V 50 Hz carry 2.011 A."""
        found = asked(place(Role.MOTOR_RUN, "30+5 µF ±5 % 450 V~"))
        self.assertEqual([key for key in found if key.startswith("in_service")], ["in_service:C1.1", "in_service:C1.2"])
        one = asked(place(Role.MOTOR_RUN, "16 µF ±5 % 450 V~"))["in_service:C1"]
        fine = Specification({q: (Accuracy(0, 0, 60000),) for q in (Quantity.CURRENT, Quantity.VOLTS_AC)})
        for ampere, outcome in (("2.011 A", Outcome.PASSES), ("1.90 A", Outcome.FAILS), ("1.92 A", Outcome.PASSES)):
            self.assertEqual(take_check(one, ampere, fine, against="400 V").outcome, outcome, ampere)
        for typed, against, field in (("2 A", "", "against"), ("2 A", "0", "against"), ("many", "400", "value")):
            with self.assertRaises(InputError) as caught:
                take_check(one, typed, fine, against=against)
            self.assertEqual(caught.exception.field, field, typed)

    def test_what_belongs_to_the_fault_and_what_it_came_for(self) -> None:
        self.assertTrue(asked(place(Role.X, "1 µF X2 305~"))["complaint"].required)
        self.assertNotIn("complaint", asked(place(Role.X, "1 µF X2 305~"), new=False))
        start = asked(place(Role.MOTOR_START, "88-108 µF 250 V~"))
        self.assertTrue(start["start_switch:C1"].required)
        self.assertFalse(start["bleeder:C1"].required)
        self.assertFalse(asked(place(Role.SMPS_BULK, "82 µF 400 VDC"))["inlet:C1"].required)

    def test_after_work_on_a_magnetron_supply_radiation(self) -> None:
        """At most 50 W/m² at 5 cm; a survey meter errs by a quarter."""
        leak = asked(place(Role.MAGNETRON, "1.05 µF 2100 V~"))["radiation:C1"]
        self.assertEqual((leak.high, leak.unit, leak.required), (50.0, "W/m²", True))
        for typed, outcome in (("39", Outcome.PASSES), ("41", Outcome.UNCLEAR), ("66", Outcome.UNCLEAR), ("67", Outcome.FAILS)):
            self.assertEqual(take_check(leak, typed, METER).outcome, outcome, typed)

    def test_only_a_meter_that_can_measure_it(self) -> None:
        hand = Specification({Quantity.CAPACITANCE: (Accuracy(2, 3, 6000),)})
        bridge = Specification({Quantity.CAPACITANCE: (Accuracy(0.2, 2, 40000),)}, method=Method.LCR_SERIES)
        clamp = Specification({q: (Accuracy(2, 5, 4000),) for q in (Quantity.CAPACITANCE, Quantity.CURRENT, Quantity.VOLTS_AC)})
        tester = Specification({Quantity.INSULATION: (Accuracy(3, 3, 4000),)})
        found = asked(place(Role.MOTOR_RUN, "16 µF ±5 % 450 V~"), place(Role.RESERVOIR, "32 µF 500 V", "C2"))
        for key, able in (
            ("earth", (True, False, False, False)), ("insulation", (False, False, False, True)),
            ("run_current:C1", (False, False, True, False)), ("in_service:C1", (False, False, True, False)),
            ("rail", (True, False, False, False)), ("ripple", (True, False, True, False)), ("starts:C1", (True,) * 4),
        ):  # fmt: skip
            self.assertEqual(tuple(measures(found[key], meter) for meter in (hand, bridge, clamp, tester)), able, key)
        self.assertTrue(measures(found["insulation"], METER))  # nothing is known of it

    def test_pins_of_either_polarity(self) -> None:
        pins = asked(place(Role.X, "1 µF K X2 305 V~"))["pins"]
        self.assertEqual(take_check(pins, "-12 8 -3 0 22 5 -9 14 30 28", METER).outcome, Outcome.PASSES)
        self.assertEqual(take_check(pins, "-51 8 3", METER).outcome, Outcome.FAILS)

    def test_motors_and_rails(self) -> None:
        run = asked(place(Role.MOTOR_RUN, "16 µF ±5 % 450 V~"))
        self.assertAlmostEqual(some(run["in_service:C1"].low), 15.2e-6)
        self.assertTrue(run["starts:C1"].required)
        self.assertFalse(asked(place(Role.MOTOR_RUN, "16 µF ±5 % 450 V~"), new=False)["starts:C1"].required)
        rail = asked(place(Role.RESERVOIR, "32 µF 500 V"), rail_v=300.0)["rail"]
        self.assertEqual((rail.low, rail.high), (270.0, 330.0))


class Taken(unittest.TestCase):
    """A limit inside the interval of a reading decides nothing."""

    def outcome(self, check: Check, typed: str, **more: Any) -> Outcome:
        return take_check(check, typed, METER, **more).outcome

    def test_pass_fail_and_cannot_tell(self) -> None:
        earth, insulation = asked()["earth"], asked()["insulation"]
        for check, typed, outcome in (
            (earth, "0.05", Outcome.PASSES), (earth, "0.095", Outcome.UNCLEAR), (earth, "0.2", Outcome.FAILS),
            (insulation, ">60M", Outcome.PASSES), (insulation, "1.05M", Outcome.UNCLEAR), (insulation, "300k", Outcome.FAILS),
        ):  # fmt: skip
            self.assertEqual(self.outcome(check, typed), outcome, typed)
        self.assertEqual(self.outcome(earth, "0.18", lead="0.1"), Outcome.PASSES)

    def test_pins_take_ten_and_the_worst_counts(self) -> None:
        pins = asked(place(Role.X, "1 µF K X2 305 V~"))["pins"]
        self.assertEqual(self.outcome(pins, "12 8 3"), Outcome.UNCLEAR)
        self.assertEqual(self.outcome(pins, "12 8 3 0 22 5 9 14 30 28"), Outcome.PASSES)
        self.assertEqual(self.outcome(pins, "12 V 8 V 51 V"), Outcome.FAILS)

    def test_what_is_typed_beside_it(self) -> None:
        run = asked(place(Role.MOTOR_RUN, "16 µF ±5 % 450 V~"))["run_current:C1"]
        self.assertEqual(self.outcome(run, "3.1 A", against="4.2 A"), Outcome.PASSES)
        self.assertEqual(self.outcome(run, "5.6 A", against="4.2 A"), Outcome.FAILS)
        rail = asked(place(Role.RESERVOIR, "32 µF 500 V"))["rail"]
        self.assertEqual(take_check(rail, "295", Specification(), against="300 V").outcome, Outcome.UNCLEAR)

    def test_bad_input_is_named(self) -> None:
        found = asked(place(Role.MOTOR_RUN, "16 µF ±5 % 450 V~"), place(Role.X, "1 µF X2 305~", "CX1"))
        for key, typed, more, field in (
            ("earth", "many", {}, "value"), ("earth", "-1", {}, "value"), ("earth", "0.1", {"lead": "5"}, "lead"),
            ("starts:C1", "perhaps", {}, "value"), ("run_current:C1", "1 A", {}, "against"),
            ("run_current:C1", "1 A", {"against": "0"}, "against"),
            ("pins", "", {}, "value"), ("pins", "1 " * 400, {}, "value"),
        ):  # fmt: skip
            with self.subTest(key=key, typed=typed), self.assertRaises(InputError) as caught:
                take_check(found[key], typed, METER, **more)
            self.assertEqual(caught.exception.field, field)

    @given(st.floats(1e-3, 10.0), st.floats(1e-3, 1.0))
    def test_a_worse_reading_never_has_a_better_outcome(self, ohm: float, more: float) -> None:
        order = [Outcome.PASSES, Outcome.UNCLEAR, Outcome.FAILS]
        first, second = (self.outcome(asked()["earth"], f"{value:.6f}") for value in (ohm, ohm + more))
        self.assertLessEqual(order.index(first), order.index(second))

    def test_a_soak_runs_on_by_the_clock(self) -> None:
        self.assertEqual((soak_left(30, 600), soak_left(30, 1e6)), (1200.0, 0.0))


class Fitting(unittest.TestCase):
    """Nothing that is easily forgotten is missing from the list."""

    def test_a_can_from_singles(self) -> None:
        can = place(Role.RESERVOIR, "32+32 µF 500 VDC", bleeder=Bleeder(150e3, 2, open=True), balancing_ohm=47e3)
        found = fitting_list(
            can,
            Filling(Way.SINGLES, ("Strap it.",), ("On a terminal strip.",), "1 MΩ across it"),
            (PutBack("red rectifier -> C1.a", ("1",), shared=False),),
            distance="Keep 3 mm.",
            old_can="leave",
            photo=True,
        )
        said = " ".join(line.sentence for line in found)
        for words in ("left for its looks", "tagged", "Strap it.", "red rectifier -> C1.a", "Polarity", "commons",
                      "Bleeder 300 kΩ: a new one", "On a terminal strip.",
                      "Resistor fitted and measured: 1 MΩ across it.", "Balancing resistors 47 kΩ", "Keep 3 mm.",
                       "A photo of the finished place."):  # fmt: skip
            self.assertIn(words, said)
        self.assertEqual(len({line.id for line in found}), len(found))
        self.assertEqual((found[0].id, found[-1].id), (EMPTY, PHOTO))

    def test_a_film_part_has_no_polarity(self) -> None:
        found = fitting_list(place(Role.X, "1 µF X2 305~"), Filling(Way.SINGLE), (), distance="Keep 3 mm.")
        said = " ".join(line.sentence for line in found)
        for words in ("Polarity", "commons", "Bleeder", "photo"):
            self.assertNotIn(words, said)

    def test_a_place_left_empty_asks_for_its_ends_and_one_left_as_it_was_for_nothing(self) -> None:
        x = place(Role.X, "1 µF X2 305~", bleeder=Bleeder(150e3))
        said = [line.id for line in fitting_list(x, Filling(Way.REMOVED), (), distance="Keep 3 mm.")]
        self.assertEqual(said[:3], [EMPTY, "old_out", "tagged"])
        self.assertTrue({"ends", "written"} <= set(said))
        self.assertFalse([key for key in said if key.startswith(("polarity", "bleeder", "strap"))])
        wires = (PutBack("L -> CX1", ("1",), shared=False), PutBack("J3.1 red", ("2",), shared=True))
        found = [
            (line.sentence, line.keys) for line in fitting_list(x, Filling(Way.REMOVED), wires, distance="Keep 3 mm.") if line.keys
        ]
        self.assertEqual(found, [("Wire made off: L -> CX1.", ("1",)), ("Wire back: J3.1 red.", ("2",))])
        for way in (Way.LEFT, Way.ORDERED):
            self.assertEqual(fitting_list(x, Filling(way), (), distance="Keep 3 mm."), ())


class Lasting(unittest.TestCase):
    """The product-limit estimate."""

    def test_the_published_example(self) -> None:
        """Remission times of leukaemia patients on 6-mercaptopurine (Freireich 1963): the textbook example of the estimate."""
        steps = survival([Lasted(w, True) for w in SIX_MP] + [Lasted(w, False) for w in CENSORED])
        shares = {step.years: round(step.share, 3) for step in steps}
        self.assertEqual(shares, {6: 0.857, 7: 0.807, 10: 0.753, 13: 0.690, 16: 0.627, 22: 0.538, 23: 0.448})
        self.assertEqual(round((steps[0].share - steps[0].low) / 1.96, 4), 0.0764)  # Greenwood's standard error
        self.assertEqual(median_life(steps), 23)

    @given(st.lists(st.floats(0.0, 100.0), min_size=1, max_size=30))
    def test_without_censored_parts_it_is_the_share_that_is_left(self, ages: list[float]) -> None:
        for step in survival([Lasted(age, True) for age in ages]):
            self.assertAlmostEqual(step.share, sum(age > step.years for age in ages) / len(ages))

    def test_none_failed_and_an_absurd_age(self) -> None:
        self.assertEqual(survival([Lasted(10, False)]), ())
        self.assertIsNone(median_life(()))
        with self.assertRaises(InputError):
            survival([Lasted(-1, True)])
