"""The public door of the core: complete, lazy, and shown at work."""

import doctest
import re
import subprocess
import sys
import unittest
from pathlib import Path

import dusky_heron.core

ROOT = Path(__file__).parents[2]
REFERENCE = ROOT / "docs" / "core.md"
CORE = ROOT / "dusky_heron" / "core"
# What acceptance checks and other code may rely on, whatever room it lives in.
PROMISED = (
    "read_marking", "stored_energy", "classify", "time_to", "string_after_short", "fit", "working_limit", "plan_charge",
    "dielectric_of", "parse_quantity", "read_log", "to_series", "to_parallel", "without_parallel_resistor", "find_common", "Load",
    "may_replace", "judge", "need_of", "likely_kind", "rank", "Position", "Equipment", "Surroundings", "Bleeder", "Reading",
    "Evidence", "Accuracy", "Specification", "Method", "read_value", "forming_resistor", "plan_forming", "judge_forming",
    "power_up_plan", "read_trend", "Logged", "Role", "Quantity", "Condition", "Sign", "InputError",
)  # fmt: skip


class Door(unittest.TestCase):
    """`from dusky_heron.core import …`."""

    def test_every_promised_name_is_there(self) -> None:
        for name in PROMISED:
            with self.subTest(name):
                self.assertIn(name, dir(dusky_heron.core))
                self.assertIsNotNone(getattr(dusky_heron.core, name))

    def test_every_name_is_shown_at_work(self) -> None:
        text = REFERENCE.read_text(encoding="utf-8")
        shown = set(re.findall(r"`(\w+)`", "\n".join(line for line in text.splitlines() if line.startswith("### "))))
        self.assertEqual(shown, set(dir(dusky_heron.core)))
        for name in dir(dusky_heron.core):
            with self.subTest(name):
                self.assertRegex(text, rf"(?m)^>>> from dusky_heron\.core import .*\b{name}\b")

    def test_what_is_shown_holds(self) -> None:
        found = doctest.testfile(str(REFERENCE), module_relative=False)
        self.assertEqual(found.failed, 0)
        self.assertGreater(found.attempted, len(dir(dusky_heron.core)))

    def test_importing_one_name_does_not_load_all(self) -> None:
        code = "import sys; from dusky_heron.core import stored_energy; print(*sorted(m for m in sys.modules if '.core.' in m))"
        loaded = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True, cwd=ROOT).stdout.split()
        self.assertIn("dusky_heron.core.discharge.energy", loaded)
        self.assertFalse([name for name in loaded if ".verdict" in name or ".selection" in name or ".circuit" in name])

    def test_few_modules_stand_loose(self) -> None:
        loose = [path.name for path in CORE.glob("*.py") if path.name != "__init__.py"]
        self.assertLessEqual(len(loose), 8, loose)
