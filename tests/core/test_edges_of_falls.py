"""Falls, labels, needs and meters exactly at what decides; and what makes no difference makes none."""

import datetime
import math
import random
import unittest
from dataclasses import replace
from types import SimpleNamespace
from typing import Any, cast

from dusky_heron.core.ageing.life import years_left
from dusky_heron.core.circuit import Load
from dusky_heron.core.circuit.dropper import DropperCircuit, steady_state, switch_load
from dusky_heron.core.circuit.dropper.states import outside
from dusky_heron.core.discharge.decay import fit
from dusky_heron.core.discharge.decay_log import read_log
from dusky_heron.core.discharge.events import find_event
from dusky_heron.core.discharge.falling import HANDS_IN_V
from dusky_heron.core.discharge.other_tools import blade
from dusky_heron.core.discharge.proving import charged_by
from dusky_heron.core.errors import InputError
from dusky_heron.core.figures import the_number
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Condition, Evidence, Part, PartKind, Policy, Position, Quantity, Reading, Role, Surroundings
from dusky_heron.core.model.places import ServiceLife
from dusky_heron.core.proving.manual import Healthy
from dusky_heron.core.proving.slips import _alike, _zone
from dusky_heron.core.proving.truth import Facts, is_fit, power_shows
from dusky_heron.core.rig.capacitors import Capacitor, Section
from dusky_heron.core.selection import need_of
from dusky_heron.core.selection.combine import _window, combinations
from dusky_heron.core.selection.sieve import loosened, sieve_of
from dusky_heron.core.selection.ways import Way
from dusky_heron.core.verdict import judge

TODAY = datetime.date(2026, 6, 1)


class Falls(unittest.TestCase):
    """Logs as a meter gives them."""

    def test_a_fall_below_zero_is_the_same_fall(self) -> None:
        """Drawn falls with steps of some digits, upright and mirrored: the sign of the leads decides nothing."""
        chance = random.Random(7)
        for _ in range(300):
            first, tau, digit, at, jump = chance.choice((12, 60, 325)), chance.uniform(2, 40), chance.choice((0.01, 0.1, 1.0)), \
                chance.randrange(1, 12), chance.choice((0, 5, 12, 18, 19, 20, 21, 22, 25, 40))  # fmt: skip
            rows = [(float(k), round((first * math.exp(-k / tau) + (jump * digit if k >= at else 0)) / digit) * digit)
                    for k in range(14)]  # fmt: skip
            mirrored = [(t, -v) for t, v in rows]
            found, other = (find_event(log, resolution_v=digit) for log in (rows, mirrored))
            self.assertEqual(found and (found.seconds, found.sentence), other and (other.seconds, other.sentence), rows)
            one, two = (fit(log, resolution_v=digit) for log in (rows, mirrored))
            self.assertEqual((one.finding, one.stop, one.tau_s), (two.finding, two.stop, two.tau_s), rows)

    def test_a_rise_of_twenty_digits_is_plain_however_noisy_the_readings_are(self) -> None:
        """Readings that swing by seven digits, of 0.1 V, around 10 V: a tenth of the start would be ten digits."""
        swinging = [(float(k), 10 + 0.35 * (-1) ** k) for k in range(20)]
        for digits, steps in ((19.9, False), (20.1, True)):
            found = find_event([*swinging, (20.0, swinging[-1][1] + 0.1 * digits)], resolution_v=0.1)
            self.assertEqual(found is not None, steps, digits)

    def test_a_log_below_zero(self) -> None:
        self.assertEqual(read_log("0 -5\n1 -4.5\n2 +3"), [(0.0, -5.0), (1.0, -4.5), (2.0, 3.0)])

    def test_a_blade_at_its_limits(self) -> None:
        for joules, volts, against in ((1.0, 60.0, False), (1.001, 10.0, True), (0.1, 60.1, True), (0.1, 60.0, False)):
            charge = SimpleNamespace(each_v=volts, each=SimpleNamespace(energy_j=joules))
            self.assertEqual(blade(cast(Any, charge)).advised_against, against, (joules, volts))

    def test_a_tester_that_leaves_the_target_itself_has_charged_it(self) -> None:
        self.assertEqual(charged_by(Quantity.LEAKAGE, HANDS_IN_V - 0.01), "")
        self.assertIn("has charged it", charged_by(Quantity.LEAKAGE, HANDS_IN_V))


class Ages(unittest.TestCase):
    """What is left of a life."""

    def test_what_lost_nothing_and_what_is_new_last_for_ever(self) -> None:
        self.assertEqual(years_left(16, 16, 10, 13), math.inf)
        self.assertEqual(years_left(16, 14, 0, 13), math.inf)
        self.assertEqual(years_left(16, 13, 10, 13), 0.0)

    def test_a_life_that_ends_this_year_says_so(self) -> None:
        """2 000 h at 105 °C, day and night since week 12 of 2026: used up within weeks of 1 June."""
        around = Surroundings(life=ServiceLife(2000.0, 105.0, 105.0, 24.0))
        place = Position("C1", Role.RESERVOIR, read_marking("4700 µF 25 V 2612", today=TODAY), surroundings=around)
        said = " ".join(finding.sentence for finding in judge(place, Evidence(), today=TODAY).reasons)
        self.assertIn("used up about 2026", said)


class Labels(unittest.TestCase):
    """What is printed, and how much of it is repeated."""

    def test_climates_of_the_trade_without_a_sign(self) -> None:
        for lower in (10, 25, 40, 55):
            for upper in (70, 85, 100, 105, 110, 125):
                marking = read_marking(f"1 µF K X2 310 V~ -{lower}/+{upper}")
                climate = marking.climate
                if (lower, upper) == (10, 100):  # as likely a tolerance: asked about
                    self.assertTrue(marking.provisional)
                else:
                    self.assertEqual(climate and (climate.lower_c, climate.upper_c), (-lower, upper))
        for text, read in (("40/055/21", True), ("40/054/21", False), ("65/085/56", True), ("66/085/56", False)):
            climate = read_marking(f"1 µF K X2 310 V~ {text}").climate
            self.assertEqual(climate is not None and climate.damp_heat_days is not None, read, text)

    def test_the_same_tolerance_beside_each_section_is_one(self) -> None:
        tolerance = read_marking("47 µF ±20 % + 22 µF ±20 % 450 V").tolerance
        self.assertEqual(tolerance and (tolerance.minus, tolerance.plus), (-0.2, 0.2))

    def test_old_sets_print_mf_for_microfarads_where_a_millifarad_cannot_be(self) -> None:
        for text, farads in (("16 mF 450 V~", 16e-6), ("60 mF 25 VDC", 60e-6), ("10 mF 25 VDC", 10e-3)):
            self.assertAlmostEqual(read_marking(text).capacitance_f, farads, delta=farads * 1e-9, msg=text)

    def test_forty_signs_of_what_cannot_be_read(self) -> None:
        figures = "1.2,3.4," * 8
        with self.assertRaises(InputError) as told:
            the_number(figures, "x", "It")
        self.assertIn(f"“{figures[:40]}”", str(told.exception))


class Needs(unittest.TestCase):
    """Parts that take a place together."""

    def test_only_what_a_pair_or_a_network_shares_out_is_not_asked_of_each(self) -> None:
        for text, role, classes, asked in (
            ("1 µF X2 310 V~", Role.X, ("X2",), True), ("32+32 µF 500 VDC", Role.RESERVOIR, (), False),
            ("2.2 nF Y1 500 V~", Role.Y, ("Y1",), False),
        ):  # fmt: skip
            need = need_of(Position("C1", role, read_marking(text), 230.0, 50.0, classes))
            loose = {miss.rule_id for miss in loosened(sieve_of(need, Policy()), need).misses}
            whole = {miss.rule_id for miss in sieve_of(need, Policy()).misses}
            self.assertEqual("voltage.ac" in loose, asked and "voltage.ac" in whole, text)
            self.assertEqual("class.safety" in loose, asked and "class.safety" in whole, text)

    def test_two_in_series_at_both_ends_of_the_window(self) -> None:
        need = need_of(Position("C1", Role.RESERVOIR, read_marking("100 µF 350 VDC"), 230.0, 50.0))
        low, _, high = _window(need)
        for share, taken in ((low, True), (low * (1 - 1e-9), False), (high, True), (high * (1 + 1e-9), False)):
            marking = read_marking("200 µF 350 VDC")
            marking = replace(marking, sections=(replace(marking.sections[0], capacitance_f=2 * share),))
            part = Part("p", PartKind.ELECTROLYTIC, marking, 2)
            found = [one for one in combinations(need, [part], Policy()) if one.way is Way.SERIES]
            self.assertEqual(bool(found), taken, share)

    def test_a_lone_reading_far_from_its_mark_is_asked_for_again(self) -> None:
        """Below a quarter of the mark: 4 µF of 16; an interval that reaches it is wear enough."""
        place = Position("C1", Role.MOTOR_RUN, read_marking("16 µF ±5 % 450 V~"), 230.0, 50.0)
        for high, again in ((3.99e-6, True), (4e-6, False)):
            reading = Reading(3.9e-6, 3.8e-6, high, Condition.LIFTED)
            said = judge(place, Evidence((reading,)), today=TODAY).next_measurement
            self.assertEqual(bool(said and "once more" in said.sentence), again, high)


class Droppers(unittest.TestCase):
    """What a meter finds, and where a rail settles: the same by another way."""

    circuit = DropperCircuit(
        "bridge", 230.0, 50.0, 470e-9, 100.0, 1e6, 220e-6, None, 5.0, 0.7, Load(power_w=0.2, knee_v=2.0)
    )  # fmt: skip

    def test_a_meter_finds_what_the_state_says(self) -> None:
        state, found = steady_state(self.circuit), outside(self.circuit)
        for name, value in (("rail_v", state.output_v), ("ripple_v", state.ripple_v), ("input_a", state.input_a),
                            ("input_w", state.input_w)):  # fmt: skip
            self.assertAlmostEqual(found[name], value, delta=abs(value) * 1e-6 + 1e-12, msg=name)

    def test_a_constant_power_settles_where_its_periodic_state_is(self) -> None:
        """From another load, after some hundred cycles: the mean of the last cycle."""
        after = switch_load(self.circuit, Load(power_w=0.1, knee_v=2.0), self.circuit.load, 6.0)
        rail = sum(after.v[-40:]) / 40
        self.assertAlmostEqual(rail, steady_state(self.circuit).output_v, delta=0.01 * rail)


class Proving(unittest.TestCase):
    """What simulated technicians are judged by, at its ends."""

    def test_a_value_at_the_end_of_its_zone_is_within(self) -> None:
        self.assertEqual([_zone(value, 1.0, 2.0) for value in (0.999, 1.0, 1.5, 2.0, 2.001)], [-1, 0, 0, 0, 1])

    def test_labels_that_lead_to_the_same(self) -> None:
        one = read_marking("16 µF 450 V~")
        for text, same in (("16.5 µF 450 V~", True), ("17 µF 450 V~", False), ("8+8 µF 450 V~", False), ("16 µF 400 V~", False)):
            self.assertEqual(_alike(one, read_marking(text)), same, text)

    def test_power_shows_beyond_what_it_may_be_off(self) -> None:
        healthy = Healthy(24.0, 0.1)
        at = healthy.rail_v
        off = next(k / 1000 for k in range(1, 30_000) if power_shows(healthy, replace(healthy, rail_v=at + k / 1000), rail=True))
        self.assertFalse(power_shows(healthy, replace(healthy, rail_v=at + off), rail=False))
        self.assertAlmostEqual(off, next(
            k / 1000 for k in range(1, 30_000) if power_shows(healthy, replace(healthy, rail_v=at - k / 1000), rail=True)
        ), delta=0.0011)  # fmt: skip

    def test_what_a_hand_may_draw_through_a_y_part(self) -> None:
        """2π × 50 Hz × 1.1 × 230 V × C × 1.1: 0.5 mA at 5.719 nF where nothing is earthed, 3.5 mA at 40.03 nF where it is."""
        for farads, earthed, right in (
            (5.71e-9, False, True),
            (5.73e-9, False, False),
            (40.0e-9, True, True),
            (40.1e-9, True, False),
        ):
            old = Capacitor("C1", Role.Y, "film", (Section(farads, farads),), (("L", "PE"),), 300.0, ac=True)
            one = Facts(PartKind.FILM_SAFETY, farads, 300.0, ac=True, name="Y1", size=(10.0, 8.0, 15.0))
            self.assertEqual(is_fit(old, {"Y1"}, 230.0, earthed=earthed, space=(10.0, 10.0, 15.0), one=one), right, farads)

    def test_a_safety_part_takes_the_place_of_an_alternating_snubber_and_of_no_motor_part(self) -> None:
        for role, ac, right in ((Role.SNUBBER, True, True), (Role.MOTOR_RUN, True, False), (Role.TIMING, False, False)):
            old = Capacitor("C1", role, "film", (Section(1e-6, 1e-6),), (("a", "b"),), 300.0, ac=ac)
            one = Facts(PartKind.FILM_SAFETY, 1e-6, 310.0, ac=ac, name="X2")
            self.assertEqual(is_fit(old, set(), 230.0, earthed=True, space=(50.0, 50.0, 50.0), one=one), right, role)
