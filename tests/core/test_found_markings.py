"""Markings of every rule and every ambiguity of the trade, one a line in markings.csv, each as a technician reads it."""

import csv
import datetime
import itertools
import re
import unittest
from pathlib import Path

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.model import Marking
from tests import some

FOUND = Path(__file__).with_name("markings.csv")
TODAY = datetime.date(2026, 6, 1)
SECTION = re.compile(r"(?P<uf>[0-9.]+)(?:=(?P<dc>[0-9.]+)|~(?P<ac>[0-9.]+))?")
LEAST_ROWS, LEAST_PLAIN = 420, 150


def rows() -> list[dict[str, str]]:
    lines = [line for line in FOUND.read_text(encoding="utf-8").splitlines() if not line.startswith("#")]
    return list(csv.DictReader(lines, delimiter="|"))


def volts(text: str) -> float | None:
    return float(text) if text else None


def offered(read: Marking) -> set[str]:
    """The sums of the other capacitances offered, in microfarads."""
    first = f"{read.capacitance_f * 1e6:.4g}"
    return {f"{other.capacitance_f * 1e6:.4g}" for other in read.alternatives} - {first}


class Found(unittest.TestCase):
    """What each says, and what else it may say."""

    def test_there_are_enough_of_them(self) -> None:
        self.assertGreaterEqual(len(rows()), LEAST_ROWS)
        self.assertGreaterEqual(sum(row["word"] == "plain" for row in rows()), LEAST_PLAIN)
        self.assertEqual({row["word"] for row in rows()}, {"plain", "read", "ask", "refuse"})

    def test_what_cannot_be_read_is_refused(self) -> None:
        for row in rows():
            if row["word"] == "refuse":
                with self.subTest(row["text"]), self.assertRaises(InputError):
                    read_marking(row["text"], today=TODAY)

    def test_each_reads_as_a_technician_reads_it(self) -> None:
        for row in rows():
            if row["word"] == "refuse":
                continue
            with self.subTest(row["text"]):
                read = read_marking(row["text"], today=TODAY)
                self.assertEqual(read.provisional, row["word"] == "ask", [doubt.asks for doubt in read.doubts])
                if row["uf"]:
                    self.assert_row(read, row)

    def assert_row(self, read: Marking, row: dict[str, str]) -> None:
        for section, printed in zip(read.sections, row["uf"].split("+"), strict=True):
            said = some(SECTION.fullmatch(printed))
            self.assertAlmostEqual(section.capacitance_f / (float(said["uf"]) * 1e-6), 1, places=3)
            if said["dc"] or said["ac"]:
                self.assertEqual((section.rated_dc_v, section.rated_ac_v), (volts(said["dc"]), volts(said["ac"])))
        if row["ac"] or row["dc"] or row["word"] != "ask":
            self.assertEqual((read.rated_ac_v, read.rated_dc_v), (volts(row["ac"]), volts(row["dc"])))
        if row["classes"] or "about class" not in row["more"]:
            self.assertEqual(" ".join(read.class_names), row["classes"])
        if row["percent"]:
            low, high = row["percent"].split(":")
            section = read.sections[0]
            self.assertAlmostEqual((some(section.low_f) / section.capacitance_f - 1) * 100, float(low), places=2)
            self.assertAlmostEqual((some(section.high_f) / section.capacitance_f - 1) * 100, float(high), places=2)
        elif "about tolerance" not in row["more"]:
            self.assertIsNone(read.tolerance)
        self.assertEqual(offered(read), {f"{float(uf):.4g}" for uf in row["alternatives_uf"].split(",") if uf})
        self.assert_more(read, row["more"].split())

    def assert_more(self, read: Marking, said: list[str]) -> None:
        unread = said[said.index("unread") + 1 :] if "unread" in said and said[said.index("unread") - 1] != "about" else []
        if unread:
            self.assertEqual(read.unread, " ".join(unread))
        found = {
            "about": lambda value: value in {doubt.about for doubt in read.doubts},
            "assumes": lambda value: value in " ".join(read.assumptions),
            "upper": lambda value: some(read.climate).upper_c == float(value),
            "lower": lambda value: some(read.climate).lower_c == float(value),
            "surge": lambda value: read.surge_v == float(value),
            "series": lambda value: (read.series_ohm, read.bleeder_ohm) == (float(value), None),
            "bleeder": lambda value: (read.series_ohm, read.bleeder_ohm) == (None, float(value)),
            "service": lambda value: some(read.duty).service == value,
            "classv": lambda value: [c.rated_ac_v for c in read.classes] == [float(v) for v in said[said.index("classv") + 1 :]],
            "class": lambda value: [f"{name}:{rating:g}" for name, rating in some(read.duty).pairs] == value.split(","),
            "afc": lambda value: some(read.duty).fault_current_a == float(value),
            "date": lambda value: self.dates(read)[: value.count(",") + 1] == value.split(","),
            "range": lambda value: read.printed_range,
            "network": lambda value: [s.classes[0].name[0] for s in read.sections] == ["X", "Y", "Y"],
        } | {name: lambda value, name=name: some(read.duty).protection_class == name for name in ("P1", "P2", "S0", "S3")}
        for key, value in itertools.pairwise([*said, ""]):
            if key in found:
                if key == "class" and said[said.index(key) - 1 : said.index(key)] == ["about"]:
                    continue
                self.assertTrue(found[key](value), key)
            if value == "" and key in ("range", "network"):
                self.assertTrue(found[key](""), key)

    def dates(self, read: Marking) -> list[str]:
        return [f"{d.year}w{d.week}" if d.week else f"{d.year}m{d.month}" for d in read.dates]

    def test_each_answer_typed_as_a_whole_text_settles_its_question(self) -> None:
        answers = 0
        for row in rows():
            if row["word"] != "ask":
                continue
            read = read_marking(row["text"], today=TODAY)
            self.assertTrue(all(0 < len(doubt.options) <= 3 for doubt in read.doubts), row["text"])
            for doubt in read.doubts:
                for option in doubt.options:
                    with self.subTest(option.text):
                        answers += 1
                        settled = read_marking(option.text, today=TODAY)
                        left = [other.asks if doubt.about == "unread" else other.about for other in settled.doubts]
                        self.assertNotIn(doubt.asks if doubt.about == "unread" else doubt.about, left)
        self.assertGreater(answers, 60)
