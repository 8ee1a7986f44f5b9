"""Places where a sign, a half or a step less would not have been noticed: each against a figure worked out by hand."""

import cmath
import math
import unittest
from dataclasses import replace
from types import SimpleNamespace
from typing import Any

from dusky_heron.core.circuit import Load
from dusky_heron.core.discharge.bleeders import design_bleeder, split
from dusky_heron.core.discharge.limits import find_limit, limits_table
from dusky_heron.core.discharge.proving import proof_pairs
from dusky_heron.core.discharge.search import _least, _least_siemens, recommended
from dusky_heron.core.discharge.tools import MIN_TAU_S, Construction, Resistor, Shape, pulse_limit
from dusky_heron.core.discharge.touch_current import on_both_sides, to_chassis
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.metering.accuracy import Value, read_accuracies
from dusky_heron.core.metering.in_service import from_clamp, from_idle
from dusky_heron.core.model import Bleeder, CircuitLimit, Evidence, Part, PartKind, Policy, Position, Role, Surroundings
from dusky_heron.core.model.materials import made_of
from dusky_heron.core.proving.manual import Healthy
from dusky_heron.core.proving.truth import power_shows
from dusky_heron.core.rig.capacitors import Capacitor, Section
from dusky_heron.core.rig.elements import Coil, Element, Store
from dusky_heron.core.rig.elements import Resistor as Ohms
from dusky_heron.core.rig.governors import MAIN, Motor
from dusky_heron.core.rig.impedance import impedance
from dusky_heron.core.selection import fit, need_of
from dusky_heron.core.selection.combine import combinations
from dusky_heron.core.selection.likely import likely_role
from dusky_heron.core.selection.sieve import sieve_of
from dusky_heron.core.verdict.capacitance import zones
from dusky_heron.core.verdict.windows import Window


class Earth(unittest.TestCase):
    """What leads to the chassis, and where it is proved empty."""

    def test_four_and_five_parts_take_turns_between_the_lines(self) -> None:
        self.assertEqual(on_both_sides([1, 5, 3, 2, 4]), ([5, 3, 1], [4, 2]))
        self.assertEqual(on_both_sides([4, 1, 2, 3]), ([4, 2], [3, 1]))

    def test_of_a_part_elsewhere_only_the_y_sections_of_a_network(self) -> None:
        """2 × 2.5 nF, ±20 % where nothing is printed: 6 nF; one part in an X place leads nowhere."""
        for text, farads in (("0.1 µF X2 + 2 x 2.5 nF Y2 250 V~", 6e-9), ("2.2 nF Y2 300 V~", 0.0), ("47 nF X2 305 V~", 0.0)):
            self.assertAlmostEqual(to_chassis(Position("C1", Role.X, read_marking(text), 230)), farads, delta=1e-15)

    def test_a_network_is_proved_at_each_of_its_lines(self) -> None:
        for text, lines in (("0.1 µF X2 + 2 x 2.5 nF Y2 250 V~", 2), ("3 x 4.7 nF Y2 250 V~", 3)):
            pairs = proof_pairs(read_marking(text), Surroundings())
            self.assertEqual(sum("chassis" in pair for pair in pairs), lines, pairs)


class Knee(unittest.TestCase):
    """Below its knee a load of constant current and power is a resistance, which meets both there."""

    def test_below_at_and_above(self) -> None:
        """40 mA and 2 W with a knee at 10 V: 24 mS below, 240 mA at it, 40 mA + 2 W/20 V = 140 mA at twice that."""
        load = Load(current_a=0.04, power_w=2.0, knee_v=10.0)
        for volts, amperes in ((5.0, 0.12), (10.0, 0.24), (20.0, 0.14)):
            self.assertAlmostEqual(load.current_at(volts), amperes, places=12)
        self.assertAlmostEqual(Load(resistance_ohm=100.0, current_a=0.04, knee_v=10.0).current_at(5.0), 0.05 + 0.02, places=12)
        self.assertEqual(load.line(above_knee=False, around_v=230.0), (0.04 / 10 + 2 / 100, 0.0))
        self.assertEqual(load.line(above_knee=True, around_v=20.0), (2 / 400, 0.04))


class Kinds(unittest.TestCase):
    """What a part is taken for by its value alone: just below, at and above."""

    def test_a_motor_part_from_one_microfarad(self) -> None:
        for text, role in (("0.99 µF 400 V~", None), ("1 µF 400 V~", Role.MOTOR_RUN), ("1.01 µF 400 V~", Role.MOTOR_RUN)):
            self.assertEqual(likely_role(read_marking(text)), role, text)

    def test_a_ceramic_up_to_twenty_nanofarads_unless_film_is_printed(self) -> None:
        for text, first in (
            ("19.9 nF Y2 300 V~", "class 2 ceramic"), ("20 nF Y2 300 V~", "class 2 ceramic"),
            ("20.1 nF Y2 300 V~", "polypropylene film"), ("20 nF Y2 300 V~ film", "polypropylene film"),
        ):  # fmt: skip
            with self.subTest(text):
                found = made_of(read_marking(text), Role.Y)
                self.assertEqual(found.likeliest.title, first)
                self.assertEqual("class 2 ceramic" in {one.title for one in found.plausible}, "film" not in text)

    def test_an_upper_temperature_from_forty_to_two_hundred(self) -> None:
        for celsius, read in ((39, False), (40, True), (200, True), (201, False)):
            marking = read_marking(f"1 µF {celsius} °C")
            self.assertEqual(marking.climate is not None and marking.climate.upper_c == celsius, read, celsius)

    def test_volts_beside_one_section_only_are_asked_about(self) -> None:
        marking = read_marking("47 µF 450 V + 22 µF")
        self.assertEqual([section.rated_dc_v for section in marking.sections], [450, 450])
        options = {section for doubt in marking.doubts for one in doubt.options for section in volts_of(one.text)}
        self.assertTrue(marking.provisional)
        self.assertIn(None, options)


def volts_of(text: str) -> list[float | None]:
    return [section.rated_dc_v for section in read_marking(text).sections]


class Chains(unittest.TestCase):
    """Resistors in series: what each bears against what it may, just below, at and above; and how many there may be."""

    def test_one_that_bears_all(self) -> None:
        for working, more in ((249.9, True), (250.0, False), (250.1, False)):
            self.assertEqual("more than" in split(Bleeder(1e5, 1, working), 250.0).sentence, more, working)

    def test_twenty_are_taken_and_no_more(self) -> None:
        """Each bears 325·1.05/(1.05 + (n − 1)·0.95) at worst: 17.87 V of twenty."""
        row = find_limit(limits_table(), "IEC 60335-1 (22.5)")
        least = 325 * 1.05 / (1.05 + 19 * 0.95)
        self.assertEqual(design_bleeder(row, 1e-6, 325, 230, least + 0.01).count, 20)
        with self.assertRaises(InputError) as told:
            design_bleeder(row, 1e-6, 325, 230, least - 0.01)
        self.assertEqual(told.exception.field, "working_v")


class Meters(unittest.TestCase):
    """What is read of a data sheet, and of a current at idle."""

    def test_an_x_part_that_draws_all_there_is(self) -> None:
        """1 µF at 230 V and 50 Hz: 72.26 mA."""
        amps = 2 * math.pi * 50 * 1e-6 * 230
        current, volts = Value(amps, amps, amps), Value(230.0, 230.0, 230.0)
        whole = from_clamp(current, volts, 50).value
        with self.assertRaises(InputError) as told:
            from_idle(current, volts, 50, beside_f=whole)
        self.assertEqual(told.exception.field, "beside")
        self.assertGreater(from_idle(current, volts, 50, beside_f=whole * 0.999).value, 0)

    def test_sixty_signs_of_a_line_that_cannot_be_read(self) -> None:
        with self.assertRaises(InputError) as told:
            read_accuracies("x" * 60 + "y", 6000)
        self.assertIn(f"“{'x' * 60}”", told.exception.sentence)


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

    def test_the_least_chain_that_stands_a_pulse(self) -> None:
        """Ohms times what one stands at τ = R·C reaches the energy times its ohms: found here by halving."""
        for made in Construction:
            for energy_ohm in (0.5, 30.0, 400.0, 5e3, 6e4, 8e5):
                for farads in (1e-6, 47e-6, 1e-3, 3.6e-3):
                    tool = Resistor("r", "r", 1000.0, 0.05, 25.0, made, 500.0)

                    def stands(ohms: float, tool: Resistor = tool, farads: float = farads, energy: float = energy_ohm) -> bool:
                        joules, _ = pulse_limit(tool, max(ohms * farads, MIN_TAU_S))
                        return joules is not None and ohms * farads >= MIN_TAU_S and ohms * joules >= energy

                    low, high = 1e-6, 1e12
                    for _ in range(200):
                        middle = math.sqrt(low * high)
                        low, high = (low, middle) if stands(middle) else (middle, high)
                    self.assertAlmostEqual(_least(energy_ohm, tool, farads) / high, 1.0, delta=1e-6)


class Singles(unittest.TestCase):
    """A can put together of singles: each section within its own window, its ends among it."""

    def test_just_outside_at_and_inside_the_window_of_each(self) -> None:
        need = need_of(Position("C1", Role.RESERVOIR, read_marking("32+16 µF 450 V-"), 230))
        second = Part("b", PartKind.ELECTROLYTIC, read_marking("16 µF 450 V-"), quantity=1)
        for farads, taken in ((28.7, False), (28.8, True), (28.9, True), (47.9, True), (48, True), (48.1, False)):
            first = Part("a", PartKind.ELECTROLYTIC, read_marking(f"{farads} µF 450 V-"), quantity=1)
            found = [[part.part_id for part in one.parts] for one in combinations(need, [first, second])]
            self.assertEqual(found, [["a", "b"]] if taken else [], farads)


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
