"""Walks through every view at four widths, in both themes, forced colours, at 200 %, with late answers and long names.

It tells by itself what is wrong to look at; `./scripts/walk FOLDER` keeps the pictures.
"""

import os
from collections.abc import Iterator
from pathlib import Path
from uuid import UUID

from django.conf import settings
from django.test import override_settings

from dusky_heron.core.model import Role
from dusky_heron.handback.queries import handback
from dusky_heron.handback.schemas import CheckState, DeviationIn
from dusky_heron.jobs.actions import add_position, open_job
from dusky_heron.jobs.models import Job
from dusky_heron.jobs.schemas import JobIn, PositionIn
from dusky_heron.proposals.actions import propose_deviation
from dusky_heron.record.actor import Actor, MemberRole
from dusky_heron.workshops.models import Member
from tests.browser.base import BrowserTest
from tests.browser.slow import late
from tests.browser.test_views import STAGES

WIDTHS = ((390, 844), (768, 1024), (1280, 800), (1920, 1080))
MODES: dict[str, dict[str, str]] = {
    "light": {"prefers-color-scheme": "light"},
    "dark": {"prefers-color-scheme": "dark"},
    "forced": {"forced-colors": "active"},
    "zoomed": {},
}
NARROWEST = 320  # CSS pixels, to which a page must reflow (WCAG 2.2, 1.4.10)
FAULTS = (Path(__file__).parent / "walk.js").read_text(encoding="utf-8")
LONG = "Upper-circle emergency lighting changeover controller, spare"  # sixty characters
BESIDE = {
    "/": "Open jobs", "/drawer": "3.3 nF", "/shopping": "Nothing cheaper exists", "/meters": "Blue hand meter",
    "/workshop": "T. Vell", "/policy": "34 V after 1 s", "/dropper": "hold every load at 207 V",
    "/supply": "surge, switched on at the peak", "/supply/switching": "keep it running at the lowest mains",
    "/supply/string": "is the most that stands across one", "/supply/forming": "in five steps", "/supply/walk": "Next: Fuse",
    "/seen-before": "What failed", "/may-replace": "The old part, as printed", "/nowhere": "There is nothing here",
}  # fmt: skip


@override_settings(MIDDLEWARE=["tests.browser.slow.Slow", *settings.MIDDLEWARE])
def propose(job_id: UUID) -> None:
    """The apprentice asks for a signature in a job: it stands on the Bench and on every sheet of it."""
    actor = Member.objects.get(username="vell").actor
    check = next(check for check in handback(actor, job_id).checks if check.required and check.state is not CheckState.PASSES)
    reason = "its maker replaces it, and the customer keeps it unplugged until then, as is written on its tag"
    propose_deviation(actor, job_id, DeviationIn(check_id=check.id, reason=reason))


class Walk(BrowserTest):
    """Everything that can be opened."""

    def tearDown(self) -> None:
        late["s"] = 0.0
        self.browser.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": []})
        super().tearDown()

    def long_job(self) -> str:
        """A job with the longest names there may be, and thirty places."""
        member = Member.objects.get(username="orne")
        actor = Actor(member.id, member.name, member.workshop_id, MemberRole.LEAD)
        written = JobIn(
            title=LONG,
            customer="Saltgate Harbour & Esplanade Amusements Preservation Society",
            maker="Brinemark & Daughters",
            model="WP-16",
            serial="SN-0417-88-204-1953-07-A",
            supply_voltage="400 V",
            supply_frequency="50 Hz",
        )
        open_job(actor, written)  # it was here before
        job = open_job(actor, written)
        for k in range(1, 31):
            add_position(actor, job.id, PositionIn(name=f"CX{k}", role=Role.X, marking="1 µF K X2 305 V~ 40/100/21/C"))
        return str(job.id)

    def views(self) -> Iterator[tuple[str, str, str]]:
        """A name for each, its address, and what says that it is there."""
        number = int(os.environ.get("WALK_JOB", "2"))
        dryer = Job.objects.get(number=number).id
        propose(dryer)
        yield from ((path.strip("/").replace("/", "-") or "bench", path, words) for path, words in BESIDE.items())
        yield from ((stage, f"/jobs/{dryer}/{stage}", words) for stage, words in STAGES.items())
        long = self.long_job()
        stages = ("board", "intake", "assess", "discharge", "replace")
        yield from ((f"long-{stage}", f"/jobs/{long}/{stage}", "CX30") for stage in stages)

    def shown(self, width: int, height: int, mode: str) -> int:
        """The window in a mode; at 200 % half as many pixels of the page go into it. How wide the page has it."""
        zoom = 2 if mode == "zoomed" else 1
        self.page.size(max(width // zoom, NARROWEST), height // zoom)
        features = [{"name": name, "value": value} for name, value in MODES[mode].items()]
        self.browser.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": features})
        self.browser.execute_script("document.documentElement.classList.toggle('dark', arguments[0])", mode == "dark")
        return max(width // zoom, NARROWEST)

    def test_every_view(self) -> None:
        self.sign_in()
        found: dict[str, list[str]] = {}
        pictures = os.environ.get("WALK_PICTURES")
        only = os.environ.get("WALK_ONLY", "")
        for name, path, words in self.views():
            if only not in name:
                continue
            self.page.size(*WIDTHS[2])
            self.page.open(path)
            self.page.see(words)
            for width, height in WIDTHS:
                for mode in MODES:
                    narrow = self.shown(width, height, mode) < 500
                    for fault in self.browser.execute_script(FAULTS, narrow and mode != "zoomed"):
                        found.setdefault(f"{name}: {fault}", []).append(f"{width} {mode}")
                    if pictures:
                        self.page.shot(Path(pictures) / f"{name}-{width}-{mode}.png")
            self.shown(*WIDTHS[2], "light")
        self.assertFalse(found, "\n".join(f"{fault}  [{', '.join(where)}]" for fault, where in found.items()))

    def test_waiting_looks_like_waiting(self) -> None:
        """Two seconds before the answer: shapes of what comes, and nothing that looks like an answer."""
        self.sign_in()
        found = []
        for name, path, words in self.views():
            self.page.size(*WIDTHS[2])
            late["s"] = 2.0
            self.page.open(path)
            self.page.until(lambda: self.browser.execute_script("return document.querySelector('main') !== null"))
            self.browser.execute_async_script("setTimeout(arguments[0], 600)")
            busy = "return [...document.querySelectorAll('[aria-busy=true]')].some((e) => e.checkVisibility())"
            if words not in self.page.text() and not self.browser.execute_script(busy):
                found.append(f"{name}: {self.page.text()[:160]}")
            if pictures := os.environ.get("WALK_PICTURES"):
                self.page.shot(Path(pictures) / f"{name}-waiting.png")
            late["s"] = 0.0
            self.page.see(words)
        self.assertFalse(found, "\n".join(found))
