"""Who gets in, who sees what, and how the door closes."""

import json
import re
import uuid
from collections.abc import Callable

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client, override_settings

from dusky_heron.demo.picture import under_the_chassis
from tests import some
from tests.api.base import JSON, KNOWN, OPENAPI, ApiTest
from tests.databases import PASSWORD

OPERATIONS = [(path, method) for path, methods in OPENAPI["paths"].items() for method in methods]
OPEN_TO_ALL = ("/api/session", "post")
A_LIST = "marking\n1 µF K X2 310 V~\n".encode()

OF_THEIR_OWN: dict[str, Callable[[bytes], bool]] = {  # what a stranger is answered without any of ours in it
    "/api/part-lists/drawer.csv": lambda content: len(content.splitlines()) == 1,  # the names of the columns
    "/api/due.ics": lambda content: b"SUMMARY" not in content,
    "/api/ground": lambda content: json.loads(content)["resistors"] == [],  # the limits are of the standards
    "/api/kept": lambda content: (  # their workshop and themselves, the record of its founding, and the clock
        {row["model"] for row in json.loads(content)["rows"]}
        <= {"workshops.workshop", "workshops.member", "record.chain", "record.clock"}
        and json.loads(content)["jobs"] == {}
    ),
    "/api/calendar-address": lambda content: json.loads(content) == {"address": "", "number": 0},
    "/api/workshop/record/verified": lambda content: bool(json.loads(content)["length"] == 1),  # their founding alone
}


class SignedOut(ApiTest):
    """Every route but sign-in asks for a member."""

    def test_every_route_answers_401(self) -> None:
        self.client.logout()
        for path, method in OPERATIONS:
            if (path, method) == OPEN_TO_ALL:
                continue
            with self.subTest(path=path, method=method):
                concrete = path.replace("{", "").replace("}", "")
                for name in re.findall(r"{(\w+)}", path):
                    concrete = concrete.replace(name, "1" if name == "sequence" else str(uuid.uuid4()))
                answer = self.client.generic(method.upper(), concrete, "{}", **JSON)
                self.assertEqual(answer.status_code, 401)
                self.assertEqual(answer["Content-Type"], "application/problem+json")


class Strangers(ApiTest):
    """Another workshop's member finds nothing of ours."""

    def test_every_object_is_404_and_every_list_is_empty_of_ours(self) -> None:
        sheet = self.get(f"jobs/{self.job(2).id}/sheet")
        ours = {
            "job_id": sheet["job"],
            "position_id": sheet["positions"][0],
            "meter_id": self.get("meters")[0],
            "resistor_id": self.get("resistors")[0]
            | {"resistance": "1k", "power": "1 W", "working_voltage": "9 V", "pulse_energy": ""},
            "part_id": self.get("parts")[0],
            "member_id": self.get("members")[0] | {"new": "long-enough-words"},
            "work_id": self.answer(self.client.post("/api/part-lists/preview", {"file": SimpleUploadedFile("a.csv", A_LIST)}), 202),
            "photo_id": self.get(f"jobs/{self.job(7).id}/found")["photos"][0],
        }
        found = self.get(f"jobs/{self.job(7).id}/found")
        inner = {
            "part_id": self.get("parts")[0]["id"],
            "line_id": found["lines"][0]["id"],
            "point_id": found["photos"][0]["points"][0]["id"],
            "proposal_id": self.proposed(sheet["job"]["id"]),
        }
        bodies = {
            "readings": {"value": "1u", "meter_id": ours["meter_id"]["id"]},
            "signs": {"sign": "burnt"},
            "walk": {"symptom": "fuse_blown", "check_id": "fuse", "value": "1"},
            "charge": {"state": "energised"},
            "fall": {"rows": "0, 300", "meter_id": ours["meter_id"]["id"]},
            "proof": {"meter_id": ours["meter_id"]["id"], **KNOWN, "readings": []},
            "proofs": {
                "meter_id": ours["meter_id"]["id"],
                **KNOWN,
                "places": [{"position_id": ours["position_id"]["id"], "readings": []}],
            },
            "choice": {"part_id": ours["part_id"]["id"]},
            "positions": {"name": "C9", "role": "x", "marking": "1 µF X2 310~"},
            "board": {"name": "C9", "role": "x", "marking": "1 µF X2 310~"},
            "batch": {"choice": "set"},
            "found": {"text": "grey a -> C1"},
            "movements": {"change": 1},
            "powerup": {"kind": "linear"},
            "fitting": {"line": "x"},
            "beside": {"what": "fuse", "says": "T 2 A"},
            "hand-over": {"says": "glue sets until four"},
            "came": {"marking": "1 µF X2 310~", "kind": "film_safety"},
            "checks": {"check_id": "insulation", "value": "5M"},
            "end": {"held": True},
            "answer": {"signed": True},
            "deviations": {"check_id": "insulation", "reason": "because of that"},
            "quote": {"lines": []},
            "steps": {"percent": 10, "note": "x"},
            "override": {"rule_id": "fit.pitch", "reason": "because"},
            "struck": {"reason": "because"},
            "points": {"x": 0.5, "y": 0.5, "label": "here"},
        }
        self.sign_in("stranger")
        for path, method in OPERATIONS:
            name = next((name for name in ours if f"{{{name}}}" in path), None)
            with self.subTest(path=path, method=method):
                if path in OF_THEIR_OWN:
                    self.assertTrue(OF_THEIR_OWN[path](self.client.get(path).content))
                    continue
                if name is None:
                    if method == "get" and path not in (
                        "/api/session",
                        "/api/vocabulary",
                        "/api/reading-box",
                        "/api/limits",
                        "/api/common-terminal",
                        "/api/schools",
                        "/api/dropper",
                        "/api/dropper/faults",
                        "/api/supply",
                        "/api/bulk",
                        "/api/string",
                        "/api/forming",
                        "/api/walk",
                        "/api/may-replace",
                        "/api/shopping",
                        "/api/terms",
                        "/api/search",
                        "/api/effects/limit",
                        "/api/effects/school",
                    ):
                        self.assertLessEqual(len(self.get(path.removeprefix("/api/"))), 1)  # the stranger's own membership
                    continue
                body = bodies.get(path.removesuffix("/proposed").rsplit("/", 1)[-1], ours[name])
                call = self.post if method == "post" else self.put if method == "put" else None
                concrete = path.removeprefix("/api/").replace(f"{{{name}}}", ours[name]["id"]).replace("{sequence}", "1")
                for key, value in inner.items():
                    concrete = concrete.replace(f"{{{key}}}", value)
                if concrete.endswith("/photos"):
                    self.answer(self.client.post(f"/api/{concrete}", {"photo": under_the_chassis()}), 404)
                    continue
                if "/bill" in concrete and method == "post":
                    file = SimpleUploadedFile("a.csv", b"name;marking\nC9;1 uF X2 310 V~\n")
                    self.answer(self.client.post(f"/api/{concrete}", {"file": file}), 404)
                    continue
                if concrete.endswith("bill.csv") or method == "delete":
                    self.answer(getattr(self.client, method)(f"/api/{concrete}"), 404)
                    continue
                answer = call(concrete, body, 404) if call else self.get(concrete, 404)
                self.assertIn("no such thing", answer["detail"])

    def proposed(self, job_id: str) -> str:
        """What the apprentice asks for in a job."""
        check = next(check for check in self.get(f"jobs/{job_id}/handback")["checks"] if check["required"])
        self.sign_in("vell")
        asked = {"check_id": check["id"], "reason": "because of that"}
        proposal_id = self.post(f"jobs/{job_id}/deviations/proposed", asked)["id"]
        self.sign_in("orne")
        return str(proposal_id)

    def test_a_reading_does_not_take_another_workshops_meter(self) -> None:
        ours = self.meter_id()
        self.sign_in("stranger")
        job = self.post("jobs", {"title": "T", "supply_voltage": "230", "supply_frequency": "50"})
        body = {"name": "C1", "role": "motor_run", "marking": "16 µF 450 V~"}
        position = self.post(f"jobs/{job['id']}/positions", body)
        answer = self.post(f"positions/{position['id']}/readings", {"value": "16u", "meter_id": ours}, 422)
        self.assertEqual(answer["errors"][0]["field"], "meter_id")


class Door(ApiTest):
    """Signing in and out, throttling, CSRF, headers."""

    def try_to_sign_in(self, password: str, client: Client | None = None) -> int:
        body = {"username": "orne", "password": password}
        return (client or self.client).post("/api/session", body, **JSON).status_code

    def test_five_wrong_passwords_close_it_even_for_the_right_one(self) -> None:
        self.client.logout()
        self.assertEqual([self.try_to_sign_in("wrong") for _ in range(5)], [401] * 4 + [429])
        self.assertEqual(self.try_to_sign_in(PASSWORD), 429)

    def test_sign_in_and_out(self) -> None:
        self.client.logout()
        self.assertEqual(self.try_to_sign_in(PASSWORD), 200)
        self.assertEqual(self.get("session")["name"], "M. Orne")
        self.assertEqual(self.client.delete("/api/session").status_code, 204)
        self.get("session", 401)

    def test_writes_and_sign_in_need_the_csrf_token(self) -> None:
        strict = Client(enforce_csrf_checks=True, headers={"host": "127.0.0.1"})
        self.assertEqual(self.try_to_sign_in(PASSWORD, strict), 403)
        strict.cookies = self.client.cookies
        refused = strict.post("/api/jobs", {"title": "x"}, **JSON)
        self.assertEqual((refused.status_code, refused.json()["detail"]), (403, "Load the page again, then try once more."))

    def test_passwords_are_changed_by_their_owner_and_reset_by_a_lead(self) -> None:
        self.post("session/password", {"old": "no", "new": "a-brand-new-word"}, 422)
        short = self.post("session/password", {"old": PASSWORD, "new": "short"}, 422)
        self.assertEqual(short["errors"][0]["field"], "new")
        self.post("session/password", {"old": PASSWORD, "new": "a-brand-new-word"})
        self.get("session")  # still signed in
        vell = next(m for m in self.get("members") if m["username"] == "vell")
        self.post(f"members/{vell['id']}/password", {"new": "the-lead-set-this"})
        self.client.logout()
        self.assertEqual(self.try_to_sign_in("a-brand-new-word"), 200)

    def test_a_member_who_may_not_sign_in_is_out_at_once(self) -> None:
        vell = next(m for m in self.get("members") if m["username"] == "vell")
        other = Client(headers={"host": "127.0.0.1"})
        self.assertEqual(other.post("/api/session", {"username": "vell", "password": PASSWORD}, **JSON).status_code, 200)
        self.put(f"members/{vell['id']}", vell | {"is_active": False})
        self.assertEqual(other.get("/api/session").status_code, 401)

    def test_policy_of_the_page(self) -> None:
        policy = self.client.get("/")["Content-Security-Policy"]
        for directive in ("default-src 'none'", "script-src 'self'", "style-src 'self'", "frame-ancestors 'none'"):
            self.assertIn(directive, policy)
        self.assertNotIn("unsafe", policy)

    def test_only_argon2_is_kept(self) -> None:
        self.assertTrue(some(self.job(1).workshop.members.first()).password.startswith("argon2"))

    @override_settings(DATA_UPLOAD_MAX_MEMORY_SIZE=1000)
    def test_too_large_a_request_is_a_sentence(self) -> None:
        self.assertIn("more than", self.post("jobs", {"title": "x" * 5000}, 413)["detail"])
