"""Banks, bleeders, plug pins, rebound, other schools and proofs, from worked examples and conservation laws."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.discharge import string_after_short, time_to
from dusky_heron.core.discharge.banks import discharge_points, string_shares
from dusky_heron.core.discharge.bleeders import bled, check_limits, design_bleeder, e24_below, split
from dusky_heron.core.discharge.energy import es2_limit, stored_energy, touch_limit
from dusky_heron.core.discharge.limits import LimitChange, check_change, find_limit, limits_of, limits_table, working_limit
from dusky_heron.core.discharge.other_tools import blade, lamp, load_left_on
from dusky_heron.core.discharge.pins import plug_pins
from dusky_heron.core.discharge.planning import plan_charge, plan_position, planning_voltage
from dusky_heron.core.discharge.proving import MeterKind, Voltmeter, meter_refusals, proof_pairs
from dusky_heron.core.discharge.rebound import dielectric_of, expected_rebound
from dusky_heron.core.discharge.search import beyond_tools
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Arrangement, Basis, Bleeder, Condition, Evidence, Position, Quantity, Reading, Role, Surroundings
from dusky_heron.core.quantities import show_time
from tests import some

BANK = Surroundings(arrangement=Arrangement.PARALLEL, count=3)
STRING = Surroundings(arrangement=Arrangement.SERIES, count=2, balancing_ohm=47e3)
LINK = read_marking("1500 µF M 400 V")
FLASH = plan_charge(read_marking("1200 µF 360 V"), role=Role.ENERGY_STORE, surroundings=BANK)


class Basis3(unittest.TestCase):
    """The voltage to plan with, by what feeds the part: √2 · 230 V · 1.10 = 357.8 V."""

    def test_each_basis(self) -> None:
        cases = {
            (Basis.MAINS, 230, None): 357.8, (Basis.RECTIFIED, 230, None): 357.8, (Basis.DOUBLER, 120, None): 373.4,
            (Basis.THREE_PHASE_BRIDGE, 400, None): 622.3, (Basis.TRANSFORMER, 230, 300.0): 466.7,
            (Basis.DRIVE_LINK, 400, None): 800,
            (Basis.POWER_FACTOR_CORRECTION, 120, None): 400, (Basis.BY_HAND, 230, 512.0): 512, (Basis.DOUBLER, 230, None): 715.6,
        }  # fmt: skip
        for (basis, supply, volts), expected in cases.items():
            with self.subTest(basis):
                around = Surroundings(basis=basis, volts=volts)
                found = planning_voltage(read_marking("100 µF 200 VDC"), supply_v=supply, surroundings=around)
                self.assertAlmostEqual(some(found).voltage_v, expected, places=1)

    def test_the_rated_dc_voltage_counts_until_the_circuit_is_confirmed(self) -> None:
        marking = read_marking("100 µF 450 VDC")
        for confirmed, expected in ((False, 450), (True, 357.8)):
            around = Surroundings(basis=Basis.RECTIFIED, confirmed=confirmed)
            found = planning_voltage(marking, role=Role.SMPS_BULK, supply_v=230, surroundings=around)
            self.assertAlmostEqual(some(found).voltage_v, expected, places=1)
            self.assertEqual("confirmed" in some(found).rests_on, confirmed)

    def test_magnetron_and_unknown_take_the_rating(self) -> None:
        self.assertAlmostEqual(
            some(planning_voltage(read_marking("1.05 µF 2100 V~"), role=Role.MAGNETRON)).voltage_v, 2969.8, places=1
        )
        self.assertEqual(some(planning_voltage(read_marking("100 µF 63 V-"), role=Role.SMOOTHING, supply_v=230)).voltage_v, 63)

    def test_a_part_that_reads_low_is_planned_at_its_mark(self) -> None:
        """Nothing measured goes into the plan: 1200 µF stays 1200 µF, whatever a meter says."""
        self.assertAlmostEqual(some(FLASH).highest_f, 3 * 1200e-6 * 1.2)  # no tolerance printed: +20 % of an electrolytic
        self.assertAlmostEqual(some(FLASH).hazard.energy_j, 0.5 * 3600e-6 * 1.2 * 360**2)


class Banks(unittest.TestCase):
    """Sums, shares, and what a short from end to end leaves."""

    @given(st.lists(st.tuples(st.floats(1e-9, 1e-2), st.floats(-1000, 1000)), min_size=1, max_size=8))
    def test_a_short_conserves_charge_and_loses_energy(self, string: list[tuple[float, float]]) -> None:
        farads, before = [c for c, _ in string], [v for _, v in string]
        after = string_after_short(farads, before)
        scale = sum(map(abs, before)) + 1e-9
        self.assertAlmostEqual(sum(after) / scale, 0, places=9)  # shorted end to end
        moved = [c * (b - a) for c, b, a in zip(farads, before, after, strict=True)]
        for charge in moved:  # the same charge flowed through each
            self.assertAlmostEqual(charge, moved[0], delta=1e-9 * scale * max(farads))
        self.assertLessEqual(
            sum(c * v * v for c, v in zip(farads, after, strict=True)),
            sum(c * v * v for c, v in zip(farads, before, strict=True)) * (1 + 1e-9) + 1e-9,
        )

    def test_worked_example_of_two_unequal_parts(self) -> None:
        """1200 and 1800 µF at 400 V each: 0.576 C flow, −80 V and +80 V are left, 3.84 J and 5.76 J."""
        left = string_after_short([1200e-6, 1800e-6], [400, 400])
        self.assertAlmostEqual(left[0], -80)
        self.assertAlmostEqual(left[1], 80)
        plan = plan_charge(LINK, role=Role.DC_LINK, supply_v=400, surroundings=STRING)
        shares = string_shares(LINK, STRING, some(plan))
        self.assertAlmostEqual(some(shares).residue_v, 80)
        self.assertAlmostEqual(some(shares).residue.energy_j, 5.76)
        self.assertEqual(some(shares).worst_v, 800)  # a balancing resistor may be open
        self.assertIsNone(string_shares(LINK, BANK, some(plan)))
        self.assertRaises(InputError, string_after_short, [1e-6], [1, 2])

    def test_a_part_of_a_string_is_planned_at_the_whole_until_its_share_was_read(self) -> None:
        """800 V on one of 1800 µF: 576 J; of shares read 380 and 410 V ±1 % at most 0.524 of it."""
        position = Position("C6", Role.DC_LINK, LINK, 400, surroundings=STRING)
        shares = [
            Reading(v, v * 0.99, v * 1.01, Condition.IN_SERVICE, k, "m", Quantity.VOLTS_DC) for k, v in enumerate((380.0, 410.0))
        ]
        low = [Reading(v, v, v, Condition.IN_SERVICE, k, "m", Quantity.VOLTS_DC) for k, v in enumerate((180.0, 210.0))]
        for readings, each in (((), 800), (shares[:1], 800), (low, 800), (shares, 800 * 414.1 / (414.1 + 376.2))):
            plan = some(plan_position(position, Evidence(tuple(readings))))
            self.assertAlmostEqual(plan.each_v, each, places=6)
            whole = max(0.5 * 1800e-6 * each**2, 0.5 * 900e-6 * 800**2)
            self.assertAlmostEqual(plan.hazard.energy_j, whole, places=6)

    def test_the_halves_of_a_doubler_are_held_by_the_mains(self) -> None:
        around = Surroundings(basis=Basis.DOUBLER, arrangement=Arrangement.SERIES, count=2)
        plan = some(plan_charge(read_marking("470 µF 200 V"), role=Role.SMPS_BULK, supply_v=120, surroundings=around))
        self.assertAlmostEqual(plan.each_v, 200)  # rated 200 V each, more than √2 × 120 × 1.1

    def test_sections_with_volts_of_their_own_count_with_their_own(self) -> None:
        """40 µF at 350 V and 100 µF at 25 V, each at the top of its tolerance."""
        marking = read_marking("40 µF 350 VDC + 100 µF 25 VDC")
        self.assertEqual([s.rated_dc_v for s in marking.sections], [350, 25])
        plan = some(plan_charge(marking))
        by_hand = sum(0.5 * s.highest_f * v**2 for s, v in zip(marking.sections, (350, 25), strict=True))
        self.assertAlmostEqual(plan.hazard.energy_j, by_hand)
        self.assertEqual(plan.each_v, 350)
        fed = some(plan_charge(marking, surroundings=Surroundings(basis=Basis.BY_HAND, volts=300)))
        held = sum(0.5 * s.highest_f * v**2 for s, v in zip(marking.sections, (350, 300), strict=True))
        self.assertAlmostEqual(fed.hazard.energy_j, held)
        read = some(plan_charge(marking, measured_high_f=500e-6))  # more than both are marked: nobody knows of which
        self.assertAlmostEqual(read.hazard.energy_j, 0.5 * 500e-6 * 350**2)

    def test_over_a_kilojoule_or_beyond_the_tools_there_is_a_next_step(self) -> None:
        """1500 µF +20 % at 800 V: 576 J, no tool: 1 kΩ (800 V / 1 A / 0.95 is 842 Ω, E24 above it 910 Ω or 1 kΩ)."""
        link = some(plan_charge(LINK, role=Role.DC_LINK, supply_v=400, surroundings=STRING))
        self.assertEqual(beyond_tools(link, tool_found=True), "")
        said = beyond_tools(link, tool_found=False)
        self.assertIn("910 Ω", said)
        self.assertNotIn("two persons", said)
        store = some(plan_charge(read_marking("5000 µF 800 V"), role=Role.ENERGY_STORE))
        for tool_found in (True, False):
            self.assertIn("two persons", beyond_tools(store, tool_found=tool_found))

    def test_what_creeps_back_of_a_harmless_part_asks_for_no_link(self) -> None:
        """3.3 nF may be touched at 1 kV (IEC 62368-1 table 5), 100 nF of the same ceramic above 95 V not."""
        small, larger = (expected_rebound("ceramic_2", farads, 358) for farads in (3.3e-9, 100e-9))
        self.assertEqual((small.store_shorted, small.harmless, larger.store_shorted, larger.harmless), (False, True, True, False))

    def test_energy_of_a_bank_is_the_sum_of_its_parts(self) -> None:
        self.assertAlmostEqual(some(FLASH).hazard.energy_j, 3 * stored_energy(1200e-6 * 1.2, 360))

    def test_terminals_one_by_one(self) -> None:
        self.assertEqual(len(discharge_points(LINK, STRING, "C6")), 2)
        self.assertEqual(len(discharge_points(read_marking("32+32 µF 500 VDC"), Surroundings(), "C1")), 2)
        self.assertIn("line to earth", discharge_points(read_marking("0.1 + 2 x 0.0027 µF X1 Y2"), Surroundings(), "C1"))


class Bleeders(unittest.TestCase):
    """Fitted ones and designed ones."""

    def test_as_marked_as_measured_and_open(self) -> None:
        """1 µF, two 150 kΩ in series: τ 0.3 s; 450 kΩ measured: 0.45 s; open: R·C of 5 000 to 30 000 s."""
        charge = plan_charge(read_marking("1 µF X2 305~"), role=Role.X, supply_v=230)
        states = bled(some(charge), working_limit(None, 1e-6, 358), Bleeder(150e3, 2, measured_ohm=450e3), "polypropylene")
        self.assertEqual([s.state.split(":")[0] for s in states], ["as marked", "as measured", "open"])
        falls = math.log(some(charge).each_v / 50)
        self.assertAlmostEqual(states[0].times[0].nominal_s, 0.3 * falls)
        self.assertAlmostEqual(states[1].times[0].nominal_s, 0.45 * falls)
        self.assertAlmostEqual(states[2].times[0].nominal_s, 5000 * falls)
        self.assertAlmostEqual(states[2].times[0].worst_s, 30_000 * falls)

    def test_one_of_two_failing_short_puts_all_on_the_other(self) -> None:
        found = split(Bleeder(150e3, 2, working_v=200), 358)
        self.assertAlmostEqual(found.each_v, 358 * 1.05 / 2)
        self.assertEqual(found.one_short_v, 358)
        self.assertIn("they follow", found.sentence)
        self.assertIn("more than", split(Bleeder(150e3, 1, working_v=200), 358).sentence)

    @given(st.sampled_from([r.id for r in limits_table() if r.after_s]), st.floats(0.2, 3000), st.floats(130, 900))
    def test_a_designed_bleeder_meets_its_limit_with_every_part_at_its_worst(self, standard: str, uf: float, volts: float) -> None:
        row, farads = find_limit(limits_table(), standard), uf * 1e-6
        made = design_bleeder(row, farads, volts, volts, 350)
        self.assertLessEqual(
            volts * math.exp(-some(row.after_s) / (made.each_ohm * made.count * 1.05 * farads)), row.target_v(farads, volts)
        )
        self.assertLessEqual(split(Bleeder(made.each_ohm, made.count), volts).each_v, 350)
        self.assertGreater(made.each_ohm * made.count * 1.05 * 1.16, made.most_ohm)  # the next E24 value would be too much

    def test_worked_design(self) -> None:
        """1.1 µF from 325.3 V to 34 V in 1 s: R ≤ 1 / (1.1 µF · ln 9.57) = 402.5 kΩ; two of 180 kΩ, 360 kΩ."""
        made = design_bleeder(find_limit(limits_table(), "IEC 60335-1 (22.5)"), 1.1e-6, 325.27, 230, 200)
        self.assertAlmostEqual(made.most_ohm, 402_560, delta=200)
        self.assertEqual((made.each_ohm, made.count), (180e3, 2))
        self.assertAlmostEqual(made.loss_w, 230**2 / (360e3 * 0.95), places=4)

    def test_e24(self) -> None:
        for ohm, below in ((402.5e3, 390e3), (100, 100), (99.9, 91), (9.99, 9.1), (1e6, 1e6)):
            self.assertAlmostEqual(e24_below(ohm), below)

    def test_a_charge_may_be_allowed_instead_of_volts(self) -> None:
        """0.1 µF left at 325 V holds 32.5 µC: within the 45 µC of IEC 61010-1 though far above 60 V."""
        row = find_limit(limits_table(), "IEC 61010-1 (6)")
        self.assertTrue(check_limits([row], 0.1e-6, 1e12, 325, 358)[0].meets)
        self.assertFalse(check_limits([row], 0.2e-6, 1e12, 325, 358)[0].meets)


class Pins(unittest.TestCase):
    """Between the plug pins after unplugging."""

    def test_worked_example(self) -> None:
        """1.1 µF and 315 kΩ (300 kΩ +5 %): τ 0.3465 s; 325.3 V falls to 18.2 V in 1 s; open it stays at 325 V."""
        rows = limits_of(limits_table(), "IEC 60335-1 (22.5)", role=Role.X, capacitance_f=1.1e-6, from_v=325)
        good, open_ = plug_pins(1.1e-6, 300e3, 230, rows), plug_pins(1.1e-6, None, 230, rows)
        self.assertAlmostEqual(good.voltages[0].rated_v, 325.27 * math.exp(-1 / 0.3465), places=1)
        self.assertAlmostEqual(good.voltages[0].planned_v / good.voltages[0].rated_v, 1.10)
        self.assertEqual([v.after_s for v in good.voltages], [1, 2, 5])
        self.assertEqual([c.meets for c in good.checks], [True])
        self.assertEqual([c.meets for c in open_.checks], [False])
        self.assertGreater(open_.voltages[2].rated_v, 325)

    def test_which_limits_apply(self) -> None:
        def ids(standard: str | None, role: Role, farads: float = 1e-6, volts: float = 325) -> list[str]:
            return [row.id for row in limits_of(limits_table(), standard, role=role, capacitance_f=farads, from_v=volts)]

        self.assertEqual(ids("IEC 60335-1 (22.5)", Role.X), ["IEC 60335-1 (22.5)"])
        self.assertEqual(ids("IEC 60335-1 (22.5)", Role.X, 0.1e-6), [])  # 0.1 µF and below are free
        self.assertIn("IEC 60252-1 / UL 810", ids("IEC 60335-1 (22.5)", Role.MOTOR_RUN))
        self.assertIn("NEC 460.6", ids(None, Role.POWER_FACTOR))
        self.assertIn("IEC 60871-1", ids(None, Role.POWER_FACTOR, volts=3000))
        self.assertGreater(len(ids(None, Role.X)), 5)  # not known which binds: all of the plug pins

    def test_the_limit_for_hands_is_lowered_never_raised(self) -> None:
        row = find_limit(limits_table(), "Hands")
        check_change(row, LimitChange(30, None, "wet plant room"))
        with self.assertRaises(InputError):
            check_change(row, LimitChange(50.1, None, "thick gloves"))
        rows = limits_table({"Hands": LimitChange(30, None, "wet plant room")})
        for standard, volts in (
            (None, 30),
            ("IEC 60335-1 (22.5)", 30),
            ("IEC 62368-1 (5.5.2.2)", 30),
            ("IEC 61010-1 (6, wet)", 30),
        ):
            self.assertEqual(working_limit(standard, 1e-6, 325, rows=rows).target_v, volts)
        self.assertEqual(working_limit("IEC 60335-1 (22.5)", 1e-6, 325).target_v, 34)
        self.assertIn("wet plant room", working_limit(None, 1e-6, 325, rows=rows).source)
        lowered = limits_table({"IEC 60335-1 (22.5)": LimitChange(20, 1.0, "local")})
        self.assertEqual(working_limit("IEC 60335-1 (22.5)", 1e-6, 325, rows=lowered).target_v, 20)

    def test_a_workshop_changes_a_limit_with_a_reason(self) -> None:
        row = find_limit(limits_table(), "IEC 61010-1 (6)")
        change = LimitChange(35, 5, "wet room, local rule")
        check_change(row, change)
        changed = find_limit(limits_table({row.id: change}), row.id)
        self.assertEqual((changed.value, changed.charge_c), (35, None))
        self.assertIn("changed by the workshop: wet room", changed.source)
        for bad, field in (
            (LimitChange(35, 5, " "), "reason"),
            (LimitChange(-1, 5, "x"), "value"),
            (LimitChange(35, None, "x"), "after_s"),
        ):
            with self.assertRaises(InputError) as caught:
                check_change(row, bad)
            self.assertEqual(caught.exception.field, field)


class Rebounds(unittest.TestCase):
    """Dielectric absorption, order of magnitude."""

    def test_worked_examples(self) -> None:
        flash = expected_rebound("electrolytic", 3600e-6, 360)
        self.assertAlmostEqual(flash.voltage_v, 54)
        self.assertAlmostEqual(flash.energy_j, 0.5 * 3600e-6 * 54**2)
        self.assertTrue(flash.store_shorted)
        self.assertFalse(expected_rebound("polypropylene", 16e-6, 636).store_shorted)
        self.assertAlmostEqual(expected_rebound("paper", 1.05e-6, 2970).voltage_v, 148.5)

    def test_what_it_is_made_of(self) -> None:
        for text, role, expected in (
            ("1200 µF 360 V", Role.ENERGY_STORE, "electrolytic"), ("MKT 0.1 µF 400VDC", None, "polyester"),
            ("MKP 0.1 µF 400VDC", None, "polypropylene"), ("1 µF 2100 V~", Role.MAGNETRON, "paper"),
            ("4n7 Y2 300~", Role.Y, "ceramic_2"), ("16 µF 450 V~", Role.MOTOR_RUN, "polypropylene"),
            ("189-227 µF 250 VAC", Role.MOTOR_START, "electrolytic"),
        ):  # fmt: skip
            self.assertEqual(dielectric_of(read_marking(text), role), expected, text)


class Schools(unittest.TestCase):
    """What lamp, load and blade do."""

    def test_a_dark_lamp_is_not_empty(self) -> None:
        """230 V 60 W across 100 µF +20 % at 325 V goes dark at 77 V; the integral of C dV / I(V) gives the time."""
        charge = plan_charge(read_marking("100 µF 325 VDC"))
        said = lamp(some(charge), 230, 60).sentence
        self.assertIn("Dark at 76.7 V", said)
        step, volts, seconds = 0.01, 325.0, 0.0
        while volts > 230 / 3:
            seconds += 120e-6 * step / (60 / 230 * (volts / 230) ** 0.55)
            volts -= step
        self.assertIn(f"after {show_time(seconds)}", said)
        self.assertTrue(lamp(some(plan_charge(read_marking("1 µF 2100 V~"))), 230, 60).advised_against)

    def test_a_blade_is_advised_against_above_one_joule_or_sixty_volts(self) -> None:
        self.assertTrue(blade(some(FLASH)).advised_against)
        self.assertIn("36 kA peak, 280 J", blade(some(FLASH)).sentence)
        self.assertFalse(blade(some(plan_charge(read_marking("10 µF 25 V- electrolytic")))).advised_against)

    def test_a_load_left_on_is_a_bleeder(self) -> None:
        self.assertAlmostEqual(time_to(4320e-6, 10e3, 360, 5), 43.2 * math.log(72))
        self.assertIn("3.1 min", load_left_on(some(FLASH), 10e3).sentence)
        self.assertIn("13 W", load_left_on(some(FLASH), 10e3).sentence)


class Proofs(unittest.TestCase):
    """Live–dead–live."""

    def test_every_pair_and_each_to_chassis(self) -> None:
        plain = Surroundings()
        for marking, around, count in (
            (read_marking("16 µF 450 V~"), plain, 3), (read_marking("30+5 µF 440 V~"), plain, 6), (LINK, STRING, 6),
            (LINK, BANK, 5),
            (read_marking("0.1 + 2 x 0.0027 µF X1 Y2"), plain, 3),
        ):  # fmt: skip
            pairs = proof_pairs(marking, around)
            self.assertEqual(len(set(pairs)), count)
            self.assertTrue(any("chassis" in pair for pair in pairs))

    def test_the_meter_has_to_cover_the_planned_voltage(self) -> None:
        def refused(meter: Voltmeter, text: str, role: Role, *, fixed: bool = False, after: float | None = None) -> str:
            charge = some(plan_charge(read_marking(text), role=role, supply_v=230))
            said = meter_refusals(meter, charge, role=role, around=Surroundings(), fixed_wiring=fixed, after_probe_v=after)
            return " ".join(said)

        good, probe = Voltmeter("m", 1000, "III", 600), Voltmeter("p", 10_000, kind=MeterKind.PROBE)
        self.assertEqual(refused(good, "1 µF X2 305~", Role.X, fixed=True), "")
        self.assertIn("CAT III is asked", refused(Voltmeter("m", 1000, "II", 600), "1 µF X2 305~", Role.X, fixed=True))
        self.assertIn("made for 300 V", refused(Voltmeter("m", 300, "III", 600), "1 µF X2 305~", Role.X))
        self.assertIn("does not cover", refused(good, "16 µF 450 V~", Role.MOTOR_RUN))
        self.assertIn("bare multimeter", refused(good, "1.05 µF 2100 V~", Role.MAGNETRON))
        self.assertIn("bare multimeter", refused(good, "1 µF 600 V~", Role.MAGNETRON))  # whatever the voltage
        self.assertEqual(refused(probe, "1.05 µF 2100 V~", Role.MAGNETRON), "")
        self.assertIn("not known", refused(Voltmeter("m", 1000), "1 µF X2 305~", Role.X))
        self.assertEqual(refused(good, "1.05 µF 2100 V~", Role.MAGNETRON, after=30), "")
        self.assertIn("made for", refused(good, "1.05 µF 2100 V~", Role.MAGNETRON, after=1001))
        two_pole = Voltmeter("d", 1000, "IV", 1000, kind=MeterKind.TWO_POLE)
        self.assertIn("two-pole", refused(two_pole, "1 µF X2 305~", Role.X))
        self.assertIn("two-pole", refused(two_pole, "1.05 µF 2100 V~", Role.MAGNETRON, after=30))

    def test_es2_is_twice_es1(self) -> None:
        for nanofarad in (1, 4, 10, 150, 300, 5000):
            self.assertAlmostEqual(es2_limit(nanofarad * 1e-9), 2 * touch_limit(nanofarad * 1e-9))
