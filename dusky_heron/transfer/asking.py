"""Asking for a job's file: the worker packs it."""

from uuid import UUID

from dusky_heron.jobs.queries import find_job
from dusky_heron.longwork.actions import ask_for
from dusky_heron.longwork.schemas import WorkOut
from dusky_heron.record.actions import action
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.transfer import tasks


@action(Permission.WORK)
def ask_for_job_file(actor: Actor, job_id: UUID) -> WorkOut:
    """Ask for a job as one file."""
    return ask_for(actor, "job file", tasks.write_job_file.defer, str(find_job(actor, job_id).id))
