"""Garbage into every field of every operation of the OpenAPI document: never a 500, always a sentence."""

import json
from typing import Any, ClassVar

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from dusky_heron.asfound.models import FoundLine, Photo, Point
from dusky_heron.jobs.models import Position
from dusky_heron.workshops.models import Member
from tests import some
from tests.api.base import JSON, OPENAPI
from tests.databases import lay_photos

NASTY: list[Any] = [
    None, "", " ", "x" * 3000, "\x00", "é\u202e\ud800", "<script>alert(1)</script>", "'; DROP TABLE jobs; --", "NaN", "1e999", "-1",
    "µ" * 40, "../../etc/passwd", -1, 0, 1e308, 10**400, 2**63, float("nan"), float("inf"), True, [], {}, [[]], {"a": {}},
    "16 µF 450 V~", "4k7", "9" * 39, "00000000-0000-0000-0000-000000000000", "1e-200 V", "1e300 V", "1e-320", "0.8 %", "½", "٣",
    "1,5", "-0", "0", "100 V AC", "5 GΩ", "1e15 F", "2026-13-40", 999999999,
    "cos 0.8", 1_000_000, 2**31 - 1, 2**31, 2**53, 1e-300, -0.0, "%", "=1+1",
]  # fmt: skip
OPERATIONS = [
    (path, method, operation)
    for path, methods in OPENAPI["paths"].items()
    for method, operation in methods.items()
    if (path, method) != ("/api/session", "delete")  # would sign the test out
]


def resolve(schema: dict[str, Any]) -> dict[str, Any]:
    while "$ref" in schema:
        schema = OPENAPI["components"]["schemas"][schema["$ref"].rsplit("/", 1)[-1]]
    return schema


def plausible(schema: dict[str, Any]) -> Any:
    """A value the schema would take, so that garbage in one field reaches the rules behind it."""
    schema = resolve(schema)
    if "anyOf" in schema:
        return plausible(schema["anyOf"][0])
    if "enum" in schema:
        return schema["enum"][0]
    kind, form = schema.get("type"), schema.get("format")
    by_form = {"uuid": "00000000-0000-0000-0000-000000000000", "date": "2026-01-01"}
    return by_form.get(form or "") or {"string": "16 µF", "number": 1.0, "integer": 100, "boolean": True}.get(kind or "", {})


def bodies(operation: dict[str, Any]) -> st.SearchStrategy[Any]:
    """A plausible body with some fields spoilt, dropped or added; or no body worth the name."""
    content = operation.get("requestBody", {}).get("content", {}).get("application/json")
    if not content:
        return st.sampled_from([None, {}, []])
    properties = resolve(content["schema"]).get("properties", {})
    spoilt = st.dictionaries(st.sampled_from([*properties, "extra"]), st.sampled_from(NASTY), max_size=3)
    good = {name: plausible(schema) for name, schema in properties.items()}
    dropped = st.sets(st.sampled_from(list(properties)), max_size=1)
    whole = st.builds(lambda bad, gone: {k: v for k, v in {**good, **bad}.items() if k not in gone}, spoilt, dropped)
    return st.one_of(whole, st.sampled_from(NASTY))


class Garbage(TestCase):
    """A property over the whole document."""

    orne: ClassVar[Member]
    ids: ClassVar[dict[str, str]]

    @classmethod
    def setUpTestData(cls) -> None:
        lay_photos()
        cls.orne = Member.objects.get(username="orne")
        position = Position.objects.get(job__number=1)
        things = {
            "job_id": position.job,
            "position_id": position,
            "meter_id": cls.orne.workshop.meters.first(),
            "resistor_id": cls.orne.workshop.discharge_resistors.first(),
            "part_id": cls.orne.workshop.parts.first(),
            "member_id": Member.objects.get(username="vell"),
            "photo_id": Photo.objects.first(),
            "line_id": FoundLine.objects.first(),
            "point_id": Point.objects.first(),
        }
        cls.ids = {name: str(some(thing).pk) for name, thing in things.items()}

    @settings(max_examples=400, suppress_health_check=list(HealthCheck))
    @given(st.data())
    def test_never_a_500_always_a_sentence(self, data: st.DataObject) -> None:
        self.client.defaults["HTTP_HOST"] = "127.0.0.1"
        self.client.force_login(self.orne, "dusky_heron.workshops.signing_in.Members")
        path, method, operation = data.draw(st.sampled_from(OPERATIONS))
        for name, known in self.ids.items():
            path = path.replace(f"{{{name}}}", data.draw(st.sampled_from([known, known, known, "nonsense", "%00", "0" * 300])))
        query = {
            p["name"]: str(data.draw(st.sampled_from(NASTY))).encode("utf-8", "replace").decode()
            for p in operation.get("parameters", [])
            if p["in"] == "query"
        }
        text = json.dumps(data.draw(bodies(operation)))
        raw = data.draw(st.sampled_from([text.encode(), text.encode(), text.encode(), b"\xff\xfe{", b"{"]))
        key = data.draw(st.sampled_from(["", "k" * 101, "a-key"]))
        answer = self.client.generic(
            method.upper(), path, raw, **JSON, query_params=query or None, headers={"Idempotency-Key": key}
        )
        self.assertLess(answer.status_code, 500, (method, path, query, raw[:300], answer.content[:300]))
        if answer.status_code >= 400:
            self.assertEqual(answer["Content-Type"], "application/problem+json", (method, path, answer.content[:200]))
            problem = answer.json()
            self.assertTrue(problem["detail"].endswith("."))
            for error in problem["errors"]:
                self.assertTrue(error["sentence"].rstrip("”").endswith((".", "?")), error)


EXTREME = ("1e-200 V", "1e300", "0.8 %", "-0", "0", "½", "", "OL", "x" * 300, "1e15 F")
GOOD: dict[str, dict[str, str]] = {
    "/api/positions/{position_id}/other-tools": {"lamp_voltage": "230 V", "lamp_power": "40 W", "load": "1k"},
    "/api/positions/{position_id}/bleeder": {"limit": "IEC 60335-1 (22.5)", "working_v": "325"},
    "/api/dropper": {"loads": "standby 8 mA"},
    "/api/dropper/faults": {"loads": "standby 8 mA", "rails": "20 V", "ripples": "1 V", "currents": "40 mA", "powers": "1 W"},
    "/api/supply": {"rectifier": "valve_gz34", "reservoir": "32 µF", "grown": "100 µF", "measured_output": "300 V"},
    "/api/bulk": {"bulk": "100 µF", "power": "60 W"},
    "/api/string": {"balance": "47k", "voltage": "565 V", "rating": "450 V"},
    "/api/forming": {"capacitance": "32 µF", "rating": "500 V", "log": "0 0\n60 100"},
    "/api/walk": {"symptom": "fuse_blown", "fuse": "0.1"},
    "/api/positions/{position_id}/batch": {"siblings": "3", "age_years": "9", "used_percent": "60"},
    "/api/common-terminal": {"ab": "30u", "bc": "5u", "ac": "4.3u"},
    "/api/may-replace": {"old": "16 µF ±5 % 450 V~", "new": "16 µF ±5 % 400 V~", "role": "motor_run"},
}


class OneAtATime(Garbage):
    """Benches with everything well typed but one field: what reaches the computation is extreme in one figure alone."""

    def test_never_a_500_always_a_sentence(self) -> None:
        self.client.defaults["HTTP_HOST"] = "127.0.0.1"
        self.client.force_login(self.orne, "dusky_heron.workshops.signing_in.Members")
        for path, good in GOOD.items():
            names = [p["name"] for p in OPENAPI["paths"][path]["get"]["parameters"] if p["in"] == "query"]
            known = path.format(**self.ids)
            self.assertEqual(self.client.get(known, good).status_code, 200, path)
            for name in names:
                for value in EXTREME:
                    answer = self.client.get(known, good | {name: value})
                    with self.subTest(path=path, name=name, value=value[:30]):
                        self.assertLess(answer.status_code, 500)
                        if answer.status_code >= 400:
                            self.assertTrue(answer.json()["detail"].endswith((".", "?")))
