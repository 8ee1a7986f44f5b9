"""Jobs and positions over HTTP."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from dusky_heron.jobs import actions, queries
from dusky_heron.jobs.schemas import (
    HandedOut,
    HandOverIn,
    JobEdit,
    JobIn,
    JobOut,
    PositionEdit,
    PositionIn,
    PositionOut,
    SurroundingsEdit,
    VocabularyOut,
)
from dusky_heron.record import queries as record
from dusky_heron.record import verifying
from dusky_heron.record.schemas import BeatOut, EntryOut, VerifiedOut
from dusky_heron.workshops.requests import actor_of, signing

router = Router(tags=["jobs"])


@router.get("vocabulary", response=VocabularyOut)
def vocabulary(request: HttpRequest) -> VocabularyOut:
    """What forms offer to choose from, and the workshop's supply."""
    return queries.vocabulary(actor_of(request))


@router.post("jobs", response=JobOut)
def open_job(request: HttpRequest, data: JobIn) -> JobOut:
    """Take in a piece of equipment."""
    return actions.open_job(actor_of(request), data)


@router.put("jobs/{job_id}", response=JobOut)
def edit_job(request: HttpRequest, job_id: UUID, data: JobEdit) -> JobOut:
    """Change the intake of a job."""
    return actions.edit_job(actor_of(request), job_id, data)


@router.post("jobs/{job_id}/hand-over", response=HandedOut)
def hand_over(request: HttpRequest, job_id: UUID, data: HandOverIn) -> HandedOut:
    """Leave a word for whoever goes on with a job."""
    return actions.hand_over(actor_of(request), job_id, data)


@router.post("jobs/{job_id}/accept", response=JobOut)
def accept_file(request: HttpRequest, job_id: UUID) -> JobOut:
    """Accept what came with a job from a file; leads only."""
    with signing(request) as actor:
        return actions.accept_file(actor, job_id)


@router.post("jobs/{job_id}/positions", response=PositionOut)
def add_position(request: HttpRequest, job_id: UUID, data: PositionIn) -> PositionOut:
    """Add a position to a job."""
    return actions.add_position(actor_of(request), job_id, data)


@router.put("positions/{position_id}", response=PositionOut)
def edit_position(request: HttpRequest, position_id: UUID, data: PositionEdit) -> PositionOut:
    """Change a position."""
    return actions.edit_position(actor_of(request), position_id, data)


@router.put("positions/{position_id}/surroundings", response=PositionOut)
def set_surroundings(request: HttpRequest, position_id: UUID, data: SurroundingsEdit) -> PositionOut:
    """Note the circuit around a position."""
    return actions.set_surroundings(actor_of(request), position_id, data)


@router.get("jobs/{job_id}/record", response=list[EntryOut])
def job_record(request: HttpRequest, job_id: UUID) -> list[EntryOut]:
    """The entries of a job, oldest first."""
    queries.job(actor_of(request), job_id)
    return record.entries_of(actor_of(request), job_id)


@router.get("jobs/{job_id}/beat", response=BeatOut)
def job_beat(request: HttpRequest, job_id: UUID) -> BeatOut:
    """How many entries a job has now: whoever looks at it asks often, and reads again when somebody else wrote."""
    queries.job(actor_of(request), job_id)
    return record.beat(actor_of(request), job_id)


@router.get("jobs/{job_id}/record/verified", response=VerifiedOut)
def job_record_verified(request: HttpRequest, job_id: UUID) -> VerifiedOut:
    """Whether the chain of a job is whole, recomputed now."""
    queries.job(actor_of(request), job_id)
    return VerifiedOut.from_row(verifying.verify(actor_of(request), job_id))
