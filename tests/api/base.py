"""Two workshops: the demo's, and a stranger's."""

import datetime
import json
import logging
from dataclasses import replace
from pathlib import Path
from typing import Any
from unittest import mock

import structlog
from django.test import RequestFactory, TestCase
from django.utils import timezone
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob

from dusky_heron.api.bench import JOBS, SHEETS, BenchJob, bench
from dusky_heron.assessment.queries.board import BOARDS
from dusky_heron.jobs.models import Job, Position
from dusky_heron.record.actor import Actor
from dusky_heron.record.models import Chain
from dusky_heron.record.verifying import verify
from dusky_heron.workshops.models import Member
from tests.databases import lay_photos

OPENAPI = json.loads((Path(__file__).parent / "openapi.json").read_text(encoding="utf-8"))
structlog.configure(wrapper_class=structlog.make_filtering_bound_logger(logging.ERROR))
logging.getLogger("axes").setLevel(logging.CRITICAL)
logging.getLogger("urllib3").setLevel(logging.ERROR)
logging.getLogger("django.security.csrf").setLevel(logging.CRITICAL)
JSON: dict[str, Any] = {"content_type": "application/json"}
KNOWN = {
    "known_before": "230",
    "known_before_ac": "230",
    "known_after": "229",
    "known_after_ac": "229",
}  # a meter proved on both kinds


def forget() -> None:
    """Keep nothing in memory, as a server that starts; who writes beside the actions has to."""
    for memory in (JOBS, SHEETS, BOARDS):
        memory.forget()


class ApiTest(TestCase):
    """Requests as a signed-in member; in tests the host is the loopback's."""

    @classmethod
    def setUpTestData(cls) -> None:
        lay_photos()

    FORGES = False  # a test that writes beside the actions, which a record must find

    def setUp(self) -> None:
        self.client.defaults["HTTP_HOST"] = "127.0.0.1"
        self.sign_in("orne")
        forget()
        self.bench(timezone.now())
        self.lengths = dict(Chain.objects.values_list("subject_id", "length"))

    def tearDown(self) -> None:
        """Whatever a test wrote by actions is bound by its records; what is kept in memory is what follows from them."""
        if not self.FORGES:
            grown = (chain for chain in Chain.objects.all() if chain.length != self.lengths.get(chain.subject_id))
            actors = ((replace(self.actor_of("orne"), workshop_id=chain.workshop_id), chain.subject_id) for chain in grown)
            self.assertEqual([verify(*one).differs for one in actors if not verify(*one).whole], [])
            now = timezone.now()
            kept = self.bench(now)
            forget()
            self.assertEqual(kept, self.bench(now), "what is kept in memory is not what stands")

    def bench(self, now: datetime.datetime) -> list[BenchJob]:
        """The Bench as a lead sees it at a moment."""
        request = RequestFactory().get("/api/bench")
        request.user = Member.objects.get(username="orne")
        with mock.patch.object(timezone, "now", return_value=now):
            return bench(request)

    def sign_in(self, username: str) -> None:
        self.client.force_login(Member.objects.get(username=username), "dusky_heron.workshops.signing_in.Members")

    def get(self, path: str, status: int = 200) -> Any:
        return self.answer(self.client.get(f"/api/{path}"), status)

    def post(self, path: str, body: object, status: int = 200, **headers: str) -> Any:
        return self.answer(self.client.post(f"/api/{path}", json.dumps(body), **JSON, headers=headers), status)

    def put(self, path: str, body: object, status: int = 200) -> Any:
        return self.answer(self.client.put(f"/api/{path}", json.dumps(body), **JSON), status)

    def answer(self, response: Any, status: int) -> Any:
        self.assertEqual(response.status_code, status, response.content)
        return json.loads(response.content) if response.content else None

    def done(self, asked: Any) -> Any:
        """Do the long work that was asked for, as the worker would; its row afterwards."""
        job = ProcrastinateJob.objects.get(args__work_id=asked["id"])
        app.tasks[job.task_name](**job.args)
        return self.get(f"work/{asked['id']}")

    def actor_of(self, username: str) -> Actor:
        return Member.objects.get(username=username).actor

    def position(self, job_number: int, name: str) -> Position:
        return Position.objects.get(job__number=job_number, name=name)

    def job(self, number: int) -> Job:
        return Job.objects.get(number=number)

    def meter_id(self, name: str = "Blue hand meter") -> str:
        return str(next(meter["id"] for meter in self.get("meters") if meter["name"] == name))
