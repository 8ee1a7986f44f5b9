"""The proving ground: seeded technicians, each guard switched off, what it found with the seed that found it, and its own truth."""

import csv
import hashlib
import json
import math
import subprocess
import sys
import unittest
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import asdict, replace
from functools import partialmethod
from pathlib import Path
from unittest.mock import patch

from dusky_heron.core import rig
from dusky_heron.core.discharge.limits import limits_table
from dusky_heron.core.discharge.pins import on_the_pins
from dusky_heron.core.discharge.planning import plan_charge
from dusky_heron.core.discharge.proving import charged_by, unread
from dusky_heron.core.discharge.touch_current import touch_limits
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import (
    Bleeder,
    Condition,
    Equipment,
    Evidence,
    Finding,
    Measurement,
    Part,
    PartKind,
    Position,
    Quantity,
    Reach,
    Reading,
    Role,
    Selection,
    Surroundings,
    Verdict,
    Word,
)
from dusky_heron.core.model.parts import Candidate
from dusky_heron.core.proving import Counts, Run, count, jobs, manual, prove, truth
from dusky_heron.core.proving.counting import Slip
from dusky_heron.core.proving.hazards import Hazard, hazards, lacking, page
from dusky_heron.core.proving.slips import Human
from dusky_heron.core.proving.technician import TODAY, Technician, Work
from dusky_heron.core.proving.truth import Facts, State, state_of
from dusky_heron.core.returning.checks import Repaired, checks_for
from dusky_heron.core.returning.powerup import Logged, PowerFinding, Trend, power_up_plan, read_trend
from dusky_heron.core.rig.capacitors import Capacitor, section
from dusky_heron.core.selection import need_of, rank
from dusky_heron.core.verdict import judge
from tests import some

ROOT = Path(__file__).resolve().parents[2]
AT = "dusky_heron.core.proving.technician"
OBEDIENT, HUMAN = 90, 30  # seeded runs; many more are run by hand, docs/proving.md


def lifted(value: float, quantity: Quantity = Quantity.CAPACITANCE, share: float = 0.02, **more: object) -> Reading:
    return Reading(value, value * (1 - share), value * (1 + share), Condition.LIFTED, quantity=quantity, **more)  # type: ignore[arg-type]


with (Path(__file__).parent / "proving_runs.csv").open(encoding="utf-8") as file:
    RUNS = list(csv.DictReader(file))


def told_as(run: Run) -> str:
    """What was told and counted, in twelve figures."""
    return hashlib.sha256(json.dumps(asdict(run), sort_keys=True).encode()).hexdigest()[:12]


class SameEverywhere(unittest.TestCase):
    """Published seeds can be looked at again; whoever changes the simulated world or its technicians measures anew."""

    def of_set(self, set_id: str) -> None:
        rows = [row for row in RUNS if row["set_id"] == set_id]
        self.assertEqual([row["technician"] for row in rows], [*["obedient"] * 4, *["human"] * 6])
        for row in rows:
            run = prove(set_id, int(row["seed"]), row["technician"])
            self.assertEqual((run.steps, told_as(run)), (int(row["steps"]), row["told"]), row)

    def test_whatever_order_a_process_gives_its_sets(self) -> None:
        """Python orders sets of words anew in each process: nothing that is drawn or solved may go by it."""
        told = "from dusky_heron.core.proving import prove; print([prove(*one).story for one in (('flash', 509), ('linear', 508))])"
        stories = [
            subprocess.run(
                [sys.executable, "-c", told], env={"PYTHONPATH": str(ROOT), "PYTHONHASHSEED": seed}, capture_output=True, check=True
            )
            for seed in ("1", "2", "3")
        ]
        self.assertEqual(len({one.stdout for one in stories}), 1)


for name in rig.SETS:  # each by itself, so that one can be looked at alone
    setattr(SameEverywhere, f"test_{name}", partialmethod(SameEverywhere.of_set, name))


class Seeded(unittest.TestCase):
    """Both technicians over every set: what must never happen does not, and what may seldom happen is seldom."""

    def test_nobody_is_fooled(self) -> None:
        told = [(*job, "obedient") for job in jobs(1, OBEDIENT)] + [(*job, "human") for job in jobs(2, HUMAN)]
        with ProcessPoolExecutor() as pool:
            runs = list(pool.map(prove, *zip(*told, strict=True), chunksize=5))
        obedient, human = count(runs[:OBEDIENT]), count(runs[OBEDIENT:])
        found = (obedient.touched, obedient.outlived, obedient.unfit, obedient.endless, obedient.missed_stop)
        self.assertEqual(found, (0, 0, 0, 0, 0), [run.story for run in runs[:OBEDIENT] if any(run.badness[:4])])
        self.assertLessEqual(obedient.bad_kept, 0.02)  # of some sixty bad parts: none, or one
        self.assertLessEqual(obedient.good_replaced, 0.03)
        self.assertLessEqual(obedient.median_measurements, 2.5)
        self.assertLessEqual(obedient.median_questions, 3)
        self.assertGreater(obedient.bad, 30)
        self.assertEqual(human.touched, 0)
        self.assertGreater(human.slips, 20)


class AlwaysSkips(Human):
    """Never lays the tool on a set whose bleed resistor is open."""

    def in_use(self) -> None:
        self.simulated.pieces["R1"] = replace(self.simulated.pieces["R1"], fault="open")
        super().in_use()

    def slips(self) -> bool:
        return False

    def empties_for(self, work: Work, worst_s: float) -> float:
        return 0.0


def over(set_id: str, seeds: range, made: Callable[[str, int], Technician] = Technician) -> Counts:
    """Some seeds of one set, counted."""
    return count([made(set_id, seed).work() for seed in seeds])


def kept(*_: object, **__: object) -> Verdict:
    return Verdict(Word.KEEP, (Finding("none", Word.KEEP, "", "", "", ""),), None, "0")


def first(_need: object, parts: list[Part], *_: object) -> Selection:
    return Selection(tuple(Candidate(part, 0.0, ()) for part in parts[5:]))


class Guards(unittest.TestCase):
    """Each guard of the table of hazards switched off shows in the counts; switched on the same seeds are clean."""

    def off(self, name: str, instead: Callable[..., object], run: Callable[[], Counts], counted: str) -> None:
        with_it = getattr(run(), counted)
        with patch(name, instead):
            self.assertGreater(getattr(run(), counted), with_it, name)

    def test_touch_charged(self) -> None:
        def skipping() -> Counts:
            return over("filter_box", range(3), AlwaysSkips)

        with patch(f"{AT}.check_proof", lambda *_: 0.0):
            self.off(f"{AT}.left_on", lambda *_, **__: (), skipping, "touched")
        with patch(f"{AT}.left_on", lambda *_, **__: ()):
            self.off(f"{AT}.check_proof", lambda *_: 0.0, skipping, "touched")

    def test_second_feed(self) -> None:
        seeds = [seed for seed in range(30) if "battery" in rig.make("drive", seed).drawing.title][:2]
        self.assertEqual(len(seeds), 2)
        self.off(f"{AT}.recharged_by", lambda *_: "", lambda: over("drive", range(seeds[0], seeds[0] + 1)), "waits")

    def test_hidden_charge(self) -> None:
        def remaking() -> Counts:
            return count([Remakes("dropper_shunt", seed).work() for seed in range(8)])

        self.off(f"{AT}.hides_charge", lambda *_, **__: "", remaking, "touched")

    def test_creeps_back(self) -> None:
        """An oven part without its bleeder: of 2 kV some twenty volts come back. No hand is hurt, but the proof says 5 V."""
        self.off(f"{AT}.proof_holds", lambda *_, **__: 1800.0, lambda: over("oven", range(1), Unbled), "outlived")

    def test_charged_by_tester(self) -> None:
        self.off(f"{AT}.charged_by", lambda *_: "", lambda: over("valve_set", range(3)), "touched")

    def test_bad_kept(self) -> None:
        self.off(f"{AT}.judge", kept, lambda: over("motor", range(6)), "bad_kept")

    def test_misread(self) -> None:
        def slipping() -> Counts:
            return count([OnlyDecimals("filter_box", seed).work() for seed in range(2)])

        asked = slipping()
        with patch("dusky_heron.core.verdict.next_of", lambda *_: None):
            self.assertLess(slipping().asked, asked.asked)
        self.assertGreater(asked.asked, 0)

    def test_unfit_part(self) -> None:
        self.off(f"{AT}.rank", first, lambda: over("dropper_bridge", range(3)), "unfit")

    def test_touch_current(self) -> None:
        earthed = Equipment("I")
        self.off(
            "dusky_heron.core.selection.consequences.touch_limits",
            lambda rows, standard, _: touch_limits(rows, standard, earthed),
            lambda: over("valve_set", range(10, 13)),
            "unfit",
        )

    def test_power_on_fault(self) -> None:
        on = Trend(PowerFinding.AS_EXPECTED, False, None, "")
        self.off(f"{AT}.read_trend", lambda *_: on, lambda: over("linear", range(8)), "missed_stop")

    def test_pins_live(self) -> None:
        self.off(f"{AT}.checks_for", lambda *_: (), lambda: over("filter_box", range(12)), "returns")

    def test_goes_round(self) -> None:
        def never(_position: object, _evidence: object, found: list[Finding], _able: object) -> list[Finding]:
            return found

        self.off("dusky_heron.core.verdict.ended", never, lambda: over("motor", range(12)), "endless")


class Unbled(Technician):
    """On an oven whose bleeder has gone."""

    def in_use(self) -> None:
        self.simulated.capacitors["C1"] = replace(self.simulated.capacitors["C1"], bleeder_ohm=None)
        super().in_use()


class Remakes(Technician):
    """On a dropper whose joint is apart with 200 V behind it, and touches again in the hand."""

    def in_use(self) -> None:
        super().in_use()
        part = replace(self.simulated.capacitors["C1"], joint="remakes")
        self.simulated.capacitors["C1"] = part
        self.simulated.touching.discard("C1")
        self.simulated.wait(0.0)
        self.simulated.network.held["C1"] = tuple(200.0 for _ in self.simulated.network.held["C1"])


class OnlyDecimals(Human):
    """Slips by a decimal in every first reading of a capacitance, and in nothing else."""

    reading = False

    def slips(self) -> bool:
        return self.reading

    def take_reading(self, work: Work, ask: Measurement) -> Reading | None:
        self.reading = True
        try:
            return super().take_reading(work, ask)
        finally:
            self.reading = False

    def wrong_reading(self, work: Work, ask: object, name: str, k: int, right: Reading) -> tuple[Reading, Slip] | None:
        if right.quantity is not Quantity.CAPACITANCE or work.readings:
            return None
        wrong = replace(right, value=right.value / 10, low=right.low / 10, high=right.high / 10)
        return wrong, self.keep(Slip("decimal", work.place.name))


class Hazards(unittest.TestCase):
    """The table is whole, and the page is made from it."""

    def test_every_hazard_has_guard_set_and_test(self) -> None:
        self.assertGreaterEqual(len(hazards()), 12)
        self.assertEqual([said for hazard in hazards() for said in lacking(hazard)], [])
        tests = {f"test_{hazard.id}" for hazard in hazards()}
        self.assertEqual(tests - set(dir(Guards)), set())

    def test_one_that_lacks_something_is_told(self) -> None:
        whole = hazards()[0]
        for change in ({"guards": ()}, {"guards": ("dusky_heron.core.none",)}, {"sets": ()}, {"sets": ("none",)}, {"tests": ()},
                       {"tests": ("tests.core.test_proving_ground.None",)}):  # fmt: skip
            self.assertEqual(len(list(lacking(replace(whole, **change)))), 1, change)
        self.assertIsInstance(whole, Hazard)

    def test_the_page_is_that_of_the_table(self) -> None:
        self.assertEqual((ROOT / "docs" / "hazards.md").read_text(encoding="utf-8"), page())


class Told(unittest.TestCase):
    """What is printed and counted."""

    def test_last_line_and_story(self) -> None:
        said = subprocess.run(
            [sys.executable, "-m", "dusky_heron.prove", "--seed", "3", "--runs", "2", "--set", "interference", "--worst", "1"],
            capture_output=True, text=True, check=True, cwd=ROOT,
        ).stdout  # fmt: skip
        last = json.loads(said.splitlines()[-1])
        for name in ("runs", "touched", "unfit", "bad_kept", "good_replaced", "endless", "missed_stop", "median_measurements"):
            self.assertIn(name, last)
        self.assertEqual(last["runs"], 2)
        self.assertIn("In truth: bench grinder", said)

    def test_the_same_seed_is_the_same_run(self) -> None:
        a, b = (prove("lighting", 5, "human") for _ in range(2))
        self.assertEqual(asdict(a), asdict(b))
        self.assertNotEqual(a.story, prove("lighting", 6, "human").story)

    def test_shares_are_of_what_was_judged(self) -> None:
        slip = Slip("decimal", "", matters=True, contradicts=True, asked=True)
        one = Run("motor", 1, "human", bad=3, bad_kept=1, good=4, good_replaced=1, measurements=[1, 2, 5], slips=[slip])
        found = count([one, Run("motor", 2, "human", bad=1, slips=[Slip("unit", "", matters=True)])])
        told = (
            found.bad_kept,
            found.good_replaced,
            found.median_measurements,
            found.slips_that_matter,
            found.contradicted,
            found.asked,
        )
        self.assertEqual(told, (0.25, 0.25, 2.0, 2, 1, 1))
        self.assertEqual(count([]).bad_kept, 0.0)

    def test_what_is_not_there_is_refused(self) -> None:
        for set_id, technician in (("none", "obedient"), ("motor", "none")):
            with self.assertRaises(InputError):
                prove(set_id, 1, technician)


class Truth(unittest.TestCase):
    """What a part is, by hand: 16 µF run part ±5 %: sound to 3 % off, bad from 9 % lost by wear, between in between."""

    def run_part(self, kept: float, leak_ohm: float = math.inf) -> Capacitor:
        one = replace(section(16e-6), kept=kept, leak_ohm=leak_ohm)
        return Capacitor("C1", Role.MOTOR_RUN, "polypropylene", (one,), (("a", "b"),), 450.0, ac=True, tolerance=0.05)

    def test_margins_are_twice_the_meters_error(self) -> None:
        for kept_, leak, state in ((1.0, math.inf, State.SOUND), (0.92, math.inf, State.BETWEEN), (0.90, math.inf, State.BAD),
                                   (1.0, 30e3, State.BAD), (1.0, 1e7, State.BETWEEN)):  # fmt: skip
            self.assertIs(state_of(self.run_part(kept_, leak)), state, (kept_, leak))
        self.assertIs(state_of(replace(self.run_part(1.0), joint="open")), State.BAD)
        self.assertIs(state_of(replace(self.run_part(1.0), joint="crackles")), State.INTERMITTENT)

    def test_a_hand_feels_what_a_store_holds_and_not_what_is_coupled_in(self) -> None:
        for set_id, pair in (("filter_box", ("L", "N")), ("lighting", ("fused", "chassis"))):
            simulated = rig.make(set_id, 1, healthy=True, quick=True)
            simulated.plug()
            simulated.wait(0.4)
            simulated.unplug(90)
            if set_id == "filter_box":
                self.assertGreater(truth.on_hands(simulated, [pair]), 300)
            simulated.wait(600)  # its bleeders: 0.3 s and 18 s to e; a live line beside it goes on
            self.assertLess(truth.on_hands(simulated, [pair]), 50)

    def test_quick_sets_go_as_exact_ones(self) -> None:
        """Charge, current and rebound within 2 % of the exact following."""
        for set_id in ("linear", "flash", "valve_set", "filter_box", "oven"):
            held = []
            for quick in (False, True):
                simulated = rig.make(set_id, 7, quick=quick)
                simulated.plug()
                simulated.wait(1.0)
                current = simulated.supply_current()
                simulated.unplug(90)
                before = {name: simulated.held(name) for name in simulated.capacitors}
                name = next(iter(simulated.capacitors))
                simulated.join(*simulated.terminals(name), 1000.0, 5.0)
                simulated.wait(600)
                held.append((current, before, {name: simulated.held(name) for name in simulated.capacitors}))
            (a, b, c), (x, y, z) = held
            self.assertAlmostEqual(a, x, delta=0.02 * abs(a) + 1e-6, msg=set_id)
            for name in b:
                self.assertAlmostEqual(b[name], y[name], delta=0.02 * abs(b[name]) + 0.1, msg=(set_id, name))
                self.assertAlmostEqual(c[name], z[name], delta=0.02 * max(abs(b[name]), 5.0), msg=(set_id, name))


class Mended(unittest.TestCase):
    """What the proving ground found wrong, each with the seed that showed it where a run is cheap, and its cause by itself."""

    def test_a_tester_charges_what_was_proved(self) -> None:
        """Obedient, valve_set 3000006: 245 V on C2 after an insulation reading, and the record said proved."""
        self.assertEqual(prove("valve_set", 3000006).touched, 0)
        for quantity, volts, charges in ((Quantity.INSULATION, 500.0, True), (Quantity.LEAKAGE, None, True),
                                         (Quantity.LEAKAGE, 4.9, False), (Quantity.LEAKAGE, 5.0, True),
                                         (Quantity.CAPACITANCE, 500.0, False), (Quantity.RESISTANCE, None, False)):  # fmt: skip
            self.assertEqual(bool(charged_by(quantity, volts)), charges, (quantity, volts))

    def test_a_two_core_lead_has_the_touch_current_of_class_two(self) -> None:
        """Obedient, valve_set 10: 10 nF of class Y1, 0.83 mA, taken for a chassis without an earth; class II allows 0.25 mA."""
        self.assertEqual(prove("valve_set", 10).unfit, 0)
        ids = [row.id for row in touch_limits(limits_table(), "IEC 60335-1 (22.5)", Equipment("", two_core=True))]
        self.assertEqual(ids, ["IEC 60335-1 (class II)"])
        marking = read_marking("10 nF ±5 % Y1 500 V~")
        for two_core, taken in ((True, 0), (False, 1)):
            place = Position("C3", Role.Y, marking, 230, 50, equipment=Equipment("" if two_core else "I", two_core))
            self.assertEqual(len(rank(need_of(place), [Part("1", PartKind.CERAMIC_SAFETY, marking)]).accepted), taken)

    def test_a_core_nobody_can_touch_has_no_touch_current(self) -> None:
        """Obedient, interference 13: its own spare was refused for 6.48 nF to a core inside the insulation."""
        marking = read_marking("0.1 + 2 x 0.0027 µF X1 Y2 250 V~")
        place = Position("C1", Role.X, marking, 230, 50, equipment=Equipment("II"), reaches=Reach.CORE)
        part = Part("1", PartKind.FILM_SAFETY, marking)
        self.assertEqual(len(rank(need_of(place), [part]).accepted), 1)
        self.assertEqual(len(rank(need_of(replace(place, reaches=Reach.ACCESSIBLE)), [part]).accepted), 0)

    def test_a_full_store_that_draws_leaks(self) -> None:
        """Obedient, flash 11: 38 mA at 328 V through a leak of 8.7 kΩ, and the current of a store was not looked at."""
        plan = power_up_plan("store", rail_v=328.0, current_a=3.3e-3)
        for read, stops in ((38e-3, True), (3.4e-3, False), (5.9e-3, True), (5.7e-3, False)):  # 3.3 mA × 1.15 + 2 mA = 5.8 mA
            self.assertEqual(read_trend(plan, [Logged(100.0, 326.0, read)]).stop, stops, read)

    def test_a_window_that_falls_is_asked_about(self) -> None:
        """Human, motor 5521000735: “73 - 37 MFD 330VAC INT” for 87 was taken for two sections, and nobody was asked."""
        run = prove("motor", 5521000735, "human")
        self.assertTrue(next(slip for slip in run.slips if "73 - 37" in slip.said).asked)
        self.assertTrue(read_marking("73 - 37 MFD 330VAC INT").provisional)

    def test_a_straddling_reading_in_a_y_place_asks_for_a_finer_meter_first(self) -> None:
        """Obedient, switcher 4000124: 1.84 nF ±2 % of 2.2 nF −20 % was replaced at once, with a bridge on the shelf."""
        place = Position("CY1", Role.Y, read_marking("2.2 nF M Y2 300 V~"), 230, 50)
        said = judge(place, Evidence((lifted(1.79e-9),)), today=TODAY)
        self.assertEqual((said.word, asked(said).quantity), (Word.REPLACE, Quantity.CAPACITANCE))
        fine = lifted(1.80e-9, share=0.003)
        self.assertNotEqual(judge(place, Evidence((lifted(1.79e-9), fine)), today=TODAY).word, Word.REPLACE)
        for read, able in (((lifted(1.79e-9),) * 2, None), ((lifted(1.79e-9),), lambda _: False)):
            ended = judge(place, Evidence(read), today=TODAY, able=able)
            self.assertEqual((ended.word, ended.next_measurement), (Word.REPLACE, None))

    def test_a_bleeder_that_is_noted_is_taken_for_what_it_is(self) -> None:
        """Obedient, lighting 3000058: 18 µF with 1 MΩ beside it was replaced for its insulation."""
        marking = read_marking("18 µF ±10 % 250 V~")
        bled = Surroundings(bleeder=Bleeder(1e6))
        read = (lifted(18e-6), lifted(0.98e6, Quantity.INSULATION, volts=100.0))
        for around, word in ((bled, Word.KEEP), (Surroundings(), Word.REPLACE)):
            place = Position("C1", Role.POWER_FACTOR, marking, 230, 50, surroundings=around)
            self.assertEqual(judge(place, Evidence(read), today=TODAY).word, word)
        gone = (lifted(18e-6), lifted(4e9, Quantity.INSULATION, volts=100.0))
        place = Position("C1", Role.POWER_FACTOR, marking, 230, 50, surroundings=bled)
        self.assertEqual(judge(place, Evidence(gone), today=TODAY).word, Word.REPLACE)

    def test_an_oven_part_without_a_bleeder_is_asked_about(self) -> None:
        """Obedient, oven 5000099: its bleeder of 10 MΩ open, and nothing said."""
        place = Position("C1", Role.MAGNETRON, read_marking("1.05 µF ±3 % 2100 V~"), 230, 50)
        whole = lifted(1.05e-6)
        first_ = judge(place, Evidence((whole, lifted(50e6, Quantity.RESISTANCE))), today=TODAY)
        self.assertEqual(asked(first_).quantity, Quantity.INSULATION)
        shown = judge(place, Evidence((whole, lifted(4e9, Quantity.INSULATION, volts=100.0))), today=TODAY)
        self.assertEqual(shown.word, Word.WATCH)
        self.assertEqual(read_marking("1.05 uF 2100 VAC internal resistor 10M").bleeder_ohm, 10e6)

    def test_the_pins_of_a_dropper_are_checked_too(self) -> None:
        """Obedient, dropper_half_wave 5000001: R2 open, 680 nF on the pins, and no check asked for them."""
        dropper = Position("C1", Role.DROPPER, read_marking("680 nF K X2 305 V~"), 230, 50)
        motor = Position("C1", Role.MOTOR_RUN, read_marking("16 µF ±5 % 450 V~"), 230, 50)
        rows = tuple(row for row in limits_table() if row.place == "plug_pins")
        for place, asked in ((dropper, True), (motor, False)):
            checks = checks_for(Repaired("II", False, True, (place,), frozenset(), pins=rows))
            self.assertEqual(any(check.id == "pins" for check in checks), asked, place.role)
        self.assertEqual(on_the_pins([motor]), [])

    def test_a_reading_against_its_mark_is_asked_for_once_more(self) -> None:
        """Human, seed 6: 54 % of slips that go against the mark were asked about. Under a quarter, or 10 % over its top."""
        place = Position("C1", Role.MOTOR_RUN, read_marking("16 µF ±5 % 450 V~"), 230, 50)
        for value, asks in ((1.6e-6, True), (3.9e-6, True), (4.1e-6, False), (14e-6, False), (18.0e-6, False), (19e-6, True)):
            said = judge(place, Evidence((lifted(value),)), today=TODAY)
            self.assertEqual((said.word, said.next_measurement is not None), (Word.REPLACE, asks), value)
        twice = judge(place, Evidence((lifted(1.6e-6), lifted(1.6e-6))), today=TODAY)
        self.assertEqual((twice.word, twice.next_measurement), (Word.REPLACE, None))
        short = lifted(3.0, Quantity.RESISTANCE)
        self.assertIsNone(
            judge(place, Evidence((lifted(1.6e-6), short)), today=TODAY).next_measurement
        )  # condemned, whatever it reads

    def test_a_proof_leaves_a_joint_open_until_the_part_was_read(self) -> None:
        """Obedient, dropper_shunt 23: a joint remade in the hand, 55 V, and the record said proved."""
        marking = read_marking("680 nF K X2 305 V~")
        charge = some(plan_charge(marking, role=Role.DROPPER, supply_v=230.0))
        self.assertTrue(unread(marking, Evidence(), charge=charge))
        self.assertEqual(unread(marking, Evidence((lifted(670e-9),)), charge=charge), "")
        new = replace(lifted(670e-9), condition=Condition.NEW_PART)
        self.assertTrue(unread(marking, Evidence((new,)), charge=charge))
        none = replace(lifted(670e-9), low=0.0, high=math.inf)  # beyond its range: nothing was read
        self.assertTrue(unread(marking, Evidence((none,)), charge=charge))
        one = lifted(670e-9)
        self.assertTrue(unread(marking, Evidence((one,)), parts=3, charge=charge))  # a bank: two of three nobody has read
        self.assertEqual(unread(marking, Evidence(tuple(replace(one, section=k) for k in range(3))), parts=3, charge=charge), "")
        small = read_marking("1 nF K Y2 300 V~")
        self.assertEqual(unread(small, Evidence(), charge=plan_charge(small, role=Role.Y, supply_v=230.0)), "")

    def test_film_that_prints_no_tolerance_in_a_snubber_is_held_to_twenty_per_cent(self) -> None:
        """Obedient, dropper_shunt 1: an RC unit of 0.1 µF at 82.9 nF, inside what such units are sold with, was replaced."""
        place = Position("C4", Role.SNUBBER, read_marking("0.1 µF + 100 Ω 275 V~"), 230, 50)
        for value, word in ((83e-9, {Word.WATCH, Word.KEEP, Word.UNKNOWN}), (76e-9, {Word.REPLACE})):
            self.assertIn(judge(place, Evidence((lifted(value),)), today=TODAY).word, word)


def asked(verdict: Verdict) -> Measurement:
    """What is asked for; an error where nothing is."""
    if verdict.next_measurement is None:
        raise AssertionError(verdict)
    return verdict.next_measurement


class Manual(unittest.TestCase):
    """What the technician knows beforehand is true of healthy sets."""

    def test_every_part_stands_in_one_place(self) -> None:
        for set_id in rig.SETS:
            simulated = rig.make(set_id, 1, healthy=True, quick=True)
            names = [name for place in manual.places_of(simulated) for name in place.capacitors]
            self.assertEqual(sorted(names), sorted(simulated.capacitors), set_id)

    def test_a_fit_part_is_fit(self) -> None:
        """An X2 of 275 V for an X2 of 275 V; not one of 250 V, not a DC part, not a Y place."""
        old = rig.make("filter_box", 1, healthy=True).capacitors["CX1"]
        x2 = Facts(PartKind.FILM_SAFETY, 1e-6, 275.0, True, "X2")
        for one, fit in ((x2, True), (replace(x2, volts=250.0), False), (replace(x2, name="X3"), False),
                         (replace(x2, farads=0.8e-6), False),
                         (replace(x2, kind=PartKind.FILM_DC, ac=False, name=""), False)):  # fmt: skip
            self.assertEqual(truth.is_fit(old, {"X2"}, 230.0, earthed=True, space=(95, 95, 160), one=one), fit, one)
