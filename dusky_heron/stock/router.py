"""The drawer over HTTP."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from dusky_heron.record.schemas import Line
from dusky_heron.stock import actions, queries
from dusky_heron.stock.schemas import PartEdit, PartIn, PartOut
from dusky_heron.workshops.requests import actor_of, key_of

router = Router(tags=["stock"])


@router.get("parts", response=list[PartOut])
def list_parts(request: HttpRequest, words: Line = "") -> list[PartOut]:
    """The drawer, all of it or what holds every word."""
    return queries.parts(actor_of(request), words)


@router.post("parts", response=PartOut)
def add_part(request: HttpRequest, data: PartIn) -> dict[str, Any]:
    """Add a part."""
    return actions.add_part(actor_of(request), data, **key_of(request))


@router.put("parts/{part_id}", response=PartOut)
def edit_part(request: HttpRequest, part_id: UUID, data: PartEdit) -> dict[str, Any]:
    """Change a part."""
    return actions.edit_part(actor_of(request), part_id, data, **key_of(request))
