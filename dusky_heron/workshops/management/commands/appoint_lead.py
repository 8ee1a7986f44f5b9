"""Repair a workshop without a lead who can sign in."""

from getpass import getpass
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from dusky_heron.core.errors import InputError
from dusky_heron.workshops.actions import appoint_lead
from dusky_heron.workshops.models import Member


class Command(BaseCommand):
    """Asks for a new password, so that it stands in no history of commands."""

    help = "Make a member a lead, with a new password and without a second factor: for a workshop that has no lead any more."

    def add_arguments(self, parser: CommandParser) -> None:
        """The member's user name."""
        parser.add_argument("username")

    def handle(self, *_: Any, **options: Any) -> None:
        """Appoint them, or say what is wrong."""
        member = Member.objects.filter(username=options["username"]).first()
        if member is None:
            raise CommandError("Nobody has that user name.")
        try:
            appoint_lead(member, getpass("New password: "))
        except InputError as error:
            raise CommandError(error.sentence) from error
        self.stdout.write(f"{member.username} is a lead of {member.workshop}, and signs in with that password alone.")
