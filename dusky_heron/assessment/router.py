"""Readings and verdicts over HTTP."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Query, Router

from dusky_heron.assessment import actions, queries
from dusky_heron.assessment.schemas import (
    AssessmentOut,
    BatchChoice,
    BatchIn,
    BatchOut,
    BoardLineIn,
    BoardLineOut,
    BoardOut,
    CommonOut,
    EffectOut,
    ReadingIn,
    SeenIn,
    TouchOut,
)
from dusky_heron.record.schemas import Typed
from dusky_heron.workshops.requests import actor_of

router = Router(tags=["assessment"])


@router.get("positions/{position_id}/assessment", response=AssessmentOut)
def assessment(request: HttpRequest, position_id: UUID) -> AssessmentOut:
    """Evidence and verdict of a position."""
    return queries.assessment(actor_of(request), position_id)


@router.post("positions/{position_id}/readings", response=AssessmentOut)
def enter_reading(request: HttpRequest, position_id: UUID, data: ReadingIn) -> AssessmentOut:
    """Note a reading, and judge."""
    return actions.enter_reading(actor_of(request), position_id, data)


@router.post("positions/{position_id}/signs", response=AssessmentOut)
def note_sign(request: HttpRequest, position_id: UUID, data: SeenIn) -> AssessmentOut:
    """Note a sign, and judge."""
    return actions.note_sign(actor_of(request), position_id, data)


@router.post("positions/{position_id}/verdict", response=AssessmentOut)
def record_verdict(request: HttpRequest, position_id: UUID) -> AssessmentOut:
    """Record the verdict as it stands now."""
    return actions.record_verdict(actor_of(request), position_id)


@router.post("positions/{position_id}/verdict/kept", response=AssessmentOut)
def keep_verdict(request: HttpRequest, position_id: UUID) -> AssessmentOut:
    """Keep the recorded verdict though a judgement now would say otherwise."""
    return actions.keep_verdict(actor_of(request), position_id)


@router.get("positions/{position_id}/batch", response=BatchOut)
def batch(request: HttpRequest, position_id: UUID, data: Query[BatchIn]) -> BatchOut:
    """The rest of a set: only what failed, or every one."""
    return queries.batch(actor_of(request), position_id, data)


@router.post("positions/{position_id}/batch", response=BatchOut)
def decide_batch(request: HttpRequest, position_id: UUID, data: BatchChoice) -> BatchOut:
    """Decide about the rest of a set."""
    return actions.decide_batch(actor_of(request), position_id, data)


@router.get("jobs/{job_id}/board", response=BoardOut)
def board(request: HttpRequest, job_id: UUID) -> BoardOut:
    """Every position of a job at a glance, judged now."""
    return queries.board(actor_of(request), job_id)


@router.post("jobs/{job_id}/board", response=BoardLineOut)
def enter_line(request: HttpRequest, job_id: UUID, data: BoardLineIn) -> BoardLineOut:
    """Name a position and note what it reads."""
    return actions.enter_line(actor_of(request), job_id, data)


@router.get("effects/limit", response=EffectOut)
def effect_of_limit(request: HttpRequest, id: Typed, value: float) -> EffectOut:
    """Which verdicts a changed limit would change."""
    return queries.effect_of_limit(actor_of(request), id, value)


@router.get("effects/school", response=EffectOut)
def effect_of_school(request: HttpRequest, id: Typed, option: Typed) -> EffectOut:
    """Which verdicts another school would change."""
    return queries.effect_of_school(actor_of(request), id, option)


@router.get("jobs/{job_id}/touch-current", response=TouchOut)
def touch_current(request: HttpRequest, job_id: UUID) -> TouchOut:
    """Touch current of every Y part of a job together, with the earth lost."""
    return queries.touch_current(actor_of(request), job_id)


@router.get("common-terminal", response=CommonOut)
def common_terminal(request: HttpRequest, ab: Typed = "", bc: Typed = "", ac: Typed = "") -> CommonOut:  # noqa: ARG001 - signed in by the API
    """Which of three terminals is common, from the readings between them."""
    return queries.common_terminal({("a", "b"): ab, ("b", "c"): bc, ("a", "c"): ac})
