"""The start command says in one sentence what is wrong."""

import os
import socket
import subprocess
import unittest
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]


def run(*command: str, **environment: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        command, env={**os.environ, **environment}, cwd=ROOT, capture_output=True, text=True, timeout=60, check=False
    )


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
