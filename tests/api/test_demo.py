"""The demo with its past: made by the same actions as everybody's work, by a clock that only goes forward."""

import datetime

from django.db.models import F
from django.utils import timezone

from dusky_heron.buying.models import Ordered
from dusky_heron.demo.scenario import load
from dusky_heron.handback.models import Return
from dusky_heron.jobs.models import Job
from dusky_heron.proposals.models import Proposal
from dusky_heron.record.models import Clock
from dusky_heron.record.verifying import verify_all
from dusky_heron.stock.models import Movement, Why
from dusky_heron.workshops.models import Member
from tests.databases import EMPTY, PASSWORD, Committing


class Past(Committing):
    """Loaded once, as `scripts/demo` does."""

    begins_with = EMPTY

    def test_two_years_lie_before_the_open_jobs(self) -> None:
        now = timezone.now
        load(PASSWORD, datetime.date.today(), past=True)
        self.assertIs(timezone.now, now)
        back, here = Job.objects.filter(returned_at__isnull=False), Job.objects.filter(returned_at=None)
        self.assertEqual((back.count(), here.count()), (60, 8))
        self.assertLess(max(back.values_list("number", flat=True)), min(here.values_list("number", flat=True)))
        opened = list(Job.objects.order_by("number").values_list("opened_at", flat=True))
        self.assertEqual(opened, sorted(opened))
        self.assertGreater(opened[-1] - opened[0], datetime.timedelta(days=600))
        came = Ordered.objects.filter(closed=True, received=F("quantity"))
        self.assertEqual((came.count(), Ordered.objects.count()), (4, 4))
        bought = Movement.objects.filter(why=Why.BOUGHT).values_list("at", flat=True)
        self.assertGreater(max(bought) - min(bought), datetime.timedelta(days=300))
        self.assertEqual(Clock.objects.get().turn, 0)
        until = [day for day in Return.objects.values_list("warranty_until", flat=True) if day]
        today = datetime.date.today()
        self.assertTrue(any(day < today for day in until) and any(day > today for day in until))
        self.assertEqual(set(Member.objects.values_list("role", flat=True)), {"lead", "technician", "apprentice"})
        self.assertEqual([row.by_name for row in Proposal.objects.all()], ["T. Vell"])
        self.assertTrue(all(found.whole for _, found in verify_all()))
