"""The record: append-only, chained, and written once."""

import io
import json
import os
import threading
from dataclasses import replace
from typing import Any, ClassVar
from urllib.parse import urlsplit
from uuid import UUID

import psycopg
from django.core.management import call_command
from django.db import connection
from django.test import Client
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from dusky_heron.assessment.actions import enter_reading
from dusky_heron.assessment.models import Reading
from dusky_heron.assessment.schemas import ReadingIn
from dusky_heron.core.errors import InputError
from dusky_heron.core.model import Role
from dusky_heron.instruments.queries import meters
from dusky_heron.jobs.actions import add_position
from dusky_heron.jobs.models import Job, Position
from dusky_heron.jobs.schemas import PositionIn
from dusky_heron.record.actions import append, writing
from dusky_heron.record.actions.append import link
from dusky_heron.record.actor import Actor, Sending
from dusky_heron.record.models import Chain, Entry
from dusky_heron.record.queries import entries_of
from dusky_heron.record.verifying import verify
from dusky_heron.workshops.models import Member
from tests import loose
from tests.api.base import JSON, ApiTest
from tests.databases import PASSWORD, Committing


class ChainOfHashes(ApiTest):
    """Whatever is altered is found, and where."""

    FORGES = True

    def setUp(self) -> None:
        super().setUp()
        self.actor: Actor = Member.objects.get(username="orne").actor
        self.entries = list(Entry.objects.filter(chain__subject_id=self.job(2).id))

    def verdict(self) -> tuple[bool, int | None]:
        answer = verify(self.actor, self.job(2).id)
        return answer.whole, answer.first_altered

    def test_an_untouched_chain_is_whole(self) -> None:
        self.assertEqual(self.verdict(), (True, None))
        self.assertEqual(len(self.entries), 12)

    def test_one_changed_character_is_found(self) -> None:
        entry = self.entries[2]
        Entry.objects.filter(id=entry.id).update(text=entry.text.replace("Y2", "Y1"))
        self.assertEqual(self.verdict(), (False, 3))

    def test_an_entry_rewritten_with_a_new_hash_is_found_at_the_next(self) -> None:
        from dusky_heron.record.actions.append import link

        text = self.entries[1].text.replace("305", "310")
        Entry.objects.filter(id=self.entries[1].id).update(text=text, hash=link(self.entries[0].hash, text))
        self.assertEqual(self.verdict(), (False, 3))

    def test_a_missing_or_swapped_entry_is_found(self) -> None:
        Entry.objects.filter(id=self.entries[6].id).delete()
        self.assertEqual(self.verdict(), (False, 7))
        Entry.objects.filter(id=self.entries[3].id).delete()
        self.assertEqual(self.verdict(), (False, 4))

    def test_a_chain_cut_at_its_end_is_found_also_where_its_last_entry_binds_nothing(self) -> None:
        with writing():
            append(self.actor, self.job(2).id, "noted", {"said": "only words"})
        self.assertEqual(self.verdict(), (True, None))
        last = Entry.objects.get(chain__subject_id=self.job(2).id, sequence=13)
        self.assertEqual(last.binds, "")
        last.delete()
        self.assertEqual(self.verdict(), (False, 13))
        Chain.objects.filter(subject_id=self.job(2).id).update(length=12)
        self.assertEqual(self.verdict(), (False, 13))  # its head is that of thirteen
        Chain.objects.filter(subject_id=self.job(2).id).update(length=13, head=self.entries[-1].hash)
        self.assertEqual(self.verdict(), (False, 13))  # and its length


class AnyAlteration(TestCase):
    """Whatever byte of whatever entry is altered, it is found."""

    actor: ClassVar[Actor]
    job_id: ClassVar[UUID]

    @classmethod
    def setUpTestData(cls) -> None:
        cls.actor = Member.objects.get(username="orne").actor
        cls.job_id = Job.objects.get(number=2).id

    @settings(max_examples=60)
    @given(st.integers(0, 6), st.integers(0, 10_000), st.sampled_from(["X", "0", "é", " "]))
    def test_any_changed_character_is_found_at_its_entry(self, which: int, where: int, other: str) -> None:
        entry = list(Entry.objects.filter(chain__subject_id=self.job_id))[which]
        where %= len(entry.text)
        altered = entry.text[:where] + other + entry.text[where + 1 :]
        if altered == entry.text:
            return
        Entry.objects.filter(id=entry.id).update(text=altered)
        found = verify(self.actor, self.job_id)
        self.assertEqual((found.whole, found.first_altered), (False, which + 1))
        self.assertEqual(len(entries_of(self.actor, self.job_id)), 12)  # even what is broken is still shown

    @settings(max_examples=20)
    @given(st.permutations(range(12)))
    def test_any_other_order_is_found(self, order: list[int]) -> None:
        entries = list(Entry.objects.filter(chain__subject_id=self.job_id))
        for entry, source in zip(entries, order, strict=True):
            Entry.objects.filter(id=entry.id).update(text=entries[source].text, hash=entries[source].hash)
        self.assertEqual(verify(self.actor, self.job_id).whole, list(order) == list(range(12)))


class CommandLine(TestCase):
    """`manage.py verify`: every chain, and heads printed earlier."""

    def run_it(self, *heads: str) -> tuple[int, str]:
        said, status = io.StringIO(), 0
        try:
            call_command("verify", *heads, stdout=said)
        except SystemExit as ended:
            status = int(ended.code or 0)
        return status, said.getvalue()

    def test_whole_chains_and_a_head_printed_before_more_was_written(self) -> None:
        head = Chain.objects.get(subject_id=Job.objects.get(number=2).id).head
        actor = Member.objects.get(username="orne").actor
        stop_here = Job.objects.get(number=2)
        with writing():
            append(actor, stop_here.id, "note", {"text": "written after the report"})
        status, said = self.run_it(head)
        self.assertEqual(status, 0, said)
        self.assertIn(f"{Entry.objects.count()} entries, 0 chains altered", said)

    def test_the_first_altered_entry_is_named(self) -> None:
        chain = Chain.objects.get(subject_id=Job.objects.get(number=2).id)
        Entry.objects.filter(chain=chain, sequence=4).update(text="{}")
        status, said = self.run_it()
        self.assertEqual(status, 1)
        self.assertIn(f"{chain.subject_id}: altered, entry 4 is the first", said)

    def test_a_chain_recomputed_as_a_whole_is_found_by_its_printed_head(self) -> None:
        """Somebody with every right of the database changes an entry and every hash after it: only paper tells."""
        chain = Chain.objects.get(subject_id=Job.objects.get(number=2).id)
        printed, previous = chain.head, "0" * 64
        for entry in chain.entries.all():
            if entry.sequence == 3:
                entry.text = entry.text.replace('"by_name":"M', '"by_name":"N')
            entry.hash = previous = link(previous, entry.text)
            Entry.objects.filter(id=entry.id).update(text=entry.text, hash=entry.hash)
        Chain.objects.filter(id=chain.id).update(head=previous)
        self.assertEqual(self.run_it()[0], 0)
        status, said = self.run_it(printed)
        self.assertEqual(status, 1)
        self.assertIn("what was printed is not what is kept", said)


class DatabaseRoles(ApiTest):
    """The application's own role may read and add entries, and nothing else with them."""

    def test_update_delete_and_truncate_of_an_entry_fail(self) -> None:
        url = os.environ["APPLICATION_DATABASE_URL"]
        name = connection.settings_dict["NAME"]
        with psycopg.connect(url, dbname=name, autocommit=True) as db:
            for statement in (
                "UPDATE record_entry SET text = ''",
                "DELETE FROM record_entry",
                "TRUNCATE record_entry",
                "DROP TABLE record_entry",
                "ALTER TABLE record_entry ADD COLUMN x int",
                "UPDATE record_entry SET binds = ''",
                "UPDATE record_chain SET subject_id = origin_id",
                "UPDATE record_chain SET origin_id = subject_id",
                "UPDATE record_chain SET workshop_id = subject_id",
                "DELETE FROM record_chain",
                "TRUNCATE record_chain CASCADE",
            ):
                with self.subTest(statement), self.assertRaises(psycopg.errors.InsufficientPrivilege):
                    db.execute(statement)
            db.execute("SELECT count(*) FROM record_entry")
            rights = db.execute("SELECT rolsuper, rolcreatedb FROM pg_roles WHERE rolname = current_user").fetchone()
            self.assertEqual(rights, (False, False))


class AsTheApplication(Committing):
    """The whole of a small job under the application's own database role, which is how it runs."""

    def setUp(self) -> None:
        self.owner = connection.settings_dict
        url = urlsplit(os.environ["APPLICATION_DATABASE_URL"])
        connection.close()
        connection.settings_dict = {**self.owner, "USER": url.username, "PASSWORD": url.password}

    def tearDown(self) -> None:
        connection.close()
        connection.settings_dict = self.owner

    def test_its_rights_are_enough_for_all_work(self) -> None:
        with connection.cursor() as cursor:
            cursor.execute("SELECT current_user")
            self.assertEqual(cursor.fetchone(), ("dusky_app",))
        client = Client(headers={"host": "127.0.0.1"})
        wrong, right = {"username": "orne", "password": "no"}, {"username": "orne", "password": PASSWORD}
        self.assertEqual(client.post("/api/session", wrong, **JSON).status_code, 401)
        self.assertEqual(client.post("/api/session", right, **JSON).status_code, 200)

        def post(path: str, body: Any) -> Any:
            answer = client.post(f"/api/{path}", json.dumps(body), **JSON, headers={"Idempotency-Key": path})
            self.assertEqual(answer.status_code, 200, answer.content)
            return answer.json()

        job = post("jobs", {"title": "Pump", "supply_voltage": "230 V", "supply_frequency": "50 Hz"})
        marking = {"name": "C1", "role": "motor_run", "marking": "16 µF ±5 % 450 V~"}
        path = f"positions/{post('jobs/' + job['id'] + '/positions', marking)['id']}"
        meter = client.get("/api/meters").json()[0]["id"]
        resistor = client.get(f"/api/{path}/discharge").json()["best"]["resistor_ids"]
        post(f"{path}/charge", {"state": "emptying", "resistor_ids": resistor})
        post(f"{path}/readings", {"value": "12.9u", "meter_id": meter})
        part = client.get(f"/api/{path}/candidates").json()["accepted"][0]["part"]
        post(f"{path}/choice", {"part_id": part["id"]})
        changed = client.put(f"/api/parts/{part['id']}", json.dumps(part | {"quantity": 1}), **JSON)
        self.assertEqual(changed.status_code, 200)
        self.assertTrue(client.get(f"/api/jobs/{job['id']}/record/verified").json()["whole"])
        self.assertEqual(client.delete("/api/session").status_code, 204)


class Once(ApiTest):
    """The same write sent twice with one key happens once."""

    def test_twice_in_a_row(self) -> None:
        path = f"positions/{self.position(1, 'C1').id}/readings"
        body = {"value": "12.9u", "meter_id": self.meter_id()}
        first = self.post(path, body, **loose({"Idempotency-Key": "k1"}))
        self.assertEqual(self.post(path, body, **loose({"Idempotency-Key": "k1"})), first)
        self.assertEqual(Reading.objects.filter(position__job__number=1).count(), 1)
        other = self.post(path, body | {"value": "13u"}, 409, **{"Idempotency-Key": "k1"})
        self.assertIn("another write", other["detail"])

    def test_a_key_is_its_members_own(self) -> None:
        path = f"positions/{self.position(1, 'C1').id}/readings"
        body = {"value": "12.9u", "meter_id": self.meter_id()}
        for count, username in ((1, "orne"), (2, "vell"), (2, "orne"), (2, "vell")):
            self.sign_in(username)
            self.post(path, body, **loose({"Idempotency-Key": "k3"}))
            self.assertEqual(Reading.objects.filter(position__job__number=1).count(), count)
        self.sign_in("orne")
        self.assertEqual([one["by_name"] for one in self.get(f"jobs/{self.job(1).id}/record") if one["kind"] == "reading"],
                         ["M. Orne", "T. Vell"])  # fmt: skip

    def test_a_refused_write_does_not_use_the_key_up(self) -> None:
        path = f"positions/{self.position(1, 'C1').id}/readings"
        self.post(path, {"value": "?", "meter_id": self.meter_id()}, 422, **{"Idempotency-Key": "k2"})
        self.post(path, {"value": "12.9u", "meter_id": self.meter_id()}, **loose({"Idempotency-Key": "k2"}))


class Together(Committing):
    """Writes that arrive at the same moment."""

    def setUp(self) -> None:
        self.actor = Member.objects.get(username="orne").actor
        self.position = Position.objects.get(job__number=1)
        self.meter_id = meters(self.actor)[0].id

    def race(self, keys: list[str]) -> Any:
        """One thread a key, all let go at once."""
        start, answers = threading.Barrier(len(keys)), []

        def write(key: str) -> None:
            start.wait()
            try:
                data = ReadingIn(value="12.9u", meter_id=self.meter_id)
                answers.append(enter_reading(replace(self.actor, sending=Sending(key=key)), self.position.id, data))
            finally:
                connection.close()

        threads = [threading.Thread(target=write, args=(key,)) for key in keys]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        return answers

    def test_one_key_from_eight_sides_writes_once(self) -> None:
        answers = self.race(["same"] * 8)
        self.assertEqual(len(answers), 8)
        self.assertTrue(all(answer == answers[0] for answer in answers))
        self.assertEqual(Reading.objects.filter(position=self.position).count(), 1)

    def test_one_name_from_eight_sides_is_taken_once(self) -> None:
        data = PositionIn(name="C9", role=Role.X, marking="1 µF X2 310~")
        job_id, start, answers = self.position.job_id, threading.Barrier(8), []

        def add() -> None:
            start.wait()
            try:
                answers.append(add_position(self.actor, job_id, data).name)
            except InputError as error:
                answers.append(error.sentence)
            finally:
                connection.close()

        threads = [threading.Thread(target=add) for _ in range(8)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(sorted(answers), ["C9", *["That position is on the job already."] * 7])

    def test_eight_keys_at_once_leave_a_whole_chain(self) -> None:
        self.race([f"key {n}" for n in range(8)])
        self.assertEqual(Reading.objects.filter(position=self.position).count(), 8)
        job = Job.objects.get(number=1)
        self.assertTrue(verify(self.actor, job.id).whole)
        self.assertEqual(Chain.objects.get(subject_id=job.id).length, Entry.objects.filter(chain__subject_id=job.id).count())
