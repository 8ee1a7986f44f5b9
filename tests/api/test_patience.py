"""A request that would wait for somebody's lock ends with a sentence; the server's connections do not wait long."""

import os
import subprocess
import sys
from unittest import mock

import psycopg
from django.db import connection
from django.test import Client

from dusky_heron.stock.models import Movement, Part
from dusky_heron.workshops.models import Member
from tests.api.base import JSON
from tests.databases import DEMO, Committing

SHOW = """
import dusky_heron.settings.wsgi
from django.db import connection
with connection.cursor() as cursor:
    for name in ("lock_timeout", "statement_timeout", "idle_in_transaction_session_timeout"):
        cursor.execute(f"SHOW {name}")
        print(cursor.fetchone()[0])
"""


class Patience(Committing):
    """A lock held by hand, and an answer that takes too long."""

    begins_with = DEMO

    def setUp(self) -> None:
        self.client = Client(headers={"host": "127.0.0.1"})
        self.client.force_login(Member.objects.get(username="orne"), "dusky_heron.workshops.signing_in.Members")
        self.part = Part.objects.get(marking="16 µF ±5 % 450 V~ cl. B P2 25/085/21", place="A1")

    def move(self) -> tuple[int, str, str]:
        answer = self.client.post(f"/api/parts/{self.part.id}/movements", {"change": -1, "says": ""}, **JSON)
        said = answer.json()
        return answer.status_code, said.get("type", ""), said.get("detail", "")

    def set(self, name: str, value: str) -> None:
        with connection.cursor() as cursor:
            cursor.execute(f"SET {name} = '{value}'")
        self.addCleanup(connection.close)

    def test_who_finds_a_lock_hears_so_and_nothing_was_saved(self) -> None:
        base, before = connection.settings_dict, Movement.objects.count()
        self.set("lock_timeout", "50ms")
        held = psycopg.connect(
            host=base["HOST"], port=base["PORT"], user=base["USER"], password=base["PASSWORD"], dbname=base["NAME"]
        )
        with held:
            held.execute("SELECT 1 FROM stock_part WHERE id = %s FOR UPDATE", [self.part.id])
            status, kind, said = self.move()
            self.assertEqual((status, kind, "Somebody else is at it" in said), (503, "busy", True))
            self.assertEqual(self.client.get("/healthz").status_code, 200)
        self.assertEqual(Movement.objects.count(), before)
        self.assertEqual(self.move()[0], 200)

    def test_what_takes_too_long_ends(self) -> None:
        self.set("statement_timeout", "50ms")

        def endless(*_: object) -> None:
            with connection.cursor() as cursor:
                cursor.execute("SELECT pg_sleep(5)")

        with mock.patch("dusky_heron.stock.queries.movements", endless):
            answer = self.client.get(f"/api/parts/{self.part.id}/movements")
        self.assertEqual((answer.status_code, answer.json()["type"]), (503, "too-long"))

    def test_the_server_waits_so_long_and_the_commands_do_not_ask(self) -> None:
        base = connection.settings_dict
        url = f"postgres://{base['USER']}:{base['PASSWORD']}@{base['HOST']}:{base['PORT']}/{base['NAME']}"
        for script, waits in ((SHOW, ["2500ms", "30s", "1min"]), (SHOW.replace("wsgi", "urls"), ["0", "0", "0"])):
            begun = "import django; django.setup()\n" if "urls" in script else ""
            done = subprocess.run(
                [sys.executable, "-c", begun + script],
                env=os.environ | {"DATABASE_URL": url, "DJANGO_SETTINGS_MODULE": "dusky_heron.settings"},
                capture_output=True,
                text=True,
                check=True,
            )
            self.assertEqual(done.stdout.split(), waits)
