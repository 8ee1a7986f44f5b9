"""Which tests of the core run through which lines, and how long each takes: measured once for a state of the tree, and kept."""

import hashlib
import json
import os
import sys
import time
import unittest
from collections import defaultdict
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
    """Tests by file and line, and the seconds of each; a module of tests that is as it was is not run again.

    Of a file of the core that was changed since, the lines count no more: all tests through it stand at line 0.
    """
    kept = json.loads(KEPT.read_text(encoding="utf-8")) if KEPT.exists() else {}
    modules = sorted((ROOT / "tests/core").glob("test_*.py"), key=lambda file: -file.stat().st_size)
    states = {f"tests.core.{file.stem}": _state(file) for file in modules}
    fresh = [module for module, state in states.items() if kept.get(module, {}).get("state") != state]
    with ProcessPoolExecutor(len(os.sched_getaffinity(0)), max_tasks_per_child=1) as pool:
        for module, (found, seconds) in zip(fresh, pool.map(_measure, fresh), strict=True):
            kept[module] = {
                "state": states[module],
                "through": found,
                "took": seconds,
                "files": {f: _digest(ROOT / f) for f in found},
            }
            KEPT.write_text(json.dumps(kept), encoding="utf-8")
    through: dict[str, dict[int, list[str]]] = defaultdict(lambda: defaultdict(list))
    took: dict[str, float] = {}
    for module in states:
        took |= kept[module]["took"]
        for name, lines in kept[module]["through"].items():
            same = (ROOT / name).exists() and kept[module]["files"][name] == _digest(ROOT / name)
            for line, tests in lines.items():
                through[name][int(line) if same else 0] += tests
    return through, took


def _state(module: Path) -> str:
    """Of a module of tests: its own text, and what lies beside it and is named there."""
    text = module.read_text(encoding="utf-8")
    beside = (file for file in sorted((ROOT / "tests/core").iterdir()) if file.is_file() and not file.name.startswith("test_"))
    return hashlib.sha256(
        b"".join(file.read_bytes() for file in (module, *beside) if file == module or file.stem in text)
    ).hexdigest()


def _digest(file: Path) -> str:
    return hashlib.sha256(file.read_bytes()).hexdigest()


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
