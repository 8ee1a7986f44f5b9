"""Long work over HTTP."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from dusky_heron.longwork import actions, papers, queries
from dusky_heron.longwork.schemas import WorkOut
from dusky_heron.workshops.requests import actor_of

router = Router(tags=["long work"])


@router.get("work/{work_id}", response=WorkOut)
def see(request: HttpRequest, work_id: UUID) -> WorkOut:
    """How far it is, and what came of it."""
    return queries.work(actor_of(request), work_id)


@router.get("work/{work_id}/file", response={200: None})
def fetch(request: HttpRequest, work_id: UUID) -> HttpResponse:
    """The file it made, for a day."""
    found, content = papers.paper(actor_of(request), work_id)
    answer = HttpResponse(content, content_type=found.content_type)
    answer["Content-Disposition"] = f'attachment; filename="{found.name}"'
    return answer


@router.post("work/{work_id}/stop", response=WorkOut)
def stop(request: HttpRequest, work_id: UUID) -> WorkOut:
    """Stop it; nothing of it stays."""
    return actions.stop_work(actor_of(request), work_id)
