"""A dump into an empty database, its records proved by the heads it was written with; or a rehearsal of that beside it."""

import subprocess
import sys
import uuid
from pathlib import Path
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandParser
from django.db import connection

from dusky_heron.record.postgres import run


class Command(BaseCommand):
    """Ends with 1 where it cannot be brought back whole."""

    help = "Restore database.dump and check it against heads, from a folder."

    def add_arguments(self, parser: CommandParser) -> None:
        """Where from, and whether it is a rehearsal."""
        parser.add_argument("folder")
        parser.add_argument("--rehearse", action="store_true", help="into a database of its own, which is dropped again")

    def handle(self, *_: Any, **options: Any) -> None:
        """What it is brought into was empty before."""
        folder, served = Path(options["folder"]), str(connection.settings_dict["NAME"])
        name = f"rehearsal_{uuid.uuid4().hex[:8]}" if options["rehearse"] else served
        if options["rehearse"]:
            run("createdb", name)
        try:
            try:
                self._bring_back(folder, name)
            finally:
                if options["rehearse"]:
                    self._use(served)
                    # Never by force: no superuser, it may not end an autovacuum that is at it; without, PostgreSQL sends that away.
                    run("dropdb", name, database="postgres")
        except subprocess.CalledProcessError as error:
            self.stderr.write(error.stderr)
            sys.exit(1)

    def _bring_back(self, folder: Path, name: str) -> None:
        run("pg_restore", "--no-owner", "--no-privileges", "--exit-on-error", f"--dbname={name}", str(folder / "database.dump"))
        self._use(name)
        call_command("migrate", interactive=False, verbosity=0)
        call_command("bind_records", stdout=self.stdout)
        call_command("verify", heads_from=str(folder / "heads"), stdout=self.stdout)

    def _use(self, name: str) -> None:
        connection.close()
        connection.settings_dict["NAME"] = name
