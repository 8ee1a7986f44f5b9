"""Verifying all records: of one moment while others write, in statements that do not grow with the jobs, with heads as printed."""

import threading
from collections.abc import Callable
from io import StringIO
from typing import Any
from unittest.mock import patch

from django.core.management import call_command
from django.db import connection
from django.test.utils import CaptureQueriesContext

from dusky_heron.jobs.actions import edit_job, open_job
from dusky_heron.jobs.models import Job
from dusky_heron.jobs.schemas import JobEdit, JobIn
from dusky_heron.record import binding, verifying
from dusky_heron.record.models import Chain, Entry
from dusky_heron.workshops.models import Member
from tests.api.base import ApiTest
from tests.databases import DEMO, Committing


def aside(write: Callable[[], Any]) -> None:
    """Done by another connection, to its end."""

    def by_itself() -> None:
        write()
        connection.close()

    thread = threading.Thread(target=by_itself)
    thread.start()
    thread.join()


class WhileOthersWrite(Committing):
    """What is entered between two statements of a verification belongs to the next one."""

    begins_with = DEMO

    def test_a_write_in_the_midst_alarms_nobody(self) -> None:
        actor = Member.objects.get(username="orne").actor
        job = Job.objects.order_by("number").first()
        assert job is not None
        edited = JobEdit(version=job.version, title="Renamed meanwhile", supply_voltage="230", supply_frequency="50")
        real, length = binding.differences, Chain.objects.get(subject_id=job.id).length
        ways: tuple[Callable[[], verifying.Verified], ...] = (
            lambda: dict(verifying.verify_all())[job.id],
            lambda: verifying.verify(actor, job.id),
        )
        for verified in ways:
            fresh = edited.model_copy(update={"version": Job.objects.get(id=job.id).version})

            def between(*args: Any, fresh: JobEdit = fresh) -> Any:
                aside(lambda: edit_job(actor, job.id, fresh))
                return real(*args)

            with patch.object(verifying, "differences", between):
                found = verified()
            self.assertEqual((found.whole, found.length, found.differs), (True, length, ()))
            length += 1
        self.assertEqual(verifying.verify(actor, job.id).length, length)
        self.assertTrue(all(found.whole for _, found in verifying.verify_all()))

    def test_statements_do_not_grow_with_the_jobs(self) -> None:
        actor = Member.objects.get(username="orne").actor
        counts = []
        for more in (0, 12):
            for k in range(more):
                open_job(actor, JobIn(title=f"w{k}", supply_voltage="230", supply_frequency="50"))
            with CaptureQueriesContext(connection) as captured:
                self.assertTrue(all(found.whole for _, found in verifying.verify_all()))
            counts.append(len(captured))
        self.assertEqual(counts[0], counts[1])
        with patch.object(verifying, "AT_A_TIME", 5):  # many lots, each chain in one of them
            found = dict(verifying.verify_all())
        self.assertEqual({key: (one.whole, one.length) for key, one in found.items()}, {
            chain.subject_id: (True, chain.length) for chain in Chain.objects.all()
        })  # fmt: skip


class AsPrinted(ApiTest):
    """A head that was printed stands as an entry of a chain that holds; asked of all at once."""

    FORGES = True

    def told(self, *heads: str) -> list[str]:
        """The lines about heads that stand nowhere."""
        out = StringIO()
        try:
            call_command("verify", *heads, stdout=out)
        except SystemExit:
            return [line for line in out.getvalue().splitlines() if "stands in no whole chain" in line]
        return []

    def test_heads_of_any_age_and_of_no_chain(self) -> None:
        one, two = (Chain.objects.get(subject_id=self.job(k).id) for k in (1, 2))
        first = str(Entry.objects.filter(chain=one).values_list("hash", flat=True)[0])
        blanks = [one.head[k : k + 8].upper() for k in range(0, 64, 8)]
        self.assertEqual(self.told(first, *blanks, two.head), [])
        strange = "ab" * 32
        self.assertEqual([line[:64] for line in self.told(first, strange, two.head)], [strange])

    def test_heads_of_a_chain_that_was_altered_stand_no_more(self) -> None:
        one, two = (Chain.objects.get(subject_id=self.job(k).id) for k in (1, 2))
        first = str(Entry.objects.filter(chain=one).values_list("hash", flat=True)[0])
        last = Entry.objects.filter(chain=one).order_by("-sequence")[0]
        Entry.objects.filter(pk=last.pk).update(text=last.text.replace("{", "{ ", 1))
        self.assertEqual([line[:64] for line in self.told(first, two.head)], [first])
