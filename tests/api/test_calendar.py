"""Due dates by an address of their own: read without signing in, until it is renewed or taken away."""

import datetime
import logging
from io import StringIO
from typing import Any
from unittest import mock

import structlog
from django.test import Client
from django.utils import timezone
from icalendar import Calendar

from dusky_heron.handback.models import Return
from dusky_heron.record.models import Entry, Write
from dusky_heron.settings import logs
from dusky_heron.workshops.models import Workshop
from tests.api.base import ApiTest


class ByAddress(ApiTest):
    """As another program fetches it."""

    FORGES = True  # the end of a warranty

    def setUp(self) -> None:
        super().setUp()
        self.path = "calendar-address"

    def fetch(self, address: str) -> Any:
        return Client(headers={"host": "127.0.0.1"}).get(address)

    def renewed(self, key: str = "") -> str:
        headers = {"Idempotency-Key": key} if key else {}
        body = {"number": self.get(self.path)["number"]}
        self.answer(self.client.post(f"/api/{self.path}", body, "application/json", headers=headers), 200)
        return str(self.get(self.path)["address"])

    def test_there_is_none_until_a_lead_makes_one(self) -> None:
        self.assertEqual(self.get(self.path)["address"], "")
        address = self.renewed()
        answer = self.fetch(address)
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "text/calendar; charset=utf-8"))
        self.assertIn("no-store", answer["Cache-Control"])
        said = [str(event["summary"]) for event in Calendar.from_ical(answer.content).walk("VEVENT")]
        self.assertIn("Calibration due: Blue hand meter", " / ".join(said))
        self.assertEqual(answer.content.count(b"BEGIN:VEVENT"), self.client.get("/api/due.ics").content.count(b"BEGIN:VEVENT"))
        self.sign_in("vell")
        self.assertEqual(self.get(self.path)["address"], address)  # who works here may read it, and only a lead changes it
        self.post(self.path, {"number": 1}, 403)
        self.answer(self.client.delete(f"/api/{self.path}"), 403)

    def test_a_warranty_that_ended_over_a_month_ago_is_due_no_more(self) -> None:
        today = timezone.localdate()
        row = Return.objects.create(job=self.job(1), returned=True, by_name="M. Orne")
        for days, told in ((-400, 1), (0, 1), (30, 1), (31, 1), (32, 0), (None, 0)):
            row.warranty_until = None if days is None else today - datetime.timedelta(days=days)
            row.save()
            with self.subTest(days):
                ends = [event for event in self.events() if str(event["summary"]).startswith("Warranty ends: job 1,")]
                self.assertEqual([event["dtstart"].dt for event in ends], [row.warranty_until] * told)

    def events(self) -> Any:
        return Calendar.from_ical(self.client.get("/api/due.ics").content).walk("VEVENT")

    def test_one_that_was_renewed_or_taken_away_leads_nowhere(self) -> None:
        first = self.renewed()
        second = self.renewed()
        self.assertNotEqual(first, second)
        self.assertEqual([self.fetch(one).status_code for one in (first, second)], [404, 200])
        self.answer(self.client.delete(f"/api/{self.path}"), 200)
        self.assertEqual([self.fetch(one).status_code for one in (first, second)], [404, 404])
        self.assertEqual(self.get(self.path)["address"], "")
        self.post(self.path, {"number": 1}, 422)  # who saw another one than stands now
        third = self.renewed()
        self.assertEqual([self.fetch(one).status_code for one in (first, second, third)], [404, 404, 200])

    def test_nobody_comes_in_by_guessing(self) -> None:
        address = self.renewed()
        folder, secret = address.removesuffix(".ics").rsplit("/", 1)
        mine, other = str(self.actor_of("orne").workshop_id), str(Workshop.objects.get(name="Far Quay").id)
        for wrong in (
            f"{folder}/{secret[:-1]}.ics", f"{folder}/{secret}0.ics", f"{folder}/{secret.swapcase()}.ics", f"{folder}/0.ics",
            address.replace(mine, other), f"{folder}/é.ics", f"{folder}/{'x' * 4000}.ics",
        ):  # fmt: skip
            self.assertEqual(self.fetch(wrong).status_code, 404, wrong)
        self.assertEqual(Client(headers={"host": "127.0.0.1"}).post(address).status_code, 405)
        self.assertGreaterEqual(len(secret), 43)  # 256 bits

    def test_the_secret_stands_in_no_table_and_no_log(self) -> None:
        address = self.renewed("calendar-1")
        secret = address.removesuffix(".ics").rsplit("/", 1)[1]
        self.assertTrue(Write.objects.filter(key="calendar-1").exists())
        self.assertFalse(Write.objects.filter(answer__contains=secret).exists())
        self.assertFalse(Entry.objects.filter(text__contains=secret).exists())
        self.assertEqual(self.entries()[-1], "calendar address renewed")
        out = StringIO()
        loud = structlog.wrap_logger(structlog.PrintLogger(out), wrapper_class=structlog.make_filtering_bound_logger(logging.INFO))
        with mock.patch.object(logs, "log", loud):
            self.assertEqual(self.fetch(address).status_code, 200)
        self.assertIn("/calendar/", out.getvalue())
        self.assertNotIn(secret, out.getvalue())

    def entries(self) -> list[str]:
        return [entry["kind"] for entry in reversed(self.get("workshop/record"))]
