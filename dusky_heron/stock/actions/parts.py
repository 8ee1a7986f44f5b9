"""Adding and changing parts."""

from typing import Any
from uuid import UUID

from dusky_heron.core.errors import CURRENT, RESISTANCE
from dusky_heron.core.quantities import parse_quantity
from dusky_heron.record.actions import action, append, save_edited
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.errors import NotFound
from dusky_heron.stock.actions.movements import explain
from dusky_heron.stock.models import Part, Why
from dusky_heron.stock.queries import READ_FROM, show_part, traits_kept
from dusky_heron.stock.schemas import PartEdit, PartIn, PartOut


@action(Permission.DECIDE)
def add_part(actor: Actor, data: PartIn) -> PartOut:
    """Add a part to the drawer by what is printed on it."""
    part = Part.objects.create(workshop_id=actor.workshop_id, **part_fields(data))
    explain(actor, [(part, part.quantity, Why.ADDED)])
    append(actor, actor.workshop_id, "part added", data.model_dump(mode="json"))
    return show_part(part)


@action(Permission.DECIDE)
def edit_part(actor: Actor, part_id: UUID, data: PartEdit) -> PartOut:
    """Change a part of the drawer."""
    part = Part.objects.select_for_update().filter(id=part_id, workshop_id=actor.workshop_id).first()
    if part is None:
        raise NotFound
    was = part.quantity
    save_edited(part, data.version, part_fields(data), show_part)
    explain(actor, [(part, part.quantity - was, Why.COUNTED)])
    append(actor, actor.workshop_id, "part changed", data.model_dump(mode="json", exclude={"version"}))
    return show_part(part)


def part_fields(data: PartIn) -> dict[str, Any]:
    """The columns of a part as typed, with those its marking fills."""
    traits = traits_kept(data.marking, data.kind)
    given = data.model_dump(exclude={"version", *READ_FROM})
    given["lead_form"] = given["lead_form"] or ""
    return {
        **given,
        **traits,
        "ripple_a": parse_quantity(data.ripple, "A", CURRENT, field="ripple") if data.ripple else None,
        "dvdt_v_s": data.dvdt * 1e6 if data.dvdt else None,
        "peak_a": parse_quantity(data.peak, "A", CURRENT, field="peak") if data.peak else None,
        "esr_ohm": parse_quantity(data.esr, "Ω", RESISTANCE, field="esr") if data.esr else None,
    }
