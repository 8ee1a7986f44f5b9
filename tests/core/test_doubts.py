"""A reading fails closed: what is not certain is asked, nothing of the text is lost, the energy is planned with the worst."""

import random
import unittest
from collections import Counter

from hypothesis import given, settings
from hypothesis import strategies as st

from dusky_heron.core.discharge.planning import plan_charge
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.model import Marking, State
from tests import drawn_by
from tests.core.labels import Label, draw, outcome, plain, typed
from tests.core.test_found_markings import rows

EACH = 10_000  # labels with their spaces, and as many with spaces lost
LOST_SPACE = 0.3
DRAWN = st.integers(0, 2**32 - 1).map(lambda seed: draw(random.Random(seed)))
STRAY = ("99", "47X9", "?", "3/4", "7777", "12-7", "X8", "5 5", "0.9", "A55B", "6 xV", "1 234 567", "250 Vq")


def certain(read: Marking) -> tuple[object, ...]:
    """Value, volts and class: what a stray figure may put in doubt and never change."""
    own = tuple((f"{s.capacitance_f:.6g}", s.rated_ac_v, s.rated_dc_v) for s in read.sections)
    return own, tuple(sorted(read.class_names)), read.rated_ac_v, read.rated_dc_v


class Accounted(unittest.TestCase):
    """The pieces are the whole of the text."""

    @given(st.text(alphabet="0123456789 .,+-/±%~µunpmFVACDXYKJM=()Ωx?{}мкФВ漢é\x00", min_size=1, max_size=40))
    def test_every_character_is_in_a_piece(self, text: str) -> None:
        try:
            read = read_marking(text)
        except InputError:
            return
        self.assertEqual("".join(piece.text for piece in read.pieces), text)
        kept = "".join(token.text for token in read.tokens) + read.unread
        self.assertEqual(Counter("".join(kept.split())), Counter("".join(text.split())))

    @given(DRAWN, st.floats(0, 0.5))
    def test_every_character_of_a_label_too(self, label: Label, glue: float) -> None:
        text = typed(label, drawn_by(1), glue=glue)
        read = read_marking(text)
        self.assertEqual("".join(piece.text for piece in read.pieces), text)

    def test_an_unread_figure_or_unit_makes_it_provisional_and_a_word_does_not(self) -> None:
        for text, provisional in (
            ("16 µF 450 V~ quayside", False), ("16 µF 450 V~ 47X9", True), ("16 µF 450 V~ kV", True), ("16 µF 450 V~ ?", True),
            ("16 µF 450 V~ {47X9}", False), ("16 µF 450 V~ ½", True), ("16 µF 450 V~ mkF", True), ("16 µF 450 V~ ٤٥", True),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertEqual(read_marking(text).provisional, provisional)


class FailsClosed(unittest.TestCase):
    """Nothing certain comes out of what was torn out or put in."""

    @settings(max_examples=300, deadline=None)
    @given(DRAWN, st.integers(0, 30))
    def test_a_piece_that_cannot_be_read_leaves_nothing_else_certain(self, label: Label, at: int) -> None:
        text = typed(label, drawn_by(2))
        read = read_marking(text)
        carrying = [i for i, piece in enumerate(read.pieces) if piece.state is State.READ and any(c.isdigit() for c in piece.text)]
        torn = carrying[at % len(carrying)]
        left = "".join("?" if i == torn else piece.text for i, piece in enumerate(read.pieces))
        try:
            again = read_marking(left)
        except InputError:
            return
        self.assertTrue(again.provisional, left)

    @settings(max_examples=300, deadline=None)
    @given(DRAWN, st.sampled_from(STRAY), st.booleans())
    def test_a_stray_figure_leaves_what_was_certain_or_asks(self, label: Label, stray: str, first: bool) -> None:
        text = typed(label, drawn_by(3))
        read = read_marking(text)
        more = read_marking(f"{stray} {text}" if first else f"{text} {stray}")
        if not read.provisional:
            self.assertTrue(more.provisional or certain(more) == certain(read), more.text)

    @settings(max_examples=300, deadline=None)
    @given(DRAWN, st.randoms(use_true_random=False))
    def test_the_order_of_pieces_does_not_matter(self, label: Label, chance: random.Random) -> None:
        if not label.loose:
            return
        body = [piece for piece in (*label.pieces, *label.extras) if piece]
        read = read_marking(" ".join(body))
        chance.shuffle(body)
        again = read_marking(" ".join(body))
        if not read.provisional and not again.provisional:
            self.assertEqual(certain(again), certain(read), body)

    @settings(max_examples=200, deadline=None)
    @given(DRAWN, st.sampled_from((0.0, 0.5)), st.sampled_from((None, 230.0)))
    def test_no_answer_holds_more_than_was_planned(self, label: Label, glue: float, supply: float | None) -> None:
        self.assert_planned_with_the_worst(typed(label, drawn_by(4), glue=glue), supply)

    def test_no_answer_of_the_corpus_holds_more_than_was_planned(self) -> None:
        for row in rows():
            if row["word"] == "ask":
                with self.subTest(row["text"]):
                    self.assert_planned_with_the_worst(row["text"], None)

    def assert_planned_with_the_worst(self, text: str, supply: float | None) -> None:
        read = read_marking(text)
        charge = plan_charge(read, supply_v=supply)
        for option in (option for doubt in read.doubts for option in doubt.options):
            answered = plan_charge(read_marking(option.text), supply_v=supply)
            if answered:
                assert charge is not None, option.text
                self.assertGreaterEqual(charge.hazard.energy_j * (1 + 1e-9), answered.hazard.energy_j, option.text)

    def test_a_can_is_planned_at_its_highest_volts(self) -> None:
        for text in ("40/20/20 MFD 450/450/25 WVDC", "20 µF 25 VDC + 40 µF 450 VDC"):
            charge = plan_charge(read_marking(text))
            assert charge is not None
            self.assertEqual(charge.voltage.voltage_v, 450.0)


class Composite(unittest.TestCase):
    """Twenty thousand labels of every kind: none is wrong without a word."""

    def outcomes(self, seed: int, glue: float) -> dict[str, float]:
        chance = drawn_by(seed)
        counted: Counter[str] = Counter()
        for _ in range(EACH):
            label = draw(chance)
            text = typed(label, chance, glue=glue)
            found = outcome(text, label.truth)
            counted[found] += 1
            self.assertNotEqual(found, "wrong", text)
        return {name: count / EACH for name, count in counted.items()}

    def test_with_spaces_few_ask(self) -> None:
        found = self.outcomes(60062, 0.0)
        asked = found.get("asked", 0) + found.get("lost", 0) + found.get("refused", 0)
        self.assertLessEqual(asked, 0.05, found)
        self.assertLessEqual(found.get("lost", 0) + found.get("refused", 0), 0.02 * asked, found)

    def test_with_spaces_lost_some_ask(self) -> None:
        found = self.outcomes(60063, LOST_SPACE)
        asked = found.get("asked", 0) + found.get("lost", 0) + found.get("refused", 0)
        self.assertLessEqual(asked, 0.30, found)
        self.assertLessEqual(found.get("lost", 0) + found.get("refused", 0), 0.02 * asked, found)

    def test_a_plain_label_hardly_ever_asks(self) -> None:
        chance = drawn_by(60064)
        asked = [text for text in (typed(plain(chance), chance) for _ in range(2000)) if read_marking(text).provisional]
        self.assertLessEqual(len(asked), 20, asked)
