"""Guessing is slowed, nobody is locked out by strangers, and a flood of it stalls nobody."""

import fcntl
import json
import os
import threading
from typing import Any

from django.test import RequestFactory, override_settings

from dusky_heron.record.errors import Throttled
from dusky_heron.workshops import hashing, signing_in
from dusky_heron.workshops.models import Member
from tests.api.base import JSON, ApiTest
from tests.databases import PASSWORD


class Addresses(ApiTest):
    """Whose address counts."""

    def test_what_the_proxy_adds_last_counts_behind_it_and_nothing_else_without(self) -> None:
        for behind, forwarded, expected in (
            (False, "203.0.113.9", "127.0.0.1"),
            (True, "203.0.113.9", "203.0.113.9"),
            (True, "10.0.0.1, 198.51.100.7", "198.51.100.7"),  # what a client wrote itself stands first
            (True, "2001:db8::5", "2001:db8::5"),
            (True, "nonsense", "127.0.0.1"),
            (True, "", "127.0.0.1"),
        ):
            with self.subTest(forwarded), override_settings(BEHIND_TLS=behind):
                request = RequestFactory().get("/", headers={"X-Forwarded-For": forwarded})
                self.assertEqual(signing_in.address_of(request), expected)


@override_settings(BEHIND_TLS=True)
class Guessing(ApiTest):
    """By name and by address, each from outside."""

    def setUp(self) -> None:
        super().setUp()
        self.client.logout()

    def tries(self, address: str, password: str, username: str = "orne") -> Any:
        body = json.dumps({"username": username, "password": password})
        return self.client.post("/api/session", body, **JSON, headers={"X-Forwarded-For": address})

    def test_a_lead_is_not_locked_out_by_strangers_and_strangers_are(self) -> None:
        self.assertEqual(self.tries("203.0.113.5", PASSWORD).status_code, 200)
        self.client.logout()
        for k in range(60):
            self.assertIn(self.tries(f"198.51.100.{k}", "guessed").status_code, (401, 429))
        self.assertEqual(self.tries("192.0.2.77", PASSWORD).status_code, 429)  # from where nobody signed in before
        self.assertEqual(self.tries("203.0.113.5", PASSWORD).status_code, 200)

    def test_an_address_that_guesses_at_many_names_is_stopped_and_others_go_on(self) -> None:
        wrong = [self.tries("198.51.100.9", "guessed", f"name{k}").status_code for k in range(103)]
        self.assertEqual(wrong[:100], [401] * 100)
        self.assertEqual(wrong[101:], [429, 429])
        self.assertEqual(self.tries("198.51.100.10", PASSWORD).status_code, 200)

    def test_five_of_one_address_at_one_name_close_that_door_alone(self) -> None:
        for _ in range(5):
            self.tries("198.51.100.1", "guessed")
        answer = self.tries("198.51.100.1", PASSWORD)
        self.assertEqual((answer.status_code, answer["Retry-After"]), (429, "900"))
        self.assertEqual(self.tries("198.51.100.2", PASSWORD).status_code, 200)

    def test_a_member_switched_off_loses_every_session(self) -> None:
        self.assertEqual(self.tries("203.0.113.5", PASSWORD, "vell").status_code, 200)
        Member.objects.filter(username="vell").update(is_active=False)
        self.get("session", 401)
        self.assertEqual(self.tries("203.0.113.5", PASSWORD, "vell").status_code, 401)


class Flood(ApiTest):
    """Hashing goes one after another; who would wait is sent away at once."""

    def test_one_hashes_two_wait_and_the_rest_are_told_to_come_again(self) -> None:
        within, release, sent_away = [], threading.Event(), []

        def one() -> None:
            try:
                with signing_in.in_turn():
                    within.append(1)
                    release.wait(0.3)
            except Throttled as error:
                sent_away.append(error.seconds)

        crowd = [threading.Thread(target=one) for _ in range(12)]
        for person in crowd:
            person.start()
        release.wait(0.1)
        self.assertEqual(len(within), 1)
        self.assertEqual(sent_away, [5] * 9)
        for person in crowd:
            person.join()
        self.assertEqual(len(within), 3)
        with signing_in.in_turn():
            within.append(1)

    def test_it_gives_way_and_only_one_process_hashes(self) -> None:
        """Niceness is a thread's own (setpriority(2)); a lock that another holds is waited for (flock(2))."""
        here, there = (os.getpriority(os.PRIO_PROCESS, 0), hashing.alone(lambda: os.getpriority(os.PRIO_PROCESS, 0)))
        self.assertEqual((here, there), (0, hashing.BEHIND))
        done = threading.Event()
        with hashing.DOOR.open(encoding="utf-8") as door:  # as another process would
            fcntl.flock(door, fcntl.LOCK_EX)
            waits = threading.Thread(target=lambda: hashing.alone(done.set))
            waits.start()
            self.assertFalse(done.wait(0.2))
        waits.join()
        self.assertTrue(done.is_set())
