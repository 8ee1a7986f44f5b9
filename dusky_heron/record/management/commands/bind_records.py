"""Bind the rows of records from before entries bound what they wrote; run after `migrate`, it does nothing the next time."""

from typing import Any
from uuid import UUID

from django.core.management.base import BaseCommand

from dusky_heron.record.actions import append, touched, writing
from dusky_heron.record.actor import Actor, MemberRole
from dusky_heron.record.binding import bound_models, digests
from dusky_heron.record.models import Chain

NOBODY = UUID(int=0)
BOUND = "rows bound"


class Command(BaseCommand):
    """One entry a record that binds nothing so far, by the application itself."""

    help = "Bind the rows of records that are older than binding."

    def handle(self, *_: Any, **__: Any) -> None:
        """Every chain none of whose entries binds anything."""
        for chain in Chain.objects.exclude(entries__binds__gt=""):
            with writing():
                actor = Actor(NOBODY, "Dusky Heron", chain.workshop_id, MemberRole.LEAD)
                append(actor, chain.subject_id, BOUND, {"entries": chain.length})
                for label, (model, path) in bound_models().items():
                    touched(model, *digests(label, **{path: chain.subject_id}))
            self.stdout.write(f"{chain.subject_id}: its rows are bound")
