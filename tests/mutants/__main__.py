"""Draws mutants of the core by seed, runs the tests that go through each, and tells which live."""

import argparse
import ast
import csv
import itertools
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections import Counter
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from queue import Queue

from tests.mutants.covering import ROOT, Through, tests_through
from tests.mutants.sites import Mutant, mutants_of

FIRST_S, REST_S = 60.0, 900.0  # of tests that a mutant is given, as measured under coverage; what lives through both is living
WHOLE = ("test_constants", "test_tables", "test_same", "SameEverywhere")  # tests that ask most at once
BY_NAME = ("tests.core.test_tables.", "tests.core.test_constants.")  # they go through every table and module by name
PARTS = (
    "dusky_heron/__init__.py",
    "dusky_heron/core",
    "dusky_heron/prove",
    "dusky_heron/play",
    "tests/__init__.py",
    "tests/core",
    "docs",
)
EQUIVALENTS = Path(__file__).parent / "equivalents.csv"


def main() -> int:
    """Draw, run, tell; ends with 1 when more than one in twenty lives."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--seed", type=int, required=True)
    parser.add_argument("--count", type=int, default=400)
    parser.add_argument("--room", default="", help="only files whose name begins so, such as dusky_heron/core/discharge")
    chosen = parser.parse_args()
    files = [file for end in ("py", "toml", "csv") for file in sorted((ROOT / "dusky_heron/core").rglob(f"*.{end}"))]
    known = _equivalents()
    every = [
        one for file in files if str(file.relative_to(ROOT)).startswith(chosen.room) for one in mutants_of(ROOT, file)
        if (one.file, one.was, one.put, _line(one)) not in known
    ]  # fmt: skip
    random.Random(chosen.seed).shuffle(every)
    parsed = (one for one in every if one.parses((ROOT / one.file).read_text(encoding="utf-8")))
    drawn = list(itertools.islice(parsed, chosen.count))
    through, took = tests_through()
    lives = _run(drawn, lambda one: _tests_of(one, through, took)[0], took)
    print(f"· {len(lives)} live through the quickest tests: now the others that go through them", flush=True)
    lives = _run(lives, lambda one: _tests_of(one, through, took)[1], took)
    rooms, left = Counter(_room(one) for one in drawn), Counter(_room(one) for one in lives)
    for room, count in sorted(rooms.items()):
        print(f"{room:24}{count - left[room]:5} of {count:4}")
    print(f"{'all':24}{len(drawn) - len(lives):5} of {len(drawn):4}, {100 * (1 - len(lives) / len(drawn)):.1f} %")
    return int(len(lives) > len(drawn) / 20)


def _room(one: Mutant) -> str:
    return one.file.removeprefix("dusky_heron/core/").split("/")[0]


def _line(one: Mutant) -> str:
    return (ROOT / one.file).read_text(encoding="utf-8").splitlines()[one.line - 1].strip()


def _equivalents() -> set[tuple[str, str, str, str]]:
    """Those that were looked at and change nothing that anybody could see, by what stands in their line."""
    with EQUIVALENTS.open(encoding="utf-8") as file:
        return {(row["file"], row["was"], row["put"], row["line"]) for row in csv.DictReader(file, delimiter="|")}


def _run(drawn: list[Mutant], tests_of: Callable[[Mutant], list[str]], took: dict[str, float]) -> list[Mutant]:
    """Those that live, told as they are found."""
    copies: Queue[Path] = Queue()
    cores = len(os.sched_getaffinity(0))
    with tempfile.TemporaryDirectory() as folder:
        for k in range(cores):
            copies.put(_copied(Path(folder) / str(k)))

        def dies(one: Mutant) -> bool:
            copy = copies.get()
            try:
                return _noticed(one, copy, tests_of(one), took)
            finally:
                copies.put(copy)

        lives: list[Mutant] = []
        with ThreadPoolExecutor(cores) as pool:
            for number, (one, died) in enumerate(zip(drawn, pool.map(dies, drawn), strict=True), 1):
                if number % 50 == 0:
                    print(f"· {number} of {len(drawn)}, {len(lives)} live", flush=True)
                if not died:
                    lives.append(one)
                    print(f"LIVES {one.file}:{one.line}: {one.was!r} as {one.put!r}: {_line(one)[:110]}", flush=True)
    return lives


def _copied(to: Path) -> Path:
    for part in PARTS:
        (to / part).parent.mkdir(parents=True, exist_ok=True)
        if (ROOT / part).is_dir():
            shutil.copytree(ROOT / part, to / part, ignore=shutil.ignore_patterns("__pycache__"))
        else:
            shutil.copy(ROOT / part, to / part)
    return to


def _tests_of(one: Mutant, through: Through, took: dict[str, float]) -> tuple[list[str], list[str]]:
    """The tests through its line, those first that ask most at once, then the quickest; and those for which there was no time.

    Of what is read once, a table or a constant, those through the modules that use it.
    """
    lines = through.get(one.file, {})
    found = {*lines.get(one.line, []), *lines.get(0, [])} if _runs(one) else set[str]()
    if not found:
        name = Path(one.file).stem
        users = [file for file in through if file == one.file or f'"{name}"' in (ROOT / file).read_text(encoding="utf-8")]
        found = {test for file in users for tests in through[file].values() for test in tests}
        found |= {test for test in took if test.startswith(BY_NAME)}
    left, rounds = [FIRST_S, REST_S], (list[str](), list[str]())
    for test in sorted(found, key=lambda test: (not any(whole in test for whole in WHOLE), took.get(test, 0.0), test)):
        number = next((k for k, seconds in enumerate(left) if took.get(test, 0.0) <= seconds), None)
        if number is not None:
            left[number] -= took.get(test, 0.0)
            rounds[number].append(test)
    return rounds


def _runs(one: Mutant) -> bool:
    """Whether its line runs in a function; what stands outside of one runs once, in whichever test came first."""
    if not one.file.endswith(".py"):
        return False
    tree = ast.parse((ROOT / one.file).read_text(encoding="utf-8"))
    bodies = (node.body for node in ast.walk(tree) if isinstance(node, ast.FunctionDef))
    return any(body[0].lineno <= one.line <= (body[-1].end_lineno or 0) for body in bodies)


def _noticed(one: Mutant, copy: Path, tests: list[str], took: dict[str, float]) -> bool:
    """Whether a test fails with it, or does not end."""
    if not tests:
        return False
    place = copy / one.file
    source = place.read_text(encoding="utf-8")
    place.write_text(one.applied(source), encoding="utf-8")
    environment = {name: value for name, value in os.environ.items() if not name.startswith(("DATABASE", "DJANGO"))}
    try:
        done = subprocess.run(
            [sys.executable, "-m", "unittest", "-f", "-q", *tests], cwd=copy, env=environment | {"PYTHONPATH": str(copy)},
            capture_output=True, timeout=60 + 5 * sum(took.get(test, 0.0) for test in tests), check=False,
        )  # fmt: skip
    except subprocess.TimeoutExpired:
        return True
    finally:
        place.write_text(source, encoding="utf-8")
    return done.returncode != 0


if __name__ == "__main__":
    sys.exit(main())
