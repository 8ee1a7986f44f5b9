"""Errors as problem documents (RFC 9457), and what is logged of a request."""

import contextlib
import io
import json
import logging
import uuid
from typing import Any

import structlog

from dusky_heron.settings import logs
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
                    self.assertTrue("requestBody" in operation or "{" in path or path == "/api/prices", (path, method))


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
