"""Papers that the worker writes: asked for, fetched by their workshop alone, stopped, lost and gone."""

import datetime
from typing import Any
from unittest import mock
from uuid import UUID

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile

from dusky_heron.asfound import queries
from dusky_heron.asfound.models import Photo
from dusky_heron.longwork.models import Work
from dusky_heron.transfer.outward import as_zip
from tests.api.base import ApiTest


class Papers(ApiTest):
    """Job 7, which has a photo."""

    def ask(self, what: str, number: int = 7) -> Any:
        return self.post(f"jobs/{self.job(number).id}/{what}", {}, 202)

    def fetch(self, asked: Any) -> Any:
        return self.client.get(f"/api/work/{asked['id']}/file")

    def test_a_report_and_a_file_are_asked_for_and_fetched(self) -> None:
        for what, name, begins, kind in (
            ("report", "report.pdf", b"%PDF-", "application/pdf"),
            ("job-file", "job-7.zip", b"PK", "application/zip"),
        ):
            with self.subTest(what):
                asked = self.ask(what)
                self.assertEqual(self.fetch(asked).status_code, 404)  # not yet
                done = self.done(asked)
                self.assertEqual((done["state"], done["answer"]["name"], done["done"]), ("done", name, done["total"]))
                answer = self.fetch(asked)
                self.assertEqual((answer["Content-Type"], answer.content[: len(begins)]), (kind, begins))
                self.assertEqual(done["answer"]["size"], len(answer.content))
                self.assertIn(name, answer["Content-Disposition"])
                self.sign_in("stranger")
                self.assertEqual(self.fetch(asked).status_code, 404)
                self.post(f"jobs/{self.job(7).id}/{what}", {}, 404)
                self.sign_in("orne")

    def test_the_file_is_the_one_that_is_written_at_once(self) -> None:
        asked = self.ask("job-file")
        self.done(asked)
        packed = as_zip(self.actor_of("orne"), self.job(7).id)
        self.assertEqual(len(self.fetch(asked).content) // 1000, len(packed) // 1000)

    def test_many_photos_are_not_written_while_somebody_waits(self) -> None:
        for most, status in ((0, 422), (1, 200)):
            with mock.patch.object(queries, "AT_ONCE", most):
                for path in ("report.pdf", "job.zip"):
                    answer = self.client.get(f"/api/jobs/{self.job(7).id}/{path}")
                    self.assertEqual(answer.status_code, status)
                    if status == 422:
                        self.assertIn("1 photos", answer.json()["detail"])
        with mock.patch.object(queries, "AT_ONCE", 0):
            self.assertEqual(self.done(self.ask("report"))["state"], "done")

    def test_a_file_with_many_photos_is_taken_in_by_the_worker(self) -> None:
        content = as_zip(self.actor_of("orne"), self.job(7).id)
        self.sign_in("stranger")
        for given, status in ((content, 202), (content[:-30], 422), (b"PK", 422)):
            with mock.patch("dusky_heron.transfer.asking.AT_ONCE", 0):
                file = SimpleUploadedFile("job.zip", given)
                asked = self.answer(self.client.post("/api/job-files", {"file": file}), status)
            if status == 202:
                done = self.done(asked)
                self.assertEqual((done["state"], done["answer"]["title"]), ("done", "Organ relay supply"))
                found = self.get(f"jobs/{done['answer']['id']}/found")["photos"][0]
                self.assertEqual(self.client.get(f"/api/photos/{found['id']}/small").status_code, 200)
        self.sign_in("vell")
        with mock.patch("dusky_heron.transfer.asking.AT_ONCE", 0):
            file = SimpleUploadedFile("job.zip", content)
            self.answer(self.client.post("/api/job-files", {"file": file}), 403)

    def test_asked_to_stop_while_it_is_laid_out_it_leaves_no_file(self) -> None:
        asked = self.ask("report")

        told = []

        def stopping(_: Any, *told_of: int) -> bool:
            told.append(told_of)
            return True

        with mock.patch("dusky_heron.longwork.progress.Progress._tell", stopping):
            self.assertEqual(self.done(asked)["state"], "stopped")
        self.assertEqual(told, [(1, 2)])  # of one picture and the layout
        self.assertFalse(default_storage.exists(f"papers/{asked['id']}"))
        self.assertEqual(self.fetch(asked).status_code, 404)

    def test_a_lost_photo_is_said_and_no_half_file_is_made(self) -> None:
        asked = self.ask("job-file")
        photo = Photo.objects.get(job=self.job(7))
        name = f"photos/{self.job(7).workshop_id}/{photo.id}.jpg"
        with default_storage.open(name) as file:
            self.addCleanup(default_storage.save, name, ContentFile(file.read()))
        default_storage.delete(name)
        done = self.done(asked)
        self.assertEqual(done["state"], "refused")
        self.assertIn("not to be found whole", done["sentence"])

    def test_after_a_day_it_is_gone_and_says_so(self) -> None:
        first = self.ask("report")
        self.done(first)
        Work.objects.filter(id=UUID(first["id"])).update(at=datetime.datetime.now(datetime.UTC) - datetime.timedelta(days=1.01))
        second = self.ask("report")
        self.done(second)
        self.assertEqual(self.fetch(second).status_code, 200)
        answer = self.fetch(first)
        self.assertEqual(answer.status_code, 410)
        self.assertIn("kept for a day", answer.json()["detail"])
