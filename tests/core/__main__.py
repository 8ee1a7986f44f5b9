"""All tests of the core, or of modules named, side by side on every processor: `python -W error -m tests.core [test_x ...]`."""

import io
import os
import sys
import time
import unittest
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

FOLDER = Path(__file__).parent
LONG = ("test_dropper_bench", "test_decay", "test_rig_truth", "test_events", "test_proving_ground")  # begun first


def main() -> int:
    """Run every class; tell what failed, and how many ran."""
    began, ran, failed = time.monotonic(), 0, []
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        for name, count, trouble in pool.map(_run, sorted(_classes(), key=lambda name: name.split(".")[2] not in LONG)):
            ran += count
            if trouble:
                failed.append(name)
                print(trouble, file=sys.stderr)
    print(f"Ran {ran} tests of the core in {time.monotonic() - began:.0f} s; {', '.join(failed) or 'none'} failed")
    return int(bool(failed) or not ran)


def _classes() -> Iterator[str]:
    named = [FOLDER / f"{name}.py" for name in sys.argv[1:]]
    for file in named or sorted(FOLDER.glob("test_*.py")):
        module = unittest.defaultTestLoader.loadTestsFromName(f"tests.core.{file.stem}")
        yield from dict.fromkeys(_named(module))
    if unittest.defaultTestLoader.errors:
        raise SystemExit("\n".join(map(str, unittest.defaultTestLoader.errors)))


def _named(suite: unittest.TestSuite) -> Iterator[str]:
    for one in suite:
        yield from _named(one) if isinstance(one, unittest.TestSuite) else (one.id().rsplit(".", 1)[0],)


def _run(name: str) -> tuple[str, int, str]:
    """A class of tests: how many ran, and what went wrong."""
    said = io.StringIO()
    result = unittest.TextTestRunner(said, verbosity=0).run(unittest.defaultTestLoader.loadTestsFromName(name))
    return name, result.testsRun, "" if result.wasSuccessful() else said.getvalue()


if __name__ == "__main__":
    sys.exit(main())
