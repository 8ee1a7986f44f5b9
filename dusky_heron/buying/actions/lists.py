"""The shopping list, orders, and what has come."""

import datetime
from uuid import UUID

from django.utils import timezone

from dusky_heron.buying.basket import BoughtLine
from dusky_heron.buying.models import Ordered, Want
from dusky_heron.buying.queries import basket_of, money, shopping_list, show_parcel
from dusky_heron.buying.schemas import CameIn, DropIn, ListOut, OrderIn, OrderSpecifiedIn, ReceiveIn, WantIn
from dusky_heron.core.errors import InputError
from dusky_heron.core.selection.ways import Way
from dusky_heron.jobs.queries import core_position
from dusky_heron.record.actions import action, append
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.errors import NotFound, Stale
from dusky_heron.replacement.actions import fill
from dusky_heron.replacement.queries import candidates, why
from dusky_heron.replacement.schemas import CandidatesOut, ChoiceIn
from dusky_heron.stock.actions import add_part, locked_part, move
from dusky_heron.stock.models import Why
from dusky_heron.stock.queries import one_part
from dusky_heron.stock.schemas import PartIn

MOST_ALTERNATES = 8


@action(Permission.WORK)
def want_part(actor: Actor, data: WantIn) -> ListOut:
    """Put a part on the list; for a place, what else the drawer's rules accept there may be bought instead."""
    part, _ = one_part(actor, data.part_id)
    if part.doubts:
        raise InputError("part_id", f"Its marking is not settled: {part.doubts[0].asks} Settle it in the drawer first.")
    alternates: list[str] = []
    subject, place = actor.workshop_id, ""
    if data.position_id:
        shown, _, job = core_position(actor, data.position_id)
        subject, place = job.id, shown.name
        judged = why(actor, data.position_id, data.part_id)
        if not judged.allowed:
            raise InputError("part_id", judged.refusals[0].sentence)
        if not data.only_this:
            accepted = candidates(actor, data.position_id).accepted
            alternates = [str(c.part.id) for c in accepted if c.part.id != data.part_id][:MOST_ALTERNATES]
    Want.objects.create(
        workshop_id=actor.workshop_id,
        part_id=data.part_id,
        quantity=data.quantity,
        position_id=data.position_id,
        alternates=alternates,
        needed_by=data.needed_by,
        by_name=actor.name,
    )
    append(actor, subject, "put on the shopping list", {"part": part.marking, "quantity": data.quantity, "position": place})
    return shopping_list(actor)


@action(Permission.DECIDE)
def order_specified(actor: Actor, position_id: UUID, data: OrderSpecifiedIn) -> CandidatesOut:
    """Choose to order what a place asks for: its specification goes on the list."""
    shown, known, job = core_position(actor, position_id)
    asked = candidates(actor, position_id)
    if asked.question:
        raise InputError("position_id", asked.question)
    answer = fill(actor, position_id, ChoiceIn(way=Way.ORDERED))
    Want.objects.create(
        workshop_id=actor.workshop_id,
        specification=asked.specification,
        quantity=known.surroundings.count,
        position_id=position_id,
        needed_by=data.needed_by,
        by_name=actor.name,
    )
    body = {"specification": asked.specification, "quantity": known.surroundings.count, "position": shown.name}
    append(actor, job.id, "put on the shopping list", body)
    return answer


@action(Permission.DECIDE)
def came(actor: Actor, want_id: UUID, data: CameIn) -> ListOut:
    """Note what came for a specification: it goes into the drawer, if the place may take it."""
    want = Want.objects.select_for_update().filter(id=want_id, workshop_id=actor.workshop_id, dropped=False, part=None).first()
    if want is None or want.position is None:
        raise NotFound
    given = data.model_dump(exclude={"quantity"})
    shown = add_part(actor, PartIn.model_validate({**given, "quantity": 0}))
    refused = why(actor, want.position.id, shown.id).refusals
    if shown.doubts or refused:
        raise InputError("marking", shown.doubts[0].asks if shown.doubts else " ".join(one.sentence for one in refused))
    move(actor, locked_part(actor, shown.id), data.quantity, Why.BOUGHT, "to a specification")
    want.dropped = True
    want.version += 1
    want.save(update_fields=["dropped", "version"])
    body = {"part": shown.marking, "quantity": data.quantity, "lot": data.lot, "position": want.position.name}
    append(actor, want.position.job_id, "received", body)
    return shopping_list(actor)


@action(Permission.WORK)
def drop_want(actor: Actor, want_id: UUID, data: DropIn) -> ListOut:
    """Take a line off the list; what was ordered for it still comes."""
    want = Want.objects.select_for_update().filter(id=want_id, workshop_id=actor.workshop_id, dropped=False).first()
    if want is None:
        raise NotFound
    if want.version != data.version:
        raise Stale(shopping_list(actor).model_dump(mode="json"))
    want.dropped = True
    want.version += 1
    want.save(update_fields=["dropped", "version"])
    append(actor, actor.workshop_id, "taken off the shopping list", {"part": want.says})
    return shopping_list(actor)


@action(Permission.DECIDE)
def order_parcel(actor: Actor, data: OrderIn) -> ListOut:
    """Note that a supplier's parcel of the basket was ordered, at the total that was shown."""
    Want.objects.select_for_update().filter(workshop_id=actor.workshop_id, dropped=False).count()
    wants, by_offer, by_supplier, basket = basket_of(actor)
    supplier = by_supplier.get(str(data.supplier_id))
    if supplier is None or str(data.supplier_id) not in basket.postage_c:
        raise InputError("supplier_id", "Nothing of the basket comes from there any more: look again.")
    by_id = {str(want.id): want for want in wants}
    parcel = show_parcel(supplier, basket, by_offer, dict.fromkeys(by_id, ""))
    if parcel.total != data.total:
        raise InputError("total", f"The basket has changed: the parcel now costs {parcel.total}. Look again.")
    due = timezone.localdate() + datetime.timedelta(days=supplier.days)
    lines = [line for line in basket.lines if line.offer.supplier == str(supplier.id)]
    for line in lines:
        _check(actor, line, by_id)
        served = [(by_id[want_id], number) for want_id, number in line.serves]
        spare = line.units - sum(number for _, number in served)
        for want, number in [*served, *([(None, spare)] if spare else [])]:
            Ordered.objects.create(
                workshop_id=actor.workshop_id,
                want=want,
                part_id=line.offer.part,
                supplier=supplier,
                quantity=number,
                each=money(line.each_c),
                due=due,
                by_name=actor.name,
            )
            if want and want.position:
                body = {"part": by_offer[line.offer.offer_id].part.marking, "position": want.position.name}
                append(actor, want.position.job_id, "ordered", body | {"supplier": supplier.name, "due": f"{due}"})
    append(actor, actor.workshop_id, "ordered", {"supplier": supplier.name, "lines": len(lines), "total": f"{parcel.total}"})
    return shopping_list(actor)


def _check(actor: Actor, line: BoughtLine, by_id: dict[str, Want]) -> None:
    """What is bought must be settled, and what stands in for a wanted part still one that may take the place."""
    part, _ = one_part(actor, UUID(line.offer.part))
    if part.doubts:
        raise InputError("supplier_id", f"{part.marking}: its marking is not settled. {part.doubts[0].asks}")
    for want_id, _ in line.serves:
        want = by_id[want_id]
        if want.position_id and line.offer.part != str(want.part_id):
            judged = why(actor, want.position_id, UUID(line.offer.part))
            if not judged.allowed:
                raise InputError("supplier_id", f"{judged.part.marking}: {judged.refusals[0].sentence} Put it on the list anew.")


@action(Permission.WORK)
def receive(actor: Actor, ordered_id: UUID, data: ReceiveIn) -> ListOut:
    """Note what came: it goes into the drawer, with its lot."""
    row = Ordered.objects.select_for_update().filter(id=ordered_id, workshop_id=actor.workshop_id, closed=False).first()
    if row is None:
        raise NotFound
    if data.quantity == 0 and not data.closed:
        raise InputError("quantity", "How many came?")
    part = locked_part(actor, row.part_id)
    part.lot, part.date_code = data.lot or part.lot, data.date_code or part.date_code
    part.save(update_fields=["lot", "date_code"])
    move(actor, part, data.quantity, Why.BOUGHT, f"from {row.supplier.name}")
    row.received += data.quantity
    row.closed = data.closed or row.received >= row.quantity
    row.version += 1
    row.save(update_fields=["received", "closed", "version"])
    body = {"part": part.marking, "quantity": data.quantity, "lot": data.lot, "supplier": row.supplier.name}
    append(actor, actor.workshop_id, "received", body)
    if row.want and row.want.position:
        append(actor, row.want.position.job_id, "received", body | {"position": row.want.position.name})
    return shopping_list(actor)
