"""What conducts: a short in ohms or insulation in every role, leakage that heats, a dropper's current, bleeders taken out first."""

import datetime
import math
import unittest
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import (
    SEVERITY,
    Arrangement,
    Basis,
    Bleeder,
    Condition,
    Evidence,
    Position,
    Quantity,
    Reading,
    Role,
    Surroundings,
    Verdict,
    Word,
)
from dusky_heron.core.verdict import judge
from dusky_heron.core.verdict.conduction import beside_bleeder, shows_bleeder
from tests.core.test_verdict_settles import MARKINGS

TODAY = datetime.date(2026, 6, 1)
OHMS = (Quantity.RESISTANCE, Quantity.INSULATION)
FILM = (Role.X, Role.Y, Role.DROPPER, Role.MOTOR_RUN, Role.SNUBBER, Role.POWER_FACTOR, Role.MAGNETRON)
ELECTROLYTIC = (Role.RESERVOIR, Role.SMPS_BULK, Role.DC_LINK, Role.SMOOTHING, Role.ENERGY_STORE, Role.MOTOR_START)


def read(quantity: Quantity, ohm: float, share: float = 0.01, condition: Condition = Condition.LIFTED) -> Reading:
    return Reading(ohm, ohm * (1 - share), ohm * (1 + share), condition, quantity=quantity)


def judged(role: Role, *readings: Reading, text: str = "", around: Surroundings = Surroundings()) -> Verdict:  # noqa: B008 - frozen
    return judge(
        Position("C1", role, read_marking(text or MARKINGS[role]), 230, 50, surroundings=around), Evidence(readings), today=TODAY
    )


def by_rule(answer: Verdict, rule: str) -> list[Word]:
    return [reason.word for reason in answer.reasons if reason.rule_id == rule]


class Shorts(unittest.TestCase):
    """Below 1 kΩ lifted, bleeder taken out, condemns in every role, whatever else was or was not read."""

    def test_in_every_role_by_either_quantity_just_below_at_and_above(self) -> None:
        for role in Role:
            for quantity in OHMS:
                for ohm, condemned in ((0.0, True), (5.0, True), (989.0, True), (1_100.0, False)):
                    answer = judged(role, read(quantity, ohm))
                    with self.subTest(role, quantity=quantity, ohm=ohm):
                        self.assertEqual(Word.CONDEMN in by_rule(answer, "conduction.short"), condemned)
                        if condemned:
                            self.assertEqual((answer.word, answer.next_measurement), (Word.CONDEMN, None))

    def test_across_a_thousand_ohms_it_is_not_kept(self) -> None:
        for role in Role:
            answer = judged(role, read(Quantity.RESISTANCE, 1000.0, 0.05))
            self.assertEqual(by_rule(answer, "conduction.short"), [Word.REPLACE], role)

    def test_in_circuit_decides_nothing(self) -> None:
        for role in Role:
            answer = judged(role, read(Quantity.RESISTANCE, 5.0, condition=Condition.IN_CIRCUIT))
            self.assertEqual(by_rule(answer, "conduction.short"), [])

    def test_it_settles_what_capacitance_could_not(self) -> None:
        beyond = Reading(0, 0, math.inf, Condition.LIFTED)
        self.assertEqual(judged(Role.MOTOR_RUN, beyond).word, Word.UNKNOWN)
        answer = judged(Role.MOTOR_RUN, beyond, read(Quantity.RESISTANCE, 3.0))
        self.assertEqual((answer.word, answer.next_measurement), (Word.CONDEMN, None))

    def test_each_section_by_itself(self) -> None:
        second = Reading(2.0, 1.9, 2.1, Condition.LIFTED, 1, quantity=Quantity.RESISTANCE)
        answer = judged(Role.MOTOR_RUN, second, text="30+5 µF 450 V~")
        self.assertEqual(answer.word, Word.CONDEMN)
        self.assertIn("Section 2", answer.reasons[0].sentence)


class Heat(unittest.TestCase):
    """V²/R above 0.1 W replaces what is no electrolytic: 253 V (230 V and 10 %) on 640 kΩ; a run part at its 450 V on 2.0 MΩ."""

    def test_just_below_at_and_above(self) -> None:
        across = dict.fromkeys((Role.X, Role.DROPPER, Role.POWER_FACTOR), 253.0)
        for role, volts in (across | {Role.MOTOR_RUN: 450.0, Role.COUPLING: 400.0, Role.SNUBBER: 1600.0}).items():
            limit = volts**2 / 0.1
            for share, word in ((0.9, Word.REPLACE), (1.05, Word.WATCH), (1.3, Word.KEEP)):
                found = by_rule(judged(role, read(Quantity.RESISTANCE, limit * share, 0.001)), "conduction.heat")
                self.assertEqual(found, [word], (role, share))

    def test_a_run_part_that_leaks_thirty_kilohms_is_not_kept(self) -> None:
        good = Reading(16e-6, 15.9e-6, 16.1e-6, Condition.LIFTED)
        self.assertEqual(judged(Role.MOTOR_RUN, good).word, Word.KEEP)
        for quantity in OHMS:
            self.assertEqual(judged(Role.MOTOR_RUN, good, read(quantity, 30e3)).word, Word.REPLACE)

    def test_few_megohms_on_an_ohmmeter_ask_for_insulation_which_ends_it(self) -> None:
        leaks, whole = read(Quantity.RESISTANCE, 5e6), replace(read(Quantity.INSULATION, 20e9), volts=100.0)
        self.assertEqual(by_rule(judged(Role.X, leaks), "conduction.seen"), [Word.UNKNOWN])
        self.assertEqual(by_rule(judged(Role.X, leaks, whole), "conduction.seen"), [])
        self.assertEqual(by_rule(judged(Role.X, read(Quantity.RESISTANCE, 11e6)), "conduction.seen"), [])

    def test_electrolytics_go_by_their_leakage(self) -> None:
        for role in ELECTROLYTIC:
            self.assertEqual(by_rule(judged(role, read(Quantity.RESISTANCE, 30e3)), "conduction.heat"), [], role)

    def test_a_leak_is_not_passed_over_where_no_volts_are_known(self) -> None:
        """No supply, no rating: 1 MΩ, under which no film part is whole."""
        for ohm, words in ((30e3, [Word.REPLACE]), (0.9e6, [Word.REPLACE]), (2e6, [Word.KEEP])):
            position = Position("C1", Role.SNUBBER, read_marking("47n J"))
            answer = judge(position, Evidence((read(Quantity.RESISTANCE, ohm),)), today=TODAY)
            self.assertEqual(by_rule(answer, "conduction.heat"), words, ohm)

    def test_an_electrolytic_of_few_ohms_asks_for_its_leakage_and_that_ends_it(self) -> None:
        """82 µF 400 V may leak 2 · 681 µA in service: 294 kΩ; what an ohmmeter shows below may be the charging."""
        for ohm, asked in ((2e3, True), (290e3, True), (298e3, False)):
            answer = judged(Role.SMPS_BULK, read(Quantity.RESISTANCE, ohm, 0.001))
            self.assertEqual(by_rule(answer, "conduction.leakage"), [Word.UNKNOWN] * asked, ohm)
        for role in (Role.SMPS_BULK, Role.DC_LINK, Role.ENERGY_STORE):  # 360 V is nine tenths of 400
            for ampere, word in ((1e-6, Word.KEEP), (0.1, Word.REPLACE)):
                leak = Reading(ampere, ampere * 0.99, ampere * 1.01, Condition.LIFTED, quantity=Quantity.LEAKAGE, volts=360.0)
                answer = judged(role, read(Quantity.RESISTANCE, 2e3), leak)
                self.assertEqual(by_rule(answer, "conduction.leakage"), [])
                self.assertEqual(by_rule(answer, "leakage"), [word], (role, ampere))

    def test_ol_tells_nothing_against_it(self) -> None:
        beyond = Reading(0, 0, math.inf, Condition.LIFTED, quantity=Quantity.RESISTANCE)
        for role in Role:
            answer = judged(role, beyond)
            self.assertEqual(by_rule(answer, "conduction.heat") + by_rule(answer, "conduction.short"), [], role)

    @given(st.sampled_from(FILM), st.floats(1.0, 1e9), st.floats(0.01, 1.0), st.sampled_from(OHMS))
    def test_less_resistance_never_improves_the_word(self, role: Role, ohm: float, less: float, quantity: Quantity) -> None:
        more, fewer = (SEVERITY[judged(role, read(quantity, value)).word] for value in (ohm, ohm * less))
        self.assertLessEqual(more, fewer)


class Bleeders(unittest.TestCase):
    """A known bleeder inside is taken out first; one that should be there and is not is a finding of its own."""

    OVEN = "1.05 µF ±3 % 2100 V~ 10 MΩ"
    GOOD = Reading(1.05e-6, 1.045e-6, 1.055e-6, Condition.LIFTED)

    def test_parallel_resistances_are_taken_apart(self) -> None:
        for leak in (1e4, 1e6, 5e6):
            together = 1 / (1 / 10e6 + 1 / leak)
            alone = beside_bleeder(read(Quantity.RESISTANCE, together, 0.001), 10e6)
            self.assertAlmostEqual(alone.value / leak, 1, 3)
            self.assertTrue(alone.low <= leak <= alone.high)

    def test_what_may_be_the_bleeder_alone_ends_ten_per_cent_beside_it(self) -> None:
        """10 MΩ ±10 %: from 9 to 11 MΩ nothing need be beside it; at 8.9 something is, of some 81 MΩ or less."""
        for ohm, alone in ((8.98e6, False), (9.01e6, True), (10.99e6, True), (11.02e6, False)):
            self.assertEqual(shows_bleeder(read(Quantity.RESISTANCE, ohm, 0.0001), 10e6), alone, ohm)
        self.assertTrue(math.isfinite(beside_bleeder(read(Quantity.RESISTANCE, 8.9e6, 0.0001), 10e6).high))

    def test_a_healthy_oven_part_shows_its_bleeder_and_is_kept(self) -> None:
        for quantity in OHMS:
            for ohm in (9.5e6, 10e6, 10.6e6):
                answer = judged(Role.MAGNETRON, self.GOOD, read(quantity, ohm, 0.03), text=self.OVEN)
                self.assertEqual(answer.word, Word.KEEP, (quantity, ohm, [r.sentence for r in answer.reasons]))

    def test_one_whose_bleeder_is_open_is_replaced(self) -> None:
        for quantity in OHMS:
            answer = judged(Role.MAGNETRON, self.GOOD, read(quantity, 200e6), text=self.OVEN)
            self.assertEqual(answer.word, Word.REPLACE)
            self.assertIn("conduction.bleeder", [r.rule_id for r in answer.reasons if r.word == Word.REPLACE])

    def test_an_ohmmeter_that_still_charges_it_asks_for_its_insulation_and_that_ends_it(self) -> None:
        """1.05 µF through 30 MΩ of an ohmmeter's top range takes half a minute: until then it shows OL."""
        beyond = Reading(60e6, 60e6, math.inf, Condition.LIFTED, quantity=Quantity.RESISTANCE)
        asked = judged(Role.MAGNETRON, self.GOOD, beyond, text=self.OVEN)
        ask = asked.next_measurement
        self.assertEqual((asked.word, ask and ask.quantity), (Word.UNKNOWN, Quantity.INSULATION))
        for ohm, word in ((10e6, Word.KEEP), (500e6, Word.REPLACE)):
            ended = judged(Role.MAGNETRON, self.GOOD, beyond, read(Quantity.INSULATION, ohm, 0.03), text=self.OVEN)
            self.assertEqual((ended.word, ended.next_measurement), (word, None), ohm)
        over = Reading(2e9, 2e9, math.inf, Condition.LIFTED, quantity=Quantity.INSULATION)
        self.assertEqual(judged(Role.MAGNETRON, self.GOOD, beyond, over, text=self.OVEN).word, Word.REPLACE)

    def test_one_that_leaks_beside_its_bleeder_is_not_kept(self) -> None:
        answer = judged(Role.MAGNETRON, self.GOOD, read(Quantity.INSULATION, 3e6), text=self.OVEN)
        self.assertIn(answer.word, (Word.REPLACE, Word.CONDEMN))

    def test_a_bleeder_of_the_place_counts_only_where_it_is_inside(self) -> None:
        """A lifted X part has left the resistors of its board behind."""
        board = Surroundings(bleeder=Bleeder(150e3, 2))
        self.assertEqual(by_rule(judged(Role.X, read(Quantity.RESISTANCE, 300e3), around=board), "conduction.heat"), [Word.REPLACE])
        inside = Surroundings(bleeder=Bleeder(10e6))
        answer = judged(
            Role.MAGNETRON, self.GOOD, read(Quantity.INSULATION, 10e6, 0.03), text="1.05 µF ±3 % 2100 V~", around=inside
        )
        self.assertEqual(answer.word, Word.KEEP)


class RatedVolts(unittest.TestCase):
    """DC places by normal highest mains and their own share: √2 · 230 · 1.1 = 357.8 V behind a bridge."""

    def word(self, role: Role, text: str, **around: object) -> list[Word]:
        position = Position("C1", role, read_marking(text), 230, 50, surroundings=Surroundings(**around))  # type: ignore[arg-type]
        return by_rule(judge(position, Evidence(), today=TODAY), "rating.dc")

    def test_a_bulk_behind_a_bridge(self) -> None:
        for volts, word in ((200, Word.REPLACE), (350, Word.REPLACE), (357, Word.REPLACE), (360, Word.KEEP), (400, Word.KEEP)):
            self.assertEqual(self.word(Role.SMPS_BULK, f"82 µF {volts} V"), [word], volts)

    def test_each_circuit_by_its_own_share(self) -> None:
        for basis, role, volts, word in (
            (Basis.DOUBLER, Role.RESERVOIR, 350, Word.REPLACE),  # each half of a doubler stands at the peak
            (Basis.DOUBLER, Role.RESERVOIR, 360, Word.KEEP),
            (Basis.POWER_FACTOR_CORRECTION, Role.SMPS_BULK, 385, Word.REPLACE),
            (Basis.POWER_FACTOR_CORRECTION, Role.SMPS_BULK, 400, Word.KEEP),
            (Basis.RECTIFIED, Role.SMOOTHING, 250, Word.REPLACE),
            (Basis.RECTIFIED, Role.COUPLING, 160, Word.REPLACE),
        ):
            self.assertEqual(self.word(role, f"100 µF {volts} VDC", basis=basis), [word], (basis, volts))
        for volts, word in ((35, Word.KEEP), (25, Word.REPLACE)):  # √2 · 18 · 1.1 = 28.0 V
            self.assertEqual(self.word(Role.RESERVOIR, f"2200 µF {volts} V", basis=Basis.TRANSFORMER, volts=18.0), [word], volts)
        string = {"basis": Basis.THREE_PHASE_BRIDGE, "arrangement": Arrangement.SERIES, "count": 2}
        self.assertEqual(self.word(Role.DC_LINK, "1500 µF 200 V", **string), [Word.KEEP])  # half of 357.8
        self.assertEqual(self.word(Role.DC_LINK, "1500 µF 160 V", **string), [Word.REPLACE])

    def test_a_motor_part_by_the_capacitor_volts_of_its_plate_and_never_under_the_supply(self) -> None:
        for volts, rated, word in (
            (440.0, 400, Word.REPLACE),
            (400.0, 400, Word.KEEP),
            (110.0, 220, Word.REPLACE),
            (None, 400, Word.KEEP),
        ):
            around = Surroundings(volts=volts)
            answer = judged(Role.MOTOR_RUN, text=f"16 µF ±5 % {rated} V~", around=around)
            self.assertEqual(by_rule(answer, "rating.ac"), [word], (volts, rated))

    def test_of_a_can_the_sections_made_for_what_feeds_it(self) -> None:
        """The 25 V section of a 450 V can stands elsewhere, at a cathode: what feeds the place tells nothing of it."""
        self.assertEqual(self.word(Role.RESERVOIR, "40/20 µF 450/25 VDC", basis=Basis.RECTIFIED), [Word.KEEP])
        self.assertEqual(self.word(Role.RESERVOIR, "32+32 µF 350 VDC", basis=Basis.RECTIFIED), [Word.REPLACE] * 2)

    def test_where_the_circuit_is_not_known_it_asks(self) -> None:
        answer = judged(Role.SMOOTHING, text="100 µF 25 V")
        asked = [reason.sentence for reason in answer.reasons if reason.rule_id == "rating.dc"]
        self.assertEqual(len(asked), 1)
        self.assertIn("is not known: what does?", asked[0])
