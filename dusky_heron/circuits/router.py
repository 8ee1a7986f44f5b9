"""The dropper bench and the supply bench over HTTP."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Query, Router

from dusky_heron.circuits import queries
from dusky_heron.circuits.schemas import DropperIn, DropperOut, DropperStart, SupplyIn, SupplyOut
from dusky_heron.workshops.requests import actor_of

router = Router(tags=["circuits"])


@router.get("dropper", response=DropperOut)
def dropper(request: HttpRequest, data: Query[DropperIn]) -> DropperOut:  # noqa: ARG001 - signed in by the API
    """What a dropper as typed gives and loses, and what is seen as its capacitance falls."""
    return queries.dropper(data)


@router.get("positions/{position_id}/dropper", response=DropperStart)
def start(request: HttpRequest, position_id: UUID) -> DropperStart:
    """The bench with the values of a position in it."""
    return queries.start(actor_of(request), position_id)


@router.get("supply", response=SupplyOut)
def supply(request: HttpRequest, data: Query[SupplyIn]) -> SupplyOut:  # noqa: ARG001 - signed in by the API
    """What a transformer-fed supply gives, and whether its reservoir may grow."""
    return queries.supply(data)
