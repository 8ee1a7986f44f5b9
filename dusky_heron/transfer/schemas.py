"""Jobs that travel, from outside."""

import datetime
from typing import Any

from dusky_heron.jobs.schemas import JobOut
from dusky_heron.longwork.schemas import WorkOut
from dusky_heron.presented import Answer


class JobWork(WorkOut):
    """A job's file in the worker's hands; its answer is the job."""

    answer: JobOut | None


class JobKept(Answer):
    """A job as a device keeps it: rows by their models, and how long its record was, with the digest that stands at its end."""

    rows: list[dict[str, Any]]
    entries: int
    head: str


class WorkshopKept(Answer):
    """What a workshop works with as a device keeps it: rows by their models, and the heads of the jobs in hand.

    `at` and `time_zone` are of the server's clock, whose time of day counts.
    """

    rules: str
    at: datetime.datetime
    time_zone: str
    rows: list[dict[str, Any]]
    jobs: dict[str, str]
