"""Energy, hazard bands, planning voltage, discharge times and tools, from worked examples and conservation."""

import math
import unittest
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.discharge.energy import classify, stored_energy, touch_limit
from dusky_heron.core.discharge.falling import time_to
from dusky_heron.core.discharge.limits import working_limit
from dusky_heron.core.discharge.planning import plan_charge
from dusky_heron.core.discharge.search import rank_tools
from dusky_heron.core.discharge.tools import Construction, Resistor, Shape, judge_tool, pulse_limit
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Role
from tests import some

FARADS = st.floats(1e-12, 10)
VOLTS = st.floats(0.1, 10_000)
PUMP = plan_charge(read_marking("16 µF ±5 % 450 V~"), role=Role.MOTOR_RUN, supply_v=230)
LIMIT = working_limit(None, 16e-6, 636)


def wirewound(ohm: float, watts: float = 25, volts: float = 1000) -> Resistor:
    return Resistor("r", f"{ohm:g}", ohm, 0.05, watts, Construction.WIREWOUND, volts)


class Energy(unittest.TestCase):
    """E = ½CV² and what it does."""

    def test_worked_examples(self) -> None:
        self.assertAlmostEqual(stored_energy(1e-6, 1000), 0.5)
        self.assertAlmostEqual(stored_energy(4320e-6, 360), 279.936)

    def test_es1_at_and_between_the_points(self) -> None:
        for nanofarad, volts in ((300, 60), (1000, 60), (170, 75), (4, 1000), (1, 1000), (235, 67.5), (6, 750)):
            self.assertAlmostEqual(touch_limit(nanofarad * 1e-9), volts)

    def test_bands(self) -> None:
        cases = {
            "below_touch": [(16e-6, 60), (1e-9, 900)],
            "startle": [(100e-9, 358), (1e-6, 70), (1e-6, 400)],
            "injury": [(16.8e-6, 636), (10e-3, 90), (10e-6, 500)],
            "lethal": [(1200e-6, 360), (200e-6, 400)],
            "lethal_blast": [(4320e-6, 360)],
            "arc": [(1.5e-3, 1200)],
            "burn": [(1.0, 24), (1.0, 50)],
        }
        for band, charges in cases.items():
            for farads, volts in charges:
                with self.subTest(band=band, farads=farads, volts=volts):
                    self.assertEqual(classify(farads, volts).band, band)

    @given(FARADS, VOLTS)
    def test_more_voltage_never_lowers_the_energy_and_every_charge_has_a_band(self, farads: float, volts: float) -> None:
        hazard = classify(farads, volts)
        self.assertAlmostEqual(hazard.energy_j, hazard.charge_c * volts / 2, delta=1e-9 * hazard.energy_j)
        self.assertLess(hazard.energy_j, classify(farads, volts * 1.1).energy_j)

    def test_out_of_range_names_its_field(self) -> None:
        for farads, volts, field in (
            (0, 1, "capacitance_f"),
            (math.nan, 1, "capacitance_f"),
            (1e-6, -1, "voltage_v"),
            (1e-6, math.inf, "voltage_v"),
        ):
            with self.assertRaises(InputError) as caught:
                stored_energy(farads, volts)
            self.assertEqual(caught.exception.field, field)


class Planning(unittest.TestCase):
    """The worst case: C at the top of its tolerance, V the highest the circuit can leave."""

    def test_a_motor_part_is_planned_at_the_peak_of_its_rating(self) -> None:
        self.assertAlmostEqual(some(PUMP).voltage.voltage_v, 450 * math.sqrt(2))
        self.assertAlmostEqual(some(PUMP).hazard.energy_j, 0.5 * 16.8e-6 * 2 * 450**2)

    def test_across_the_mains_at_ten_per_cent_over(self) -> None:
        charge = plan_charge(read_marking("µ68 K X2 305~"), role=Role.X, supply_v=230)
        self.assertAlmostEqual(some(charge).voltage.voltage_v, 357.8, places=1)
        self.assertAlmostEqual(some(charge).hazard.energy_j, 0.0479, places=4)

    def test_an_unknown_circuit_uses_the_peak_of_the_rating(self) -> None:
        self.assertAlmostEqual(some(plan_charge(read_marking("µ68 X2 305~"))).voltage.voltage_v, 305 * math.sqrt(2))
        self.assertIsNone(plan_charge(read_marking("16 µF")))

    def test_of_two_readings_the_larger_energy_is_planned(self) -> None:
        charge = plan_charge(read_marking("16 mF 450 VAC"))
        self.assertAlmostEqual(some(charge).highest_f, 16e-3 * 1.1)  # a motor part without a printed tolerance: ±10 %
        self.assertTrue(some(charge).second_reading)
        self.assertFalse(some(PUMP).second_reading)


class Discharge(unittest.TestCase):
    """t = RC ln(V₀/V), and the tool that may do it."""

    def test_worked_examples(self) -> None:
        self.assertAlmostEqual(time_to(16e-6, 4700, 636.396, 50), 0.19129, places=5)
        self.assertEqual(time_to(1e-6, 1e6, 50, 50), 0.0)
        self.assertRaises(InputError, time_to, 1e-6, 1e6, 100, 0)

    @given(FARADS, st.floats(1, 1e9), st.floats(10, 1e4), st.floats(0.01, 0.9), st.floats(0.01, 0.9))
    def test_two_falls_in_a_row_take_as_long_as_one(self, c: float, r: float, v: float, a: float, b: float) -> None:
        in_two = time_to(c, r, v, v * a) + time_to(c, r, v * a, v * a * b)
        self.assertAlmostEqual(in_two / time_to(c, r, v, v * a * b), 1, places=6)

    def test_a_tool_in_bounds(self) -> None:
        tool = judge_tool(Shape.SINGLE, (wirewound(4700),), some(PUMP), LIMIT)
        self.assertEqual(tool.refusals, ())
        working = tool.times[0]
        self.assertEqual(working.target_v, 50)
        self.assertAlmostEqual(working.nominal_s, 0.1913, places=4)
        self.assertAlmostEqual(working.worst_s, 1.05 * 1.05 * working.nominal_s, places=6)
        self.assertAlmostEqual(tool.live_w, 636.396**2 / (0.95 * 4700), places=2)  # at the bottom of its tolerance it takes most

    def test_refusals(self) -> None:
        self.assertIn("sparks", judge_tool(Shape.SINGLE, (wirewound(100),), some(PUMP), LIMIT).refusals[0])
        self.assertIn("may work at", judge_tool(Shape.SINGLE, (wirewound(4700, volts=350),), some(PUMP), LIMIT).refusals[0])
        bank = plan_charge(read_marking("3600 µF 360 V"))
        self.assertIn("at once", judge_tool(Shape.SINGLE, (wirewound(720, watts=5),), some(bank), LIMIT).refusals[0])

    def test_within_its_continuous_rating_a_resistor_needs_no_pulse_figure(self) -> None:
        """325 V over 100 kΩ of 5 % are 1.11 W: of 2 W it stands it for good, of 1 W the pulse decides."""
        charge = plan_charge(read_marking("1 µF 325 VDC"))
        film = Resistor("r", "film", 100e3, 0.05, 2.0, Construction.FILM, 500)
        self.assertEqual(judge_tool(Shape.SINGLE, (film,), some(charge), LIMIT).refusals, ())
        large = plan_charge(read_marking("1000 µF 325 VDC"))
        self.assertEqual(judge_tool(Shape.SINGLE, (film,), some(large), LIMIT).refusals, ())
        weak = replace(film, rated_w=1.0)
        self.assertIn("at once", judge_tool(Shape.SINGLE, (weak,), some(large), LIMIT).refusals[0])

    def test_planning_figures_of_pulse_energy(self) -> None:
        resistor = wirewound(4700)
        self.assertEqual([pulse_limit(resistor, tau)[0] for tau in (0.049, 0.05, 1, 3, 5, 50)], [None, 125, 125, 312.5, 500, 500])

    def test_allowed_tools_come_first_fastest_first(self) -> None:
        ranked = rank_tools((wirewound(100), wirewound(47_000), wirewound(4700)), some(PUMP), LIMIT)
        self.assertEqual([tool.resistance_ohm for tool in ranked if tool.shape == Shape.SINGLE], [4700, 47_000, 100])

    def test_working_limits_by_standard(self) -> None:
        self.assertEqual(working_limit("IEC 60335-1 (22.5)", 1e-6, 358).target_v, 34)
        """A requirement on the equipment never raises what hands may come near: 37 % of 300 V, ES1 of a small part, 75 V."""
        for standard, farads in (
            ("IEC 60950-1 (withdrawn)", 1e-6), ("IEC 62368-1 (5.5.2.2)", 170e-9), ("IEC 62368-1 (5.5.2.2)", 4e-9),
            ("IEC 60831-1", 20e-6), ("IEC 61010-1 (6)", 1e-6), (None, 1e-6),
        ):  # fmt: skip
            found = working_limit(standard, farads, 300)
            self.assertEqual(found.target_v, 50)
            self.assertIn(standard or "default", found.source)
        self.assertAlmostEqual(working_limit("IEC 60950-1 (withdrawn)", 1e-6, 100).target_v, 37)
        self.assertRaises(InputError, working_limit, "IEC 0", 1e-6, 358)
