"""Supplies: bulk, series strings, hum, re-forming, and the walk from the inlet."""

import math
import unittest
from collections.abc import Callable
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.ageing.reforming import forming_resistor, judge_forming, plan_forming
from dusky_heron.core.circuit import Load
from dusky_heron.core.circuit.bulk import BulkSupply, bulk_courses, bulk_state, needed_bulk
from dusky_heron.core.circuit.growing import growth
from dusky_heron.core.circuit.hum import FAULTS, Heard, rank_hum
from dusky_heron.core.circuit.rectifier import ReservoirCircuit, output_course, steady_state, surge_course, switch_on
from dusky_heron.core.circuit.supply_walk import WalkParts, walk_supply, walk_symptoms
from dusky_heron.core.discharge.series_string import share_string
from dusky_heron.core.errors import InputError
from tests import loose, some

LAMPS = BulkSupply("bridge", 230, 50, 82e-6, 60, 0.8, 200, 5, 0.5)
ORGAN = ReservoirCircuit("full_wave", 300, 50, 150, 32e-6, 20, Load(resistance_ohm=4700))


STEP_S = 2e-6


def followed(
    peak_v: float,
    hertz: float,
    ohms: float,
    farads: float,
    drop_v: float,
    amps: Callable[[float], float],
    end_s: float,
    *,
    start_s: float = 0.0,
    volts: float = 0.0,
) -> tuple[list[float], list[float]]:
    """A full-wave rectifier by the plainest steps there are: the reservoir's volts and the current into it, every 2 µs."""
    rail, flows = [], []
    for k in range(round(end_s / STEP_S)):
        behind = peak_v * abs(math.sin(math.tau * hertz * (start_s + k * STEP_S))) - drop_v
        flow = max(behind - volts, 0.0) / ohms
        rail.append(volts)
        flows.append(flow)
        volts += (flow - amps(volts)) * STEP_S / farads
    return rail, flows


class Courses(unittest.TestCase):
    """What is drawn, against a simulation that shares nothing with it."""

    def test_the_rail_of_a_bulk_over_a_cycle(self) -> None:
        """75 W from 82 µF behind 0.3 Ω and a hot NTC of 0.5 Ω at 207 V: the tenth cycle, within half a volt everywhere."""
        course, found = bulk_courses(LAMPS).rail, bulk_state(LAMPS)
        rail, _ = followed(207 * math.sqrt(2), 50, 0.8, 82e-6, 1.8, lambda v: 75 / max(v, 100.0), 0.2, volts=280.0)
        last = rail[-round(0.02 / STEP_S):]  # fmt: skip
        for seconds, volts in zip(course.seconds, course.values, strict=True):
            self.assertAlmostEqual(volts, last[min(round(seconds / STEP_S), len(last) - 1)], delta=0.5)
        self.assertAlmostEqual(course.seconds[-1], 0.02)
        self.assertAlmostEqual(min(course.values), found.valley_v, delta=1.0)
        self.assertAlmostEqual(max(course.values) - min(course.values), found.ripple_v, delta=2.0)

    def test_the_surge_of_a_bulk_cold_and_hot(self) -> None:
        """From the peak of 253 V through 5.3 Ω and 0.8 Ω into an empty bulk, its load not begun."""
        courses = bulk_courses(LAMPS)
        for course, ohms in ((courses.surge, 5.3), (courses.surge_hot, 0.8)):
            with self.subTest(ohms):
                _, flows = followed(
                    253 * math.sqrt(2), 50, ohms, 82e-6, 1.8, lambda v: 75 / v if v > 100 else 0.0, 0.01 + STEP_S, start_s=0.005
                )
                for seconds, amps in zip(course.seconds, course.values, strict=True):
                    self.assertAlmostEqual(amps, flows[round(seconds / STEP_S)], delta=0.02 * flows[0])
                self.assertAlmostEqual(course.seconds[-1], 0.01)

    def test_every_rectifier_is_drawn_as_it_is_told(self) -> None:
        for topology in ("full_wave", "half_wave", "bridge", "doubler"):
            with self.subTest(topology):
                circuit = replace(ORGAN, topology=topology)
                course, found = output_course(circuit), steady_state(circuit)
                self.assertAlmostEqual(min(course.values), found.valley_v, delta=0.02 * found.output_v)
                self.assertAlmostEqual(max(course.values), found.valley_v + found.ripple_v, delta=0.02 * found.output_v)
                self.assertAlmostEqual(course.values[0], course.values[-1], delta=1e-3 * found.output_v)
                self.assertAlmostEqual(course.seconds[-1], 0.02)
                surge = surge_course(circuit)
                self.assertAlmostEqual(surge.values[0], switch_on(circuit).peak_a)
                self.assertGreaterEqual(min(surge.values), 0)


class Bulk(unittest.TestCase):
    """The ticket-gate lamp supply: 82 µF, 60 W out, 75 W in."""

    def test_valley_follows_the_energy_taken_between_two_peaks(self) -> None:
        """V² falls by 2·P·t/C; at most 10 ms at 75 W from the peak of 207 V less the bridge, 291 V: 258 V or above."""
        found = bulk_state(LAMPS)
        least = math.sqrt((207 * math.sqrt(2) - 1.8) ** 2 - 2 * 75 * 0.01 / 82e-6)
        self.assertTrue(least < found.valley_v < 285)
        self.assertTrue(found.runs)

    def test_hold_up_is_the_energy_above_the_least_voltage(self) -> None:
        """C(V² − 200²)/(2P)."""
        found = bulk_state(LAMPS)
        self.assertAlmostEqual(found.hold_up_s, 82e-6 * (found.valley_v**2 - 200**2) / 150, places=9)
        self.assertFalse(found.outlasts_cycle)
        self.assertTrue(bulk_state(replace(LAMPS, bulk_f=330e-6)).outlasts_cycle)

    def test_a_faded_bulk_restarts_and_what_it_needs_is_told(self) -> None:
        needed = needed_bulk(LAMPS)
        self.assertFalse(bulk_state(replace(LAMPS, bulk_f=some(needed) * 0.95)).runs)
        self.assertTrue(bulk_state(replace(LAMPS, bulk_f=some(needed) * 1.05)).runs)
        self.assertIsNone(needed_bulk(replace(LAMPS, least_v=320)))  # above the peak nothing helps

    def test_the_ntc_limits_a_cold_start_only(self) -> None:
        """(253·√2 − 1.8)/(0.3 + 5 Ω) = 67 A cold, (…)/(0.3 + 0.5) = 445 A re-plugged hot."""
        found = bulk_state(LAMPS)
        self.assertAlmostEqual(found.inrush_a, (253 * math.sqrt(2) - 1.8) / 5.3, places=6)
        self.assertAlmostEqual(found.inrush_hot_a, (253 * math.sqrt(2) - 1.8) / 0.8, places=6)

    def test_bad_input(self) -> None:
        for field, value in (
            ("topology", "ring"),
            ("output_w", -1),
            ("efficiency", 0),
            ("least_v", math.nan),
            ("ntc_cold_ohm", -1),
        ):
            with self.assertRaises(InputError) as caught:
                bulk_state(replace(LAMPS, **loose({field: value})))
            self.assertEqual(caught.exception.field, field)


class Strings(unittest.TestCase):
    """Two 1500 µF in series on a 400 V drive's link."""

    def test_shares_of_a_worked_example(self) -> None:
        """1500 and 1200 µF at 700 V: 311 and 389 V at first; with 47 kΩ, 1 and 0.4 mA: 350 ∓ 47k · 0.3 mA = 335.9, 364.1 V."""
        found = share_string((1500e-6, 1200e-6), (1e-3, 0.4e-3), 47e3, 700)
        self.assertEqual([round(v) for v in found.first_v], [311, 389])
        self.assertEqual([round(v, 1) for v in found.settled_v], [335.9, 364.1])
        self.assertEqual(found.over(385), (False, True))
        self.assertEqual(found.over(400), (False, False))
        self.assertAlmostEqual(some(found.most_ohm), 350 / (10 * 0.6e-3))
        self.assertAlmostEqual(found.loss_w[0], 335.9**2 / 47e3, places=3)
        self.assertAlmostEqual(found.discharge_s, 47e3 * 1500e-6 * math.log(335.9 / 5), places=1)

    @given(st.lists(st.tuples(st.floats(1e-6, 1e-2), st.floats(0, 5e-3)), min_size=2, max_size=6), st.floats(1e3, 1e6))
    def test_the_shares_add_up(self, parts: list[tuple[float, float]], ohms: float) -> None:
        farads, leaks = zip(*parts, strict=True)
        found = share_string(farads, leaks, ohms, 800)
        self.assertAlmostEqual(sum(found.first_v), 800, places=6)
        self.assertAlmostEqual(sum(found.settled_v), 800, delta=1e-6 * ohms)
        charges = [c * v for c, v in zip(farads, found.first_v, strict=True)]  # one charge through all
        self.assertAlmostEqual(max(charges) / min(charges), 1, places=9)

    def test_bad_input(self) -> None:
        for farads, leaks, ohms, volts, field in (
            ((1e-6,), (0,), 1e3, 100, "capacitances_f"), ((1e-6, 1e-6), (0,), 1e3, 100, "leakages_a"),
            ((1e-6, 0), (0, 0), 1e3, 100, "capacitances_f"), ((1e-6, 1e-6), (0, -1), 1e3, 100, "leakages_a"),
            ((1e-6, 1e-6), (0, 0), 0, 100, "balance_ohm"), ((1e-6, 1e-6), (0, 0), 1e3, math.inf, "total_v"),
        ):  # fmt: skip
            with self.assertRaises(InputError) as caught:
                share_string(farads, leaks, ohms, volts)
            self.assertEqual(caught.exception.field, field)


class Hum(unittest.TestCase):
    """What ripple, its frequency and the output say of the organ's supply."""

    def first(self, circuit: ReservoirCircuit, **changed: float) -> tuple[str, ...]:
        found = steady_state(circuit)
        hertz = 50 if circuit.topology == "half_wave" else 100
        read = {"output_v": found.output_v, "ripple_v": found.ripple_v, "ripple_hz": hertz} | changed
        return rank_hum(ORGAN, Heard(**read)).suspects[0].ids

    def test_each_fault_is_known_by_its_marks(self) -> None:
        for fault in FAULTS:
            size = 1.0 if fault.low == fault.high else {"more_load": 1.0, "rectifier_worn": 4, "less_load": 0.3}.get(fault.id, 0.5)
            with self.subTest(fault.id):
                self.assertIn(fault.id, self.first(some(fault.change(ORGAN, size))))
        self.assertIn("none", self.first(ORGAN))

    def test_ripple_at_the_mains_frequency_of_a_full_wave_is_a_missing_half(self) -> None:
        ranking = rank_hum(ORGAN, Heard(ripple_hz=50))
        self.assertEqual(ranking.suspects[0].ids, ("diode_open",))

    def test_growing_the_reservoir_takes_ripple_and_adds_heat(self) -> None:
        points = growth(ORGAN, 100e-6)
        self.assertEqual([p.ripple_v for p in points], sorted((p.ripple_v for p in points), reverse=True))
        self.assertEqual([p.surge_a2s for p in points], sorted(p.surge_a2s for p in points))
        self.assertGreater(points[-1].reservoir_f, 100e-6)

    def test_bad_input(self) -> None:
        for heard, field in ((Heard(), "heard"), (Heard(ripple_v=-1), "ripple_v"), (Heard(ripple_hz=0), "ripple_hz")):
            with self.assertRaises(InputError) as caught:
                rank_hum(ORGAN, heard)
            self.assertEqual(caught.exception.field, field)


class Reforming(unittest.TestCase):
    """32 µF 500 V that has lain for years."""

    def test_plan_of_a_worked_example(self) -> None:
        """A quarter of 2 · (0.02·32·125 + 25) = 210 µA at 125 V, and a twentieth of that step is 6.25 V: 119 kΩ, so 110.

        The next follows below 6.25 V / 110 kΩ = 56.8 µA; at 500 V below 227 µA, where 759 would be good in service.
        """
        ohms = forming_resistor(32e-6, 500)
        plan = plan_forming(32e-6, 500, ohms)
        self.assertEqual([step.source_v for step in plan.steps], [125, 250, 375, 450, 500])
        self.assertEqual(ohms, 110e3)
        self.assertAlmostEqual(plan.steps[0].leakage_a * 1e6, 6.25 / 0.11)
        self.assertAlmostEqual(plan.steps[-1].leakage_a * 1e6, 25 / 0.11)
        self.assertAlmostEqual(plan_forming(32e-6, 500, 10e3).steps[-1].leakage_a * 1e6, 6 * math.sqrt(16000))
        self.assertAlmostEqual(plan.steps[-1].across_v, 25)
        self.assertAlmostEqual(plan.short_w, 500**2 / 110e3)
        self.assertEqual(forming_resistor(1e-6, 100), 10e3)  # small: 100² for one watt decides
        self.assertGreaterEqual(plan.seconds, 5 * 600)

    def test_a_log_says_next_wait_or_stop(self) -> None:
        tau = 250e3 * 32e-6
        good = [(t, 125 * (1 - math.exp(-t / tau))) for t in (5, 10, 20, 30)]
        self.assertEqual(judge_forming(good, 125, 250e3, 32e-6).word, "next")
        self.assertEqual(judge_forming(good[:2], 125, 250e3, 32e-6).word, "wait")
        stuck = [(t, 80.0) for t in (60, 300, 600, 900)]
        self.assertEqual(judge_forming(stuck, 125, 250e3, 32e-6).word, "stop")
        falling = [(60, 60.0), (300, 80.0), (600, 95.0), (900, 105.0)]
        self.assertEqual(judge_forming(falling, 125, 250e3, 32e-6).word, "wait")
        self.assertEqual(judge_forming(good, 125, 250e3, 32e-6, warm=True).word, "stop")  # whatever it reads
        self.assertEqual(judge_forming([], 125, 250e3, 32e-6).word, "too_few")

    def test_nothing_is_formed_to_a_voltage_it_never_saw(self) -> None:
        """1500 µF through 10 kΩ: 4.6 mA would be allowed at 400 V, and stand as 46 V. Within a twentieth it stands at 380."""
        for volts, word in ((355.0, "wait"), (379.0, "wait"), (381.0, "next")):
            self.assertEqual(judge_forming([(0, 100.0), (900, volts)], 400, 10e3, 1500e-6).word, word, volts)

    def test_what_charges_it_is_no_leakage(self) -> None:
        """32 µF from 118 to 120 V in 10 s is 6.4 µA of charging; (125 − 119)/29 kΩ = 207 µA flow, so 200 leak."""
        found = judge_forming([(0, 118.0), (10, 120.0)], 125, 29e3, 32e-6)
        self.assertAlmostEqual((found.leakage_a or 0) * 1e6, min(5 / 29e3 * 1e6, 6 / 29e3 * 1e6 - 6.4), places=6)
        charging = judge_forming([(0, 100.0), (10, 110.0)], 125, 29e3, 32e-6)
        self.assertAlmostEqual((charging.leakage_a or 0) * 1e6, 15 / 29e3 * 1e6)  # never more than flows at last

    def test_one_that_was_left_goes_on_where_it_stands(self) -> None:
        """Its source off overnight it falls from 122 to 30 V: no rising leakage, and it may come up again; within minutes it is."""
        before = [(0.0, 60.0), (300.0, 115.0), (600.0, 122.0)]
        self.assertEqual(judge_forming([*before, (40000.0, 30.0)], 125, 29e3, 32e-6).word, "wait")
        self.assertEqual(judge_forming([*before, (40000.0, 30.0), (40300.0, 123.0)], 125, 29e3, 32e-6).word, "next")
        self.assertEqual(judge_forming([*before, (40000.0, 90.0), (40300.0, 80.0)], 125, 29e3, 32e-6).word, "stop")
        self.assertEqual(judge_forming([*before, (1400.0, 30.0)], 125, 29e3, 32e-6).word, "stop")

    def test_it_is_given_up_only_after_four_readings_and_ten_minutes(self) -> None:
        for samples, word in (
            ([(60, 80.0), (400, 80.0), (900, 80.0)], "wait"),
            ([(60, 80.0), (120, 80.0), (300, 80.0), (659, 80.0)], "wait"),
            ([(60, 80.0), (120, 80.0), (300, 80.0), (661, 80.0)], "stop"),
        ):
            self.assertEqual(judge_forming(samples, 125, 150e3, 32e-6).word, word, samples)

    def test_one_that_falls_back_is_stopped(self) -> None:
        for last, word in ((123.0, "next"), (121.5, "stop"), (90.0, "stop")):
            self.assertEqual(judge_forming([(0, 60.0), (300, 123.0), (600, last)], 125, 150e3, 32e-6).word, word, last)

    def test_every_usual_can_has_a_plan_through_its_resistor(self) -> None:
        for micro in (1, 4.7, 10, 32, 82, 220, 470, 1500, 4700, 22000):
            for volts in (16, 25, 63, 100, 250, 400, 450, 500):
                ohm = forming_resistor(micro * 1e-6, volts)
                for step in plan_forming(micro * 1e-6, volts, ohm).steps:
                    self.assertLessEqual(step.leakage_a * ohm, 0.0501 * step.source_v, (micro, volts))

    def test_bad_input(self) -> None:
        for samples in ([(1, 5), (1, 6)], [(0, 200)], [(0, -1)], [(math.nan, 1)]):
            with self.assertRaises(InputError) as caught:
                judge_forming(samples, 125, 250e3, 32e-6)
            self.assertEqual(caught.exception.field, "samples")
        with self.assertRaises(InputError) as caught:
            plan_forming(32e-6, 500, 50e6)
        self.assertEqual(caught.exception.field, "resistance_ohm")


class WalkNotations(unittest.TestCase):
    """The notations of every other reading: OL, O.L, dashes, beyond a range."""

    def test_open_and_beyond(self) -> None:
        for typed, found in (("OL", "high"), ("o.l", "high"), ("---", "high"), (">100", "high"), ("0.3", "as_expected")):
            walk = walk_supply("fuse_blown", WalkParts(), {"fuse": typed})
            self.assertEqual(next(check.found for check in walk.checks if check.id == "fuse"), found, typed)
        with self.assertRaises(InputError) as caught:
            walk_supply("fuse_blown", WalkParts(), {"mov": ">20k"})
        self.assertEqual(caught.exception.field, "mov")


class Walk(unittest.TestCase):
    """From the inlet, each answer narrowing what is left."""

    PARTS = WalkParts(ntc_ohm=5, bleed_ohm=1e6, choke_ohm=0.5, bulk_f=82e-6)

    def test_a_blown_fuse_leads_to_what_is_shorted_and_what_it_takes_along(self) -> None:
        walk = walk_supply("fuse_blown", self.PARTS, {"fuse": "OL"})
        self.assertEqual(walk.next_id, "mov")
        readings = {"fuse": "OL", "mov": "OL", "x": "980k", "bridge": "0.02"}
        walk = walk_supply("fuse_blown", self.PARTS, readings)
        self.assertEqual((walk.next_id, walk.left), ("switch", ("Switch", "Bulk capacitor, leakage")))
        done = walk_supply("fuse_blown", self.PARTS, readings | {"switch": "1M", "bulk_leak": "400k"})
        self.assertIsNone(done.next_id)
        self.assertEqual(len(done.suspects), 2)
        self.assertIn("lamp", done.says)

    def test_expected_readings_come_from_the_parts(self) -> None:
        told = {check.id: check for check in walk_supply("restarts", self.PARTS, {"bulk": "60u", "ntc": "5.5"}).checks}
        self.assertEqual(told["bulk"].expected, "more than 65.6 µF")  # −20 %
        self.assertEqual((told["bulk"].found, told["ntc"].found), ("low", "as_expected"))
        self.assertEqual(told["ntc"].expected, "3 Ω to 7 Ω")

    def test_every_walk_ends_in_suspects_or_behind_the_bulk(self) -> None:
        good = {"fuse": "0.1", "ntc": "5", "mov": "OL", "x": "1M", "choke": "0.5", "bridge": "0.5", "switch": "2M",
                "bulk": "82u", "bulk_leak": "1M", "rail": "500"}  # fmt: skip
        bad = {"fuse": "OL", "ntc": "OL", "mov": "3", "x": "2", "choke": "OL", "bridge": "OL", "switch": "1", "bulk": "20u",
               "bulk_leak": "10", "rail": "0.5"}  # fmt: skip
        for symptom in walk_symptoms():
            readings: dict[str, str] = {}
            while next_id := walk_supply(symptom, self.PARTS, readings).next_id:
                self.assertNotIn(next_id, readings)
                readings[next_id] = good[next_id]
            self.assertFalse(walk_supply(symptom, self.PARTS, readings).suspects)
            self.assertTrue(walk_supply(symptom, self.PARTS, readings).says)
            for check in readings:
                walk = walk_supply(symptom, self.PARTS, readings | {check: bad[check]})
                with self.subTest(symptom=symptom, check=check):
                    self.assertEqual(len(walk.suspects), 1)

    def test_bad_input(self) -> None:
        for symptom, readings, field in (
            ("ring", {}, "symptom"),
            ("dead", {"ntc": "many"}, "ntc"),
            ("hum", {"bulk": "5 V"}, "bulk"),
        ):
            with self.assertRaises(InputError) as caught:
                walk_supply(symptom, WalkParts(), readings)
            self.assertEqual(caught.exception.field, field)
