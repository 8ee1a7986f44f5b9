"""The dropper bench and the supply bench over HTTP."""

from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Query, Router

from dusky_heron.circuits import actions, queries, worked
from dusky_heron.circuits.schemas import (
    BenchesOut,
    BulkIn,
    BulkOut,
    DropperIn,
    DropperOut,
    DropperStart,
    FormingIn,
    FormingOut,
    JobWalkOut,
    MeasuredIn,
    RankedOut,
    StringShareIn,
    StringShareOut,
    SupplyIn,
    SupplyOut,
    WalkIn,
    WalkOut,
    WalkReadingIn,
)
from dusky_heron.workshops.requests import actor_of

router = Router(tags=["circuits"])


@router.get("dropper", response=DropperOut)
def dropper(request: HttpRequest, data: Query[DropperIn]) -> DropperOut:  # noqa: ARG001 - signed in by the API
    """What a dropper as typed gives and loses, and what is seen as its capacitance falls."""
    return worked.dropper(data)


@router.get("dropper/faults", response=RankedOut)
def ranked(request: HttpRequest, data: Query[MeasuredIn]) -> RankedOut:  # noqa: ARG001 - signed in by the API
    """Which fault of a dropper explains what was measured on it."""
    return worked.ranked(data)


@router.get("positions/{position_id}/benches", response=BenchesOut)
def benches(request: HttpRequest, position_id: UUID) -> BenchesOut:
    """The benches a position asks for, with its values in them."""
    return queries.benches(actor_of(request), position_id)


@router.get("positions/{position_id}/dropper", response=DropperStart)
def start(request: HttpRequest, position_id: UUID) -> DropperStart:
    """The bench with the values of a position in it."""
    return queries.start(actor_of(request), position_id, timezone.localdate())


@router.get("supply", response=SupplyOut)
def supply(request: HttpRequest, data: Query[SupplyIn]) -> SupplyOut:  # noqa: ARG001 - signed in by the API
    """What a transformer-fed supply gives, and whether its reservoir may grow."""
    return worked.supply(data)


@router.get("bulk", response=BulkOut)
def bulk(request: HttpRequest, data: Query[BulkIn]) -> BulkOut:  # noqa: ARG001 - signed in by the API
    """The bulk of a switching supply at lowest mains and full power."""
    return worked.bulk(data)


@router.get("string", response=StringShareOut)
def string(request: HttpRequest, data: Query[StringShareIn]) -> StringShareOut:  # noqa: ARG001 - signed in by the API
    """How capacitors in series share a voltage."""
    return worked.string(data)


@router.get("forming", response=FormingOut)
def forming(request: HttpRequest, data: Query[FormingIn]) -> FormingOut:  # noqa: ARG001 - signed in by the API
    """Re-forming an electrolytic: the plan, and what a log of a step says."""
    return worked.forming(data)


@router.post("positions/{position_id}/forming", response=FormingOut)
def log_forming(request: HttpRequest, position_id: UUID, data: FormingIn) -> FormingOut:
    """Put a step of re-forming on record."""
    return actions.log_forming(actor_of(request), position_id, data)


@router.get("walk", response=WalkOut)
def walk(request: HttpRequest, data: Query[WalkIn]) -> WalkOut:  # noqa: ARG001 - signed in by the API
    """The fault walk of a mains supply: what to measure next, and what is left."""
    return worked.walk(data)


@router.get("jobs/{job_id}/walk", response=JobWalkOut)
def job_walk(request: HttpRequest, job_id: UUID) -> JobWalkOut:
    """The fault walk of a job, as far as it stands on the record."""
    return queries.job_walk(actor_of(request), job_id)


@router.post("jobs/{job_id}/walk", response=JobWalkOut)
def log_walk(request: HttpRequest, job_id: UUID, data: WalkReadingIn) -> JobWalkOut:
    """Put one reading of the fault walk on record."""
    return actions.log_walk(actor_of(request), job_id, data)
