"""Who may do what: every write of the document by every role, against a table typed by hand."""

import csv
from pathlib import Path
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from dusky_heron.record.actor import MemberRole
from dusky_heron.record.models import Entry
from dusky_heron.workshops.models import Member
from tests.api.base import OPENAPI, ApiTest
from tests.api.test_garbage import plausible, resolve

TABLE = Path(__file__).parent / "who_may.csv"
RANK = {"apprentice": 0, "technician": 1, "lead": 2}
NOWHERE = "00000000-0000-0000-0000-000000000001"
FILLED = {
    "marking": "16 µF 450 V~",
    "reason": "because of it",
    "new": "another-heron-at-dusk",
    "note": "so",
    "currency": "EUR",
    "username": "third",
    "sign": "bulged",
    "prices": "1: 0.42",
}


class WhoMay(ApiTest):
    """The role is asked first of all: the rest of a request is only plausible."""

    def rows(self) -> list[dict[str, str]]:
        with TABLE.open(encoding="utf-8") as file:
            return list(csv.DictReader(file, delimiter="|"))

    def test_the_table_holds_every_write_there_is(self) -> None:
        writes = {(m, path) for path, methods in OPENAPI["paths"].items() for m in methods if m != "get" and path != "/api/session"}
        self.assertEqual({(row["method"], row["path"]) for row in self.rows()}, writes)

    def test_each_write_by_each_role(self) -> None:
        vell = Member.objects.get(username="vell")
        for role in MemberRole:
            Member.objects.filter(pk=vell.pk).update(role=role)
            self.sign_in("vell")
            told = self.get("session")["may"]
            self.assertEqual(told, {"apprentice": ["work"], "technician": ["work", "decide"]}.get(role, ["work", "decide", "lead"]))
            for row in self.rows():
                with self.subTest(role=role, **row):
                    before = Entry.objects.count()
                    answer = self.send(row["method"], row["path"])
                    refused = answer.status_code == 403 and f"A member who is {role} may not" in answer.json()["detail"]
                    self.assertEqual(refused, RANK[role] < RANK[row["least"]], answer.content[:300])
                    if refused:
                        self.assertEqual(Entry.objects.count(), before)
                    elif answer.status_code == 403:
                        self.assertEqual((row["path"], answer.json()["title"]), ("/api/session/code", "Code asked"))
        self.FORGES = True  # the role was changed beside the record

    def send(self, method: str, path: str) -> Any:
        """A request that its schema takes, at things that are nowhere or ours."""
        operation = OPENAPI["paths"][path][method]
        concrete = path
        ids = {"job_id": str(self.job(3).pk), "position_id": str(self.position(3, "CD1").pk)}
        for parameter in operation.get("parameters", []):
            name = parameter["name"]
            whole = parameter["schema"].get("type") == "integer"
            concrete = concrete.replace(f"{{{name}}}", ids.get(name, "999" if whole else NOWHERE))
        content = operation.get("requestBody", {}).get("content", {})
        if "multipart/form-data" in content:
            field = next(iter(resolve(content["multipart/form-data"]["schema"])["properties"]))
            file = SimpleUploadedFile("list.csv", b"marking;kind;quantity\n1 uF X2 310 V~;safety film;2\n")
            return self.client.post(concrete, {field: file})
        body = self.body(content["application/json"]["schema"]) if "application/json" in content else None
        send: Any = getattr(self.client, method)
        return send(concrete, body, content_type="application/json")

    def body(self, schema: dict[str, Any]) -> Any:
        """What a schema takes, filled as somebody would."""
        schema = resolve(schema)
        if schema.get("type") == "array":
            return [self.body(schema["items"])]
        if schema.get("type") == "object" or "properties" in schema:
            needed = schema.get("required", [])
            return {name: FILLED.get(name, self.body(one)) for name, one in schema.get("properties", {}).items() if name in needed}
        return plausible(schema)
