"""A second factor: codes as RFC 6238 has them, each taken once; recovery codes; what a workshop demands; what a lead signs."""

import base64
import datetime
import hmac
import struct
import time
from io import StringIO
from typing import Any
from unittest import mock
from urllib.parse import parse_qs, urlparse

from django.core.management import CommandError, call_command

from dusky_heron.record.models import Entry
from dusky_heron.workshops.models import Member
from tests.api.base import ApiTest
from tests.databases import PASSWORD

NEEDED = "code"


def code_at(secret: str, seconds: float) -> str:
    """RFC 6238 over RFC 4226: HMAC-SHA-1 of the number of half minutes, four bytes of it, six digits."""
    digest = hmac.new(base64.b32decode(secret), struct.pack(">Q", int(seconds // 30)), "sha1").digest()
    place = digest[-1] & 15
    return f"{(struct.unpack('>I', digest[place : place + 4])[0] & 0x7FFFFFFF) % 1_000_000:06}"


class FactorTest(ApiTest):
    """With an authenticator whose clock a test sets."""

    def setUp(self) -> None:
        super().setUp()
        self.now = time.time()
        for name, clock in (
            ("time.time", lambda: self.now),
            ("django.utils.timezone.now", lambda: datetime.datetime.fromtimestamp(self.now, datetime.UTC)),
        ):
            patched = mock.patch(name, clock)
            patched.start()
            self.addCleanup(patched.stop)

    def code(self, secret: str) -> str:
        """The next code that was not used."""
        self.now += 30
        return code_at(secret, self.now)

    def give(self, secret: str) -> None:
        self.post("session/code", {"code": self.code(secret)}, 204)

    def enrol(self) -> tuple[str, list[str]]:
        secret = self.post("session/second-factor", {"password": PASSWORD})["secret"]
        return secret, self.post("session/second-factor/confirm", {"code": self.code(secret)})["codes"]

    def come_in(self, code: str = "", status: int = 200, username: str = "orne") -> Any:
        self.client.logout()
        return self.post("session", {"username": username, "password": PASSWORD, "code": code}, status)

    def fields(self, problem: Any) -> list[str]:
        return [error["field"] for error in problem["errors"]]


class RfcTest(FactorTest):
    """The test itself against the appendix of RFC 6238."""

    def test_vectors(self) -> None:
        secret = base64.b32encode(b"12345678901234567890").decode()
        for seconds, expected in ((59, "287082"), (1_111_111_109, "081804"), (2_000_000_000, "279037")):
            self.assertEqual(code_at(secret, seconds), expected)


class Enrolling(FactorTest):
    """Setting one up asks for the password, and a code that shows that it arrived."""

    def test_it_asks_for_the_password_and_for_a_right_code(self) -> None:
        self.assertEqual(self.fields(self.post("session/second-factor", {"password": "guessed"}, 422)), ["password"])
        told = self.post("session/second-factor", {"password": PASSWORD})
        asked = parse_qs(urlparse(told["address"]).query)
        self.assertEqual((asked["secret"], asked["issuer"]), ([told["secret"]], ["Dusky Heron"]))
        self.assertGreater(told["modules"], 20)
        self.assertEqual(self.fields(self.post("session/second-factor/confirm", {"code": "000000"}, 422)), [NEEDED])
        self.assertFalse(self.get("session")["second_factor"])
        self.come_in()  # what was not confirmed is asked of nobody

    def test_ten_recovery_codes_are_shown_once(self) -> None:
        _, codes = self.enrol()
        self.assertEqual(len(set(codes)), 10)
        self.assertTrue(self.get("session")["second_factor"])
        self.assertEqual(self.fields(self.post("session/second-factor", {"password": PASSWORD}, 422)), ["password"])
        said = Entry.objects.filter(chain__subject_id=self.actor_of("orne").workshop_id).latest("sequence").text
        self.assertIn("second factor set up", said)
        self.assertNotIn(codes[0], said)


class SigningIn(FactorTest):
    """A password alone opens nothing any more."""

    def test_without_a_code_with_a_wrong_one_with_a_right_one(self) -> None:
        secret, _ = self.enrol()
        for code in ("", "000000", "abcdefgh", "１２３４５６", "-1"):
            with self.subTest(code):
                self.assertEqual(self.fields(self.come_in(code, 403)), [NEEDED])
                self.get("session", 401)
                self.now += 3600  # wrong codes close it for longer and longer
        self.come_in(self.code(secret))
        self.get("members")

    def test_a_code_counts_once_and_an_old_one_never(self) -> None:
        secret, _ = self.enrol()
        code = self.code(secret)
        self.come_in(code)
        self.come_in(code, 403)
        self.now += 3600
        self.come_in(code_at(secret, self.now - 90), 403)

    def test_a_wrong_password_does_not_say_that_there_is_one(self) -> None:
        secret, _ = self.enrol()
        self.client.logout()
        body = {"username": "orne", "password": "guessed", "code": self.code(secret)}
        self.assertEqual(self.fields(self.post("session", body, 401)), ["password"])

    def test_each_recovery_code_counts_once(self) -> None:
        _, codes = self.enrol()
        self.come_in(f" {codes[3].upper()} ")
        said = Entry.objects.filter(chain__subject_id=self.actor_of("orne").workshop_id).latest("sequence").text
        self.assertIn("recovery code used", said)
        self.come_in(codes[3], 403)
        self.now += 3600
        self.come_in(codes[4])

    def test_guessed_codes_close_the_door(self) -> None:
        secret, _ = self.enrol()
        for _ in range(5):
            self.now += 3600
            self.come_in("000000", 403)
        self.come_in(self.code(secret), 429)


class Demanded(FactorTest):
    """A workshop may demand it of everybody."""

    def demand(self) -> str:
        secret, _ = self.enrol()
        self.give(secret)
        self.put("terms", self.get("terms") | {"second_factor": True})
        return secret

    def test_nothing_but_setting_it_up_is_open_until_then(self) -> None:
        self.demand()
        self.sign_in("vell")
        self.assertTrue(self.get("session")["must_set_up"])
        for path in ("bench", "members", "meters", f"jobs/{self.job(1).pk}/sheet"):
            self.get(path, 403)
        self.post(f"positions/{self.position(2, 'CX1').pk}/readings", {}, 403)
        self.enrol()
        self.assertFalse(self.get("session")["must_set_up"])
        self.get("members")

    def test_who_demands_it_has_one(self) -> None:
        problem = self.put("terms", self.get("terms") | {"second_factor": True}, 422)
        self.assertEqual(self.fields(problem), ["second_factor"])

    def test_none_is_asked_where_it_is_not_demanded(self) -> None:
        self.assertFalse(self.get("session")["must_set_up"])

    def test_it_cannot_be_taken_off_where_it_is_demanded(self) -> None:
        self.give(self.demand())
        self.answer(self.client.delete("/api/session/second-factor"), 422)


class Signing(FactorTest):
    """A lead's signature asks for a code again, each of them."""

    def sign(self, status: int, reason: str = "The customer knows.") -> Any:
        job = self.job(1)
        check = next(c for c in self.get(f"jobs/{job.pk}/handback")["checks"] if c["required"] and c["state"] != "passes")
        return self.post(f"jobs/{job.pk}/deviations", {"check_id": check["id"], "reason": reason}, status)

    def test_without_a_second_factor_nothing_is_asked(self) -> None:
        self.sign(200)

    def test_each_signature_takes_a_code_of_its_own(self) -> None:
        secret, _ = self.enrol()
        self.assertEqual(self.fields(self.sign(403)), [NEEDED])
        self.assertEqual(self.fields(self.post("session/code", {"code": "000000"}, 403)), [NEEDED])
        self.now += 3600
        self.give(secret)
        self.sign(422, "")  # what was not signed has used nothing up
        self.sign(200)
        self.sign(403)

    def test_a_code_lasts_two_minutes(self) -> None:
        secret, _ = self.enrol()
        for later, status in ((121, 403), (-1, 403), (119, 200)):
            self.give(secret)
            self.now += later
            self.sign(status)
            self.now += 3600

    def test_whatever_else_a_lead_answers_for_asks_too(self) -> None:
        self.enrol()
        vell = Member.objects.get(username="vell")
        edit = {"version": vell.version, "name": vell.name, "role": "lead", "is_active": True}
        place = self.position(3, "CD1")
        new = {"username": "third", "name": "Third", "role": "lead", "password": PASSWORD}
        self.assertEqual(self.fields(self.put(f"members/{vell.pk}", edit, 403)), [NEEDED])
        self.assertEqual(self.fields(self.post(f"members/{vell.pk}/password", {"new": PASSWORD}, 403)), [NEEDED])
        self.assertEqual(self.fields(self.post("members", new, 403)), [NEEDED])
        asked = {"rule_id": "voltage", "reason": "seen"}
        self.assertEqual(self.fields(self.post(f"positions/{place.pk}/override", asked, 403)), [NEEDED])
        self.assertEqual(self.fields(self.post(f"jobs/{self.job(1).pk}/accept", {}, 403)), [NEEDED])
        self.assertEqual(self.fields(self.put("terms", self.get("terms"), 403)), [NEEDED])
        for path in (f"members/{vell.pk}/second-factor", "session/second-factor"):
            self.assertEqual(self.fields(self.answer(self.client.delete(f"/api/{path}"), 403)), [NEEDED])


class Lost(FactorTest):
    """Whoever lost the authenticator, and a workshop that lost its lead."""

    def test_a_lead_takes_anothers_off_and_nobody_else_does(self) -> None:
        self.sign_in("vell")
        self.enrol()
        vell, orne = Member.objects.get(username="vell"), Member.objects.get(username="orne")
        self.answer(self.client.delete(f"/api/members/{orne.pk}/second-factor"), 403)
        self.sign_in("stranger")
        self.answer(self.client.delete(f"/api/members/{vell.pk}/second-factor"), 404)
        self.sign_in("orne")
        self.answer(self.client.delete(f"/api/members/{vell.pk}/second-factor"), 200)
        self.come_in(username="vell")

    def test_recovery_codes_are_made_anew_and_the_old_ones_are_nothing(self) -> None:
        secret, old = self.enrol()
        self.give(secret)
        new = self.post("session/second-factor/recovery", {})["codes"]
        self.assertFalse(set(old) & set(new))
        self.come_in(old[0], 403)
        self.now += 3600
        self.come_in(new[0])

    def test_a_workshop_without_a_lead_is_repaired_from_the_server(self) -> None:
        self.sign_in("vell")
        self.enrol()
        Member.objects.filter(username="orne").update(is_active=False)
        self.FORGES = True  # orne was switched off beside the record
        with mock.patch("dusky_heron.workshops.management.commands.appoint_lead.getpass", return_value="another-heron-at-dusk"):
            call_command("appoint_lead", "vell", stdout=StringIO())
            with self.assertRaises(CommandError):
                call_command("appoint_lead", "nobody", stdout=StringIO())
        self.client.logout()
        self.post("session", {"username": "vell", "password": "another-heron-at-dusk"})
        self.assertEqual(self.get("session")["role"], "lead")
        said = Entry.objects.filter(chain__subject_id=self.actor_of("vell").workshop_id).latest("sequence").text
        self.assertIn("lead appointed from the server", said)
