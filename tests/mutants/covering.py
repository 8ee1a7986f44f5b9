"""Which tests of the core run through which lines, and how long each takes: measured once for a state of the tree, and kept."""

import hashlib
import json
import sys
import time
import unittest
from collections import defaultdict
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any

import coverage

ROOT = Path(__file__).resolve().parents[2]
KEPT = ROOT / ".mutants.json"
Through = dict[str, dict[int, list[str]]]  # by file and line, the tests


class _Result(unittest.TestResult):
    """Tells coverage which test runs, and how long each took."""

    def __init__(self, measured: coverage.Coverage) -> None:
        super().__init__()
        self.measured, self.took, self._began = measured, dict[str, float](), 0.0

    def startTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        super().startTest(test)
        self.measured.switch_context(test.id())
        self._began = time.perf_counter()

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        super().stopTest(test)
        self.took[test.id()] = time.perf_counter() - self._began
        self.measured.switch_context("")


def tests_through() -> tuple[Through, dict[str, float]]:
    """Tests by file and line, and the seconds of each."""
    state = hashlib.sha256(b"".join(file.read_bytes() for file in _sources())).hexdigest()
    if KEPT.exists():
        kept = json.loads(KEPT.read_text(encoding="utf-8"))
        if kept["state"] == state:
            return {file: {int(k): v for k, v in lines.items()} for file, lines in kept["through"].items()}, kept["took"]
    modules = sorted((ROOT / "tests/core").glob("test_*.py"), key=lambda file: -file.stat().st_size)
    through: dict[str, dict[int, set[str]]] = defaultdict(lambda: defaultdict(set))
    took: dict[str, float] = {}
    with ProcessPoolExecutor(2, max_tasks_per_child=1) as pool:
        for found, seconds in pool.map(_measure, [f"tests.core.{file.stem}" for file in modules]):
            took |= seconds
            for name, lines in found.items():
                for line, tests in lines.items():
                    through[name][line] |= set(tests)
    whole = {name: {line: sorted(tests) for line, tests in lines.items()} for name, lines in through.items()}
    KEPT.write_text(json.dumps({"state": state, "through": whole, "took": took}), encoding="utf-8")
    return whole, took


def _sources() -> Iterator[Path]:
    yield from sorted(ROOT.glob("dusky_heron/core/**/*.*"))
    yield from sorted(ROOT.glob("tests/core/*.*"))


def _measure(module: str) -> tuple[Through, dict[str, float]]:
    """One module of tests, in a process of its own."""
    measured = coverage.Coverage(data_file=None, source=[str(ROOT / "dusky_heron/core")], config_file=False)
    measured.start()
    suite = unittest.defaultTestLoader.loadTestsFromName(module)
    result = _Result(measured)
    suite.run(result)
    measured.stop()
    data, found = measured.get_data(), dict[str, dict[int, list[str]]]()
    for file in data.measured_files():
        lines: Any = data.contexts_by_lineno(file)
        found[str(Path(file).relative_to(ROOT))] = {line: [one for one in tests if one] for line, tests in lines.items()}
    sys.stderr.write(f"· {module}: {len(result.took)} tests, {sum(result.took.values()):.0f} s\n")
    return found, result.took
