"""Buying over HTTP."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router, Status

from dusky_heron.buying import actions, queries
from dusky_heron.buying.schemas import (
    CameIn,
    DropIn,
    ListOut,
    OfferIn,
    OfferOut,
    OrderIn,
    OrderSpecifiedIn,
    PricesOut,
    ReceiveIn,
    SupplierEdit,
    SupplierIn,
    SupplierOut,
    WantIn,
)
from dusky_heron.longwork.schemas import WorkOut
from dusky_heron.replacement.schemas import CandidatesOut
from dusky_heron.workshops.requests import actor_of

router = Router(tags=["buying"])


class PricesWork(WorkOut):
    """The price service in the worker's hands."""

    answer: PricesOut | None


@router.get("suppliers", response=list[SupplierOut])
def list_suppliers(request: HttpRequest) -> list[SupplierOut]:
    """The workshop's suppliers."""
    return queries.suppliers(actor_of(request))


@router.post("suppliers", response=SupplierOut)
def add_supplier(request: HttpRequest, data: SupplierIn) -> SupplierOut:
    """Add a supplier."""
    return actions.add_supplier(actor_of(request), data)


@router.put("suppliers/{supplier_id}", response=SupplierOut)
def edit_supplier(request: HttpRequest, supplier_id: UUID, data: SupplierEdit) -> SupplierOut:
    """Change a supplier."""
    return actions.edit_supplier(actor_of(request), supplier_id, data)


@router.get("parts/{part_id}/offers", response=list[OfferOut])
def list_offers(request: HttpRequest, part_id: UUID) -> list[OfferOut]:
    """What a part is offered for."""
    return queries.offers(actor_of(request), part_id)


@router.post("offers", response=OfferOut)
def put_offer(request: HttpRequest, data: OfferIn) -> OfferOut:
    """Write down what a supplier asks for a part."""
    return actions.put_offer(actor_of(request), data)


@router.post("prices", response={202: PricesWork})
def renew_prices(request: HttpRequest) -> Status[WorkOut]:
    """Ask the price service."""
    return Status(202, actions.ask_for_prices(actor_of(request)))


@router.get("shopping", response=ListOut)
def shopping(request: HttpRequest) -> ListOut:
    """The shopping list, what is on its way, and the cheapest basket."""
    return queries.shopping_list(actor_of(request))


@router.post("shopping", response=ListOut)
def want(request: HttpRequest, data: WantIn) -> ListOut:
    """Put a part on the list."""
    return actions.want_part(actor_of(request), data)


@router.post("shopping/{want_id}/drop", response=ListOut)
def drop(request: HttpRequest, want_id: UUID, data: DropIn) -> ListOut:
    """Take it off."""
    return actions.drop_want(actor_of(request), want_id, data)


@router.post("shopping/{want_id}/came", response=ListOut)
def came(request: HttpRequest, want_id: UUID, data: CameIn) -> ListOut:
    """What came for a specification."""
    return actions.came(actor_of(request), want_id, data)


@router.post("positions/{position_id}/order", response=CandidatesOut)
def order_specified(request: HttpRequest, position_id: UUID, data: OrderSpecifiedIn) -> CandidatesOut:
    """Order what a place asks for, to its specification."""
    return actions.order_specified(actor_of(request), position_id, data)


@router.post("orders", response=ListOut)
def order(request: HttpRequest, data: OrderIn) -> ListOut:
    """Note a parcel as ordered."""
    return actions.order_parcel(actor_of(request), data)


@router.post("orders/{ordered_id}/receive", response=ListOut)
def receive(request: HttpRequest, ordered_id: UUID, data: ReceiveIn) -> ListOut:
    """Note what came."""
    return actions.receive(actor_of(request), ordered_id, data)
