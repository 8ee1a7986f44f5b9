"""The label maker prints what a factory would, style by style against a table typed by hand; wear and cameras."""

import csv
import random
import unittest
from pathlib import Path

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.rig import SETS, make
from dusky_heron.core.rig.labels import Facts, photographed, print_label, styles, worn
from dusky_heron.core.tables import csv_table

EXPECTED = Path(__file__).with_name("rig_labels.csv")


def rows() -> list[dict[str, str]]:
    lines = [line for line in EXPECTED.read_text(encoding="utf-8").splitlines() if not line.startswith("#")]
    return list(csv.DictReader(lines, delimiter="|"))


def facts(text: str) -> Facts:
    given = dict(pair.split("=") for pair in text.split())
    whole = {key: int(given[key]) if key in given else None for key in ("ac", "dc", "second_dc", "ohm")}
    return Facts(
        given["uf"],
        tolerance=float(given.get("tol", 20)),
        classes=tuple(given["class"].split(",")) if "class" in given else (),
        second_uf=given.get("second", ""),
        megohm=float(given["megohm"]) if "megohm" in given else None,
        yyww=given.get("yyww", "2214"),
        **whole,
    )


class Printed(unittest.TestCase):
    """Style by style."""

    def test_each_style_prints_what_the_table_says(self) -> None:
        for row in rows():
            with self.subTest(row["style"]):
                self.assertEqual(print_label(row["style"], facts(row["facts"])), row["text"])

    def test_every_style_is_in_the_table_and_there_are_sixty(self) -> None:
        known = {row["style"] for row in csv_table("rig_labels")}
        self.assertEqual(known, {row["style"] for row in rows()})
        self.assertGreaterEqual(len(known), 60)

    def test_what_a_label_needs_and_what_there_is_not(self) -> None:
        for style, given, field in (
            ("no_such", Facts("1", dc=50), "style"),
            ("film_dc", Facts("1", ac=250), "facts"),
            ("film_glued", Facts("0.1", dc=90, tolerance=5), "facts"),  # no letter of IEC 60062 is 90 V
            ("can_thousands", Facts("999", dc=50), "facts"),
            ("film_code", Facts("0.1234", dc=50), "facts"),  # three figures cannot say it
        ):
            with self.subTest(style), self.assertRaises(InputError) as caught:
                print_label(style, given)
            self.assertEqual(caught.exception.field, field)

    def test_every_kind_of_part_has_its_styles(self) -> None:
        kinds = {kind for row in csv_table("rig_labels") for kind in row["kinds"].split()}
        for kind in kinds:
            self.assertTrue(styles(kind), kind)
        self.assertGreaterEqual(len(kinds), 15)


class Seen(unittest.TestCase):
    """What time and cameras leave of it."""

    TEXT = "0.22 µF 275V~ X2 40/110/56"

    def test_wear_takes_whole_pieces_and_leaves_one(self) -> None:
        for seed in range(200):
            left = worn(self.TEXT, random.Random(seed), 0.5).split(" ")
            self.assertTrue(left)
            self.assertTrue(set(left) <= set(self.TEXT.split(" ")))
        self.assertEqual(worn(self.TEXT, random.Random(1), 0.0), self.TEXT)
        self.assertEqual(len(worn(self.TEXT, random.Random(1), 1.0).split(" ")), 1)

    def test_a_camera_mistakes_only_what_looks_alike(self) -> None:
        alike = {"O": "0", "l": "1", "u": "µ", "S": "5", "B": "8"}
        for seed in range(200):
            read = photographed(self.TEXT, random.Random(seed), 0.3)
            back = "".join(alike.get(sign, sign) for sign in read)
            self.assertEqual(back.replace(" ", ""), self.TEXT.replace(" ", ""))
        self.assertEqual(photographed(self.TEXT, random.Random(1), 0.0), self.TEXT)


class ReadBack(unittest.TestCase):
    """The reader of the product meets the rig's labels: what it reads without a doubt is the truth."""

    def test_what_is_read_without_a_doubt_is_what_was_printed(self) -> None:
        for row in rows():
            given = facts(row["facts"])
            marking = read_marking(row["text"])
            with self.subTest(row["text"]):
                if not marking.provisional:
                    self.assertAlmostEqual(marking.sections[0].capacitance_f / (float(given.uf) * 1e-6), 1, 2)
                    ac = 400 if row["style"] == "motor_pair" else given.ac  # of several AC ratings the lowest
                    for told, printed in ((marking.rated_ac_v, ac), (marking.rated_dc_v, given.dc)):
                        self.assertIn(told, (printed, None))

    def test_no_set_carries_a_label_that_is_read_for_another_value(self) -> None:
        for set_id in SETS:
            for seed in range(12):
                for part in make(set_id, seed).capacitors.values():
                    marking = read_marking(part.printed)
                    marked = part.sections[0].marked_f
                    near = [one.sections[0].capacitance_f for one in (marking, *marking.alternatives)]
                    with self.subTest(part.printed):
                        self.assertTrue(any(abs(value / marked - 1) < 0.01 for value in near), near)
