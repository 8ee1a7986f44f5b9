"""What the night takes away: answers that nobody asks for again, ended sessions, old attempts; and what it never takes."""

import datetime
import json
from typing import Any
from unittest import mock

from axes.models import AccessAttempt, AccessFailureLog
from django.contrib.sessions.models import Session
from django.utils import timezone

from dusky_heron.jobs.models import Job
from dusky_heron.longwork.models import State, Work
from dusky_heron.longwork.tasks import tidy
from dusky_heron.record.models import Chain, Entry, Write
from tests.api.base import ApiTest

BODY = {"title": "Gate lamp", "supply_voltage": "230 V", "supply_frequency": "50 Hz"}
DAY = datetime.timedelta(days=1)


class Tidied(ApiTest):
    """By a clock that goes on."""

    def setUp(self) -> None:
        super().setUp()
        self.made = self.again(200)

    def after(self, days: float) -> None:
        later = timezone.now() + days * DAY
        with mock.patch.object(timezone, "now", return_value=later):
            tidy(int(later.timestamp()))

    def again(self, status: int, body: Any = BODY) -> Any:
        sent = self.client.post("/api/jobs", json.dumps(body), "application/json", headers={"Idempotency-Key": "phone-1"})
        return self.answer(sent, status)

    def test_an_answer_is_given_again_for_a_week(self) -> None:
        self.after(6.99)
        self.sign_in("orne")  # the session of before has ended by then
        self.assertEqual(self.again(200), self.made)

    def test_after_it_what_was_done_is_not_done_twice(self) -> None:
        self.after(7.01)
        self.sign_in("orne")
        self.assertEqual(Write.objects.get(key="phone-1").answer, "")
        jobs, entries = Job.objects.count(), Entry.objects.count()
        told = self.again(409)
        self.assertEqual(told["type"], "done")
        self.assertIn(f"{timezone.localdate():%-d %B %Y}", told["detail"])
        self.assertEqual((Job.objects.count(), Entry.objects.count()), (jobs, entries))
        self.assertNotEqual(self.again(409, BODY | {"title": "Another"})["type"], "done")  # the key is still of that write alone

    def test_a_key_is_known_for_a_year(self) -> None:
        self.after(365)
        self.assertTrue(Write.objects.filter(key="phone-1").exists())
        self.after(367)
        self.assertFalse(Write.objects.filter(key="phone-1").exists())

    def test_sessions_attempts_and_finished_work_go_by_their_age(self) -> None:
        member, now = self.actor_of("orne"), timezone.now()
        living = Session.objects.get().session_key
        Session.objects.create(session_key="old", session_data="", expire_date=now - DAY)
        for model, more in ((AccessAttempt, {"failures_since_start": 1}), (AccessFailureLog, {})):
            for days in (29, 31):
                row = model.objects.create(username=f"{days}", ip_address="127.0.0.1", **more)
                model.objects.filter(pk=row.pk).update(attempt_time=now - days * DAY)
        for state, days in ((State.DONE, 29), (State.DONE, 31), (State.REFUSED, 31), (State.WAITING, 31), (State.RUNNING, 31)):
            row = Work.objects.create(
                workshop_id=member.workshop_id, by_id=member.id, kind="report", name=f"{state} {days}", state=state
            )
            Work.objects.filter(pk=row.pk).update(at=now - days * DAY)
        self.after(0)
        kept = set(Session.objects.values_list("session_key", flat=True))
        self.assertEqual((living in kept, "old" in kept), (True, False))
        for model in (AccessAttempt, AccessFailureLog):
            self.assertEqual(list(model.objects.values_list("username", flat=True)), ["29"])
        self.assertEqual(set(Work.objects.values_list("name", flat=True)), {"done 29", "waiting 31", "running 31"})

    def test_what_is_recorded_stays(self) -> None:
        before = (Entry.objects.count(), Chain.objects.count(), Job.objects.count())
        self.after(5000)
        self.assertEqual((Entry.objects.count(), Chain.objects.count(), Job.objects.count()), before)
