"""Files that long work made, such as a report: kept in the storage for a day, and given to their workshop alone."""

from datetime import timedelta
from uuid import UUID

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.utils import timezone

from dusky_heron.longwork.models import State, Work
from dusky_heron.longwork.schemas import Paper
from dusky_heron.record.actor import Actor
from dusky_heron.record.errors import Lost, NotFound

KEPT = timedelta(days=1)
GONE = "That file was kept for a day, and is gone. Ask for it again."


def keep_paper(work: Work, name: str, content_type: str, content: bytes) -> Paper:
    """Keep a file for whoever asked for it; what is older than a day goes."""
    for old in Work.objects.filter(answer__has_key="content_type", at__lt=timezone.now() - KEPT).values_list("id", flat=True):
        default_storage.delete(_place(old))
    default_storage.save(_place(work.id), ContentFile(content))
    return Paper(name=name, content_type=content_type, size=len(content))


def paper(actor: Actor, work_id: UUID) -> tuple[Paper, bytes]:
    """A file and what it is; raises Lost when its day is over. One statement."""
    work = Work.objects.defer("given").filter(id=work_id, workshop_id=actor.workshop_id, state=State.DONE).first()
    if work is None or not isinstance(work.answer, dict) or "content_type" not in work.answer:
        raise NotFound
    try:
        with default_storage.open(_place(work.id)) as file:
            return Paper.model_validate(work.answer), file.read()
    except FileNotFoundError as error:
        raise Lost(GONE) from error


def _place(work_id: UUID) -> str:
    return f"papers/{work_id}"
