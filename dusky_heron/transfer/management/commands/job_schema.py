"""Print the JSON Schema of a job's file, or freeze it as the next version."""

import json
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from dusky_heron.transfer import formats
from dusky_heron.transfer.tables import job_schema


class Command(BaseCommand):
    """Made from the same list of tables that jobs go out and come in by."""

    help = "Print the JSON Schema of job.json; --freeze keeps it as the next version where the tables have changed."

    def add_arguments(self, parser: CommandParser) -> None:
        """Whether to keep it."""
        parser.add_argument("--freeze", action="store_true")

    def handle(self, *_: Any, freeze: bool, **__: Any) -> None:
        """The schema, indented; or where it was written."""
        if not freeze:
            self.stdout.write(json.dumps(job_schema(), indent=1))
        elif job_schema() == formats.schema_of(formats.VERSION):
            self.stdout.write(f"The tables are as version {formats.VERSION} has them.")
        else:
            version = formats.VERSION + 1
            kept = Path(formats.__file__).parent / f"job-{version}.json"
            kept.write_text(json.dumps(job_schema(version), indent=1) + "\n", encoding="utf-8")
            self.stdout.write(f"Version {version} is {kept}. Now: manage.py test tests.api.keeping")
