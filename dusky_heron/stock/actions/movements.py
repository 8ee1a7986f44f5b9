"""In, out and counted: every change of a quantity is a movement."""

from collections.abc import Iterable
from uuid import UUID

from dusky_heron.core.errors import InputError
from dusky_heron.record.actions import action, append
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.errors import NotFound
from dusky_heron.stock.models import MOST_OF_ONE, Movement, Part, Why
from dusky_heron.stock.queries import movements, not_settled
from dusky_heron.stock.schemas import MoveIn, MovementsOut


@action(Permission.WORK)
def move_part(actor: Actor, part_id: UUID, data: MoveIn) -> MovementsOut:
    """Put some in, take some out, or say how many were counted."""
    part = locked_part(actor, part_id)
    if data.counted is not None:
        move(actor, part, data.counted - part.quantity, Why.COUNTED, data.says)
    elif data.change:
        if data.change < 0 and (asks := not_settled(part)):
            raise InputError("change", asks)
        move(actor, part, data.change, Why.OUT if data.change < 0 else Why.ADDED, data.says)
    else:
        raise InputError("change", "How many? 2 puts two in, -2 takes two out.")
    append(actor, actor.workshop_id, "part moved", {"part": part.marking, "now": part.quantity, "says": data.says})
    return movements(actor, part_id)


def locked_part(actor: Actor, part_id: UUID) -> Part:
    """A part of the drawer, for changing its quantity in this transaction."""
    part = Part.objects.select_for_update().filter(id=part_id, workshop_id=actor.workshop_id).first()
    if part is None:
        raise NotFound
    return part


def move(actor: Actor, part: Part, change: int, why: Why, says: str = "") -> None:
    """Change the quantity of a locked part; call inside an action's transaction."""
    if part.quantity + change < 0:
        raise InputError("change", f"There are {part.quantity} in {part.place or 'the drawer'}, not {-change}.")
    if part.quantity + change > MOST_OF_ONE:
        raise InputError("change", f"More than {MOST_OF_ONE} of one part: count them again.")
    part.quantity += change
    part.version += 1
    part.save(update_fields=["quantity", "version"])
    explain(actor, [(part, change, why)], says)


def explain(actor: Actor, changes: Iterable[tuple[Part, int, Why]], says: str = "") -> None:
    """Write down why quantities changed that are already as they are."""
    Movement.objects.bulk_create(
        (
            Movement(part=part, change=change, why=why, says=says[:200], by_name=actor.name)
            for part, change, why in changes
            if change
        ),
        batch_size=1000,
    )
