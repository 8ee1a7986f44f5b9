"""What a customer is told of each part: for every verdict and every way there is, and never more than was done."""

import csv
import itertools
import unittest
from pathlib import Path

from dusky_heron.core.model import ROLES, Word
from dusky_heron.core.returning.plainly import in_plain_words
from dusky_heron.core.selection.ways import Way

CASES = Path(__file__).parent / "plain_words.csv"
FIELD_WORDS = ("ESR", "X,", "Y,", "class", "DC", "SMPS", "dropper", "snubber", "film", "tan")


class PlainWords(unittest.TestCase):
    """The table, then every combination."""

    def test_the_table(self) -> None:
        with CASES.open(encoding="utf-8") as file:
            for row in csv.DictReader(file, delimiter="|"):
                with self.subTest(**row):
                    way = Way(row["way"]) if row["way"] else None
                    self.assertEqual(in_plain_words(Word(row["word"]), way, done=row["done"] == "yes"), row["says"])

    def test_nothing_is_said_to_be_in_its_place_that_is_not_fitted(self) -> None:
        for word, way in itertools.product(Word, [None, *Way]):
            not_done, done = (in_plain_words(word, way, done=yes) for yes in (False, True))
            self.assertNotIn("in its place", not_done)
            self.assertNotIn("was taken out", not_done)
            self.assertNotIn("safe", f"{done} {not_done}")
            if word in (Word.REPLACE, Word.CONDEMN):
                self.assertNotIn("is within", f"{done} {not_done}")
                self.assertNotIn("stays", f"{done} {not_done}")

    def test_every_role_has_a_name_without_words_of_the_trade(self) -> None:
        names = [facts.plain for facts in ROLES.values()]
        self.assertEqual(len(names), len(set(names)))
        for name in names:
            self.assertFalse([word for word in FIELD_WORDS if word in name], name)
