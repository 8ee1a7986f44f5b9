"""Instruments over HTTP."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from dusky_heron.instruments import actions, queries
from dusky_heron.instruments.schemas import MeterEdit, MeterIn, MeterOut, ResistorEdit, ResistorIn, ResistorOut
from dusky_heron.workshops.requests import actor_of

router = Router(tags=["instruments"])


@router.get("meters", response=list[MeterOut])
def list_meters(request: HttpRequest) -> list[MeterOut]:
    """The workshop's meters."""
    return queries.meters(actor_of(request))


@router.post("meters", response=MeterOut)
def add_meter(request: HttpRequest, data: MeterIn) -> MeterOut:
    """Add a meter."""
    return actions.add_meter(actor_of(request), data)


@router.put("meters/{meter_id}", response=MeterOut)
def edit_meter(request: HttpRequest, meter_id: UUID, data: MeterEdit) -> MeterOut:
    """Change a meter."""
    return actions.edit_meter(actor_of(request), meter_id, data)


@router.get("resistors", response=list[ResistorOut])
def list_resistors(request: HttpRequest) -> list[ResistorOut]:
    """The workshop's discharge resistors."""
    return queries.resistors(actor_of(request))


@router.post("resistors", response=ResistorOut)
def add_resistor(request: HttpRequest, data: ResistorIn) -> ResistorOut:
    """Add a discharge resistor."""
    return actions.add_resistor(actor_of(request), data)


@router.put("resistors/{resistor_id}", response=ResistorOut)
def edit_resistor(request: HttpRequest, resistor_id: UUID, data: ResistorEdit) -> ResistorOut:
    """Change a discharge resistor."""
    return actions.edit_resistor(actor_of(request), resistor_id, data)
