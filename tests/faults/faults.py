"""Kills the server, then PostgreSQL, in 200 concurrent writes, and counts: every acknowledged one there, none twice."""

import os
import signal
import subprocess
import sys
import time
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from threading import Event

import psycopg
import urllib3

from tests.stage import ROOT, Stage, Technician

WRITES, AT_ONCE = 200, 20
AGAIN_S = 0.2


class Writes:
    """Readings, each of a value and with a key of its own, sent until they are acknowledged."""

    def __init__(self, stage: Stage, first: int) -> None:
        self.stage, self.first = stage, first
        one = Technician(stage.url, "orne")
        jobs = [row["job"]["id"] for row in one.ask("GET", "/api/bench").json()]
        sheets = [one.ask("GET", f"/api/jobs/{job}/sheet").json() for job in jobs]
        self.places = [place["id"] for sheet in sheets for place in sheet["positions"]]
        self.meter = next(meter["id"] for meter in one.ask("GET", "/api/meters").json() if meter["name"] == "Blue hand meter")
        self.people = [Technician(stage.url, ("orne", "vell")[k % 2]) for k in range(AT_ONCE)]
        self.acknowledged: list[str] = []
        self.again = 0
        self.quarter = Event()

    def value(self, number: int) -> str:
        """What is typed: no two alike."""
        return f"{1000 + self.first + number}n"

    def person(self, which: int) -> None:
        """One technician's share, one after the other, each until it is acknowledged."""
        for number in range(which, WRITES, AT_ONCE):
            body = {"value": self.value(number), "meter_id": self.meter}
            path = f"/api/positions/{self.places[number % len(self.places)]}/readings"
            while True:
                try:
                    answer = self.people[which].ask("POST", path, body, **{"Idempotency-Key": f"fault-{self.value(number)}"})
                except urllib3.exceptions.HTTPError:
                    answer = None
                if answer is not None and answer.status == 200:
                    break
                if answer is not None and answer.status < 500:
                    raise RuntimeError(f"{answer.status}: {answer.data!r}")
                self.again += 1
                time.sleep(AGAIN_S)
            self.acknowledged.append(self.value(number))
            if len(self.acknowledged) >= WRITES // 4:
                self.quarter.set()

    def run(self, fault: "Fault") -> None:
        """All of them at once, the fault after a quarter."""
        with ThreadPoolExecutor(AT_ONCE + 1) as pool:
            jobs = [pool.submit(self.person, which) for which in range(AT_ONCE)]
            self.quarter.wait(120)
            before = len(self.acknowledged)
            fault.strike()
            for job in jobs:
                job.result()
        with psycopg.connect(self.stage.owner) as direct:
            rows = direct.execute("SELECT typed FROM assessment_reading WHERE typed = ANY(%s)", [self.acknowledged]).fetchall()
        found = Counter(typed for (typed,) in rows)
        missing, twice = set(self.acknowledged) - set(found), [typed for typed, times in found.items() if times > 1]
        chains = self.stage.manage("verify").strip().splitlines()[-1]
        print(
            f"{fault.title}: {len(self.acknowledged)} acknowledged ({before} before it), {self.again} sent again, "
            f"{sum(found.values())} found, {len(missing)} missing, {len(twice)} twice; {chains}"
        )
        if missing or twice or ", 0 chains altered" not in chains:
            sys.exit(1)


class Fault:
    """The server with all its processes gone at once, and started again."""

    title = "kill -9 of the server"

    def __init__(self, stage: Stage) -> None:
        self.stage = stage

    def strike(self) -> None:
        """Kill it, wait, start it."""
        self.stage.kill()
        time.sleep(1)
        self.stage.start()


class DatabaseFault(Fault):
    """PostgreSQL's first process gone, its others with it, and started again from its log."""

    title = "kill -9 of PostgreSQL"

    def strike(self) -> None:
        """Kill it by the number it wrote down, start it as the demo would."""
        with psycopg.connect(f"{self.stage.owner}") as direct:
            port = direct.info.port
        base = f"host=127.0.0.1 port={port} dbname=postgres user=postgres password={os.environ['DB_SUPER_PASSWORD']}"
        with psycopg.connect(base) as mighty:
            folder = mighty.execute("SHOW data_directory").fetchone()
        number = int(Path(str(folder[0] if folder else ""), "postmaster.pid").read_text(encoding="utf-8").split()[0])
        os.kill(number, signal.SIGKILL)
        time.sleep(1)
        subprocess.run(["scripts/db", "start"], cwd=ROOT, check=True)


if __name__ == "__main__":
    with Stage("dusky_faults", 8790) as stage:
        Writes(stage, 0).run(Fault(stage))
        Writes(stage, WRITES).run(DatabaseFault(stage))
