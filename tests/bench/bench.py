"""Speed and weight, as ratios within one run; run by scripts/bench. Nothing here can fail for being slow."""

import gzip
import re
import statistics
import time
from collections.abc import Callable
from pathlib import Path

from django.test import Client, override_settings

from dusky_heron.core.discharge import rank_tools, working_limit
from dusky_heron.core.energy import plan_charge
from dusky_heron.core.markings import read_marking
from dusky_heron.instruments.queries import core_resistors
from dusky_heron.jobs.models import Position
from dusky_heron.workshops.models import Member
from tests.browser.base import BrowserTest

DIST = Path(__file__).resolve().parents[2] / "frontend" / "dist"
ROUNDS = 150
MARKINGS = [
    "16 µF ±5 % 450 V~", "µ68 K X2 305~ 2123", "30+5 µF 370/440 VAC", "104K275 X2", "1200 µF 360 V", "4n7 X1 440~ Y2 300~",
    "189-227 µF 250 VAC", "16 mF 450 VAC", "3n3 M Y2 300 V~", "20 µF 450 V cl. C / 400 V cl. B P2",
]  # fmt: skip


@override_settings(ROOT_URLCONF="tests.bench.urls")
class Bench(BrowserTest):
    """Three tables: API calls against a bare view, the core, the page."""

    def test_bench(self) -> None:
        member = Member.objects.get(username="orne")
        client = Client(headers={"host": "127.0.0.1"})
        client.force_login(member, "django.contrib.auth.backends.ModelBackend")
        position = Position.objects.get(job__number=1)
        calls = {
            "bare signed-in view": "/bare",
            "GET reading-box": f"/api/reading-box?text={MARKINGS[0].replace('%', '%25')}",
            "GET positions/…/discharge": f"/api/positions/{position.id}/discharge",
            "GET positions/…/assessment": f"/api/positions/{position.id}/assessment",
            "GET positions/…/candidates": f"/api/positions/{position.id}/candidates",
            "GET bench": "/api/bench",
            "GET jobs/…/sheet": f"/api/jobs/{position.job_id}/sheet",
            "GET jobs/…/record": f"/api/jobs/{position.job_id}/record",
            "GET parts": "/api/parts",
            "GET words": "/api/words",
        }
        self.table(
            "API calls against a bare signed-in view, same middleware", {n: lambda p=p: client.get(p) for n, p in calls.items()}
        )
        charge = plan_charge(read_marking(MARKINGS[0]))
        limit, resistors = working_limit(None, charge.highest_f, charge.voltage.voltage_v), core_resistors(member.actor)
        core = {
            "read_marking, mean of ten": lambda: [read_marking(text) for text in MARKINGS],
            "plan_charge": lambda: plan_charge(read_marking(MARKINGS[0])),
            "rank_tools, twelve resistors": lambda: rank_tools(resistors, charge, limit),
        }
        self.table("The core", core, divide={"read_marking, mean of ten": 10})
        self.page_weight()
        self.page_speed()

    def table(self, title: str, calls: dict[str, Callable[[], object]], divide: dict[str, int] | None = None) -> None:
        times: dict[str, list[float]] = {name: [] for name in calls}
        for _ in range(ROUNDS):
            for name, call in calls.items():
                began = time.perf_counter()
                call()
                times[name].append((time.perf_counter() - began) * 1000 / (divide or {}).get(name, 1))
        base = statistics.median(next(iter(times.values())))
        print(f"\n{title}\n{'':34}{'p50 ms':>9}{'p95 ms':>9}{'ratio':>8}")  # noqa: T201
        for name, taken in times.items():
            p50, p95 = statistics.median(taken), statistics.quantiles(taken, n=20)[-1]
            print(f"{name:34}{p50:9.2f}{p95:9.2f}{p50 / base:8.2f}")  # noqa: T201

    def page_weight(self) -> None:
        index = (DIST / "index.html").read_text(encoding="utf-8")
        files = re.findall(r'(?:src|href)="/static/([^"]+\.(?:js|css))"', index)
        weight = {name: len(gzip.compress((DIST / name).read_bytes())) / 1024 for name in files}
        script = sum(size for name, size in weight.items() if name.endswith(".js"))
        print(f"\nInitial page, gzipped: script {script:.1f} KB of 150, style {sum(weight.values()) - script:.1f} KB")  # noqa: T201

    def page_speed(self) -> None:
        page = self.sign_in()

        def opened(path: str, words: str) -> float:
            began = time.perf_counter()
            page.open(path)
            page.see(words)
            return (time.perf_counter() - began) * 1000

        bare = statistics.median(opened("/robots.txt", "Disallow") for _ in range(7))
        bench = statistics.median(opened("/", "Wave-pool") for _ in range(7))
        print(f"Time to a bench that can be used: {bench:.0f} ms, {bench / bare:.1f} times a line of text ({bare:.0f} ms)")  # noqa: T201
        answers = []
        for week, text in enumerate((f"{text} 21" for text in MARKINGS * 3), start=10):
            text += str(week)  # a date code of its own, so that no answer is known before
            page.press("/")
            page.retype(text[:-1])
            time.sleep(0.15)
            answers.append(self.answered_in(text[-1]))
        p95 = statistics.quantiles(answers, n=20)[-1]
        print(f"Last key to answer in the reading box: p50 {statistics.median(answers):.0f} ms, p95 {p95:.0f} ms of 150")  # noqa: T201

    def answered_in(self, key: str) -> float:
        """From a key to the painted answer, by the page's own clock."""
        script = """
            const [key, done] = arguments, field = document.activeElement
            const told = document.querySelector('[aria-live]')
            const began = performance.now()
            const seen = new MutationObserver(() => requestAnimationFrame(() => {
                seen.disconnect(); done(performance.now() - began)
            }))
            seen.observe(told.parentElement.parentElement, { childList: true, characterData: true, subtree: true })
            setTimeout(() => done(null), 2000)
            field.value += key
            field.dispatchEvent(new Event('input', { bubbles: true }))
        """
        return float(self.browser.execute_async_script(script, key) or 2000)
