"""Jobs that travel, from outside."""

from dusky_heron.jobs.schemas import JobOut
from dusky_heron.longwork.schemas import WorkOut


class JobWork(WorkOut):
    """A job's file in the worker's hands; its answer is the job."""

    answer: JobOut | None
