"""Twenty technicians in a grown workshop: failures, medians and p95 of reads and writes, beside a bare view.

Meanwhile a worker lays out a report of 200 photos, packs that job as a file, and takes a stock list of 100 000 rows.
"""

import csv
import os
import signal
import subprocess
import sys
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from tests.stage import PASSWORD, ROOT, Stage, Technician

READS_MS, WRITES_MS = 300, 500
PHOTOS, ROWS = 200, 100_000


def main() -> int:
    """Grow, run, tell; ends with 1 when something failed or was too slow."""
    stage = Stage("dusky_load", 8791)
    with tempfile.TemporaryDirectory() as folder:
        stage.environment["MEDIA_ROOT"] = folder
        with stage:
            return _measured(stage, folder)


def _measured(stage: Stage, folder: str) -> int:
    stage.manage("shell", "-v", "0", "-c", f"from tests.load.grow import grow, photograph; grow(); photograph({PHOTOS})")
    worker = subprocess.Popen(["scripts/serve", "worker"], cwd=ROOT, env=stage.environment, start_new_session=True)
    aside = ThreadPoolExecutor(1).submit(_long_work, stage.url, worker)
    try:
        command = [
            "locust", "-f", "tests/load/locustfile.py", "--headless", "--only-summary", "-u", "20", "-r", "2", "-t", "150s",
            "--reset-stats",  # counted once all twenty are signed in
            "--host", stage.url, "--csv", f"{folder}/load",
        ]  # fmt: skip
        run = subprocess.run(
            command, cwd=ROOT, env=stage.environment | {"DEMO_PASSWORD": PASSWORD}, capture_output=True, text=True, check=False
        )
        with Path(folder, "load_stats.csv").open(encoding="utf-8") as file:
            rows = list(csv.DictReader(file))
        for said in aside.result():
            print(said)
    finally:
        os.killpg(worker.pid, signal.SIGTERM)
        worker.wait()
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


def _long_work(url: str, worker: "subprocess.Popen[bytes]") -> list[str]:
    """Asked for once all have signed in; how long each took, and how often it could be looked at meanwhile."""
    time.sleep(20)
    lead = Technician(url, "orne")
    job = next(row["job"]["id"] for row in lead.ask("GET", "/api/bench").json() if row["job"]["number"] == 7)
    rows = "".join(f"{k + 1} pF K X2 310 V~;safety film;2\n" for k in range(ROWS))
    asked = {
        f"report of {PHOTOS} photos": lead.ask("POST", f"/api/jobs/{job}/report", {}),
        f"file of {PHOTOS} photos": lead.ask("POST", f"/api/jobs/{job}/job-file", {}),
        f"list of {ROWS} rows": lead.send_file("/api/part-lists", "long.csv", f"marking;kind;quantity\n{rows}".encode()),
    }
    began, said = time.monotonic(), list[str]()
    for what, answer in asked.items():
        work = answer.json()
        if answer.status != 202:
            return [*said, f"{what}: {answer.status} {work['detail']}"]
        while work["state"] not in ("done", "refused", "stopped"):
            if worker.poll() is not None:
                return [*said, f"{what}: the worker ended with {worker.returncode}"]
            time.sleep(0.5)
            work = lead.ask("GET", f"/api/work/{work['id']}").json()
        said.append(f"{what}: {work['state']} {time.monotonic() - began:.0f} s after it was asked for {work['sentence']}")
    return said


if __name__ == "__main__":
    sys.exit(main())
