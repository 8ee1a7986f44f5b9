"""Asking for a job's file to be packed or taken in: the worker does it."""

import io
import zipfile
from uuid import UUID

from dusky_heron.asfound.queries import AT_ONCE
from dusky_heron.jobs.queries import find_job
from dusky_heron.longwork.actions import ask_for
from dusky_heron.longwork.schemas import WorkOut
from dusky_heron.record.actions import action
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.transfer import tasks
from dusky_heron.transfer.inward import MOST_FILES


@action(Permission.WORK)
def ask_for_job_file(actor: Actor, job_id: UUID) -> WorkOut:
    """Ask for a job as one file."""
    return ask_for(actor, "job file", tasks.write_job_file.defer, str(find_job(actor, job_id).id))


@action(Permission.DECIDE)
def ask_to_take_in(actor: Actor, content: bytes) -> WorkOut:
    """Ask for a file with many photos to be taken in."""
    return ask_for(actor, "job taken in", tasks.take_in_job.defer, given=content)


def many_photos(content: bytes) -> bool:
    """Whether looking at the photos of a file takes longer than an answer may; what will be refused anyhow has none."""
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            return AT_ONCE < sum(name.startswith("photos/") for name in archive.namelist()) <= MOST_FILES
    except (zipfile.BadZipFile, ValueError, OSError, EOFError):
        return False
