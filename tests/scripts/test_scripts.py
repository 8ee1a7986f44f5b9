"""The commands: start, serve, backup and restore; what is wrong is said in one sentence."""

import os
import re
import shutil
import socket
import subprocess
import sys
import tempfile
import threading
import unittest
from pathlib import Path
from unittest.mock import patch

import psycopg
from django.conf import settings
from django.db import connection

from dusky_heron.core.model import Role
from dusky_heron.jobs.actions import add_position, open_job
from dusky_heron.jobs.schemas import JobIn, PositionIn
from dusky_heron.record import postgres
from dusky_heron.workshops.models import Member
from tests.databases import Committing

ROOT = Path(__file__).resolve().parents[2]


def run(*command: str, **environment: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(command, env={**os.environ, **environment}, cwd=ROOT, capture_output=True, text=True, check=False)


class Start(unittest.TestCase):
    """Before anything is installed or started."""

    def test_a_port_that_is_no_number(self) -> None:
        done = run("scripts/demo", PORT="eighty")
        self.assertEqual((done.returncode, done.stderr.strip()), (1, "PORT must be a number, not “eighty”."))

    def test_a_taken_port(self) -> None:
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = str(taken.getsockname()[1])
            done = run("scripts/demo", PORT=port)
        self.assertEqual(done.returncode, 1)
        self.assertIn(f"Port {port} is taken", done.stderr)
        self.assertEqual(len(done.stderr.strip().splitlines()), 1)

    def test_an_unknown_word_to_the_database(self) -> None:
        done = run("scripts/db", "dance")
        self.assertEqual((done.returncode, done.stderr.strip()), (1, "usage: scripts/db start | stop | status"))

    def test_the_database_of_the_tests_is_up_and_its_secrets_are_its_owners(self) -> None:
        self.assertIn("answers on 127.0.0.1", run("scripts/db", "status").stdout)
        self.assertEqual((ROOT / ".env").stat().st_mode & 0o077, 0)
        tracked = run("git", "ls-files", ".env", ".postgres", ".run").stdout
        self.assertEqual(tracked, "")


class Scripts(unittest.TestCase):
    """Each script can be run, and says what it does."""

    def test_each_begins_with_what_it_does(self) -> None:
        for script in [*ROOT.glob("scripts/*"), ROOT / ".ci" / "run"]:
            lines = script.read_text(encoding="utf-8").splitlines()
            self.assertTrue(lines[0].startswith("#"), script)
            said = lines[0] if script.suffix == ".sh" else lines[1]
            self.assertRegex(said, r"^# \S.{20,}", script)
            if script.suffix != ".sh":
                self.assertTrue(os.access(script, os.X_OK), script)

    def test_each_is_told_of_where_people_look(self) -> None:
        told = "".join((ROOT / name).read_text(encoding="utf-8") for name in ("README.md", "CONTRIBUTING.md", "docs/running.md"))
        named = [script.name for script in ROOT.glob("scripts/*") if script.suffix != ".sh"]
        self.assertEqual([name for name in named if f"scripts/{name}" not in told], [])
        self.assertEqual([path for path in re.findall(r"(?<!\w)(scripts/[a-z]+)", told) if not (ROOT / path).exists()], [])


class ForOthers(unittest.TestCase):
    """What a server for others must not run with is said, and it does not start."""

    def errors(self, **environment: str) -> str:
        done = run(
            sys.executable, "manage.py", "check", "--deploy", "--database", "default", "--fail-level", "ERROR", **environment
        )
        return done.stderr if done.returncode else ""

    def test_unsafe_settings_are_refused_by_name(self) -> None:
        application = {"DATABASE_URL": os.environ["APPLICATION_DATABASE_URL"]}
        behind = {"ALLOWED_HOSTS": "heron.example", "BEHIND_TLS": "true", "CSRF_TRUSTED_ORIGINS": "https://heron.example"}
        self.assertEqual(self.errors(**application, **behind), "")
        for key, value, error in (
            ("SECRET_KEY", "short", "E002"), ("ALLOWED_HOSTS", "*", "E003"), ("BEHIND_TLS", "false", "E004"),
            ("CSRF_TRUSTED_ORIGINS", "http://heron.example", "E005"), ("DATABASE_URL", os.environ["DATABASE_URL"], "E006"),
        ):  # fmt: skip
            self.assertIn(f"dusky.{error}", self.errors(**application | behind | {key: value}), key)

    def test_serve_does_not_start_with_them(self) -> None:
        done = run("scripts/serve", ALLOWED_HOSTS="*", PORT="1")
        self.assertEqual(done.returncode, 1)
        self.assertIn("ALLOWED_HOSTS takes any name", done.stderr)
        self.assertIn("Not started", done.stderr)


def rehearsals() -> set[str]:
    """The databases of rehearsals that are there."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT datname FROM pg_database WHERE datname LIKE 'rehearsal%'")
        return {name for (name,) in cursor.fetchall()}


class BackupAndRestore(Committing):
    """Out of one database and into an empty one; the records are proved, and an altered one is found."""

    def setUp(self) -> None:
        base = settings.DATABASES["default"]
        self.server = f"postgres://{base['USER']}:{base['PASSWORD']}@{base['HOST']}:{base['PORT']}"
        self.mine = f"{self.server}/{connection.settings_dict['NAME']}"
        self.folder = Path(tempfile.mkdtemp(prefix="dusky-backup-"))
        self.addCleanup(shutil.rmtree, self.folder)
        self.sql("DROP DATABASE IF EXISTS restored", "CREATE DATABASE restored")
        self.addCleanup(self.sql, "DROP DATABASE IF EXISTS restored WITH (FORCE)")

    def sql(self, *statements: str, database: str = "postgres") -> None:
        with psycopg.connect(f"{self.server}/{database}", autocommit=True) as direct:
            for statement in statements:
                direct.execute(statement)

    def script(self, name: str, file: Path, database: str, media: str, *options: str) -> subprocess.CompletedProcess[str]:
        return run(f"scripts/{name}", *options, str(file), DATABASE_URL=database, DATABASE_OWNER_URL=database, MEDIA_ROOT=media)

    def test_there_and_back(self) -> None:
        file, target = self.folder / "today.tar", f"{self.server}/restored"
        done = self.script("backup", file, self.mine, str(settings.MEDIA_ROOT))
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertIn("0 chains altered", done.stdout)
        self.assertEqual(file.stat().st_mode & 0o077, 0)
        self.assertIn("already", self.script("backup", file, self.mine, "").stderr)
        done = self.script("restore", file, target, str(self.folder / "photos"))
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertIn("0 chains altered", done.stdout)
        self.assertTrue(any((self.folder / "photos").rglob("*.jpg")))
        self.assertIn("not empty", self.script("restore", file, target, str(self.folder / "photos")).stderr)
        self.sql("UPDATE record_entry SET text = replace(text, 'tingles', 'tickles')", database="restored")
        verify = run(sys.executable, "manage.py", "verify", DATABASE_URL=target)
        self.assertEqual(verify.returncode, 1)
        self.assertIn("is the first that does not fit", verify.stdout)
        self.assertIn("does not hold", self.script("backup", self.folder / "b.tar", target, "").stderr)

    def test_while_others_write_it_is_of_one_moment(self) -> None:
        """Twenty writers at jobs of their own; the backup is rehearsed beside them, and leaves nothing."""
        actor = Member.objects.get(username="orne").actor
        stop, left_by_others = threading.Event(), rehearsals()

        def writes(number: int) -> None:
            job = open_job(actor, JobIn(title=f"w{number}", supply_voltage="230", supply_frequency="50"))
            for k in range(10_000):
                if stop.is_set():
                    break
                add_position(actor, job.id, PositionIn(name=f"C{k}", role=Role.X, marking="1 µF X2 310~"))
            connection.close()

        crew = [threading.Thread(target=writes, args=(k,)) for k in range(20)]
        try:
            for one in crew:
                one.start()
            for k in range(2):
                file = self.folder / f"{k}.tar"
                done = self.script("backup", file, self.mine, str(settings.MEDIA_ROOT))
                self.assertEqual((done.returncode, "0 chains altered" in done.stdout), (0, True), done.stderr)
                done = self.script("restore", file, self.mine, "", "--rehearse")
                self.assertEqual((done.returncode, "0 chains altered" in done.stdout), (0, True), done.stderr)
        finally:
            stop.set()
            for one in crew:
                one.join()
        self.assertEqual(rehearsals() - left_by_others, set())

    def test_no_password_in_a_command_line_or_an_environment(self) -> None:
        password = str(connection.settings_dict["PASSWORD"])
        with patch("subprocess.run") as called, patch.dict(os.environ, {"DATABASE_URL": f"postgres://x:{password}@y/z"}):
            postgres.run("pg_dump", "--schema-only")
        (command,), more = called.call_args
        self.assertEqual(command, ["pg_dump", "--schema-only"])
        self.assertNotIn(password, " ".join(more["env"].values()))

    def test_what_is_no_backup(self) -> None:
        wrong = self.folder / "x.tar"
        wrong.write_bytes(b"no tar")
        self.assertIn("not a backup of ours", self.script("restore", wrong, f"{self.server}/restored", "").stderr)
        self.assertIn("is not there", self.script("restore", self.folder / "y.tar", f"{self.server}/restored", "").stderr)
