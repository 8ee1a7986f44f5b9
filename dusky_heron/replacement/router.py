"""Candidates and choices over HTTP."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import File, Query, Router
from ninja.files import UploadedFile

from dusky_heron.codes import LabelOut
from dusky_heron.replacement import actions, queries
from dusky_heron.replacement.actions.bills import preview_bill as preview
from dusky_heron.replacement.actions.bills import take_bill as take
from dusky_heron.replacement.schemas import (
    BillOut,
    CandidatesOut,
    ChoiceIn,
    CombinationOut,
    OverrideIn,
    QuestionIn,
    QuestionOut,
    WhyOut,
)
from dusky_heron.sheets import MOST_BYTES
from dusky_heron.workshops.requests import actor_of, signing

router = Router(tags=["replacement"])


@router.get("positions/{position_id}/candidates", response=CandidatesOut)
def candidates(request: HttpRequest, position_id: UUID, start: int = 0, words: str = "") -> CandidatesOut:
    """What may take the place, from a place in the list on, and what may not."""
    return queries.candidates(actor_of(request), position_id, max(0, start), words)


@router.get("positions/{position_id}/together", response=list[CombinationOut])
def together(request: HttpRequest, position_id: UUID) -> list[CombinationOut]:
    """Parts that take the place together."""
    return queries.together(actor_of(request), position_id)


@router.get("positions/{position_id}/why/{part_id}", response=WhyOut)
def why(request: HttpRequest, position_id: UUID, part_id: UUID) -> WhyOut:
    """Why this part, or why not."""
    return queries.why(actor_of(request), position_id, part_id)


@router.get("positions/{position_id}/label", response=LabelOut)
def bag_tag(request: HttpRequest, position_id: UUID) -> LabelOut:
    """A tag for the bag of the removed part."""
    return queries.bag_tag(actor_of(request), position_id, request.build_absolute_uri("/").rstrip("/"))


@router.get("jobs/{job_id}/bill.csv", response={200: None})
def bill(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """A job's bill of materials as a spreadsheet reads it."""
    answer = HttpResponse(queries.bill(actor_of(request), job_id), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="bill.csv"'
    return answer


@router.post("jobs/{job_id}/bill/preview", response=BillOut)
def preview_bill(request: HttpRequest, job_id: UUID, file: File[UploadedFile]) -> BillOut:
    """What a bill of materials would add and change; nothing is written."""
    return preview(actor_of(request), job_id, file.read(MOST_BYTES + 1))


@router.post("jobs/{job_id}/bill", response=BillOut)
def take_bill(request: HttpRequest, job_id: UUID, file: File[UploadedFile]) -> BillOut:
    """Take a bill of materials, all of it or nothing."""
    return take(actor_of(request), job_id, file.read(MOST_BYTES + 1))


@router.get("may-replace", response=QuestionOut)
def question(request: HttpRequest, data: Query[QuestionIn]) -> QuestionOut:  # noqa: ARG001 - signed in by the API
    """May this part replace that one, from two markings."""
    return queries.question(data)


@router.post("positions/{position_id}/override", response=CandidatesOut)
def override(request: HttpRequest, position_id: UUID, data: OverrideIn) -> CandidatesOut:
    """Override a demand, or ask for it again."""
    with signing(request) as actor:
        return actions.override(actor, position_id, data)


@router.post("positions/{position_id}/take-out", response=CandidatesOut)
def take_out(request: HttpRequest, position_id: UUID) -> CandidatesOut:
    """Take the chosen part out of the drawer."""
    return actions.take_out(actor_of(request), position_id)


@router.post("positions/{position_id}/choice", response=CandidatesOut)
def choose(request: HttpRequest, position_id: UUID, data: ChoiceIn) -> CandidatesOut:
    """Choose how the place is filled."""
    return actions.choose(actor_of(request), position_id, data)
