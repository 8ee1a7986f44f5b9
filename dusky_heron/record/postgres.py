"""Calling PostgreSQL's own programs on the application's database: the password goes by a file that only we can read."""

import os
import subprocess
import tempfile
from collections.abc import Mapping
from pathlib import Path

from django.db import connection

OURS = ("DATABASE", "DB_", "SECRET", "PGPASS")  # what the environment of another program has no business with


def run(program: str, *options: str, database: str = "") -> str:
    """Run a program of PostgreSQL's; what it printed. Raises CalledProcessError, which holds what it said."""
    kept: Mapping[str, object] = connection.settings_dict
    name = database or str(kept["NAME"])
    with tempfile.TemporaryDirectory() as folder:
        secret = Path(folder) / "pgpass"
        secret.touch(mode=0o600)
        password = str(kept["PASSWORD"]).replace("\\", "\\\\").replace(":", "\\:")
        secret.write_text(f"*:*:*:*:{password}\n", encoding="utf-8")
        environment = {key: value for key, value in os.environ.items() if not key.startswith(OURS)}
        environment |= {"PGHOST": str(kept["HOST"]), "PGPORT": str(kept["PORT"]), "PGUSER": str(kept["USER"])}
        environment |= {"PGDATABASE": name, "PGPASSFILE": str(secret)}
        done = subprocess.run([program, *options], env=environment, check=True, capture_output=True, text=True)  # noqa: S603 # our own options
    return done.stdout
