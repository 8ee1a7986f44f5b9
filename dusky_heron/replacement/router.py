"""Candidates and choices over HTTP."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from dusky_heron.replacement import actions, queries
from dusky_heron.replacement.schemas import CandidatesOut, ChoiceIn
from dusky_heron.workshops.requests import actor_of, key_of

router = Router(tags=["replacement"])


@router.get("positions/{position_id}/candidates", response=CandidatesOut)
def candidates(request: HttpRequest, position_id: UUID) -> CandidatesOut:
    """What may take the place, and what may not."""
    return queries.candidates(actor_of(request), position_id)


@router.post("positions/{position_id}/choice", response=CandidatesOut)
def choose(request: HttpRequest, position_id: UUID, data: ChoiceIn) -> dict[str, Any]:
    """Choose a part."""
    return actions.choose(actor_of(request), position_id, data, **key_of(request))
