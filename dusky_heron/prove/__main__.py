"""Runs simulated technicians by seed on every core, tells how far it is, and prints what was counted."""

import argparse
import csv
import json
import os
import sys
import time
from collections.abc import Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import asdict
from pathlib import Path

from dusky_heron.core.proving import TECHNICIANS, Run, count, jobs, prove
from dusky_heron.core.proving.hazards import page
from dusky_heron.core.rig import SETS

FIRST = (  # of the last line
    "runs", "touched", "unfit", "bad_kept", "good_replaced", "endless", "missed_stop", "median_measurements",
)  # fmt: skip
SUMMED = {
    "touched": "touched", "unfit": "unfit", "kept": "bad_kept", "replaced": "good_replaced", "endless": "endless",
    "missed": "missed_stop", "waits": "waits", "back": "returns",
}  # fmt: skip
COLUMNS = (
    "set_id", "seed", "touched", "unfit", "bad", "bad_kept", "good", "good_replaced", "uncalibrated", "intermittent_kept",
    "endless", "missed_stop", "needless_stop", "returns", "waits", "questions", "steps",
)  # fmt: skip
BATCH = 5  # runs that a process takes at a time


def main() -> int:
    """Read the arguments, run, print."""
    parser = argparse.ArgumentParser(prog="scripts/proving", description="Simulated technicians do what the product says; counted.")
    parser.add_argument("--seed", type=int, default=1, help="of all runs: the same seed, the same counts")
    parser.add_argument("--runs", type=int, default=120, help="how many")
    parser.add_argument("--technician", choices=list(TECHNICIANS), default="obedient")
    parser.add_argument("--set", dest="set_id", choices=SETS, help="one set alone; else all in turn")
    parser.add_argument("--csv", type=Path, help="a file for what was counted of each run")
    parser.add_argument("--story", type=int, metavar="SEED", help="tell the run of that seed (as in the table) step by step")
    parser.add_argument("--worst", type=int, default=0, metavar="N", help="tell the N worst runs step by step")
    parser.add_argument("--hazards", action="store_true", help="print docs/hazards.md from its table")
    chosen = parser.parse_args()
    if chosen.hazards:
        print(page(), end="")
        return 0
    if chosen.story is not None:
        number = chosen.story % 1_000_000
        tell(prove(chosen.set_id or SETS[number % len(SETS)], chosen.story, chosen.technician))
        return 0
    runs = list(progressing(work(list(jobs(chosen.seed, chosen.runs, chosen.set_id)), chosen.technician), chosen.runs))
    runs.sort(key=lambda run: run.badness, reverse=True)
    for run in runs[: chosen.worst]:
        tell(run)
    counts = asdict(count(runs))
    table(runs, counts)
    if chosen.csv:
        write(chosen.csv, runs)
    told = {name: counts[name] for name in FIRST} | {k: v for k, v in counts.items() if k not in FIRST}
    print(json.dumps({"technician": chosen.technician, "seed": chosen.seed, **told}))
    return 0


def work(chosen: Sequence[tuple[str, int]], technician: str) -> Iterator[Run]:
    """Every run, on every core, as they come."""
    cores = os.cpu_count() or 1
    if cores == 1 or len(chosen) < 2 * BATCH:
        yield from (prove(set_id, seed, technician) for set_id, seed in chosen)
        return
    with ProcessPoolExecutor(cores) as pool:
        sets, seeds = zip(*chosen, strict=True)
        yield from pool.map(prove, sets, seeds, [technician] * len(chosen), chunksize=BATCH)


def progressing(runs: Iterator[Run], total: int) -> Iterator[Run]:
    """The runs, with how far they are on a terminal."""
    began = time.monotonic()
    for k, run in enumerate(runs, 1):
        if k % 20 == 0 and sys.stderr.isatty():
            left = (time.monotonic() - began) / k * (total - k)
            print(f"\r{k} of {total}, {left:.0f} s to go ", end="", file=sys.stderr, flush=True)
        yield run


def tell(run: Run) -> None:
    """A run as a story."""
    print(f"\n{run.set_id}, seed {run.seed}, {run.technician}")
    for line in run.story:
        print(f"  {line}")


def table(runs: Sequence[Run], counts: dict[str, float]) -> None:
    """What was counted, by set and together."""
    print(
        f"\n{'':20}{'runs':>6}{'touched':>9}{'unfit':>7}{'kept':>6}{'replaced':>10}{'endless':>9}{'missed':>8}{'waits':>7}{'back':>6}"
    )
    for set_id in SETS:
        mine = [run for run in runs if run.set_id == set_id]
        if mine:
            sums = {title: sum(getattr(run, name) for run in mine) for title, name in SUMMED.items()}
            print(f"{set_id:20}{len(mine):6}" + "".join(f"{value:{len(title) + 3}}" for title, value in sums.items()))
    print()
    for name, value in counts.items():
        print(f"{name.replace('_', ' '):24}{value:>12g}")


def write(path: Path, runs: Sequence[Run]) -> None:
    """A line for each run."""
    with path.open("w", newline="", encoding="utf-8") as file:
        rows = csv.writer(file)
        rows.writerow([*COLUMNS, "measurements"])
        for run in sorted(runs, key=lambda run: run.seed):
            rows.writerow([*(getattr(run, name) for name in COLUMNS), " ".join(map(str, run.measurements))])


if __name__ == "__main__":
    try:
        raise SystemExit(main())
    except KeyboardInterrupt:  # whoever has seen enough
        raise SystemExit(130) from None
