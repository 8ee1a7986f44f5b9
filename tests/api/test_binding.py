"""What was written beside the record, by whoever may change the tables, is refused by the database or found and named."""

import datetime
import json
import random
from collections.abc import Callable
from decimal import Decimal
from io import StringIO
from typing import Any
from uuid import UUID, uuid4

from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import call_command
from django.db import DatabaseError, connection, models, transaction

from dusky_heron.assessment.models import Reading
from dusky_heron.instruments.models import Meter
from dusky_heron.jobs.models import Job, Position
from dusky_heron.record.binding import bound_models, digests
from dusky_heron.record.models import Chain, Entry
from dusky_heron.record.verifying import verify, verify_all
from tests import drawn_by
from tests.api.base import ApiTest

DRAWN = 150


class Forged(ApiTest):
    """Single changes by the owner of the database, in a job with readings, verdicts, choices, notes, checks and a soak."""

    FORGES = True

    def setUp(self) -> None:
        super().setUp()
        self.actor = self.actor_of("orne")
        self.job_id = self.job(3).id
        place = self.position(3, "CD1").id
        path = f"jobs/{self.job_id}"
        self.post(f"positions/{place}/readings", {"value": "402n", "meter_id": self.meter_id(), "condition": "lifted"})
        best = self.get(f"positions/{place}/candidates")["accepted"][0]["part"]
        self.post(f"positions/{place}/choice", {"part_id": best["id"]})
        self.post(f"positions/{place}/signs", {"sign": "cracked"})
        self.post(f"{path}/beside", {"what": "fuse", "replaced": True, "says": "2 A slow"})
        self.post(f"{path}/soak", {"links_off": True})
        self.post(f"{path}/soak/end", {"held": False, "note": "hot"})
        self.post(f"{path}/deviations", {"check_id": "soak", "reason": "the customer insists"})
        self.put(f"{path}/quote", {"lines": [{"text": "part", "quantity": "1", "each": "4.20"}], "minutes": 30})

    def found(self) -> bool:
        return not all(verify(self.actor, subject).whole for subject in (self.job_id, self.actor.workshop_id))

    def test_before_anything_is_forged_every_record_is_whole(self) -> None:
        self.assertEqual([(key, found) for key, found in verify_all() if not found.whole], [])

    def test_drawn_changes_swaps_detachments_and_deletions(self) -> None:
        luck, tried = drawn_by(22), 0
        tables: list[type[models.Model]] = [*(model for model, _ in bound_models().values()), Chain, Entry]
        while tried < DRAWN:
            model = luck.choice(tables)
            rows = self.rows_of(model)
            if not rows:
                continue
            said = self.forge(luck, model, rows)
            if said:
                tried += 1
                with self.subTest(said):
                    self.assertEqual(said.partition(": ")[0], "found")

    def rows_of(self, model: type[models.Model]) -> list[Any]:
        if model is Chain:
            return list(Chain.objects.filter(subject_id__in=(self.job_id, self.actor.workshop_id)))
        if model is Entry:
            return list(Entry.objects.filter(chain__subject_id__in=(self.job_id, self.actor.workshop_id)))
        _, path = bound_models()[model._meta.label]
        return list(model._base_manager.filter(**{f"{path}__in": (self.job_id, self.actor.workshop_id)}))

    def forge(self, luck: random.Random, model: type[models.Model], rows: list[Any]) -> str:
        """Do one thing to a row, look, and undo it; what was done, "" where it changed nothing or was refused."""
        row = luck.choice(rows)
        loose: frozenset[str] = getattr(model, "LOOSE", frozenset())
        fields = [f for f in model._meta.concrete_fields if not f.primary_key and f.attname not in loose]
        field, what = luck.choice(fields), luck.choice(("change", "change", "swap", "delete"))
        said = f"{what} {model._meta.label}.{field.attname} {row.pk}"
        mine = model._base_manager.filter(pk=row.pk)
        try:
            with transaction.atomic():
                if what == "delete":
                    mine._raw_delete(mine.db)
                elif what == "swap":
                    other = luck.choice(rows)
                    a, b = getattr(row, field.attname), getattr(other, field.attname)
                    if a == b:
                        return ""
                    mine.update(**{field.attname: b})
                    model._base_manager.filter(pk=other.pk).update(**{field.attname: a})
                else:
                    now = self.other(luck, field, getattr(row, field.attname))
                    if now == getattr(row, field.attname):
                        return ""
                    mine.update(**{field.attname: now})
                connection.cursor().execute("SET CONSTRAINTS ALL IMMEDIATE")
                said = ("found: " if self.found() else "not found: ") + said
                raise Undone
        except Undone:
            return said
        except DatabaseError:
            return ""
        finally:
            connection.cursor().execute("SET CONSTRAINTS ALL DEFERRED")

    def other(self, luck: random.Random, field: "models.Field[Any, Any]", now: Any) -> Any:
        """Another value a column would take."""
        if field.is_relation:
            related: Any = field.related_model
            keys = list(related._base_manager.values_list("pk", flat=True)[:50])
            return luck.choice([*keys, None] if field.null else keys)
        kinds: dict[type[Any], Callable[[], Any]] = {
            models.BooleanField: lambda: not now,
            models.DecimalField: lambda: (now or Decimal(0)) + Decimal("1.00"),
            models.FloatField: lambda: luck.choice((0.0, 1.5, -3.0, (now or 1.0) * (1 + 1e-9))),
            models.IntegerField: lambda: (now or 0) + luck.choice((1, 2)),
            models.DateTimeField: lambda: (now or datetime.datetime.now(datetime.UTC)) + datetime.timedelta(microseconds=1),
            models.DateField: lambda: (now or datetime.date(2026, 1, 1)) + datetime.timedelta(days=1),
            models.UUIDField: lambda: luck.choice((uuid4(), self.actor.workshop_id)),
            models.JSONField: lambda: [*now, {"x": 1}] if isinstance(now, list) else {"x": luck.random()},
        }
        made = next((value for kind, value in kinds.items() if isinstance(field, kind)), lambda: f"{now}"[:-1] if now else "x")
        return made()


class Undone(Exception):
    """Take back what was forged."""


class Named(ApiTest):
    """What differs is said, and where."""

    FORGES = True

    def test_a_reading_changed_added_taken_and_a_place_moved_are_named(self) -> None:
        job, actor = self.job(1), self.actor_of("orne")
        place = self.position(1, "C1").id
        self.post(f"positions/{place}/readings", {"value": "12.9u", "meter_id": self.meter_id()})
        entry = Entry.objects.filter(chain__subject_id=job.id, text__contains='"kind":"reading"').latest("sequence").sequence
        reading = Reading.objects.get(position_id=place)
        Reading.objects.update(value=16e-6)
        differs = self.get(f"jobs/{job.id}/record/verified")["differs"]
        self.assertEqual(differs, [f"A reading is not what entry {entry} wrote: {reading.pk}."])
        Reading.objects.all().delete()
        self.assertEqual(verify(actor, job.id).differs, (f"A reading that entry {entry} wrote is gone: {reading.pk}.",))
        reading.save(force_insert=True)
        self.assertTrue(verify(actor, job.id).whole)
        reading.pk = 10_000_000
        reading.save(force_insert=True)
        self.assertEqual(verify(actor, job.id).differs, ("There is a reading that no entry wrote: 10000000.",))
        self.assertIn("at least one was altered", self.report(job.id))
        Reading.objects.filter(pk=reading.pk).delete()
        Position.objects.filter(id=place).update(job_id=self.job(2).id)
        self.assertIn(f"position that entry 2 wrote is gone: {place}", " ".join(verify(actor, job.id).differs))
        self.assertIn(f"position that no entry wrote: {place}", " ".join(verify(actor, self.job(2).id).differs))

    def report(self, job_id: UUID) -> str:
        from dusky_heron.handback.report import report_html

        return report_html(self.actor_of("orne"), job_id)

    def test_the_workshops_own_record_is_read_and_held_against_its_rows(self) -> None:
        kinds = [entry["kind"] for entry in self.get("workshop/record")]
        self.assertEqual(len(kinds), 200)
        self.assertIn("part added", kinds)
        self.assertTrue(self.get("workshop/record/verified")["whole"])
        Meter.objects.filter(name="Blue hand meter").update(calibration_due=datetime.date(2030, 1, 1))
        differs = self.get("workshop/record/verified")["differs"]
        self.assertEqual(len(differs), 1)
        self.assertIn("A meter is not what entry", differs[0])

    def test_a_job_cannot_be_detached_from_its_chain_nor_a_chain_be_deleted_whole(self) -> None:
        first, second = self.job(1).id, self.job(2).id
        actor = self.actor_of("orne")
        one, two = Chain.objects.get(subject_id=first), Chain.objects.get(subject_id=second)
        spare = uuid4()
        for chain, subject, origin in ((one, spare, first), (two, first, second), (one, second, first)):
            Chain.objects.filter(pk=chain.pk).update(subject_id=subject, origin_id=origin)
        self.assertFalse(verify(actor, first).whole)
        self.assertFalse(verify(actor, second).whole)
        with transaction.atomic():
            Entry.objects.filter(chain=one).delete()
            one.delete()
            told = dict(verify_all())
            self.assertIn(f"began is gone: {second}" if second in told else "gone", " ".join(told[actor.workshop_id].differs))

    def test_a_digest_changed_together_with_its_row_is_found_at_its_entry(self) -> None:
        job, actor = self.job(1), self.actor_of("orne")
        Job.objects.filter(pk=job.pk).update(title="Another")
        entry = Entry.objects.filter(chain__subject_id=job.pk, binds__contains=str(job.pk)).latest("sequence")
        now, was = digests("jobs.Job", pk=job.pk)[str(job.pk)][1], json.loads(entry.binds)["jobs.Job"][str(job.pk)]
        Entry.objects.filter(pk=entry.pk).update(binds=entry.binds.replace(was, now))
        self.assertEqual(verify(actor, job.pk).first_altered, entry.sequence)

    def test_a_record_given_to_another_workshop_is_missed_by_its_own(self) -> None:
        actor, other = self.actor_of("orne"), self.actor_of("stranger")
        Chain.objects.filter(subject_id=self.job(1).pk).update(workshop_id=other.workshop_id)
        self.assertIn(f"began is gone: {self.job(1).pk}", " ".join(verify(actor, actor.workshop_id).differs))

    def test_a_job_without_any_record_is_named_by_the_command(self) -> None:
        job = Job.objects.create(workshop_id=self.actor_of("orne").workshop_id, number=900, title="x", supply_v=230, supply_hz=50)
        said = StringIO()
        with self.assertRaises(SystemExit):
            call_command("verify", stdout=said)
        self.assertIn(f"{job.id}: altered, It has no record.", said.getvalue())

    def test_what_came_from_a_file_is_bound_by_its_taking_in(self) -> None:
        content = self.client.get(f"/api/jobs/{self.job(7).id}/job.zip").content
        self.sign_in("stranger")
        actor = self.actor_of("stranger")
        answer = self.client.post("/api/job-files", {"file": SimpleUploadedFile("job.zip", content)})
        job_id = UUID(self.answer(answer, 200)["id"])
        self.assertTrue(verify(actor, job_id).whole)
        self.post(f"jobs/{job_id}/positions", {"name": "C9", "role": "x", "marking": "1 µF X2 310~"})
        self.assertTrue(verify(actor, job_id).whole)
        self.assertTrue(verify(actor, actor.workshop_id).whole)
        Position.objects.filter(job_id=job_id, name="C9").update(marking="1 µF X1 310~")
        self.assertEqual(len(verify(actor, job_id).differs), 1)
        Job.objects.filter(pk=job_id).update(title="Another")
        self.assertEqual(len(verify(actor, job_id).differs), 2)

    def test_records_from_before_are_bound_once(self) -> None:
        Entry.objects.filter(chain__subject_id=self.job(2).id).delete()
        Chain.objects.filter(subject_id=self.job(2).id).update(length=0, head="0" * 64)
        said = StringIO()
        call_command("bind_records", stdout=said)
        self.assertIn(str(self.job(2).id), said.getvalue())
        self.assertTrue(verify(self.actor_of("orne"), self.job(2).id).whole)
        again = StringIO()
        call_command("bind_records", stdout=again)
        self.assertEqual(again.getvalue(), "")
