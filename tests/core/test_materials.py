"""What a part is made of, how sure that is, and what its material may lose at each frequency."""

import datetime
import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Condition, Evidence, PartKind, Position, Quantity, Reading, Role, Word
from dusky_heron.core.model.materials import KINDS, MATERIALS, Sure, made_of
from dusky_heron.core.verdict import judge

TODAY = datetime.date(2026, 6, 1)
# Marking, material, and the highest loss of its standard or of data sheets, at hertz.
LOSSES = (
    ("10n MKP 630 VDC", "polypropylene", ((100, 0.001), (1000, 0.001), (10000, 0.003))),
    ("10n MKT 63 VDC", "polyester", ((100, 0.010), (1000, 0.010), (10000, 0.015), (100000, 0.030))),
    ("10n MP 400 VDC", "paper", ((100, 0.015), (1000, 0.015))),
    ("1n mica 500 VDC", "mica", ((100, 0.001), (1000, 0.001))),
    ("100p NP0 500 VDC", "ceramic_1", ((100, 0.0015), (1000, 0.0015))),
    ("10n X7R 100 VDC", "ceramic_2_stable", ((100, 0.025), (1000, 0.025))),
    ("1n Y5P 2 kVDC", "ceramic_2_stable", ((1000, 0.025),)),
    ("10n Z5U 100 VDC", "ceramic_2", ((1000, 0.05),)),
)
UNKNOWN_AT = (("10n MKP 630 VDC", 100e3), ("10n MP 400 VDC", 10e3), ("1n mica 500 VDC", 10e3), ("10n X7R 100 VDC", 10e3))


def loss(value: float, hertz: float, quantity: Quantity = Quantity.DISSIPATION) -> Reading:
    return Reading(value, value * 0.99, value * 1.01, Condition.LIFTED, quantity=quantity, frequency_hz=hertz)


def said(text: str, reading: Reading, role: Role = Role.COUPLING) -> list[Word]:
    answer = judge(Position("C1", role, read_marking(text, today=TODAY), 230, 50), Evidence((reading,)), today=TODAY)
    return [reason.word for reason in answer.reasons if reason.rule_id == reading.quantity]


class Losses(unittest.TestCase):
    """Each material at each frequency at which its loss is stated, just below, at and above."""

    def test_each_figure_just_below_and_above(self) -> None:
        for text, key, rows in LOSSES:
            made = made_of(read_marking(text, today=TODAY), Role.COUPLING)
            self.assertEqual(([material.key for material in made.plausible], made.certain), ([key], True), text)
            for hertz, figure in rows:
                leads = 2 * math.pi * hertz * 10e-9 * 0.05
                for share, words in ((0.85, [Word.KEEP]), (0.97, [Word.WATCH]), (1.08, [Word.REPLACE]), (2.0, [Word.REPLACE])):
                    limit = figure + (leads if text.startswith("10n") else 0.0)
                    with self.subTest(text, hertz=hertz, share=share):
                        self.assertEqual(said(text, loss(limit * share, float(hertz))), words)

    def test_an_esr_is_the_same_loss(self) -> None:
        """D = 2πfC·ESR: 10 nF at 10 kHz and 0.003 is 4.77 Ω, and 50 mΩ of leads."""
        for ohm, words in ((4.0, [Word.KEEP]), (5.2, [Word.REPLACE])):
            self.assertEqual(said("10n MKP 630 VDC", loss(ohm, 10e3, Quantity.ESR)), words)

    def test_where_nothing_is_known_of_a_frequency_another_is_asked_for(self) -> None:
        for text, hertz in UNKNOWN_AT:
            self.assertEqual(said(text, loss(1e-4, hertz)), [Word.UNKNOWN], text)

    def test_of_unknown_material_the_laxest_that_is_plausible_and_watch(self) -> None:
        """An X part may be polypropylene, polyester or paper: 0.015; beyond it is watched, known to be polypropylene replaced."""
        for value, words in ((0.012, [Word.KEEP]), (0.03, [Word.WATCH]), (0.5, [Word.WATCH])):
            self.assertEqual(said("100n K X2 275~", loss(value, 1000.0), Role.X), words, value)
        self.assertEqual(said("100n K MKP X2 275~", loss(0.003, 1000.0), Role.X), [Word.REPLACE])

    def test_a_large_part_is_judged_at_low_frequency_where_leads_do_not_hide_it(self) -> None:
        """16 µF at 1 kHz: 2πfC·50 mΩ = 0.005, five times what polypropylene may lose; at 120 Hz 0.0006."""
        self.assertEqual(said("16 µF ±5 % MKP 450 V~", loss(0.0005, 1000.0), Role.MOTOR_RUN), [Word.UNKNOWN])
        self.assertEqual(said("16 µF ±5 % MKP 450 V~", loss(0.0005, 120.0), Role.MOTOR_RUN), [Word.KEEP])

    def test_an_rc_unit_has_the_loss_of_its_resistor(self) -> None:
        """100 nF and 100 Ω at 1 kHz: 2πfRC = 0.0628; with its tolerance of 20 % and the film's own 0.015 at most 0.0904."""
        for value, words in ((0.063, [Word.KEEP]), (0.080, [Word.KEEP]), (0.10, [Word.WATCH]), (0.11, [Word.WATCH])):
            self.assertEqual(said("100n + 100 Ω 250 V~", loss(value, 1000.0), Role.SNUBBER), words, value)

    def test_a_new_part_counts_on_the_same_meter_at_the_same_frequency_only(self) -> None:
        """0.4 Ω at 100 kHz where a new one shows 0.32; on another meter, or at another frequency, that says nothing."""
        own = Reading(0.4, 0.396, 0.404, Condition.LIFTED, 0, "blue", Quantity.ESR, 100e3)
        for meter, hertz, words in (("blue", 100e3, [Word.KEEP]), ("red", 100e3, [Word.UNKNOWN]), ("blue", 10e3, [Word.UNKNOWN])):
            new = Reading(0.32, 0.317, 0.323, Condition.NEW_PART, 0, meter, Quantity.ESR, hertz)
            answer = judge(Position("C1", Role.SMPS_BULK, read_marking("82 µF M 400 VDC")), Evidence((own, new)), today=TODAY)
            self.assertEqual([r.word for r in answer.reasons if r.rule_id == "esr"], words, (meter, hertz))

    @given(st.sampled_from(sorted(MATERIALS)), st.floats(10, 1e5), st.floats(1, 100))
    def test_what_may_be_lost_never_falls_with_frequency(self, key: str, hertz: float, times: float) -> None:
        low, high = MATERIALS[key].loss_at(hertz), MATERIALS[key].loss_at(hertz * times)
        if low is not None and high is not None:
            self.assertLessEqual(low, high * (1 + 1e-12))


class Sources(unittest.TestCase):
    """Marking, then kind, then role."""

    def test_in_that_order_and_how_sure(self) -> None:
        plain, printed = read_marking("100n 250 VDC"), read_marking("100n MKP 250 VDC")
        self.assertEqual(made_of(printed, Role.COUPLING, PartKind.CERAMIC).known_from, Sure.MARKING)
        self.assertEqual(made_of(plain, Role.COUPLING, PartKind.CERAMIC).known_from, Sure.KIND)
        self.assertEqual(made_of(plain, Role.COUPLING).known_from, Sure.USUAL)
        self.assertEqual(made_of(printed, None).likeliest.key, "polypropylene")

    def test_every_kind_has_materials_there_are(self) -> None:
        self.assertEqual(set(KINDS), set(PartKind))
        for keys in KINDS.values():
            self.assertLessEqual(set(keys), set(MATERIALS))

    def test_value_and_rating_tell_electrolytics_from_film(self) -> None:
        for text, role, polar in (
            ("4.7 µF 50 V", Role.COUPLING, True), ("0.47 µF 50 V", Role.COUPLING, False),
            ("4.7 µF MKT 63 VDC", Role.COUPLING, False), ("220 nF K X2 305~", Role.X, False),
            ("189-227 µF 250 VAC", Role.MOTOR_START, True), ("2.2 µF 450 V~", Role.MOTOR_RUN, False),
        ):  # fmt: skip
            self.assertEqual(made_of(read_marking(text), role).likeliest.polar, polar, text)

    def test_an_electrolytic_in_coupling_is_judged_by_its_leakage(self) -> None:
        """4.7 µF 50 V may leak 2 · (0.01·4.7·50 + 3) = 10.7 µA; its insulation as film would be gigaohms."""
        for ampere, words in ((9e-6, [Word.KEEP]), (12e-6, [Word.REPLACE])):
            reading = Reading(ampere, ampere * 0.99, ampere * 1.01, Condition.LIFTED, quantity=Quantity.LEAKAGE, volts=50.0)
            self.assertEqual(said("4.7 µF 50 V", reading), words)
        answer = judge(Position("C1", Role.COUPLING, read_marking("4.7 µF 50 V")), Evidence(), today=TODAY)
        asked = {reason.settled_by.quantity for reason in answer.reasons if reason.settled_by}
        self.assertIn(Quantity.LEAKAGE, asked)
        self.assertNotIn(Quantity.INSULATION, asked)

    def test_one_above_its_usual_tolerance_asks_for_its_leakage_and_is_watched(self) -> None:
        """100 µF that prints no tolerance and reads 130: made so, or leaking. With one printed it is beyond it."""
        grown = Reading(130e-6, 129e-6, 131e-6, Condition.LIFTED)
        leak = Reading(20e-6, 19e-6, 21e-6, Condition.LIFTED, quantity=Quantity.LEAKAGE, volts=25.0)
        for text, readings, word in (
            ("100 µF 25 V", (grown,), Word.UNKNOWN), ("100 µF 25 V", (grown, leak), Word.WATCH),
            ("100 µF M 25 V", (grown,), Word.REPLACE),
        ):  # fmt: skip
            answer = judge(Position("C1", Role.SMOOTHING, read_marking(text)), Evidence(readings), today=TODAY)
            found = next(reason.word for reason in answer.reasons if reason.rule_id == "smoothing.capacitance")
            self.assertEqual(found, word, (text, len(readings)))
