"""The database and the heads of all records as they were at one moment, whoever writes meanwhile."""

import subprocess
import sys
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import connection, transaction

from dusky_heron.record.postgres import run
from dusky_heron.record.verifying import verify_all


class Command(BaseCommand):
    """Ends with 1 where a record does not hold, or the dump fails: then there is nothing worth keeping."""

    help = "Write database.dump and heads into a folder, from one snapshot."

    def add_arguments(self, parser: CommandParser) -> None:
        """Where to."""
        parser.add_argument("folder")

    def handle(self, *_: Any, **options: Any) -> None:
        """Both programs look at the snapshot of one transaction."""
        folder = Path(options["folder"])
        with transaction.atomic():
            with connection.cursor() as cursor:
                cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ")
                cursor.execute("SELECT pg_export_snapshot()")
                snapshot = str(cursor.fetchone()[0])
            flags = ("--format=custom", "--no-owner", "--no-privileges", f"--snapshot={snapshot}")
            try:
                run("pg_dump", *flags, f"--file={folder / 'database.dump'}")
            except subprocess.CalledProcessError as error:
                self.stderr.write(error.stderr)
                sys.exit(1)
            found = dict(verify_all())
        broken = [f"{key}: {', '.join(one.differs) or f'entry {one.first_altered}'}" for key, one in found.items() if not one.whole]
        (folder / "heads").write_text("".join(f"{one.head}\n" for one in found.values() if one.length), encoding="utf-8")
        self.stdout.write("\n".join(broken) or f"{sum(one.length for one in found.values())} entries, 0 chains altered")
        if broken:
            sys.exit(1)
