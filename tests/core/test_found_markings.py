"""Markings of every rule and every ambiguity of the trade, one a line in markings.csv, each as a technician reads it."""

import csv
import datetime
import itertools
import unittest
from pathlib import Path

from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.model import Marking
from tests import some

FOUND = Path(__file__).with_name("markings.csv")
TODAY = datetime.date(2026, 6, 1)


def rows() -> list[dict[str, str]]:
    lines = [line for line in FOUND.read_text(encoding="utf-8").splitlines() if not line.startswith("#")]
    return list(csv.DictReader(lines, delimiter="|"))


def volts(text: str) -> float | None:
    return float(text) if text else None


class Found(unittest.TestCase):
    """What each says, and what else it may say."""

    def test_each_reads_as_a_technician_reads_it(self) -> None:
        self.assertGreaterEqual(len(rows()), 220)
        for row in rows():
            with self.subTest(row["text"]):
                read = read_marking(row["text"], today=TODAY)
                for section, uf in zip(read.sections, row["uf"].split("+"), strict=True):
                    self.assertAlmostEqual(section.capacitance_f / (float(uf) * 1e-6), 1, places=6)
                self.assertEqual((read.rated_ac_v, read.rated_dc_v), (volts(row["ac"]), volts(row["dc"])))
                self.assertEqual(" ".join(read.class_names), row["classes"])
                if row["percent"]:
                    low, high = row["percent"].split(":")
                    section = read.sections[0]
                    self.assertAlmostEqual((some(section.low_f) / section.capacitance_f - 1) * 100, float(low), places=2)
                    self.assertAlmostEqual((some(section.high_f) / section.capacitance_f - 1) * 100, float(high), places=2)
                else:
                    self.assertIsNone(read.tolerance)
                others = sorted(other.capacitance_f * 1e6 for other in read.alternatives)
                expected = sorted(float(uf) for uf in row["alternatives_uf"].split(",") if uf)
                self.assertEqual(len(others), len(expected), others)
                for other, asked in zip(others, expected, strict=True):
                    self.assertAlmostEqual(other / asked, 1, places=6)
                self.assert_more(read, row["more"].split())

    def assert_more(self, read: Marking, said: list[str]) -> None:
        unread = said[said.index("unread") + 1 :] if "unread" in said else []
        self.assertEqual(read.unread, " ".join(unread))
        found = {
            "assumes": lambda value: value in " ".join(read.assumptions),
            "upper": lambda value: some(read.climate).upper_c == float(value),
            "series": lambda value: read.series_ohm == float(value),
            "classv": lambda value: [c.rated_ac_v for c in read.classes] == [float(v) for v in said[said.index("classv") + 1 :]],
            "class": lambda value: [f"{name}:{rating:g}" for name, rating in some(read.duty).pairs] == value.split(","),
            "afc": lambda value: some(read.duty).fault_current_a == float(value),
            "date": lambda value: self.dates(read)[: value.count(",") + 1] == value.split(","),
            "range": lambda value: read.printed_range,
            "network": lambda value: [s.classes[0].name[0] for s in read.sections] == ["X", "Y", "Y"],
        } | {name: lambda value, name=name: some(read.duty).protection_class == name for name in ("P1", "P2", "S0", "S3")}
        for key, value in itertools.pairwise([*said, ""]):
            if key in found:
                self.assertTrue(found[key](value), key)

    def dates(self, read: Marking) -> list[str]:
        return [f"{d.year}w{d.week}" if d.week else f"{d.year}m{d.month}" for d in read.dates]

    def test_each_option_typed_plainly_reads_one_way_and_says_the_same(self) -> None:
        offered = 0
        for row in rows():
            read = read_marking(row["text"], today=TODAY)
            every = {round(m.capacitance_f * 1e15) for m in (read, *read.alternatives)}
            for option in read.options:
                with self.subTest(option.text):
                    offered += 1
                    plain = read_marking(option.text, today=TODAY)
                    self.assertIn(round(plain.capacitance_f * 1e15), every)
                    self.assertNotIn(option.says, [left.says for left in plain.options])
        self.assertGreater(offered, 20)
