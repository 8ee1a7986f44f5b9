"""Readings and verdicts over HTTP."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from dusky_heron.assessment import actions, queries
from dusky_heron.assessment.schemas import AssessmentOut, CommonOut, ReadingIn, SeenIn, TouchOut
from dusky_heron.record.schemas import Typed
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


@router.get("jobs/{job_id}/touch-current", response=TouchOut)
def touch_current(request: HttpRequest, job_id: UUID) -> TouchOut:
    """Touch current of every Y part of a job together, with the earth lost."""
    return queries.touch_current(actor_of(request), job_id)


@router.get("common-terminal", response=CommonOut)
def common_terminal(request: HttpRequest, ab: Typed, bc: Typed, ac: Typed) -> CommonOut:  # noqa: ARG001 - signed in by the API
    """Which of three terminals is common, from the readings between them."""
    return queries.common_terminal({("a", "b"): ab, ("b", "c"): bc, ("a", "c"): ac})
