"""Twenty technicians for a minute in a grown workshop: failures, medians and p95 of reads and writes, beside a bare view."""

import csv
import subprocess
import sys
import tempfile
from pathlib import Path

from tests.stage import PASSWORD, ROOT, Stage

READS_MS, WRITES_MS = 300, 500


def main() -> int:
    """Grow, run, tell; ends with 1 when something failed or was too slow."""
    with Stage("dusky_load", 8791) as stage, tempfile.TemporaryDirectory() as folder:
        stage.manage("shell", "-v", "0", "-c", "from tests.load.grow import grow; grow()")
        command = [
            "locust", "-f", "tests/load/locustfile.py", "--headless", "--only-summary", "-u", "20", "-r", "2", "-t", "70s",
            "--reset-stats",  # counted once all twenty are signed in
            "--host", stage.url, "--csv", f"{folder}/load",
        ]  # fmt: skip
        run = subprocess.run(
            command, cwd=ROOT, env=stage.environment | {"DEMO_PASSWORD": PASSWORD}, capture_output=True, text=True, check=False
        )
        with Path(folder, "load_stats.csv").open(encoding="utf-8") as file:
            rows = list(csv.DictReader(file))
    if not rows:
        print(run.stderr[-2000:])
        return 1
    bare = next(float(row["50%"]) for row in rows if row["Name"] == "bare")
    print(f"{'':22}{'requests':>9}{'failed':>7}{'p50 ms':>8}{'p95 ms':>8}{'ratio':>7}")
    slow = False
    for row in sorted(rows, key=lambda one: one["Name"]):
        p50, p95, name = float(row["50%"]), float(row["95%"]), row["Name"]
        print(f"{name:22}{row['Request Count']:>9}{row['Failure Count']:>7}{p50:8.0f}{p95:8.0f}{p50 / bare:7.1f}")
        slow |= (name.startswith("read") and p95 > READS_MS) or (name.startswith("write") and p95 > WRITES_MS)
    failed = any(int(row["Failure Count"]) for row in rows)
    print(
        "NOT" if slow or failed else "All", f"within {READS_MS} ms for reads and {WRITES_MS} ms for writes, p95, without failures"
    )
    return int(slow or failed)


if __name__ == "__main__":
    sys.exit(main())
