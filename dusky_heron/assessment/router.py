"""Readings and verdicts over HTTP."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from dusky_heron.assessment import actions, queries
from dusky_heron.assessment.schemas import AssessmentOut, ReadingIn, SeenIn
from dusky_heron.workshops.requests import actor_of, key_of

router = Router(tags=["assessment"])


@router.get("positions/{position_id}/assessment", response=AssessmentOut)
def assessment(request: HttpRequest, position_id: UUID) -> AssessmentOut:
    """Evidence and verdict of a position."""
    return queries.assessment(actor_of(request), position_id)


@router.post("positions/{position_id}/readings", response=AssessmentOut)
def enter_reading(request: HttpRequest, position_id: UUID, data: ReadingIn) -> dict[str, Any]:
    """Note a reading, and judge."""
    return actions.enter_reading(actor_of(request), position_id, data, **key_of(request))


@router.post("positions/{position_id}/signs", response=AssessmentOut)
def note_sign(request: HttpRequest, position_id: UUID, data: SeenIn) -> dict[str, Any]:
    """Note a sign, and judge."""
    return actions.note_sign(actor_of(request), position_id, data, **key_of(request))


@router.post("positions/{position_id}/verdict", response=AssessmentOut)
def record_verdict(request: HttpRequest, position_id: UUID) -> dict[str, Any]:
    """Record the verdict as it stands now."""
    return actions.record_verdict(actor_of(request), position_id, **key_of(request))
