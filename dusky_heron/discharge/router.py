"""The reading box and the discharge of a position over HTTP."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from dusky_heron.discharge import actions, queries
from dusky_heron.discharge.schemas import ChargeIn, ChargeItem, PlanOut, ReadOut
from dusky_heron.record.schemas import Printed
from dusky_heron.workshops.requests import actor_of, key_of

router = Router(tags=["discharge"])


@router.get("reading-box", response=ReadOut)
def read_box(request: HttpRequest, text: Printed) -> ReadOut:
    """What a marking is, what it can do, how fast it empties, and which classes may take its place."""
    return queries.read_box(actor_of(request), text)


@router.get("positions/{position_id}/discharge", response=PlanOut)
def plan(request: HttpRequest, position_id: UUID) -> PlanOut:
    """How to empty a position."""
    return queries.plan(actor_of(request), position_id)


@router.post("positions/{position_id}/charge", response=ChargeItem)
def note_charge(request: HttpRequest, position_id: UUID, data: ChargeIn) -> dict[str, Any]:
    """Note what is on a position now."""
    return actions.note_charge(actor_of(request), position_id, data, **key_of(request))
