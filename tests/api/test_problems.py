"""Errors as problem documents (RFC 9457), and what is logged of a request."""

import contextlib
import errno
import io
import json
import logging
import uuid
from pathlib import Path
from typing import Any
from unittest.mock import patch

import structlog
from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from dusky_heron.asfound.models import Photo
from dusky_heron.settings import logs
from dusky_heron.workshops.models import Member
from tests.api.base import JSON, OPENAPI, ApiTest


class Shape(ApiTest):
    """Every error has the same shape, whatever went wrong."""

    def problem(self, response: Any, status: int) -> Any:
        self.assertEqual((response.status_code, response["Content-Type"]), (status, "application/problem+json"))
        body = response.json()
        self.assertLessEqual({"type", "title", "status", "detail", "errors"}, set(body))
        self.assertEqual(body["status"], status)
        self.assertTrue(body["detail"].endswith("."))
        return body

    def test_each_kind(self) -> None:
        nobody = uuid.uuid4()
        self.problem(self.client.get("/api/nothing-here"), 404)
        self.problem(self.client.get(f"/api/jobs/{nobody}/sheet"), 404)
        self.problem(self.client.post("/api/jobs", "{", **JSON), 400)
        self.problem(self.client.post("/api/jobs", b"\xff", **JSON), 400)
        self.problem(self.client.post("/api/jobs", "{}", **JSON), 422)
        self.problem(self.client.get("/api/reading-box"), 422)
        self.client.logout()
        self.problem(self.client.get("/api/session"), 401)
        self.problem(self.client.post("/api/session", json.dumps({"username": "orne", "password": "no"}), **JSON), 401)

    def test_what_is_refused_before_a_view_is_reached_is_a_problem_too(self) -> None:
        strict = Client(enforce_csrf_checks=True, headers={"host": "127.0.0.1"})
        strict.force_login(Member.objects.get(username="orne"), "dusky_heron.workshops.signing_in.Members")
        job = {"title": "x", "supply_voltage": "230", "supply_frequency": "50"}
        big = json.dumps(job | {"title": "x" * 2_000_000})
        for answer, status in (
            (self.client.patch("/api/jobs", "{}", **JSON), 405),
            (self.client.get("/api/jobs/none/sheet"), 422),
            (self.client.get("/api/session", headers={"host": "elsewhere.example"}), 400),
            (self.client.post("/api/jobs", big, **JSON), 413),
            (self.client.post("/api/jobs", {"title": "x"}), 400),  # multipart to a JSON route
            (self.client.post("/api/jobs", "title=x", content_type="application/x-www-form-urlencoded"), 400),
            (self.client.post("/api/jobs", json.dumps(job), content_type="text/plain"), 200),
            (self.client.post("/api/job-files", b"--x", content_type="multipart/form-data; boundary=y"), 422),
            (self.client.post("/api/job-files", b"--x", content_type="multipart/form-data"), 400),
            (strict.post("/api/jobs", json.dumps(job), **JSON), 403),
        ):
            with self.subTest(answer.request["PATH_INFO"], status=status):
                self.assertEqual(answer["Cache-Control"], "no-store")
                if status != 200:
                    self.problem(answer, status)

    def test_a_photo_gone_or_half_written_and_a_full_disk_are_told(self) -> None:
        photo = Photo.objects.get(job__number=7)
        file = Path(settings.MEDIA_ROOT) / "photos" / str(photo.job.workshop_id) / f"{photo.pk}.jpg"
        whole = file.read_bytes()
        try:
            for left in (whole[: len(whole) // 2], None):
                file.write_bytes(left) if left else file.unlink()
                self.assertIn("backup", self.problem(self.client.get(f"/api/photos/{photo.pk}"), 410)["detail"])
                self.problem(self.client.get(f"/api/jobs/{photo.job_id}/job.zip"), 410)
                self.assertEqual(self.client.get(f"/api/jobs/{photo.job_id}/report.pdf").status_code, 200)
        finally:
            file.write_bytes(whole)
        full, job = OSError(errno.ENOSPC, "No space left on device"), self.job(7).id
        picture = SimpleUploadedFile("a.jpg", whole)
        with patch("django.core.files.storage.FileSystemStorage._save", side_effect=full):
            answer = self.client.post(
                f"/api/jobs/{job}/photos", {"photo": picture, "caption": "x"}, headers={"Idempotency-Key": "one"}
            )
        self.assertIn("disk of the server is full", self.problem(answer, 507)["detail"])
        self.assertEqual(Photo.objects.filter(job_id=job).count(), 1)

    def test_every_missing_field_is_named(self) -> None:
        body = self.problem(self.client.post("/api/jobs", "{}", **JSON), 422)
        self.assertEqual({e["field"] for e in body["errors"]}, {"title", "supply_voltage", "supply_frequency"})
        self.assertEqual({e["sentence"] for e in body["errors"]}, {"Fill this in."})

    def test_limits_are_named_in_the_sentence(self) -> None:
        meter = {"name": "M", "percent": 51, "counts": -1, "display_counts": 5}
        errors = self.problem(self.client.post("/api/meters", json.dumps(meter), **JSON), 422)["errors"]
        self.assertEqual(
            {e["field"]: e["sentence"] for e in errors},
            {"percent": "Must be at most 50.", "counts": "Must be at least 0.", "display_counts": "Must be at least 100."},
        )

    def test_hostile_text_is_kept_as_text(self) -> None:
        hostile = "<script>alert(1)</script>'; DROP TABLE jobs_job; --"
        job = self.post("jobs", {"title": hostile, "supply_voltage": "230", "supply_frequency": "50"})
        self.assertEqual(self.get(f"jobs/{job['id']}/sheet")["job"]["title"], hostile)

    def test_the_document_promises_the_shape_for_every_operation(self) -> None:
        for path, methods in OPENAPI["paths"].items():
            for method, operation in methods.items():
                content = operation["responses"]["default"]["content"]
                self.assertIn("application/problem+json", content, (path, method))

    def test_operations_have_summaries_and_every_write_takes_a_body_or_an_id(self) -> None:
        for path, methods in OPENAPI["paths"].items():
            for method, operation in methods.items():
                self.assertTrue(operation["summary"], (path, method))
                if method in ("post", "put"):
                    of_the_caller = path in ("/api/prices", "/api/session/second-factor/recovery")
                    self.assertTrue("requestBody" in operation or "{" in path or of_the_caller, (path, method))


class Log(ApiTest):
    """One line a request, with its id; never what was typed."""

    def test_one_line_with_id_status_and_time(self) -> None:
        said = io.StringIO()
        quiet = structlog.get_config()["wrapper_class"]
        structlog.configure(wrapper_class=structlog.make_filtering_bound_logger(logging.INFO), cache_logger_on_first_use=False)
        try:
            with contextlib.redirect_stdout(said):
                logs.log = structlog.get_logger("dusky_heron")
                answer = self.client.get("/api/reading-box", {"text": "16 µF of secret"})
        finally:
            structlog.configure(wrapper_class=quiet)
            logs.log = structlog.get_logger("dusky_heron")
        lines = [json.loads(line) for line in said.getvalue().splitlines()]
        self.assertEqual(len(lines), 1)
        self.assertEqual((lines[0]["path"], lines[0]["status"]), ("/api/reading-box", 200))
        self.assertEqual(lines[0]["id"], answer["X-Request-Id"])
        self.assertGreater(lines[0]["ms"], 0)
        self.assertNotIn("secret", said.getvalue())
