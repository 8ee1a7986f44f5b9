"""Reading what is wanted, offered and ordered, and the cheapest basket of it."""

import datetime
from collections import Counter, defaultdict
from collections.abc import Collection, Iterable
from decimal import Decimal
from uuid import UUID

from django.db.models import Case, F, Sum, When
from django.db.models.functions import Coalesce
from django.utils import timezone

from dusky_heron.buying.basket import Basket, Needed, Offered, Shop, cheapest_kept
from dusky_heron.buying.models import Offer, Ordered, Supplier, Want
from dusky_heron.buying.schemas import (
    BasketLine,
    BasketOut,
    ListOut,
    OfferOut,
    OrderedOut,
    ParcelOut,
    SupplierOut,
    WantOut,
)
from dusky_heron.record.actor import Actor
from dusky_heron.replacement.queries import acceptable
from dusky_heron.stock.queries import one_part

BASKET_S, APART_S = 4.0, 1.0
MOST_FILLERS = 40  # of a supplier, the cheapest
STALE_HOURS, OLD_DAYS = 24, 7
CENT = Decimal("0.01")


def needed_dates(actor: Actor) -> list[tuple[str, datetime.date, str]]:
    """What is needed by a day and has not come yet: an id, the day, and what it is. One statement."""
    wanted = Want.objects.select_related("part").filter(workshop_id=actor.workshop_id, dropped=False, needed_by__isnull=False)
    return [(str(row.id), row.needed_by, f"Needed: {row.quantity} × {row.says}") for row in wanted if row.needed_by]


def suppliers(actor: Actor) -> list[SupplierOut]:
    """The workshop's suppliers. One statement."""
    return [SupplierOut.from_row(row) for row in Supplier.objects.filter(workshop_id=actor.workshop_id)]


def offers(actor: Actor, part_id: UUID) -> list[OfferOut]:
    """What a part is offered for, by supplier. Two statements."""
    one_part(actor, part_id)
    found = _offers(actor).filter(part_id=part_id).order_by("supplier__name", "id")
    return [show_offer(row) for row in found]


def show_offer(row: Offer) -> OfferOut:
    """An offer as the API shows it."""
    return OfferOut(
        id=row.id,
        version=row.version,
        supplier_id=row.supplier_id,
        part_id=row.part_id,
        supplier_name=row.supplier.name,
        marking=row.part.marking,
        code=row.code,
        prices=", ".join(f"{start}: {each}" for start, each in row.breaks),
        pack=row.pack,
        available=row.available,
        at=row.at,
        stale=staleness(row.at),
    )


def staleness(at: datetime.datetime) -> str:
    """How old a price is, once that matters."""
    age = timezone.now() - at
    if age < datetime.timedelta(hours=STALE_HOURS):
        return ""
    says = f"price of {timezone.localdate(at):%-d %B}"
    return f"{says}: ask again" if age > datetime.timedelta(days=OLD_DAYS) else says


def shopping_list(actor: Actor) -> ListOut:
    """All of it. Five statements."""
    wants, on_the_way = _open_wants(actor), list(_orders(actor).filter(closed=False))
    return ListOut(
        wants=[show_want(want) for want in wants],
        ordered=[show_ordered(row) for row in on_the_way],
        basket=show_basket(wants, *_market(actor, wants)),
    )


def basket_of(actor: Actor) -> tuple[list[Want], dict[str, Offer], dict[str, Supplier], Basket]:
    """The cheapest basket of all that is still to be ordered. Four statements."""
    wants = _open_wants(actor)
    by_offer, by_supplier = _market(actor, wants)
    return wants, by_offer, by_supplier, _cheapest(wants, by_offer.values(), by_supplier.values(), BASKET_S)


def _open_wants(actor: Actor) -> list[Want]:
    """What is on the list and not ordered whole, with how many are `left`."""
    found = Want.objects.filter(workshop_id=actor.workshop_id, dropped=False).select_related("part", "position__job")
    on_the_way = Case(When(orders__closed=False, then=F("orders__quantity")), default=F("orders__received"))
    ordered = Coalesce(Sum(on_the_way), 0)  # of a closed order only what came
    return list(found.annotate(left=F("quantity") - ordered).filter(left__gt=0).order_by("at", "id"))


def _market(actor: Actor, wants: Iterable[Want]) -> tuple[dict[str, Offer], dict[str, Supplier]]:
    """The offers that may serve wants, or fill a minimum order, and every supplier, by id."""
    by_id = {row.id: row for row in Supplier.objects.filter(workshop_id=actor.workshop_id)}
    taken: list[UUID] = []
    if wants := list(wants):
        every = Offer.objects.filter(supplier_id__in=by_id).values_list("id", "part_id", "supplier_id", "breaks")
        _match(actor, wants, {part_id for _, part_id, _, _ in every})
        parts, fillers = {part for want in wants for part in _parts_of(want)}, Counter[UUID]()
        for key, part_id, supplier_id, _ in sorted(every, key=lambda row: (cents(row[3][0][1]), str(row[0]))):
            if str(part_id) in parts:
                taken.append(key)
            elif by_id[supplier_id].minimum_order and fillers[supplier_id] < MOST_FILLERS:
                fillers[supplier_id] += 1
                taken.append(key)
    offered = _offers(actor).in_bulk(taken) if taken else {}
    return {str(key): offered[key] for key in taken}, {str(key): row for key, row in by_id.items()}


def _match(actor: Actor, wants: Iterable[Want], offered: Collection[UUID]) -> None:
    """Give each wanted specification the offered parts that meet it, by what its place demands."""
    for want in wants:
        if want.part_id is None and want.position_id:
            want.alternates = acceptable(actor, want.position_id, offered)


def _offers(actor: Actor):  # type: ignore[no-untyped-def]
    return Offer.objects.filter(supplier__workshop_id=actor.workshop_id).select_related("supplier", "part")


def _orders(actor: Actor):  # type: ignore[no-untyped-def]
    return Ordered.objects.filter(workshop_id=actor.workshop_id).select_related("part", "supplier", "want__position__job")


def _parts_of(want: Want) -> tuple[str, ...]:
    return tuple(dict.fromkeys((*([str(want.part_id)] if want.part_id else []), *want.alternates)))


def _cheapest(wants: Iterable[Want], offers: Iterable[Offer], suppliers: Iterable[Supplier], time_s: float) -> Basket:
    today = timezone.localdate()
    return cheapest_kept(
        tuple(Needed(str(w.id), w.left, _parts_of(w), _within(w, today)) for w in wants),  # type: ignore[attr-defined]
        tuple(
            Offered(
                str(o.id), str(o.part_id), str(o.supplier_id), tuple((n, cents(each)) for n, each in o.breaks), o.pack, o.available
            )
            for o in offers
        ),
        tuple(Shop(str(s.id), cents(s.postage), cents(s.minimum_order), s.days) for s in suppliers),
        time_s,
    )


def _within(want: Want, today: datetime.date) -> int | None:
    """Days there are; what is late already is bought as if there were no date."""
    return (want.needed_by - today).days if want.needed_by and want.needed_by >= today else None


def cents(amount: Decimal | str) -> int:
    """An amount in cents."""
    return int((Decimal(amount) * 100).to_integral_value())


def money(cents_: float) -> Decimal:
    """Cents as an amount."""
    return (Decimal(round(cents_)) / 100).quantize(CENT)


def show_basket(wants: list[Want], by_offer: dict[str, Offer], by_supplier: dict[str, Supplier]) -> BasketOut:
    """The cheapest basket, beside buying for each job alone and at the counter."""
    best = _cheapest(wants, by_offer.values(), by_supplier.values(), BASKET_S)
    by_job: dict[object, list[Want]] = defaultdict(list)
    for want in wants:
        by_job[want.position.job_id if want.position else None].append(want)
    apart = [_cheapest(group, by_offer.values(), by_supplier.values(), APART_S) for group in by_job.values()]
    at_counter = [s for s in by_supplier.values() if s.counter]
    near = _cheapest(wants, by_offer.values(), at_counter, APART_S) if at_counter else None
    names = {str(want.id): _for(want) for want in wants}
    parts = {str(want.id): want.says for want in wants}
    proved = best.gap == 0.0
    return BasketOut(
        parcels=[
            show_parcel(supplier, best, by_offer, names) for supplier in by_supplier.values() if str(supplier.id) in best.postage_c
        ],
        total=money(best.total_c),
        proved=proved,
        off_by=Decimal(0) if proved or best.total_c == 0 else money(best.total_c * min(best.gap, 1.0)),
        missing=[f"{number} × {parts[want_id]} for {names[want_id]}" for want_id, number in best.missing],
        apart=money(sum(one.total_c for one in apart)) if wants and lacks([best]) == lacks(apart) else None,
        counter=money(near.total_c) if near and near.lines else None,
        counter_lacks=lacks([near]) if near else 0,
    )


def lacks(baskets: Iterable[Basket]) -> int:
    """How many units nobody offers in time."""
    return sum(number for one in baskets for _, number in one.missing)


def show_parcel(supplier: Supplier, basket: Basket, by_offer: dict[str, Offer], names: dict[str, str]) -> ParcelOut:
    """What a basket takes from one supplier."""
    lines = [line for line in basket.lines if line.offer.supplier == str(supplier.id)]
    goods = sum(line.cost_c for line in lines)
    return ParcelOut(
        supplier_id=supplier.id,
        name=supplier.name,
        days=supplier.days,
        lines=[
            BasketLine(
                marking=(offer := by_offer[line.offer.offer_id]).part.marking,
                code=offer.code,
                units=line.units,
                each=money(line.each_c),
                cost=money(line.cost_c),
                serves=_serves(line.units, line.serves, names),
                stale=staleness(offer.at),
            )
            for line in lines
        ],
        goods=money(goods),
        postage=supplier.postage,
        total=money(goods) + supplier.postage,
    )


def _serves(units: int, serves: tuple[tuple[str, int], ...], names: dict[str, str]) -> str:
    said = [f"{number} for {names[want_id]}" for want_id, number in serves]
    spare = units - sum(number for _, number in serves)
    return ", ".join([*said, f"{spare} to spare"] if spare else said)


def _for(want: Want | None) -> str:
    """What a want is for, in a few words."""
    if want is None or want.position is None:
        return "the drawer"
    return f"job {want.position.job.number} {want.position.name}"


def show_want(want: Want) -> WantOut:
    """A line of the list as the API shows it."""
    job = want.position.job if want.position else None
    return WantOut(
        id=want.id,
        version=want.version,
        part_id=want.part_id,
        marking=want.says,
        specification=[] if want.part_id else want.specification,
        quantity=want.quantity,
        left=getattr(want, "left", want.quantity),
        job_id=job.id if job else None,
        job_number=job.number if job else None,
        position_name=want.position.name if want.position else "",
        needed_by=want.needed_by,
        late=bool(want.needed_by and want.needed_by < timezone.localdate()),
        alternates=len(_parts_of(want)) - bool(want.part_id),
        by_name=want.by_name,
    )


def show_ordered(row: Ordered) -> OrderedOut:
    """Units on their way as the API shows them."""
    position = row.want.position if row.want else None
    return OrderedOut(
        id=row.id,
        marking=row.part.marking,
        quantity=row.quantity,
        received=row.received,
        each=row.each,
        supplier_name=row.supplier.name,
        due=row.due,
        overdue=row.due < timezone.localdate(),
        job_number=position.job.number if position else None,
        position_name=position.name if position else "",
    )


def waiting_for(position_ids: Collection[UUID]) -> dict[UUID, str]:
    """What each position waits for that is listed or ordered, of positions the asker may see. One statement."""
    found: dict[UUID, str] = {}
    wants = Want.objects.filter(position_id__in=position_ids, dropped=False).order_by("at")
    for position_id, printed, supplier, due, closed in wants.values_list(
        "position_id", "part__marking", "orders__supplier__name", "orders__due", "orders__closed"
    ):
        marking = printed or "a part to its specification"
        if closed:
            found.pop(position_id, None)
        elif supplier:
            found[position_id] = f"{marking} from {supplier}, due {due:%-d %B}"
        else:
            found[position_id] = f"{marking}, on the shopping list"
    return found
