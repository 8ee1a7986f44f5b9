"""Print the JSON Schema of a job's file, as it is published under docs/."""

import json
from typing import Any

from django.core.management.base import BaseCommand

from dusky_heron.transfer.tables import job_schema


class Command(BaseCommand):
    """Made from the same list of tables that jobs go out and come in by."""

    help = "Print the JSON Schema of job.json."

    def handle(self, *_: Any, **__: Any) -> None:
        """The schema, indented."""
        self.stdout.write(json.dumps(job_schema(), indent=1))
