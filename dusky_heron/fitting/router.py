"""The fitting list over HTTP."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from dusky_heron.fitting import actions, queries
from dusky_heron.fitting.schemas import BesideIn, BesideListOut, FittingOut, TickIn
from dusky_heron.workshops.requests import actor_of

router = Router(tags=["fitting"])


@router.get("positions/{position_id}/fitting", response=FittingOut)
def see_list(request: HttpRequest, position_id: UUID) -> FittingOut:
    """What to do while the chosen part is fitted."""
    return queries.fitting(actor_of(request), position_id).shown


@router.post("positions/{position_id}/fitting", response=FittingOut)
def tick_line(request: HttpRequest, position_id: UUID, data: TickIn) -> FittingOut:
    """Tick a line, or take a tick back."""
    return actions.tick(actor_of(request), position_id, data)


@router.get("jobs/{job_id}/beside", response=BesideListOut)
def see_beside(request: HttpRequest, job_id: UUID) -> BesideListOut:
    """What else was checked or replaced."""
    return queries.beside(actor_of(request), job_id)


@router.post("jobs/{job_id}/beside", response=BesideListOut)
def note_beside(request: HttpRequest, job_id: UUID, data: BesideIn) -> BesideListOut:
    """Note something that is no capacitor as checked or replaced."""
    return actions.note_beside(actor_of(request), job_id, data)
