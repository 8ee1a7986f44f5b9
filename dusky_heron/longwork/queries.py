"""Reading how far long work is."""

from uuid import UUID

from dusky_heron.longwork.models import Work
from dusky_heron.longwork.schemas import WorkOut
from dusky_heron.record.actor import Actor
from dusky_heron.record.errors import NotFound


def work(actor: Actor, work_id: UUID) -> WorkOut:
    """One piece of the workshop's work. One statement."""
    found = Work.objects.defer("given").filter(id=work_id, workshop_id=actor.workshop_id).first()
    if found is None:
        raise NotFound
    return show_work(found)


def show_work(found: Work) -> WorkOut:
    """A piece of work as the API shows it."""
    return WorkOut.from_row(found)
