"""Five hundred sign-ins a minute beside a signed-in bench, from one address and from many: its p95, and the server's memory."""

import itertools
import sys
import threading
import time
from collections import Counter

import psutil
import urllib3

from tests.stage import JSON, PASSWORD, Stage, Technician

A_MINUTE, SECONDS, LOOKS_S = 500, 40, 0.12
SLOWER, MORE_MB = 3.0, 200.0  # what the flood may cost: the p95 of the bench against quiet, and memory


def main() -> int:
    """Quiet, one address, many; ends with 1 when one was too slow, took too much, or locked a lead out."""
    with Stage("dusky_flood", 8792) as stage:
        lead = Technician(stage.url, "orne")
        _look(lead, 5)
        quiet, held = _look(lead, SECONDS), _memory(stage)
        print(f"{'quiet':16} p95 {1000 * quiet:5.0f} ms  memory {held:5.0f} MB")
        bad = False
        for name, addresses in (("one address", ["127.0.0.9"]), ("250 addresses", [f"127.0.1.{k}" for k in range(1, 251)])):
            answers: Counter[int] = Counter()
            stop = threading.Event()
            crowd = [threading.Thread(target=_flood, args=(stage, share, answers, stop)) for share in _shared(addresses)]
            for one in crowd:
                one.start()
            p95, now = _look(lead, SECONDS), _memory(stage)
            stop.set()
            for one in crowd:
                one.join()
            entered = Technician(stage.url, "orne").ask("GET", "/api/session").status  # from where the lead signed in before
            print(f"{name:16} p95 {1000 * p95:5.0f} ms, {p95 / quiet:.1f} times; memory {now:5.0f} MB; lead {entered}")
            print(f"{'':16} {dict(answers)}")
            bad |= p95 > SLOWER * quiet or now - held > MORE_MB or entered != 200
    return int(bad)


def _shared(addresses: list[str]) -> list[list[str]]:
    """Among ten threads, so that none waits for another's answer."""
    return [addresses[k::10] or addresses for k in range(10)]


def _flood(stage: Stage, addresses: list[str], answers: Counter[int], stop: threading.Event) -> None:
    """A tenth of the sign-ins, half of them at the lead's name, each with another password."""
    pools = {one: urllib3.PoolManager(source_address=(one, 0), retries=False, timeout=20) for one in addresses}
    began = time.monotonic()
    for k in itertools.count():
        if stop.wait(max(0.0, began + k * 600 / A_MINUTE - time.monotonic())):
            return
        http = pools[addresses[k % len(addresses)]]
        cookie = http.request("GET", stage.url + "/").headers["Set-Cookie"].split(";")[0]
        sent = JSON | {"Cookie": cookie, "X-CSRFToken": cookie.split("=", 1)[1]}
        body = {"username": ("orne", f"nobody{k % 7}")[k % 2], "password": f"{PASSWORD}{k}"}
        answers[http.request("POST", f"{stage.url}/api/session", json=body, headers=sent).status] += 1


def _look(lead: Technician, seconds: float) -> float:
    """The p95 of the bench, as a person looks at it again and again."""
    took, end = [], time.monotonic() + seconds
    while time.monotonic() < end:
        began = time.perf_counter()
        lead.ask("GET", "/api/bench")
        took.append(time.perf_counter() - began)
        time.sleep(LOOKS_S)
    return sorted(took)[int(0.95 * len(took))]


def _memory(stage: Stage) -> float:
    """MB that the server's processes hold."""
    assert stage.process  # it was started
    root = psutil.Process(stage.process.pid)
    return float(sum(one.memory_info().rss for one in [root, *root.children(recursive=True)])) / 1e6


if __name__ == "__main__":
    sys.exit(main())
