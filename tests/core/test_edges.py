"""Places where a sign, a half or a step less would not have been noticed: each against a figure worked out by hand."""

import cmath
import math
import unittest
from dataclasses import replace
from types import SimpleNamespace
from typing import Any

from dusky_heron.core.discharge.search import _least_siemens, recommended
from dusky_heron.core.discharge.tools import Construction, Resistor, Shape, pulse_limit
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import CircuitLimit, Evidence, Part, PartKind, Policy, Position, Role
from dusky_heron.core.proving.manual import Healthy
from dusky_heron.core.proving.truth import power_shows
from dusky_heron.core.rig.capacitors import Capacitor, Section
from dusky_heron.core.rig.elements import Coil, Element, Store
from dusky_heron.core.rig.elements import Resistor as Ohms
from dusky_heron.core.rig.governors import MAIN, Motor
from dusky_heron.core.rig.impedance import impedance
from dusky_heron.core.selection import fit, need_of
from dusky_heron.core.selection.sieve import sieve_of
from dusky_heron.core.verdict.capacitance import zones
from dusky_heron.core.verdict.windows import Window


class Windows(unittest.TestCase):
    """What a meter may be wrong by, and what is drawn of a window."""

    def test_a_meter_is_fine_by_the_nearer_limit(self) -> None:
        for low, high in ((8e-6, 10.5e-6), (9.5e-6, 12e-6)):  # 2 and 0.5 µF away, then 0.5 and 2: 5 % of the nearer
            self.assertAlmostEqual(Window(low, high, low, "", "").fine_f(10e-6), 0.05 * 0.5e-6, delta=1e-15)
        self.assertAlmostEqual(Window(9.9e-6, 10.1e-6, 9.9e-6, "", "").fine_f(10e-6), 0.0025 * 10e-6, delta=1e-15)

    def test_from_six_tenths_of_the_marked_value_to_three_tenths_over_the_window(self) -> None:
        drawn = zones(Position("C1", Role.MOTOR_RUN, read_marking("10 µF ±10 % 450 V~"), 230.0, 50.0), 0, Evidence((), frozenset()))
        self.assertAlmostEqual(drawn[0].low_f, 6e-6, delta=1e-12)
        self.assertAlmostEqual(drawn[-1].high_f, 1.3 * 11e-6, delta=1e-12)


class Tools(unittest.TestCase):
    """Which resistor is recommended, and how much of a row of them a pulse asks for."""

    def tool(self, shape: Shape, *seconds: float) -> Any:
        return SimpleNamespace(allowed=True, shape=shape, times=[SimpleNamespace(worst_s=one) for one in seconds])

    def test_hands_wait_for_the_last_time(self) -> None:
        """A combination takes the place of one resistor that takes over 30 s where it is twice as quick: to the last voltage."""
        alone = self.tool(Shape.SINGLE, 10, 20, 40)
        for last, taken in ((19.9, True), (20.0, False), (20.1, False)):
            quick = self.tool(Shape.PARALLEL, 1, 30, last)
            self.assertIs(recommended((quick, alone)), quick if taken else alone)
        short = self.tool(Shape.SINGLE, 10, 40, 30)
        self.assertIs(recommended((self.tool(Shape.PARALLEL, 1, 1, 1), short)), short)

    def test_the_least_of_a_row_that_stands_a_pulse(self) -> None:
        """Siemens times what one stands at τ = C/S reaches the energy times siemens: found here by halving."""
        for made in Construction:
            for energy_s in (1e-4, 3e-3, 0.02, 0.1, 0.5, 3.0):
                for farads in (1e-6, 47e-6, 1e-3, 3.6e-3):
                    tool = Resistor("r", "r", 1000.0, 0.05, 25.0, made, 500.0)

                    def stands(siemens: float, tool: Resistor = tool, farads: float = farads, energy: float = energy_s) -> bool:
                        joules, _ = pulse_limit(tool, max(farads / siemens, 0.06))
                        return joules is None or siemens * joules >= energy

                    low, high = 1e-12, 1e6
                    for _ in range(200):
                        middle = math.sqrt(low * high)
                        low, high = (low, middle) if stands(middle) else (middle, high)
                    self.assertAlmostEqual(_least_siemens(energy_s, tool, farads) / high, 1.0, delta=1e-6)


class Sieves(unittest.TestCase):
    """A window that was overridden leaves what the circuit was simulated to allow; a can that is loose in its clamp."""

    def test_what_the_circuit_allows_alone(self) -> None:
        need = need_of(Position("C1", Role.SMPS_BULK, read_marking("100 µF M 400 V"), 230.0, 50.0))
        free = Policy(overridden=frozenset({"capacitance.window"}))
        for limits, low, high in (
            ((CircuitLimit(80e-6, "", least=True),), 80e-6, None),
            ((CircuitLimit(150e-6, "", least=False),), None, 150e-6),
            ((CircuitLimit(80e-6, "", least=True), CircuitLimit(150e-6, "", least=False)), 80e-6, 150e-6),
        ):
            sieve = sieve_of(replace(need, circuit=limits), free)
            self.assertEqual((sieve.low_f, sieve.high_f), (low, high))

    def test_three_millimetres_less_move_in_a_clamp(self) -> None:
        place = Position("C1", Role.MOTOR_RUN, read_marking("16 µF ±5 % 450 V~"), 230.0, 50.0, space_mm=(40.0, 40.0, 70.0))
        for wide, loose in ((37.1, False), (37.0, True), (36.0, True)):
            part = Part("p", PartKind.MOTOR_RUN, read_marking("16 µF ±5 % 450 V~"), size_mm=(wide, wide, 70.0))
            said = " ".join(fit.adaptations(need_of(place), part))
            self.assertEqual("strap it" in said, loose, wide)


class Simulated(unittest.TestCase):
    """The rig against circuit theory."""

    def test_a_fault_shows_from_three_tenths_and_the_slack_beside_the_manual(self) -> None:
        manual = Healthy(300.0, 0.1)  # 90 V and 4 V; 30 mA and 20 mA
        for rail, current, shows in (
            (300 - 93.9, 0.1, False),
            (300 - 94.1, 0.1, True),
            (300 + 94.1, 0.1, True),
            (300, 0.1 + 0.0499, False),
            (300, 0.1 + 0.0501, True),
        ):
            self.assertEqual(power_shows(manual, Healthy(rail, current), rail=True), shows)
            self.assertEqual(power_shows(manual, Healthy(rail, 0.1), rail=False), False)

    def test_from_the_coldest_to_the_hottest(self) -> None:
        part = Capacitor("C1", Role.X, "polypropylene", (Section(1e-6, 1e-6),), (("a", "b"),), 305.0, ac=True)
        for celsius, known in ((-40.1, False), (-40.0, True), (125.0, True), (125.1, False)):
            with self.subTest(celsius):
                if known:
                    self.assertAlmostEqual(replace(part, celsius=celsius).farads(), 1e-6, delta=0.1e-6)
                else:
                    with self.assertRaises(InputError):
                        replace(part, celsius=celsius).farads()

    def test_torque_is_both_currents_and_the_sine_between_them(self) -> None:
        parts: dict[str, Element] = {
            MAIN: Coil("line", "N", 0.143, 30.0),
            "Caux": Store("line", "aux", 16e-6, 0.5),
            "aux": Coil("aux", "N", 0.35, 60.0),
        }
        motor = Motor(("line", "N"), ("aux", "N"), (30.0, 0.143, 60.0, 0.35), needs=30.0)
        omega = 2 * math.pi * 50
        main = 230 / complex(30.0, omega * 0.143)
        auxiliary = 230 / (complex(60.5, omega * 0.35) + 1 / (1j * omega * 16e-6))
        by_hand = abs(main) * abs(auxiliary) * math.sin(cmath.phase(auxiliary) - cmath.phase(main))
        self.assertAlmostEqual(motor.torque(230.0, parts) / by_hand, 1.0, delta=0.02)
        self.assertAlmostEqual(motor.torque(115.0, parts) / motor.torque(230.0, parts), 0.25, delta=1e-9)

    def test_a_capacitor_shorted_inside_is_its_series_resistance(self) -> None:
        self.assertAlmostEqual(abs(impedance({"C": Store("a", "b", math.inf, 0.25)}, "a", "b", 50.0)), 0.25, delta=1e-9)
        self.assertAlmostEqual(abs(impedance({"R": Ohms("a", "b", 47.0)}, "a", "b", 50.0)), 47.0, delta=1e-6)
