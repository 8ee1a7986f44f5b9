"""Power-up: the lamp against worked examples, plans against the circuit engine, and faults told apart at the first steps."""

import itertools
import math
import unittest
from dataclasses import replace
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.circuit import Load
from dusky_heron.core.circuit.rectifier import ReservoirCircuit, steady_state
from dusky_heron.core.errors import InputError
from dusky_heron.core.returning.powerup import KINDS, Lamp, Logged, PowerFinding, choose_lamp, lamp_point, power_up_plan, read_trend
from dusky_heron.core.tables import toml_table

STEPS = (10.0, 25.0, 50.0)


class Lamps(unittest.TestCase):
    """Tungsten: I = I_n (V/V_n)^0.55."""

    def test_worked_examples(self) -> None:
        """100 W at 230 V is 0.435 A at full voltage, half of it 0.435 · 0.5^0.55 = 0.297 A; cold a twelfth of 529 Ω is 44.1 Ω."""
        lamp = Lamp(100.0, 230.0)
        self.assertAlmostEqual(lamp.current(230.0), 0.4348, places=4)
        self.assertAlmostEqual(lamp.current(115.0), 0.4348 * 0.5**0.55, places=4)
        self.assertAlmostEqual(1e-3 / lamp.current(1e-3), 529 / 12, places=3)
        self.assertEqual(lamp.current(0.0), 0.0)

    def test_a_short_lights_it_fully_and_nothing_more_than_its_own_current_flows(self) -> None:
        for watts in (25.0, 60.0, 200.0):
            short = lamp_point(Lamp(watts, 230.0), 230.0, None)
            self.assertAlmostEqual(short.current_a, watts / 230, places=6)
            self.assertEqual((short.load_v, short.glow), (0.0, "full"))

    @given(st.floats(15, 500), st.floats(5, 2000), st.sampled_from([115.0, 230.0]))
    def test_kirchhoff_and_ohm_hold_at_the_point(self, watts: float, load_w: float, volts: float) -> None:
        lamp, load = Lamp(watts, volts), Load(resistance_ohm=volts**2 / load_w)
        found = lamp_point(lamp, volts, load)
        self.assertAlmostEqual(found.lamp_v + found.load_v, volts, places=6)
        self.assertAlmostEqual(found.current_a, found.load_v / load.resistance_ohm, places=5)  # type: ignore[operator]
        self.assertAlmostEqual(found.current_a, lamp.current(found.lamp_v), places=6)

    @given(st.floats(1, 300))
    def test_a_larger_load_leaves_less_voltage_and_more_glow(self, load_w: float) -> None:
        lamp = Lamp(100.0, 230.0)
        less, more = (lamp_point(lamp, 230.0, Load(resistance_ohm=230**2 / w)) for w in (load_w, load_w * 1.2))
        self.assertGreater(less.load_v, more.load_v)
        self.assertLess(less.share, more.share)

    def test_a_switching_supply_hangs_at_low_voltage_behind_a_lamp_too_small(self) -> None:
        """Constant power of 60 W down to 60 V through 60 W: the lamp cannot give what it asks for; 500 W can."""
        load = Load(power_w=60.0, knee_v=60.0)
        self.assertLess(lamp_point(Lamp(60.0, 230.0), 230.0, load).load_v, 100)
        self.assertGreater(lamp_point(Lamp(500.0, 230.0), 230.0, load).load_v, 200)

    def test_the_lamp_chosen_takes_less_than_a_tenth_and_the_next_smaller_does_not(self) -> None:
        watts = toml_table("power_up")["lamp"]["watts"]
        for standby in (2.0, 8.0, 20.0, 40.0):
            chosen = choose_lamp(230.0, standby)
            assert chosen
            self.assertLess(chosen.healthy.lamp_v, 23.0)
            smaller = [w for w in watts if w < chosen.lamp.rated_w]
            if smaller:
                self.assertGreaterEqual(
                    lamp_point(Lamp(smaller[-1], 230.0), 230.0, Load(resistance_ohm=230**2 / standby)).lamp_v, 23.0
                )
            self.assertAlmostEqual(chosen.shorted.current_a, chosen.lamp.rated_w / 230, places=6)
        self.assertIsNone(choose_lamp(230.0, 2000.0))
        for volts, standby in ((math.nan, 5.0), (230.0, 0.0), (230.0, -1.0), (230.0, math.inf)):
            self.assertRaises(InputError, choose_lamp, volts, standby)


class Plans(unittest.TestCase):
    """What to expect at each step."""

    def test_by_kind(self) -> None:
        linear = power_up_plan("linear", rail_v=300.0, current_a=0.2)
        self.assertEqual([step.percent for step in linear], [10, 25, 50, 75, 90, 100])
        self.assertEqual([step.rail_v for step in linear], [30, 75, 150, 225, 270, 300])
        self.assertAlmostEqual(linear[2].stop_a or 0, 0.15)
        valve = power_up_plan("valve", rail_v=300.0, current_a=0.2)
        self.assertEqual([step.rail_v for step in valve], [0, 0, 0, 225, 270, 300])
        for kind in ("smps", "motor"):
            self.assertEqual([step.percent for step in power_up_plan(kind, rail_v=None, current_a=None)], [100])
            self.assertIn("No slow ramp", KINDS[kind]["says"])

    def test_a_ramp_on_a_switching_supply_and_other_nonsense_is_refused(self) -> None:
        for field, given_ in (
            ("steps", {"kind": "smps", "percents": [25.0, 100.0]}), ("steps", {"kind": "linear", "percents": [50.0, 25.0]}),
            ("steps", {"kind": "linear", "percents": [0.0]}), ("steps", {"kind": "linear", "percents": [math.nan]}),
            ("kind", {"kind": "steam"}), ("rail", {"kind": "linear", "rail_v": -1.0}),
            ("current", {"kind": "linear", "current_a": 0.0}),
        ):  # fmt: skip
            with self.assertRaises(InputError) as caught:
                power_up_plan(**({"rail_v": None, "current_a": None} | given_))
            self.assertEqual(caught.exception.field, field)

    def test_in_proportion_is_what_the_engine_says_of_a_resistive_load(self) -> None:
        """Within the diode drops."""
        circuit = ReservoirCircuit("full_wave", 250.0, 50.0, 50.0, 32e-6, 1.0, Load(resistance_ohm=5000.0))
        full = steady_state(circuit)
        plan = power_up_plan("linear", rail_v=full.output_v, current_a=None)
        for step in plan:
            found = steady_state(replace(circuit, secondary_v=250.0 * step.percent / 100))
            self.assertAlmostEqual(found.output_v / (step.rail_v or 1), 1.0, delta=0.05)


class FirstSteps(unittest.TestCase):
    """A healthy, a shorted and a leaky load, simulated at 10, 25 and 50 %, are told apart there."""

    HEALTHY = ReservoirCircuit("full_wave", 250.0, 50.0, 50.0, 32e-6, 1.0, Load(resistance_ohm=5000.0))

    def read(self, percent: float, across_ohm: float | None) -> Logged:
        """The rail and the mean current out of the rectifier, with something across the rail."""
        load = Load(resistance_ohm=5000.0 if across_ohm is None else 1 / (1 / 5000.0 + 1 / across_ohm))
        circuit = replace(self.HEALTHY, secondary_v=250.0 * percent / 100, load=load)
        rail = steady_state(circuit).output_v
        return Logged(percent, rail, load.current_at(rail))

    def trends(self, leak: Any) -> list[PowerFinding]:
        full = steady_state(self.HEALTHY).output_v
        plan = power_up_plan("linear", rail_v=full, current_a=full / 5000.0)
        log = [self.read(percent, leak(percent)) for percent in STEPS]
        return [read_trend(plan, log[: k + 1]).finding for k in range(len(log))]

    def test_told_apart(self) -> None:
        self.assertEqual(self.trends(lambda _: None), [PowerFinding.AS_EXPECTED] * 3)
        self.assertEqual(self.trends(lambda _: 2.0)[0], PowerFinding.SHORT)
        leaky = self.trends(lambda percent: 2e5 / (1 + percent**2 / 15))  # an old electrolytic: leakage grows with voltage
        self.assertEqual(leaky[0], PowerFinding.AS_EXPECTED)
        self.assertIn(PowerFinding.LEAKY, leaky)

    def test_a_valve_that_begins_to_conduct_is_no_leak(self) -> None:
        """The heater alone up to half, 0.6 of 0.1 A as V^0.6: 15, 26 and 40 mA; then the load besides, at 75 % 50 + 30 mA."""
        plan = power_up_plan("valve", rail_v=300.0, current_a=0.1)
        for step, expected in zip(plan, (0.01507, 0.02612, 0.03959, 0.08049, 0.09232, 0.1), strict=True):
            self.assertAlmostEqual(step.current_a or 0, expected, places=5)
        log = [Logged(10.0, 0.0, 0.0155), Logged(25.0, 0.0, 0.025), Logged(50.0, 0.0, 0.039), Logged(75.0, 221.0, 0.078)]
        self.assertEqual([read_trend(plan, log[: k + 1]).finding for k in range(4)], [PowerFinding.AS_EXPECTED] * 4)
        self.assertEqual(read_trend(plan, [*log, Logged(90.0, 20.0, 0.19)]).finding, PowerFinding.SHORT)

    def test_open_not_settling_and_nothing_read(self) -> None:
        plan = power_up_plan("linear", rail_v=300.0, current_a=0.1)
        self.assertEqual(read_trend(plan, []).finding, PowerFinding.TOO_FEW)
        self.assertEqual(read_trend(plan, [Logged(25.0, 0.0, 0.0)]).finding, PowerFinding.NOTHING)
        self.assertEqual(read_trend(plan, [Logged(25.0, 75.0, 0.025, 0.034)]).finding, PowerFinding.RISING)
        self.assertFalse(read_trend(plan, [Logged(25.0, 75.0, 0.025, 0.025)]).stop)
        self.assertRaises(InputError, read_trend, plan, [Logged(math.nan, 1.0, 1.0)])

    def test_a_rail_is_judged_both_ways_just_below_at_and_above(self) -> None:
        """300 V at full: ±15 % and 2 V for drops is 253 to 347 V; at a quarter 61.75 to 88.25 V."""
        plan = power_up_plan("linear", rail_v=300.0, current_a=0.1)
        for percent, rail, finding in (
            (100.0, 450.0, PowerFinding.HIGH), (100.0, 347.5, PowerFinding.HIGH), (100.0, 347.0, PowerFinding.AS_EXPECTED),
            (100.0, 253.0, PowerFinding.AS_EXPECTED), (100.0, 252.5, PowerFinding.LOW), (25.0, 88.5, PowerFinding.HIGH),
            (25.0, 88.0, PowerFinding.AS_EXPECTED), (25.0, 62.0, PowerFinding.AS_EXPECTED), (25.0, 61.5, PowerFinding.LOW),
        ):  # fmt: skip
            found = read_trend(plan, [Logged(percent, rail, percent / 1000)])
            self.assertEqual((found.finding, found.stop), (finding, finding != PowerFinding.AS_EXPECTED), (percent, rail))

    def test_a_rail_where_none_was_due_and_no_current_where_some_was(self) -> None:
        valve = power_up_plan("valve", rail_v=300.0, current_a=0.1)
        for rail, finding in ((9.5, PowerFinding.AS_EXPECTED), (10.5, PowerFinding.HIGH), (150.0, PowerFinding.HIGH)):
            self.assertEqual(read_trend(valve, [Logged(50.0, rail, 0.04)]).finding, finding)
        motor = power_up_plan("motor", rail_v=None, current_a=4.0)
        for ampere, finding in (
            (0.0, PowerFinding.NOTHING), (1.6, PowerFinding.NOTHING), (1.8, PowerFinding.LESS), (3.39, PowerFinding.LESS),
            (3.41, PowerFinding.AS_EXPECTED), (4.59, PowerFinding.AS_EXPECTED), (4.61, PowerFinding.MORE),
            (5.99, PowerFinding.MORE), (6.01, PowerFinding.LEAKY),
        ):  # fmt: skip
            found = read_trend(motor, [Logged(100.0, None, ampere)])
            self.assertEqual((found.finding, found.stop), (finding, finding != PowerFinding.AS_EXPECTED), ampere)
        for kind in ("motor", "magnetron", "smps"):
            unknown = power_up_plan(kind, rail_v=None, current_a=None)
            self.assertEqual(read_trend(unknown, [Logged(100.0, None, 0.0)]).finding, PowerFinding.NOTHING, kind)
            self.assertFalse(read_trend(unknown, [Logged(100.0, None, 0.1)]).stop, kind)

    def test_a_rail_as_expected_without_its_current_is_less_than_expected(self) -> None:
        found = read_trend(power_up_plan("linear", rail_v=300.0, current_a=0.1), [Logged(50.0, 150.0, 0.0)])
        self.assertEqual((found.finding, found.stop), (PowerFinding.LESS, True))

    def test_a_step_at_which_nothing_due_was_read_is_not_as_expected(self) -> None:
        plan = power_up_plan("linear", rail_v=300.0, current_a=0.1)
        for rail, current, stop in ((None, None, True), (300.0, None, False), (None, 0.1, False)):
            self.assertEqual(read_trend(plan, [Logged(100.0, rail, current)]).stop, stop, (rail, current))
        for rail, current in ((math.nan, 0.1), (300.0, math.inf), (300.0, math.nan)):
            self.assertRaises(InputError, read_trend, plan, [Logged(100.0, rail, current)])

    def test_each_kind_by_what_its_place_is(self) -> None:
        """A motor is off within 3 s; nothing is laid on a magnetron's rail; a store is charged in steps, its current falling."""
        self.assertEqual([step.dwell_s for step in power_up_plan("motor", rail_v=None, current_a=4.0)], [3.0])
        self.assertEqual([step.rail_v for step in power_up_plan("magnetron", rail_v=2000.0, current_a=5.0)], [None])
        store = power_up_plan("store", rail_v=330.0, current_a=0.1)
        self.assertEqual((store[0].percent, store[0].rail_v, store[0].current_a), (25.0, 82.5, None))
        self.assertEqual([kind for kind, row in KINDS.items() if not row.get("lamp", True)], ["store", "magnetron", "motor"])

    @given(st.floats(0.02, 5), st.floats(0.3, 2.5))
    def test_the_exponent_is_that_of_a_power_law(self, scale: float, power: float) -> None:
        plan = power_up_plan("linear", rail_v=None, current_a=None)
        log = [Logged(percent, None, scale * (percent / 100) ** power) for percent in STEPS]
        found = read_trend(plan, log)
        self.assertAlmostEqual(found.exponent or 0, power, places=6)
        self.assertEqual(found.stop, power > toml_table("power_up")["steep"])

    def test_every_finding_that_stops_says_off_or_look(self) -> None:
        plan = power_up_plan("linear", rail_v=300.0, current_a=0.1)
        for rail, current in itertools.product((0.0, 20.0, 75.0), (0.0, 0.02, 0.2)):
            found = read_trend(plan, [Logged(25.0, rail, current)])
            if found.stop:
                self.assertRegex(found.sentence, "Off|look|fuse")
