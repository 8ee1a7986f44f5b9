"""Correcting over HTTP."""

from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import Path, Router

from dusky_heron.correcting import actions
from dusky_heron.record.schemas import StrikeIn, StruckOut
from dusky_heron.workshops.requests import actor_of

router = Router(tags=["correcting"])


@router.post("jobs/{job_id}/record/{sequence}/struck", response=StruckOut)
def strike_line(
    request: HttpRequest, job_id: UUID, sequence: Annotated[int, Path(ge=1, le=2_000_000_000)], data: StrikeIn
) -> StruckOut:
    """Strike a line of a job's record: it stays readable, and decides nothing any more."""
    return actions.strike_line(actor_of(request), job_id, sequence, data)
