"""The large database that loads are measured on: its workshops are as the demo's, each with records of its own that hold."""

from django.db import connection
from django.db.models import Count

from dusky_heron.assessment.models import Reading
from dusky_heron.jobs.models import Job
from dusky_heron.record.models import Chain, Entry
from dusky_heron.record.verifying import verify_all
from dusky_heron.workshops.models import Workshop
from tests.api.base import ApiTest, forget
from tests.load.copies import Copies


class Copied(ApiTest):
    """Two more workshops, the second copies of some jobs among theirs."""

    def test_they_hold_and_answer_as_the_demo_does(self) -> None:
        jobs, entries, workshops = Job.objects.count(), Entry.objects.count(), Workshop.objects.count()
        Copies().write(2, jobs + 3, 4)
        forget()
        self.assertEqual((Workshop.objects.count(), Job.objects.count()), (workshops + 2, 3 * jobs + 6))
        of_a_job = (
            Reading.objects.filter(position__job__title="Changing-room hand dryer")
            .values_list("position__job__workshop")
            .annotate(Count("id"))
        )
        self.assertEqual(sorted(count % 7 for _, count in of_a_job), [0, 0, 3])  # of some jobs there are two copies
        self.assertGreater(Entry.objects.count(), 3 * entries)
        broken = [(found.first_altered, found.differs) for _, found in verify_all() if not found.whole]
        self.assertEqual(broken, [])
        here = self.get("bench")
        self.sign_in("orne-2")
        there = self.get("bench")
        self.assertGreaterEqual({row["job"]["title"] for row in there}, {row["job"]["title"] for row in here})
        for row in there[:5]:
            sheet = self.get(f"jobs/{row['job']['id']}/sheet")
            self.assertEqual(sheet["job"]["title"], row["job"]["title"])
        self.assertFalse({row["job"]["id"] for row in here} & {row["job"]["id"] for row in there})
        self.assertTrue(self.get("parts?q=33+µF+500"))

    def test_what_an_index_was_dropped_for_is_searched_as_before(self) -> None:
        before = Workshop.objects.count()
        Copies().write(1, 0)
        with connection.cursor() as cursor:
            cursor.execute("SELECT indexdef FROM pg_indexes WHERE indexname = 'words_of_entries'")
            self.assertIn("gin", cursor.fetchone()[0])
        self.assertEqual(Chain.objects.values("workshop_id").distinct().count(), before + 1)
