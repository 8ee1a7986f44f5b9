"""Sets by seed, what is done to them, what meters show on them, and a set played in a terminal."""

import doctest
import math
import subprocess
import unittest
from collections import Counter
from dataclasses import replace
from pathlib import Path

from dusky_heron.core import rig
from dusky_heron.core.errors import InputError
from dusky_heron.core.model.terms import Role, Sign
from dusky_heron.core.rig import aloud
from dusky_heron.core.rig.capacitors import material
from dusky_heron.core.rig.faults import Fault, apply, draw_faults
from dusky_heron.core.rig.meter import QUANTITIES, engineering, glance, kinds
from dusky_heron.core.rig.pieces import FAULTS
from dusky_heron.core.rig.sets import draw
from dusky_heron.core.tables import csv_table, toml_table
from tests.core.test_rig_truth import Chance

ROOT = Path(__file__).parents[2]
EXACT = {"exact": True}


def faulty(set_id: str, *faults: Fault) -> rig.SimulatedSet:
    """A healthy set with these faults alone."""
    drawing = draw(set_id, Chance(5))
    for fault in faults:
        apply(drawing, fault)
    return rig.SimulatedSet(drawing, 5, faults)


class BySeed(unittest.TestCase):
    """The same seed gives the same set; faults come as often as their table says."""

    def test_the_same_seed_is_the_same_set(self) -> None:
        for set_id in rig.SETS:
            one, same, other = (rig.make(set_id, seed, wear=0.2, camera=0.1) for seed in (3, 3, 4))
            self.assertEqual(one.capacitors, same.capacitors)
            self.assertEqual(one.faults, same.faults)
            self.assertNotEqual(one.capacitors, other.capacitors)
            for simulated in (one, same):
                simulated.plug()
                simulated.wait(0.1)
                simulated.unplug()
            self.assertEqual(one.network.held, same.network.held)

    def test_every_role_and_every_material_stands_in_some_set(self) -> None:
        parts = [part for set_id in rig.SETS for part in rig.make(set_id, 1).capacitors.values()]
        self.assertEqual({part.role for part in parts}, set(Role))
        self.assertEqual({part.material for part in parts} | {"ceramic_1"}, set(toml_table("rig_materials")))

    def test_faults_come_as_often_as_their_table_says(self) -> None:
        rows = [row for row in csv_table("rig_faults") if not row["after"]]
        counts: Counter[tuple[str, str]] = Counter()
        for set_id in rig.SETS:
            for seed in range(600):
                faults, _ = draw_faults(set_id, Chance(seed))
                counts.update((set_id, f"{fault.part} {fault.what}") for fault in faults)
        parts = Counter((row["set"], row["part"]) for row in csv_table("rig_faults"))
        for row in rows:
            if parts[row["set"], row["part"]] > 1:
                continue  # one fault to a part: the others take from it
            expected = 600 * float(row["chance"])
            with self.subTest(row["set"], part=row["part"]):
                self.assertLess(abs(counts[row["set"], f"{row['part']} {row['fault']}"] - expected), 4 * math.sqrt(expected) + 4)

    def test_each_row_of_faults_fits_its_set(self) -> None:
        for row in csv_table("rig_faults"):
            with self.subTest(row["set"], part=row["part"], fault=row["fault"]):
                drawing = draw(row["set"], Chance(1))
                apply(drawing, Fault(row["part"], row["fault"], float(row["low"] or 1)))
                self.assertTrue(0 < float(row["chance"]) < 1)
                self.assertLessEqual(float(row["low"] or 0), float(row["high"] or 0))
                self.assertTrue(row["source"])
                if row["after"]:
                    self.assertGreater(float(row["chance_after"]), float(row["chance"]))
                if row["sign"]:
                    Sign(row["sign"])

    def test_materials_lose_more_the_laxer_they_are(self) -> None:
        order = ("polypropylene", "polyester", "ceramic_2")
        for hertz in range(3):  # at 100 kHz polyester has overtaken ceramic
            losses = [material(name)["loss"][hertz][1] for name in order]
            self.assertEqual(losses, sorted(losses))
        self.assertGreater(sum(material("electrolytic")["absorption"]), sum(material("oil")["absorption"]))

    def test_what_there_is_not(self) -> None:
        drawing = draw("switcher", Chance(1))
        for fault in (Fault("C99", "worn"), Fault("CX1", "sings"), Fault("R1", "worn"), Fault("D1", "drifted")):
            with self.subTest(fault), self.assertRaises(InputError):
                apply(drawing, fault)


class UnderHands(unittest.TestCase):
    """What is done to a set, against what arithmetic says."""

    def test_a_plug_pulled_at_the_peak_leaves_the_peak_and_at_zero_little(self) -> None:
        for degrees, volts in ((90, 230 * math.sqrt(2)), (0, 0.0), (30, 230 * math.sqrt(2) / 2)):
            simulated = rig.make("filter_box", 1, healthy=True)
            simulated.plug()
            simulated.wait(0.1)
            simulated.unplug(degrees)
            self.assertAlmostEqual(abs(simulated.volts("L", "N")), volts, delta=3)

    def test_a_bleeder_empties_by_e_in_its_time_and_an_open_one_does_not(self) -> None:
        for faults, share in (((), math.exp(-0.2 / (300e3 * 1.22e-6))), ((Fault("R1", "open"),), 1.0)):
            simulated = faulty("filter_box", *faults)
            simulated.capacitors = {
                name: replace(part, years=0.0, sections=tuple(replace(s, made_f=s.marked_f) for s in part.sections))
                for name, part in simulated.capacitors.items()
            }
            simulated.plug()
            simulated.wait(0.1)
            simulated.unplug(90)
            before = simulated.volts("L", "N")
            simulated.wait(0.2)
            self.assertAlmostEqual(simulated.volts("L", "N") / before, share, delta=0.01)

    def test_an_automatic_discharger_empties_while_it_lives_and_a_dead_one_does_not(self) -> None:
        left = []
        for faults in ((), (Fault("U2", "open"),)):
            simulated = faulty("switcher_pfc", *faults)
            simulated.plug()
            simulated.wait(0.3)
            simulated.unplug(90)
            simulated.wait(0.5)
            left.append(abs(simulated.volts("fused", "N")))
        self.assertLess(left[0], 0.3 * left[1])  # the start-up resistor behind the bridge empties it too, three times as slowly

    def test_a_hand_gets_what_the_charge_holds(self) -> None:
        simulated = rig.make("flash", 1, healthy=True)
        simulated.plug()
        simulated.wait(10.0)
        simulated.unplug()
        volts = simulated.volts("bank", "bank-")
        farads = sum(part.farads() for part in simulated.capacitors.values())
        hand = simulated.touch("bank", "bank-")
        self.assertAlmostEqual(hand.peak_a, volts / 1000, delta=0.001 * volts / 1000)
        expected = 0.5 * farads * volts**2 * (1 - math.exp(-2 * 0.2 / (1000 * farads)))
        self.assertAlmostEqual(hand.joules / expected, 1, 1)
        blade = simulated.bridge("bank", "bank-")
        self.assertGreater(blade.peak_a, 300)
        self.assertLess(abs(simulated.volts("bank", "bank-")), 40)

    def test_a_link_holds_and_without_it_absorption_creeps_back(self) -> None:
        simulated = rig.make("flash", 1, healthy=True)
        simulated.plug()
        simulated.wait(600.0)
        simulated.unplug()
        simulated.join("bank", "bank-", 100.0, 5.0)
        simulated.short("bank", "bank-")
        simulated.wait(1.0)
        self.assertLess(abs(simulated.volts("bank", "bank-")), 0.01)
        simulated.unshort("bank", "bank-")
        simulated.wait(300.0)
        self.assertGreater(simulated.volts("bank", "bank-"), 5.0)

    def test_a_broken_joint_hides_its_charge_until_it_remakes(self) -> None:
        simulated = faulty("dropper_shunt", Fault("C1", "remakes"))
        simulated.network.held["C1"] = (300.0,) * 4
        a, b = simulated.terminals("C1")
        outside = rig.measure(simulated, rig.meters(1, exact=True)["hand"], "volts_dc", a, b).value or 0
        self.assertLess(abs(outside), 0.05)
        said = simulated.heat("C1", 70.0)
        self.assertEqual(said.noticed, ("C1 ticks",))
        self.assertAlmostEqual(simulated.volts(a, b), 300, delta=10)

    def test_lifting_opens_its_circuit_and_laying_back_closes_it(self) -> None:
        simulated = rig.make("switcher", 1, healthy=True)
        meter = rig.meters(1, exact=True)["hand"]
        self.assertNotEqual(rig.measure(simulated, meter, "resistance", *simulated.terminals("CX1")).text, "OL")
        simulated.lift("CX1")
        self.assertEqual(rig.measure(simulated, meter, "resistance", *simulated.terminals("CX1")).text, "OL")
        simulated.lay_back("CX1")
        self.assertNotEqual(rig.measure(simulated, meter, "resistance", *simulated.terminals("CX1")).text, "OL")

    def test_power_onto_a_short_melts_the_fuse_and_a_lamp_saves_it(self) -> None:
        shorted = Fault("C5", "shorted", 0.5)
        bare = faulty("switcher", shorted)
        self.assertIn("F1", (*bare.plug().died, *bare.wait(2.0).died))  # at once its NTC holds, then it is hot
        behind = faulty("switcher", shorted)
        happened = behind.plug(limiter=rig.Limiter(lamp_v=230, lamp_w=60))
        self.assertEqual((*happened.died, *behind.wait(1.0).died), ())
        self.assertAlmostEqual(behind.supply_current(), 60 / 230, delta=0.01)

    def test_a_series_resistor_burns_on_a_shorted_dropper_and_a_rectifier_shorts_behind_a_strong_fuse(self) -> None:
        dropper = faulty("dropper_half_wave", Fault("C1", "shorted", 1.0))
        self.assertIn("R1", (*dropper.plug().died, *dropper.wait(0.2).died))
        simulated = faulty("amplifier", Fault("C6", "shorted", 0.05))
        simulated.pieces["F1"] = replace(simulated.pieces["F1"], stands_i2t=1e6)
        died = (*simulated.plug().died, *simulated.wait(0.5).died)
        self.assertTrue({"D1", "D3"} & set(died), died)

    def test_a_live_chassis_bites_where_the_plug_is_turned(self) -> None:
        found = {}
        for seed in range(60):
            simulated = rig.make("valve_set", seed, healthy=True)
            if simulated.drawing.live_chassis:
                simulated.plug()
                found[simulated.drawing.neutral] = simulated.cycle((), (("chassis", "earth"),))[0]
        self.assertLess(found["N"], 5)
        self.assertGreater(found["L"], 220)

    def test_a_second_supply_keeps_a_link_up_with_the_plug_out(self) -> None:
        volts = {}
        for seed in range(30):
            simulated = rig.make("drive", seed, healthy=True)
            simulated.wait(30.0)
            volts["battery" in simulated.elements()] = simulated.volts("link+", "link-")
        self.assertGreater(volts[True], 400)
        self.assertAlmostEqual(volts[False], 0)

    def test_a_motor_turns_or_hums(self) -> None:
        for faults, amperes in (((), (3, 5)), ((Fault("C1", "open"), Fault("C2", "open")), (10, 20))):
            simulated = faulty("motor", *faults)
            simulated.plug()
            simulated.wait(1.5)
            low, high = amperes
            self.assertTrue(low < simulated.supply_current() < high, simulated.supply_current())
            self.assertEqual("F1" in [n for n, p in simulated.pieces.items() if p.fault], False)

    def test_a_dropper_that_is_worn_lets_its_relay_go(self) -> None:
        for left, clamped in ((1.0, True), (0.3, False)):  # 21 mA, or 6: f·C·(2V̂ − V); relay and board take 11 at 24 V
            simulated = faulty("dropper_half_wave", Fault("C1", "worn", left))
            simulated.plug()
            simulated.wait(3.0)
            self.assertEqual(simulated.volts("rail", "N") > 20, clamped, simulated.volts("rail", "N"))

    def test_what_lay_for_years_leaks_less_with_time_at_volts(self) -> None:
        simulated = faulty("valve_set", Fault("C1", "unformed", 50.0))
        before = simulated.capacitors["C1"].leak_ohm()
        simulated.plug()
        simulated.wait(1800.0)
        after = simulated.capacitors["C1"].leak_ohm()
        self.assertGreater(after / before, 5)

    def test_another_part_in_its_place_is_empty_and_whole(self) -> None:
        simulated = faulty("switcher", Fault("C5", "dried", 0.3))
        new = rig.make("switcher", 9, healthy=True).capacitors["C5"]
        simulated.plug()
        simulated.wait(0.2)
        simulated.unplug()
        simulated.fit(new)
        self.assertEqual(simulated.held("C5"), 0.0)
        self.assertAlmostEqual(simulated.capacitors["C5"].farads(), new.farads())


class Meters(unittest.TestCase):
    """What each shows, against the part it lies on; an exact meter errs by its last digit alone."""

    def setUp(self) -> None:
        self.meters = rig.meters(1, exact=True)

    def lifted(self, set_id: str, name: str, *faults: Fault) -> tuple[rig.SimulatedSet, tuple[str, str]]:
        simulated = faulty(set_id, *faults)
        simulated.lift(name)
        return simulated, simulated.terminals(name)

    def test_series_resistance_by_material(self) -> None:
        """82 µF 400 V: 0.13/(2π · 120 Hz · 82 µF) is 2.10 Ω, and 20 mΩ of leads; film has its 10 mΩ, an RC unit its 100 Ω."""
        switcher, dropper = rig.make("switcher", 1, healthy=True), rig.make("dropper_bridge", 1, healthy=True)
        self.assertAlmostEqual(switcher.capacitors["C5"].esr_ohm(), 2.1226, 3)
        self.assertAlmostEqual(switcher.capacitors["CX1"].esr_ohm(), 0.01)
        self.assertAlmostEqual(dropper.capacitors["C4"].esr_ohm(), 100.01)

    def test_an_alternating_range_shows_nothing_of_a_charge(self) -> None:
        simulated, ends = self.lifted("motor", "C1")
        simulated.network.held["C1"] = (300.0,) * 4
        self.assertEqual(rig.measure(simulated, self.meters["hand"], "volts_ac", *ends).value, 0)

    def test_a_motor_that_coasts_feeds_its_pins(self) -> None:
        """40 V behind 200 Ω, less what its windings take, falling to nothing in two seconds."""
        simulated = rig.make("motor", 1, healthy=True)
        simulated.plug()
        simulated.wait(2.0)
        simulated.unplug(0)
        told = []
        for _ in range(3):
            simulated.wait(0.2)
            told.append(simulated.cycle((), (("line", "N"),))[0])
        self.assertTrue(40 > told[0] > told[1] > told[2] > 0, told)
        simulated.wait(3.0)
        self.assertLess(simulated.cycle((), (("line", "N"),))[0], 0.1)

    def test_timed_charge_is_the_capacitance_and_its_absorption(self) -> None:
        for set_id, name in (("filter_box", "CX1"), ("switcher", "C5"), ("motor", "C1"), ("oven", "C1"), ("amplifier", "C7")):
            simulated, ends = self.lifted(set_id, name)
            if name == "C1" and set_id == "oven":
                simulated.capacitors[name] = replace(simulated.capacitors[name], bleeder_ohm=None)
            shown = rig.measure(simulated, self.meters["fine"], "capacitance", *ends)
            part = simulated.capacitors[name]
            with self.subTest(set_id):
                value, step = shown.value or 0, shown.step or 0
                self.assertAlmostEqual(value / part.farads(), 1, delta=0.02 + step / part.farads())

    def test_a_live_neighbour_does_not_disturb_a_timed_charge(self) -> None:
        simulated, ends = self.lifted("lighting", "C1")
        shown = rig.measure(simulated, self.meters["fine"], "capacitance", *ends)
        self.assertAlmostEqual((shown.value or 0) / simulated.capacitors["C1"].farads(), 1, delta=0.02)

    def test_a_leak_reads_high_by_timed_charge_and_right_on_a_bridge(self) -> None:
        """I·R·(1 − e^(−t/RC)) is slower than I·t/C: at 600 nF and 600 nA through 1 MΩ half a volt is 0.69 R·C late."""
        simulated, ends = self.lifted("filter_box", "CX2", Fault("CX2", "leaky", 1.5e6))
        true = simulated.capacitors["CX2"].farads()
        timed = rig.measure(simulated, self.meters["fine"], "capacitance", *ends)
        bridge = rig.measure(simulated, self.meters["bridge"], "capacitance_parallel", *ends, hertz=1000)
        late = 1.5e6 * true * math.log((600e-9 * 1.5e6 - 0.1) / (600e-9 * 1.5e6 - 0.5)) * 600e-9 / 0.4
        self.assertAlmostEqual((timed.value or 0) / late, 1, delta=0.02)
        self.assertAlmostEqual((bridge.value or 0) / true, 1, delta=0.002)

    def test_bridge_figures_belong_together(self) -> None:
        simulated, ends = self.lifted("switcher", "C5", Fault("C5", "dried", 0.6))
        told = {}
        for quantity in ("capacitance_series", "capacitance_parallel", "dissipation", "esr"):
            told[quantity] = rig.measure(simulated, self.meters["bridge"], quantity, *ends, hertz=120).value or 0.0
        d = told["dissipation"]
        self.assertAlmostEqual(told["capacitance_series"] / told["capacitance_parallel"], 1 + d * d, 2)
        self.assertAlmostEqual(told["esr"] * 2 * math.pi * 120 * told["capacitance_series"] / d, 1, 2)

    def test_ohms_insulation_and_leakage_of_a_known_leak(self) -> None:
        simulated, ends = self.lifted("filter_box", "CX1", Fault("CX1", "leaky", 1e6))
        for meter, quantity, volts, expected in (
            ("hand", "resistance", None, 1e6),
            ("insulation", "insulation", 500, 1e6),
            ("leakage", "leakage", 100, 100 / 1.01e6),
        ):
            shown = rig.measure(simulated, self.meters[meter], quantity, *ends, volts=volts)
            with self.subTest(quantity):
                self.assertAlmostEqual((shown.value or 0) / expected, 1, delta=0.02)
            simulated.join(*ends, 1000.0, 1.0)

    def test_an_insulation_test_leaves_its_volts_behind(self) -> None:
        simulated, ends = self.lifted("filter_box", "CX1")
        rig.measure(simulated, self.meters["insulation"], "insulation", *ends, volts=500)
        self.assertGreater(abs(simulated.volts(*ends)), 450)

    def test_an_electrolytic_swings_under_ohms(self) -> None:
        simulated, ends = self.lifted("linear", "C1")
        self.assertTrue(rig.measure(simulated, self.meters["hand"], "resistance", *ends).swings)

    def test_a_voltmeter_empties_what_is_small(self) -> None:
        simulated, ends = self.lifted("filter_box", "CX2")
        simulated.network.held["CX2"] = (300.0,) * 4
        shown = rig.measure(simulated, self.meters["hand"], "volts_dc", *ends)
        tau = 10e6 * simulated.capacitors["CX2"].farads()
        self.assertAlmostEqual((shown.value or 0) / (300 * math.exp(-1.0 / tau)), 1, 2)

    def test_live_volts_and_amperes(self) -> None:
        simulated = rig.make("lighting", 1, healthy=True)
        simulated.plug()
        simulated.wait(0.5)
        self.assertAlmostEqual(rig.measure(simulated, self.meters["hand"], "volts_ac", "fused", "N").value or 0, 229, delta=2)
        self.assertAlmostEqual(rig.measure(simulated, self.meters["hand"], "volts_dc", "fused", "N").value or 0, 0, delta=0.5)
        clamp = rig.measure(simulated, self.meters["clamp"], "current", "C1").value or 0
        part = simulated.capacitors["C1"]
        self.assertAlmostEqual(clamp, 2 * math.pi * 50 * part.farads() * 229.4, delta=0.01)

    def test_ghost_volts_fade_under_a_low_impedance(self) -> None:
        """100 pF from a live line beside: 10 MΩ show volts, 3 kΩ none."""
        simulated = rig.make("lighting", 1, healthy=True)
        high = rig.measure(simulated, self.meters["hand"], "volts_ac", "L", "chassis").value or 0
        low = rig.measure(simulated, self.meters["fine"], "volts_low", "L", "chassis").value or 0
        reach = 2 * math.pi * 50 * 100e-12 * 10e6
        self.assertAlmostEqual(high / (230 * reach / math.hypot(1, reach)), 1, delta=0.05)
        self.assertLess(low, 0.1)

    def test_a_charged_part_and_meters(self) -> None:
        for volts, quantity, text, died in (
            (2.0, "capacitance", None, False),
            (59.0, "capacitance", "CHARGED", False),
            (61.0, "capacitance", "dead", True),
            (999.0, "volts_dc", None, False),
            (1100.0, "volts_dc", "dead", True),
        ):
            meters = rig.meters(1, exact=True)
            simulated, ends = self.lifted("oven", "C1")
            simulated.capacitors["C1"] = replace(simulated.capacitors["C1"], bleeder_ohm=None)
            simulated.wait(0)
            simulated.network.held["C1"] = (volts,) * 4
            if text == "CHARGED":  # more than its own resistor takes in half a second
                simulated.capacitors["C1"] = replace(simulated.capacitors["C1"], series_ohm=1e6)
            shown = rig.measure(simulated, meters["hand"], quantity, *ends)
            with self.subTest(volts):
                self.assertEqual(shown.died, died)
                if text:
                    self.assertEqual(shown.text, text)
                self.assertEqual(rig.measure(simulated, meters["hand"], quantity, *ends).text == "dead", died)

    def test_a_charge_behind_a_broken_joint_harms_no_meter_and_shows_on_none(self) -> None:
        simulated = faulty("motor", Fault("C1", "open"))
        simulated.lift("C1")
        self.assertGreater(simulated.held("C1"), 60)
        for quantity in ("capacitance", "resistance", "volts_dc"):
            shown = rig.measure(simulated, self.meters["hand"], quantity, *simulated.terminals("C1"))
            self.assertFalse(shown.died, quantity)
            self.assertTrue(shown.text == "OL" or abs(shown.value or 0) < 0.05, (quantity, shown))
        self.assertGreater(simulated.held("C1"), 60)

    def test_each_errs_inside_its_accuracy_unless_it_is_out_of_calibration(self) -> None:
        for seed in range(40):
            for name, meter in rig.meters(seed, out=("bridge",)).items():
                self.assertEqual(meter.calibrated, name != "bridge")
        simulated, ends = self.lifted("motor", "C1")
        true = simulated.capacitors["C1"].farads()
        for seed in range(10):
            shown = rig.measure(simulated, rig.meters(seed)["bridge"], "capacitance_series", *ends, hertz=100)
            self.assertLessEqual(abs((shown.value or 0) - true), true * 0.0035 + 3.5 * (shown.step or 0))
        wrong = rig.measure(simulated, rig.meters(3, out=("bridge",))["bridge"], "capacitance_series", *ends, hertz=100)
        self.assertGreater(abs((wrong.value or 0) - true), true * 0.006)

    def test_range_and_last_digit(self) -> None:
        for value, step, unit, text in (
            (681.23e-9, 0.1e-9, "F", "681.2 nF"),
            (16e-6, 1e-8, "F", "16.00 µF"),
            (4700.0, 1.0, "Ω", "4.700 kΩ"),
            (0.0123, 0.0001, "", "0.0123"),
        ):
            self.assertEqual(engineering(value, step, unit), text)

    def test_every_meter_names_what_it_measures_and_what_it_lacks_is_refused(self) -> None:
        simulated = rig.make("switcher", 1, healthy=True)
        self.assertEqual({quantity for meter in self.meters.values() for quantity in meter.functions}, set(QUANTITIES))
        self.assertEqual(tuple(self.meters), kinds())
        for meter, quantity, node, setting, field in (
            ("clamp", "capacitance", "L", None, "quantity"),
            ("bridge", "esr", "L", 99, "hertz"),
            ("insulation", "insulation", "L", 501, "volts"),
            ("hand", "volts_dc", "nowhere", None, "node"),
        ):
            hertz, volts = (setting, None) if field == "hertz" else (None, setting)
            with self.subTest(field), self.assertRaises(InputError) as caught:
                rig.measure(simulated, self.meters[meter], quantity, node, "N", hertz=hertz, volts=volts)
            self.assertEqual(caught.exception.field, field)

    def test_a_glance_at_every_terminal(self) -> None:
        simulated = rig.make("flash", 1, healthy=True)
        simulated.plug()
        simulated.wait(5.0)
        simulated.unplug()
        told = glance(simulated, self.meters["hand"], "bank-")
        self.assertEqual(set(told), set(simulated.drawing.nodes()) - {"bank-"})
        self.assertAlmostEqual(told["bank"].value or 0, simulated.volts("bank", "bank-"), delta=0.1)
        with self.assertRaises(InputError):
            glance(simulated, self.meters["clamp"])


class Played(unittest.TestCase):
    """A set read aloud and acted on, line by line."""

    def play(self, *lines: str) -> list[str]:
        play = aloud.Play(rig.make("switcher", 4, healthy=True), rig.meters(4))
        return [said for line in lines for said in play.act(line)]

    def test_a_job_in_lines(self) -> None:
        said = self.play("plug", "wait 1", "unplug 90", "measure probe volts_dc plus minus", "join plus minus 1k 2",
                         "measure hand volts_dc C5", "lift C5", "measure bridge esr C5 120", "where", "knock")  # fmt: skip
        self.assertEqual(said[:3], ["plugged in", "waited", "unplugged"])
        self.assertRegex(self.play("plug", "unplug 90", "bridge plus minus")[2], r"^blade, .* peak .*A")
        self.assertRegex(said[3], r"^\d+ V$")
        self.assertRegex(said[4], r"^tool, .* V before, .* peak .*A")
        self.assertRegex(said[-3], r"Ω at 120 Hz$")
        self.assertIn("unplugged, at", said[-2])

    def test_what_cannot_be_done_is_said_and_nothing_breaks(self) -> None:
        for line in ("dance", "wait", "wait soon", "wait -1", "plug 999", "plug 50 lantern 3", "join A", "join plus nowhere 1k 1",
                     "measure", "measure spoon volts_dc L N", "measure hand esr L N", "measure hand volts_dc L", "lift R1",
                     "heat C5 900", "measure hand capacitance C5.7", 'lift "C5', "join plus minus 0 1", "join plus minus nan 1",
                     "measure clamp current nothing", "wait 1e99", "touch plus", "unshort a b", "\x00", "back C77"):  # fmt: skip
            with self.subTest(line):
                said = self.play(line)
                self.assertTrue(all(isinstance(one, str) and one for one in said))
                self.assertLessEqual(len(said), 1)
        self.assertEqual(self.play(""), [])

    def test_the_script_tells_and_plays(self) -> None:
        def told(*arguments: str, typed: str = "") -> str:
            command = [str(ROOT / "scripts" / "rig"), *arguments]
            return subprocess.run(command, input=typed, capture_output=True, text=True, check=True, cwd=ROOT).stdout

        self.assertEqual(told().split(), list(rig.SETS))
        said = told("oven", "--seed", "3", typed="truth\nmeasure hand volts_dc C1\nquit\n")
        for words in ("popcorn oven", "C1  magnetron", "Faults:", "insulation", "bridge esr", " mV"):
            self.assertIn(words, said)
        hidden = told("oven", "--seed", "3", "--hidden")
        self.assertNotIn("Faults", hidden)

    def test_what_its_page_shows_holds(self) -> None:
        found = doctest.testfile(str(ROOT / "docs" / "rig.md"), module_relative=False)
        self.assertEqual(found.failed, 0)
        self.assertGreater(found.attempted, 4)

    def test_pieces_fail_only_as_they_can(self) -> None:
        for row in csv_table("rig_faults"):
            pieces = {piece.name: piece for piece in draw(row["set"], Chance(1)).pieces}
            if row["part"] in pieces:
                self.assertIn(row["fault"], FAULTS[pieces[row["part"]].kind])
