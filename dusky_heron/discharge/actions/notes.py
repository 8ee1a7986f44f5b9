"""Noting that a position is energised, kept shorted, or being emptied through something."""

from typing import Any
from uuid import UUID

from dusky_heron.core.discharge.tools import judge_tool
from dusky_heron.core.errors import InputError
from dusky_heron.discharge.models import ChargeNote, ChargeState
from dusky_heron.discharge.queries import Planned, charge_line, planned
from dusky_heron.discharge.queries.plan import NO_VOLTAGE
from dusky_heron.discharge.queries.shown import charge, tool
from dusky_heron.discharge.schemas import ChargeIn, ChargeItem
from dusky_heron.instruments.queries import core_resistors
from dusky_heron.jobs.queries import core_position
from dusky_heron.record.actions import action, enter
from dusky_heron.record.actor import Actor, Permission


@action(Permission.WORK)
def note_charge(actor: Actor, position_id: UUID, data: ChargeIn) -> ChargeItem:
    """Note what is on a position now; emptying is noted with its tool and the times to expect."""
    position, _, _ = core_position(actor, position_id)
    body: dict[str, object] = {"position": position.name, "state": data.state}
    fields: dict[str, Any] = {}
    if data.state == ChargeState.EMPTYING:
        found = planned(actor, position_id)
        if data.other_way:
            fields, said = _other_way(found, data.other_way)
        else:
            fields, said = _through(actor, found, data)
        body |= said
    note = ChargeNote(position_id=position_id, state=data.state, **fields)
    enter(actor, position.job_id, "charge noted", body, note)
    return charge_line([position])[0]


def _through(actor: Actor, found: Planned | None, data: ChargeIn) -> tuple[dict[str, Any], dict[str, object]]:
    """Emptying through resistors of the workshop; refused where anything speaks against them."""
    if found is None:
        raise InputError("resistor_ids", NO_VOLTAGE)
    owned = {resistor.resistor_id: resistor for resistor in core_resistors(actor)}
    wanted = [owned.get(str(key)) for key in data.resistor_ids]
    chosen = tuple(resistor for resistor in wanted if resistor is not None)
    if not chosen or len(chosen) != len(wanted) or len(set(data.resistor_ids)) != len(wanted):
        raise InputError("resistor_ids", "Choose resistors of the workshop, each once.")
    judged = judge_tool(data.shape, chosen, found.charge, found.limit)
    if judged.refusals:
        raise InputError("resistor_ids", judged.refusals[0])
    planned_for, shown = charge(found.charge), tool(judged)
    said: dict[str, object] = {
        "through": judged.name,
        "times": [f"{t.name} {t.target.said}: {t.nominal.said}, worst {t.worst.said}" for t in shown.times],
        "working_limit_source": found.limit.source,
        "energy": planned_for.energy.said,
        "worked_out": planned_for.explanation,
        "band": planned_for.band_sentence,
    }
    return {
        "tool": judged.name,
        "tool_ohm": judged.resistance_ohm,
        "from_v": found.charge.each_v,
        "tau_s": judged.resistance_ohm * found.charge.nominal_f,
    }, said


def _other_way(found: Planned | None, way: str) -> tuple[dict[str, Any], dict[str, object]]:
    """Emptying by what is fitted, a lamp or a load: noted, and never trusted."""
    bleeder = found.position.surroundings.bleeder if found else None
    if way != "fitted bleeder" or found is None or bleeder is None or bleeder.open:
        return {"tool": way}, {"through": way}
    ohm = bleeder.measured_ohm or bleeder.marked_ohm
    return {
        "tool": way,
        "tool_ohm": ohm,
        "from_v": found.charge.each_v,
        "tau_s": ohm * found.charge.nominal_f,
    }, {"through": way}
