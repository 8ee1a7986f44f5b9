"""Noting what is known about a charge."""

from uuid import UUID

from dusky_heron.core.errors import InputError
from dusky_heron.discharge.models import ChargeNote, ChargeState
from dusky_heron.discharge.queries import plan, show_note
from dusky_heron.discharge.schemas import ChargeIn, ChargeItem, PlanOut, ToolOut
from dusky_heron.jobs.queries import core_position
from dusky_heron.record.actions import action, append
from dusky_heron.record.actor import Actor, Permission


@action(Permission.WORK)
def note_charge(actor: Actor, position_id: UUID, data: ChargeIn) -> ChargeItem:
    """Note what is on a position now; emptying is noted with its resistor and the times to expect."""
    position, _, _ = core_position(actor, position_id)
    body: dict[str, object] = {"position": position.name, "state": data.state}
    tool_name = ""
    if data.state == ChargeState.EMPTYING:
        planned = plan(actor, position_id)
        tool = _chosen(planned, data.resistor_id)
        tool_name = tool.name
        body |= _said(planned, tool)
    note = ChargeNote.objects.create(position_id=position_id, state=data.state, tool=tool_name, by_name=actor.name)
    append(actor, position.job_id, "charge noted", body)
    return show_note(position, note)


def _chosen(planned: PlanOut, resistor_id: UUID | None) -> ToolOut:
    tool = next((t for t in planned.tools if t.resistor_id == resistor_id), None)
    if tool is None:
        raise InputError("resistor_id", planned.missing or "Choose a resistor of the workshop.")
    if tool.refusals:
        raise InputError("resistor_id", tool.refusals[0])
    return tool


def _said(planned: PlanOut, tool: ToolOut) -> dict[str, object]:
    """What the record keeps of a discharge: the charge planned for, and the times through the tool."""
    charge = planned.charge
    times = [f"{t.name} {t.target.said}: {t.nominal.said}, worst {t.worst.said}" for t in tool.times]
    said: dict[str, object] = {"through": tool.name, "times": times, "working_limit_source": planned.working_limit_source}
    if charge:
        said |= {
            "energy": charge.energy.said,
            "worked_out": charge.explanation,
            "band": charge.band_sentence,
        }
    return said
