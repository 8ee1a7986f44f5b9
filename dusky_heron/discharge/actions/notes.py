"""Noting that a position is energised, kept shorted, no more so, or being emptied through something."""

from collections.abc import Sequence
from typing import Any
from uuid import UUID

from django.utils import timezone

from dusky_heron.core.discharge.banks import discharge_points
from dusky_heron.core.discharge.limits import DEFAULT_WORKING_LIMIT_V
from dusky_heron.core.discharge.tools import judge_tool
from dusky_heron.core.errors import InputError
from dusky_heron.core.metering.volts import READ_VOLTS
from dusky_heron.core.quantities import parse_quantity, show
from dusky_heron.discharge.models import ChargeNote
from dusky_heron.discharge.queries import Planned, charge_line, planned
from dusky_heron.discharge.queries.plan import NO_VOLTAGE
from dusky_heron.discharge.schemas import ChargeIn, ChargeItem
from dusky_heron.discharge.states import ChargeState
from dusky_heron.discharge.worked.shown import charge, tool
from dusky_heron.instruments.queries import core_resistors
from dusky_heron.jobs.queries import core_position
from dusky_heron.jobs.schemas import Named
from dusky_heron.record.actions import action, enter
from dusky_heron.record.actor import Actor, Permission

ACROSS = "across its terminals"  # where a link is that nobody said another place of


@action(Permission.WORK)
def note_charge(actor: Actor, position_id: UUID, data: ChargeIn) -> ChargeItem:
    """Note what is on a position now; emptying is noted with its tool and the times to expect, a link with its place."""
    position, known, _ = core_position(actor, position_id)
    body: dict[str, object] = {"position": position.name, "state": data.state}
    fields: dict[str, Any] = {}
    if data.state == ChargeState.EMPTYING:
        found = planned(actor, position_id)
        points = discharge_points(known.marking, known.surroundings, position.name)
        if data.point is not None and data.point >= len(points):
            raise InputError("point", f"It is emptied at {len(points)} points: which of them?")
        body |= _ac_before(data.ac_before)
        if data.other_way:
            fields, said = _other_way(found, data.other_way)
        else:
            fields, said = _through(actor, found, data)
        fields["point"] = data.point if len(points) > 1 else None
        body |= said | ({"across": points[data.point]} if data.point is not None else {})
    elif data.state == ChargeState.KEPT_SHORTED:
        fields["place"] = body["link"] = data.place or ACROSS
    elif data.state == ChargeState.LINK_OFF:
        _was_shorted(position)
    elif data.state == ChargeState.ENERGISED:
        body |= links_off([position], taken_off=data.link_off, field="link_off")
    note = ChargeNote(position_id=position_id, state=data.state, **fields)
    enter(actor, position.job_id, "charge noted", body, note)
    return charge_line([position])[0]


def links_off(positions: Sequence[Named], *, taken_off: bool, field: str) -> dict[str, object]:
    """Ask for every link that is on before power comes, once; what goes on the record when they were taken off."""
    on = [item for item in charge_line(positions) if item.state == ChargeState.KEPT_SHORTED]
    if not on:
        return {}
    where = "; ".join(f"{item.name}, {item.place or ACROSS}, since {timezone.localtime(item.at):%H:%M}" for item in on)
    if not taken_off:
        raise InputError(field, f"Kept shorted: {where}. Take the link off, and say so.")
    return {"link taken off": where}


def energise(actor: Actor, positions: Sequence[Named], *, taken_off: bool) -> dict[str, object]:
    """Power comes to a whole job: its links are asked for, and every place counts as energised until it is proved again.

    Gives back what goes on the record of the links that were taken off; refused at the field `links_off`.
    """
    links = links_off(positions, taken_off=taken_off, field="links_off")
    for place in positions:
        note_charge(actor, place.id, ChargeIn(state=ChargeState.ENERGISED, link_off=True))
    return links


def charged(actor: Actor, positions: Sequence[Named], why: str) -> None:
    """A test put its volts on a whole job: what was proved or emptied is so no more, and the record says by what."""
    for item in charge_line(positions):
        if item.state in (ChargeState.PROVED, ChargeState.EMPTYING):
            position, _, _ = core_position(actor, item.position_id)
            note = ChargeNote(position_id=item.position_id, state=ChargeState.UNKNOWN, found=why)
            enter(actor, position.job_id, "charge noted", {"position": position.name, "state": note.state, "found": why}, note)


def _was_shorted(position: Named) -> None:
    if charge_line([position])[0].state != ChargeState.KEPT_SHORTED:
        raise InputError("state", f"{position.name} is not kept shorted: there is no link to take off.")


def _ac_before(typed: str) -> dict[str, object]:
    """What AC showed before the tool went on: mains there stops it."""
    if not typed:
        return {"ac first": "not measured"}
    volts = parse_quantity(typed, "V", READ_VOLTS, field="ac_before")
    if abs(volts) >= DEFAULT_WORKING_LIMIT_V:
        raise InputError(
            "ac_before", f"{show(abs(volts), 'V')} AC: it is live. No tool on it: isolate it, lock off, measure again."
        )
    return {"ac first": show(abs(volts), "V")}


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
        "worst_tau_s": judged.highest_ohm * found.charge.highest_f,
    }, said


def _other_way(found: Planned | None, way: str) -> tuple[dict[str, Any], dict[str, object]]:
    """Emptying by what is fitted, a lamp or a load: noted, and never trusted, so nothing is planned by it."""
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
