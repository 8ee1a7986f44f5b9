"""No read of the page goes through a whole table of what grows: each finds its rows by an index, however many there are."""

import json
from collections.abc import Iterator
from typing import Any

from django.apps import apps
from django.db import connection, transaction
from django.forms import model_to_dict
from django.test.utils import CaptureQueriesContext

from dusky_heron.discharge.models import ChargeNote, Fall, FallSample
from dusky_heron.jobs.models import Job, Position
from dusky_heron.record.binding import bound_models
from dusky_heron.record.models import Chain, Entry, Write
from dusky_heron.stock.models import Part
from dusky_heron.workshops.models import Member, Workshop
from tests.api.base import ApiTest, forget
from tests.load.reads import paths_of

SMALL = {"buying_supplier", "instruments_meter", "instruments_dischargeresistor", "workshops_terms"}  # a handful in each workshop
FEW = 50  # rows: a table of fewer is gone through whatever stands beside it, and tells nothing
WHOLE = ("Index Scan", "Index Only Scan", "Bitmap Index Scan")


def growing() -> set[str]:
    """Tables that hold rows of each job or part."""
    bound = {model._meta.db_table for model, _ in bound_models().values()}
    return (bound | {model._meta.db_table for model in (Chain, Entry, Write, Part)}) - SMALL


def nodes(plan: Any) -> Iterator[dict[str, Any]]:
    yield plan
    for inner in plan.get("Plans", ()):
        yield from nodes(inner)


class Plans(ApiTest):
    """By the plans themselves, where the planner is told to go through no table it can help."""

    FORGES = True

    def setUp(self) -> None:
        super().setUp()
        self.many_falls()
        self.many_jobs()
        forget()
        with connection.cursor() as cursor:
            cursor.execute("ANALYZE")
            cursor.execute("SELECT relname FROM pg_class WHERE reltuples >= %s", [FEW])
            self.grows = growing() & {name for (name,) in cursor.fetchall()}

    def many_falls(self) -> None:
        """Of falls the demo has none."""
        place = self.position(1, "C1")
        notes = [ChargeNote(position=place, state="emptying", sequence=900 + number, turn=0) for number in range(60)]
        made = ChargeNote.objects.bulk_create(notes)
        falls = [Fall(note=note, meter_name="x", meter_ohm=1e7, display_counts=6000) for note in made]
        samples = [FallSample(fall=fall, seconds=t, volts=300 - t) for fall in Fall.objects.bulk_create(falls) for t in range(40)]
        FallSample.objects.bulk_create(samples)

    def many_jobs(self) -> None:
        """Of another workshop, with their records."""
        other = Workshop.objects.create(name="Another")
        jobs = Job.objects.bulk_create(Job(workshop=other, number=k, title="x", supply_v=230, supply_hz=50) for k in range(1, 400))
        Position.objects.bulk_create(Position(job=job, name=f"C{k}", role="x", marking="1 µF") for job in jobs for k in (1, 2))
        part = model_to_dict(Part.objects.all()[0], exclude=["workshop"])
        Part.objects.bulk_create(Part(workshop=other, **part) for _ in range(400))
        Chain.objects.bulk_create(Chain(workshop_id=other.id, subject_id=job.id) for job in jobs)

    def by_indexes(self) -> None:
        """The demo's tables are small: what an index could find is looked up by it all the same."""
        for kind in ("seqscan", "hashjoin", "mergejoin"):
            connection.cursor().execute(f"SET LOCAL enable_{kind} = off")

    def whole(self, sql: str) -> list[str]:
        """The tables a statement goes through from end to end."""
        with connection.cursor() as cursor:
            cursor.execute(f"EXPLAIN (FORMAT JSON) {sql}")
            found = cursor.fetchone()[0]
        (plan,) = json.loads(found) if isinstance(found, str) else found
        return [
            f"{node['Node Type']} of {node.get('Relation Name', '?')}"
            for node in nodes(plan["Plan"])
            if node.get("Relation Name") in self.grows
            and (node["Node Type"] == "Seq Scan" or (node["Node Type"] in WHOLE and "Index Cond" not in node))
        ]

    def test_every_read_of_the_page(self) -> None:
        asked = 0
        for path in paths_of(Member.objects.get(username="orne")):
            if path.startswith("/api/search"):
                continue  # its plan is looked at where there are many entries, by `test_memory`
            forget()
            with CaptureQueriesContext(
                connection,
            ) as queries:
                self.client.get(path)
            with self.subTest(path), transaction.atomic():
                self.by_indexes()
                for query in queries.captured_queries:
                    if query["sql"].startswith("SELECT"):
                        asked += 1
                        self.assertEqual(self.whole(query["sql"]), [], query["sql"][:1500])
        self.assertGreater(asked, 250)
        most = {"record_entry", "record_chain", "jobs_job", "jobs_position", "stock_part", "discharge_fallsample"}
        self.assertLessEqual(most, self.grows)

    def test_what_goes_through_a_table_is_found(self) -> None:
        with transaction.atomic():
            self.by_indexes()
            for sql in ("SELECT * FROM record_entry WHERE hash = 'a'", "SELECT max(number) FROM jobs_job WHERE title = 'a'"):
                self.assertTrue(self.whole(sql), sql)
            self.assertEqual(self.whole("SELECT * FROM record_entry WHERE chain_id = '00000000-0000-0000-0000-000000000000'"), [])
        self.assertTrue(all(table in {m._meta.db_table for m in apps.get_models()} for table in growing() | SMALL))
