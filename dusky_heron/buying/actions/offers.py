"""Suppliers and their offers."""

from collections import defaultdict
from typing import Any
from uuid import UUID

from django.conf import settings
from django.utils import timezone

from dusky_heron.buying.models import Offer, Supplier
from dusky_heron.buying.prices import Silent, ask_prices
from dusky_heron.buying.queries import show_offer
from dusky_heron.buying.schemas import OfferIn, OfferOut, PricesOut, SupplierEdit, SupplierIn, SupplierOut, breaks_of
from dusky_heron.core.errors import InputError
from dusky_heron.longwork.progress import Tell, nobody
from dusky_heron.record.actions import action, append, save_edited
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.errors import NotFound
from dusky_heron.stock.queries import all_parts, one_part


@action(Permission.DECIDE)
def add_supplier(actor: Actor, data: SupplierIn) -> SupplierOut:
    """Add a supplier."""
    supplier = Supplier.objects.create(workshop_id=actor.workshop_id, **data.model_dump())
    append(actor, actor.workshop_id, "supplier added", data.model_dump(mode="json"))
    return SupplierOut.from_row(supplier)


@action(Permission.DECIDE)
def edit_supplier(actor: Actor, supplier_id: UUID, data: SupplierEdit) -> SupplierOut:
    """Change a supplier."""
    supplier = Supplier.objects.select_for_update().filter(id=supplier_id, workshop_id=actor.workshop_id).first()
    if supplier is None:
        raise NotFound
    save_edited(supplier, data.version, data.model_dump(exclude={"version"}), SupplierOut.from_row)
    append(actor, actor.workshop_id, "supplier changed", data.model_dump(mode="json", exclude={"version"}))
    return SupplierOut.from_row(supplier)


@action(Permission.DECIDE)
def put_offer(actor: Actor, data: OfferIn) -> OfferOut:
    """Write down what a supplier asks for a part, instead of what it asked before."""
    supplier = _supplier(actor, data.supplier_id)
    one_part(actor, data.part_id)
    offer, _ = Offer.objects.update_or_create(supplier=supplier, part_id=data.part_id, defaults=_asked(data))
    body = data.model_dump(mode="json", exclude={"supplier_id", "part_id"})
    append(actor, actor.workshop_id, "offer written down", {"supplier": supplier.name, "part": offer.part.marking, **body})
    return show_offer(offer)


@action(Permission.DECIDE)
def put_offers(actor: Actor, offered: list[OfferIn]) -> PricesOut:
    """Write down a price list of parts that had no price from these suppliers."""
    suppliers = {supplier_id: _supplier(actor, supplier_id) for supplier_id in {data.supplier_id for data in offered}}
    if not all_parts(actor, {data.part_id for data in offered}):
        raise NotFound
    Offer.objects.bulk_create(Offer(supplier=suppliers[d.supplier_id], part_id=d.part_id, **_asked(d)) for d in offered)
    names = sorted(supplier.name for supplier in suppliers.values())
    append(actor, actor.workshop_id, "price list written down", {"suppliers": names, "offers": len(offered)})
    return PricesOut(renewed=len(offered), silent=[])


def _supplier(actor: Actor, supplier_id: UUID) -> Supplier:
    supplier = Supplier.objects.filter(id=supplier_id, workshop_id=actor.workshop_id).first()
    if supplier is None:
        raise InputError("supplier_id", "Choose a supplier of the list.")
    return supplier


def _asked(data: OfferIn) -> dict[str, Any]:
    prices = breaks_of(data.prices)
    return {"code": data.code, "breaks": prices, "pack": data.pack, "available": data.available, "at": timezone.now()}


@action(Permission.WORK)
def renew_prices(actor: Actor, tell: Tell = nobody) -> PricesOut:
    """Ask the price service for every offer with a code; a supplier that gives none keeps its old prices, and says so."""
    found = Offer.objects.filter(supplier__workshop_id=actor.workshop_id).exclude(supplier__service_code="").exclude(code="")
    by_supplier: dict[Supplier, list[Offer]] = defaultdict(list)
    for offer in found.select_related("supplier").select_for_update(of=("self",)):
        by_supplier[offer.supplier].append(offer)
    renewed, silent = 0, []
    for number, (supplier, offers) in enumerate(by_supplier.items()):
        tell(number, len(by_supplier))
        by_code = {offer.code: offer for offer in offers}
        try:
            quotes = ask_prices(settings.PRICE_SERVICE_URL, supplier.service_code, list(by_code))
        except Silent as why:
            silent.append(f"{supplier.name} {why}: its old prices stand.")
            continue
        told = [(by_code[quote.code], quote) for quote in quotes if quote.code in by_code]
        for offer, quote in told:
            offer.breaks = [(start, f"{each:.2f}") for start, each in sorted(quote.breaks)]
            offer.pack, offer.available, offer.at = quote.pack, quote.available, timezone.now()
        Offer.objects.bulk_update([offer for offer, _ in told], ["breaks", "pack", "available", "at"], batch_size=500)
        renewed += len(told)
    tell(len(by_supplier), len(by_supplier))
    append(actor, actor.workshop_id, "prices renewed", {"offers": renewed, "silent": silent})
    return PricesOut(renewed=renewed, silent=silent)
