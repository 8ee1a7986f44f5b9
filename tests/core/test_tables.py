"""The tables are data: what must hold of every row, whatever the figures."""

import itertools
import unittest
from pathlib import Path

from dusky_heron.core.discharge.limits import KIND_UNITS, limits_table, working_limit
from dusky_heron.core.markings.model import ClassName
from dusky_heron.core.selection.safety_class import acceptable_classes
from dusky_heron.core.tables import csv_table, toml_table

FOLDER = Path(__file__).resolve().parents[2] / "dusky_heron" / "core" / "tables"


class EveryTable(unittest.TestCase):
    """Each file says where its figures come from."""

    def test_each_file_names_its_source(self) -> None:
        files = [*FOLDER.glob("*.toml"), *FOLDER.glob("*.csv")]
        self.assertGreaterEqual(len(files), 9)
        for file in files:
            self.assertIn("Source", file.read_text(encoding="utf-8"), file.name)


class TouchLimits(unittest.TestCase):
    """IEC 62368-1 table 5."""

    def test_a_larger_capacitance_is_never_allowed_more_volts(self) -> None:
        rows = [tuple(float(v) for v in row.values()) for row in csv_table("charged_capacitor_limits")]
        for (c0, es1_0, es2_0), (c1, es1_1, es2_1) in itertools.pairwise(rows):
            self.assertLess(c0, c1)
            self.assertGreater(es1_0, es1_1)
            self.assertGreater(es2_0, es2_1)

    def test_es2_is_twice_es1(self) -> None:
        for row in csv_table("charged_capacitor_limits"):
            self.assertEqual(float(row["es2_v"]), 2 * float(row["es1_v"]))


class HazardBands(unittest.TestCase):
    """The thresholds are in order."""

    def test_order(self) -> None:
        bands = toml_table("hazard_bands")
        self.assertLess(bands["touch_v"], bands["shock_v"])
        self.assertLess(bands["shock_v"], bands["high_v"])
        energies = [bands[k] for k in ("startle_high_v_j", "startle_low_v_j", "lethal_j", "blast_j", "arc_j")]
        self.assertEqual(energies, sorted(energies))


class DischargeLimits(unittest.TestCase):
    """Each row limits by one of volts, share, ES1 or current; discharge limits after a time, touch current at any."""

    def test_one_kind_of_limit_a_row(self) -> None:
        for row in limits_table():
            with self.subTest(row.id):
                self.assertIn(row.kind, KIND_UNITS)
                self.assertEqual(row.value is None, row.kind == "es1")
                self.assertEqual(row.after_s is None, row.kind == "current" or row.id == "Hands")
                self.assertTrue(row.applies_to)

    def test_ids_are_unique_and_each_gives_a_limit_with_its_source(self) -> None:
        ids = [row.id for row in limits_table()]
        self.assertEqual(len(ids), len(set(ids)))
        for standard in ids:
            limit = working_limit(standard, 1e-6, 325)
            self.assertTrue(0 < limit.target_v <= 325 * 0.37)
        for row in limits_table():
            self.assertIn(row.id, row.source)
            self.assertIn("check the edition", row.source)


class Letters(unittest.TestCase):
    """IEC 60062: from B to N the letters are symmetrical and grow."""

    def test_symmetrical_letters_grow(self) -> None:
        rows = {row["letter"]: (float(row["minus_percent"]), float(row["plus_percent"])) for row in csv_table("tolerance_letters")}
        widths = [rows[letter] for letter in "BCDFGHJKMN"]
        self.assertEqual(widths, sorted(widths))
        self.assertTrue(all(minus == plus for minus, plus in widths))
        self.assertEqual(
            {letter: rows[letter] for letter in "PQSTZ"},
            {"P": (0, 100), "Q": (10, 30), "S": (20, 50), "T": (10, 50), "Z": (20, 80)},
        )


class MotorClasses(unittest.TestCase):
    """IEC 60252-1."""

    def test_classes_last_less_from_a_to_d(self) -> None:
        hours = list(toml_table("motor_classes")["operating_class_hours"].values())
        self.assertEqual(hours, [30_000, 10_000, 3_000, 1_000])

    def test_each_protection_class_has_a_rank_and_a_meaning(self) -> None:
        motor = toml_table("motor_classes")
        self.assertEqual(set(motor["protection_rank"]), set(motor["protection_means"]))
        for name in ("P2", "S2", "S3"):
            self.assertIn("open only", motor["protection_means"][name])


class SafetyClasses(unittest.TestCase):
    """IEC 60384-14: a stand-in is never weaker against a pulse, and no X stands in for a Y."""

    def test_a_class_stands_in_for_itself_first(self) -> None:
        for name in ClassName:
            self.assertEqual(acceptable_classes(name)[0], name)

    def test_no_x_in_a_y_place(self) -> None:
        for name in ClassName:
            if name.startswith("Y"):
                self.assertTrue(all(other.startswith("Y") for other in acceptable_classes(name)))

    def test_a_stand_in_of_the_same_kind_passes_at_least_the_same_impulse(self) -> None:
        table = toml_table("safety_classes")
        for name in ClassName:
            for other in acceptable_classes(name):
                if other[0] == name[0]:
                    self.assertGreaterEqual(table[other]["impulse_v"], table[name]["impulse_v"], (name, other))


class PulseFigures(unittest.TestCase):
    """Planning figures: wire-wound stands most, film least."""

    def test_order(self) -> None:
        pulse = toml_table("resistor_pulse")
        self.assertGreater(pulse["wirewound"]["j_per_w"], pulse["metal_oxide"]["j_per_w"])
        self.assertGreater(pulse["metal_oxide"]["j_per_w"], pulse["film"]["j_per_w"])
        self.assertGreater(pulse["wirewound"]["slow_j_per_w"], pulse["wirewound"]["j_per_w"])
