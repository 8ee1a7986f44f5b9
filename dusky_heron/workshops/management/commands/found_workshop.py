"""Found a workshop with its first lead, who adds the others in the page."""

from getpass import getpass
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from dusky_heron.core.errors import InputError
from dusky_heron.workshops.actions import found_workshop
from dusky_heron.workshops.queries import user_name_taken


class Command(BaseCommand):
    """Asks for the lead's first password, so that it stands in no history of commands."""

    help = "Found a workshop with its first lead."

    def add_arguments(self, parser: CommandParser) -> None:
        """Its name, the lead's user name and name."""
        for name in ("workshop", "username", "lead"):
            parser.add_argument(name)

    def handle(self, *_: Any, **options: Any) -> None:
        """Found it, or say what is wrong."""
        if user_name_taken(options["username"]):
            raise CommandError("That user name is taken.")
        try:
            found_workshop(options["workshop"], options["username"], options["lead"], getpass("First password of the lead: "))
        except InputError as error:
            raise CommandError(error.sentence) from error
        self.stdout.write(f"{options['workshop']} is founded; {options['username']} may sign in.")
