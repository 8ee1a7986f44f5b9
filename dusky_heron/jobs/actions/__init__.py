"""Taking in a job, and naming its positions."""

import datetime
from typing import Any
from uuid import UUID

from django.db.models import Max

from dusky_heron.core.circuit.dropper import OHMS
from dusky_heron.core.circuit.typed_loads import read_loads
from dusky_heron.core.discharge.bleeders import read_bleeder
from dusky_heron.core.discharge.limits import HANDS, find_limit, limits_table
from dusky_heron.core.errors import CURRENT, POWER, RESISTANCE, SUPPLY_FREQUENCY, SUPPLY_VOLTAGE, VOLTAGE, InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.metering import reads_open
from dusky_heron.core.model import Arrangement, Basis
from dusky_heron.core.quantities import parse_quantity
from dusky_heron.jobs.models import HandOver, Job, Position
from dusky_heron.jobs.queries import find_job, show_handed, show_job, show_position
from dusky_heron.jobs.schemas import (
    HandedOut,
    HandOverIn,
    JobEdit,
    JobIn,
    JobOut,
    PositionEdit,
    PositionIn,
    PositionOut,
    SurroundingsEdit,
    SurroundingsIn,
)
from dusky_heron.record.actions import action, append, enter, save_edited
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.errors import NotFound
from dusky_heron.workshops.actions import lock_workshop


@action(Permission.WORK)
def open_job(actor: Actor, data: JobIn) -> JobOut:
    """Take in a piece of equipment; it gets the workshop's next number."""
    lock_workshop(actor)
    last = Job.objects.filter(workshop_id=actor.workshop_id).aggregate(last=Max("number"))["last"] or 0
    job = Job.objects.create(workshop_id=actor.workshop_id, number=last + 1, **_job_fields(data))
    append(actor, job.id, "job opened", {"number": job.number, **data.model_dump(mode="json")})
    return show_job(job)


@action(Permission.WORK)
def edit_job(actor: Actor, job_id: UUID, data: JobEdit) -> JobOut:
    """Change what was written down at intake."""
    job = find_job(actor, job_id, lock=True)
    save_edited(job, data.version, _job_fields(data), show_job)
    append(actor, job.id, "intake changed", data.model_dump(mode="json", exclude={"version"}))
    return show_job(job)


@action(Permission.WORK)
def hand_over(actor: Actor, job_id: UUID, data: HandOverIn) -> HandedOut:
    """Leave a word for whoever goes on with a job."""
    job = find_job(actor, job_id, lock=True)
    row = HandOver(job=job, says=data.says)
    enter(actor, job.id, "handed over", {"says": data.says}, row)
    return show_handed(row)


@action(Permission.LEAD)
def accept_file(actor: Actor, job_id: UUID) -> JobOut:
    """Accept what came with a job from a file: from then on its signatures count here, by the lead's word."""
    job = find_job(actor, job_id, lock=True)
    if not job.from_file or job.accepted:
        raise InputError("job_id", "There is nothing to accept: it was opened here, or was accepted before.")
    job.accepted = True
    job.save(update_fields=["accepted"])
    append(actor, job.id, "file accepted", {"with": "the signatures and demands set aside that came with it"})
    return show_job(job)


def mark_returned(job: Job, at: datetime.datetime | None) -> None:
    """Take a job off the bench, or put it back; call inside an action that holds it locked."""
    job.returned_at = at
    job.save(update_fields=["returned_at"])


@action(Permission.WORK)
def add_position(actor: Actor, job_id: UUID, data: PositionIn) -> PositionOut:
    """Name a place that holds a capacitor, with what is printed on its part."""
    job = find_job(actor, job_id, lock=True)
    _name_is_free(job.id, data.name)
    position = Position(job=job, **_position_fields(data))
    shown = show_position(position)
    position.sequence = append(actor, job.id, "position added", _said(data, shown)).sequence
    position.save()
    return shown


@action(Permission.WORK)
def edit_position(actor: Actor, position_id: UUID, data: PositionEdit) -> PositionOut:
    """Change a position; readings taken of it stay as they are."""
    position = _locked(actor, position_id)
    if data.name != position.name:
        _name_is_free(position.job_id, data.name)
    save_edited(position, data.version, _position_fields(data), show_position)
    shown = show_position(position)
    append(actor, position.job_id, "position changed", _said(data, shown))
    return shown


@action(Permission.WORK)
def set_surroundings(actor: Actor, position_id: UUID, data: SurroundingsEdit) -> PositionOut:
    """Note the circuit around a position: what feeds it, how its parts are connected, what is fitted to empty it."""
    position = _locked(actor, position_id)
    save_edited(position, data.version, _surroundings_fields(data), show_position)
    append(
        actor, position.job_id, "circuit noted", {"position": position.name, **data.model_dump(mode="json", exclude={"version"})}
    )
    return show_position(position)


def _surroundings_fields(data: SurroundingsIn) -> dict[str, Any]:
    if data.arrangement != Arrangement.SINGLE and data.count == 1:
        raise InputError("count", "A bank or a string has two parts or more.")
    if data.basis in (Basis.TRANSFORMER, Basis.BY_HAND) and not data.voltage:
        raise InputError("voltage", "Give the voltage this rests on.")
    each, count = read_bleeder(data.bleeder) if data.bleeder else (None, 1)
    is_open = reads_open(data.bleeder_measured)
    return {
        "basis": data.basis or "",
        "circuit_v": parse_quantity(data.voltage, "V", VOLTAGE, field="voltage") if data.voltage else None,
        "circuit_confirmed": data.confirmed,
        "arrangement": data.arrangement,
        "count": data.count if data.arrangement != Arrangement.SINGLE else 1,
        "balancing_ohm": parse_quantity(data.balancing, "Ω", RESISTANCE, field="balancing") if data.balancing else None,
        "bleeder_each_ohm": each,
        "bleeder_count": count,
        "bleeder_working_v": data.bleeder_working_v,
        "bleeder_measured_ohm": (
            parse_quantity(data.bleeder_measured, "Ω", RESISTANCE, field="bleeder_measured")
            if data.bleeder_measured and not is_open
            else None
        ),
        "bleeder_open": is_open,
        **_dropper_fields(data),
        **_life_fields(data),
        **_old_part_fields(data),
    }


def _old_part_fields(data: SurroundingsIn) -> dict[str, Any]:
    return {
        "made_as": data.made_as or "",
        "reaches": data.reaches or "",
        "ripple_a": parse_quantity(data.ripple, "A", CURRENT, field="ripple") if data.ripple else None,
        "esr_ohm": parse_quantity(data.esr, "Ω", RESISTANCE, field="esr") if data.esr else None,
        "dvdt_v_s": data.dvdt * 1e6 if data.dvdt else None,
        "peak_a": parse_quantity(data.peak, "A", CURRENT, field="peak") if data.peak else None,
    }


def _dropper_fields(data: SurroundingsIn) -> dict[str, Any]:
    if data.loads and not data.rail:
        raise InputError("rail", "Give the voltage the rail is clamped at.")
    if data.rail and not data.topology:
        raise InputError("topology", "Choose how it is rectified.")
    rail = parse_quantity(data.rail, "V", VOLTAGE, field="rail") if data.rail else None
    read_loads(data.loads, rail)
    return {
        "topology": data.topology or "",
        "rail_v": rail,
        "loads": data.loads,
        "zener_w": parse_quantity(data.zener, "W", POWER, field="zener") if data.zener else None,
        "series_ohm": parse_quantity(data.series, "Ω", OHMS, field="series") if data.series else None,
    }


def _life_fields(data: SurroundingsIn) -> dict[str, Any]:
    fields = ("life_h", "life_at_c", "runs_at_c", "hours_a_day")
    given = {field: getattr(data, field) for field in fields}
    missing = next((field for field in fields if given[field] is None), None)
    if missing and any(value is not None for value in given.values()):
        raise InputError(missing, "Life needs all four: hours, at which temperature, what it runs at, and hours a day.")
    return given


def _locked(actor: Actor, position_id: UUID) -> Position:
    """A position and its job, locked: names are free or taken within a job."""
    found = Position.objects.select_related("job").select_for_update()
    position = found.filter(id=position_id, job__workshop_id=actor.workshop_id).first()
    if position is None:
        raise NotFound
    return position


def _said(data: PositionIn, shown: PositionOut) -> dict[str, Any]:
    """What the record keeps of a position: what was typed, and what it was read as."""
    read = [f"{token.text}: {token.meaning}" for token in shown.read.tokens]
    return {
        **data.model_dump(mode="json", exclude={"version"}),
        "role": shown.role_title,
        "read": read,
        "unread": shown.read.unread,
    }


def _name_is_free(job_id: UUID, name: str) -> None:
    if Position.objects.filter(job_id=job_id, name=name).exists():
        raise InputError("name", "That position is on the job already.")


def _position_fields(data: PositionIn) -> dict[str, Any]:
    read_marking(data.marking)
    return {**data.model_dump(exclude={"version"}), "lead_form": data.lead_form or ""}


def _job_fields(data: JobIn) -> dict[str, Any]:
    if data.standard and find_limit(limits_table(), data.standard).id == HANDS:
        raise InputError("standard", "The limit for hands is no standard of the equipment.")
    return {
        **data.model_dump(exclude={"version", "supply_voltage", "supply_frequency"}),
        "supply_v": parse_quantity(data.supply_voltage, "V", SUPPLY_VOLTAGE, field="supply_voltage"),
        "supply_hz": parse_quantity(data.supply_frequency, "Hz", SUPPLY_FREQUENCY, field="supply_frequency"),
    }
