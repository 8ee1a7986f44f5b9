"""Load the demo into an empty database, or show how to sign in to it."""

from typing import Any

import environ
from django.core.management.base import BaseCommand, CommandParser
from django.db import transaction
from django.utils import timezone

from dusky_heron.demo.scenario import APPRENTICE, LEAD, load
from dusky_heron.workshops.queries import any_workshop, signs_in


class Command(BaseCommand):
    """Never over existing work: it only writes where there is no workshop yet."""

    help = "Load the demo into an empty database."

    def add_arguments(self, parser: CommandParser) -> None:
        """Show the sign-in; load two years of work as well."""
        parser.add_argument("--show-sign-in", action="store_true")
        parser.add_argument("--past", action="store_true", help="with two years of jobs that were handed back")

    def handle(self, *_: Any, **options: Any) -> None:
        """Load, or show."""
        password = environ.Env().str("DEMO_PASSWORD", default="")
        if options["show_sign_in"]:
            self._show(password)
        elif not password:
            self.stderr.write("Set DEMO_PASSWORD: the demo's members sign in with it.")
        elif not any_workshop():
            with transaction.atomic():
                load(password, timezone.localdate(), past=options["past"])

    def _show(self, password: str) -> None:
        if password and signs_in(LEAD, password):
            self.stdout.write(f"· sign in: {LEAD} (lead) or {APPRENTICE} (apprentice), password {password}")
        else:
            self.stdout.write("· sign in as a member of your workshop")
