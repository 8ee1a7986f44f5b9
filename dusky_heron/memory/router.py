"""What was seen before over HTTP."""

from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import Query, Router

from dusky_heron.memory import queries, returning
from dusky_heron.memory.schemas import CameBackOut, FailuresOut, GroupBy, HitOut, SeenBeforeOut
from dusky_heron.record.schemas import Line
from dusky_heron.workshops.requests import actor_of

router = Router(tags=["memory"])


@router.get("jobs/{job_id}/seen-before", response=list[SeenBeforeOut])
def seen_before(request: HttpRequest, job_id: UUID) -> list[SeenBeforeOut]:
    """Earlier jobs on the same model."""
    return queries.seen_before(actor_of(request), job_id)


@router.get("jobs/{job_id}/came-back", response=list[CameBackOut])
def came_back(request: HttpRequest, job_id: UUID) -> list[CameBackOut]:
    """Earlier jobs on the same set."""
    return returning.came_back(actor_of(request), job_id)


@router.get("failures", response=list[FailuresOut])
def failures(request: HttpRequest, by: GroupBy = GroupBy.ROLE) -> list[FailuresOut]:
    """What failed, how many, at what age."""
    return queries.failures(actor_of(request), by)


@router.get("search", response=list[HitOut])
def search(request: HttpRequest, q: Annotated[Line, Query()]) -> list[HitOut]:
    """Entries that hold the words."""
    return queries.search(actor_of(request), q)
