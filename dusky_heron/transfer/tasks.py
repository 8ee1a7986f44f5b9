"""What the worker packs of a job."""

from uuid import UUID

from procrastinate.contrib.django import app

from dusky_heron.jobs.queries import find_job
from dusky_heron.longwork.actions import perform
from dusky_heron.longwork.models import Work
from dusky_heron.longwork.papers import keep_paper
from dusky_heron.longwork.progress import Tell
from dusky_heron.longwork.schemas import Paper
from dusky_heron.record.actor import Actor
from dusky_heron.transfer.inward import take_in
from dusky_heron.transfer.outward import as_zip


@app.task
def write_job_file(work_id: str) -> None:
    """Pack a whole job."""
    perform(UUID(work_id), _job_file)


def _job_file(actor: Actor, work: Work, tell: Tell) -> Paper:
    number = find_job(actor, UUID(work.name)).number
    return keep_paper(work, f"job-{number}.zip", "application/zip", as_zip(actor, UUID(work.name), tell))


@app.task
def take_in_job(work_id: str) -> None:
    """Take a job in from a file with many photos."""
    perform(UUID(work_id), lambda actor, work, tell: take_in(actor, bytes(work.given), tell))
