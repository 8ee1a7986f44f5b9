"""Adding and changing instruments."""

from typing import Any
from uuid import UUID

from dusky_heron.core.errors import POWER, RESISTANCE, Range
from dusky_heron.core.metering import FREQUENCY
from dusky_heron.core.metering.accuracy import read_accuracies
from dusky_heron.core.quantities import parse_quantity
from dusky_heron.instruments.models import DischargeResistor, Meter
from dusky_heron.instruments.queries import show_meter, show_resistor
from dusky_heron.instruments.schemas import MeterEdit, MeterIn, MeterOut, ResistorEdit, ResistorIn, ResistorOut
from dusky_heron.record.actions import action, append, save_edited
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.errors import NotFound

WORKING_VOLTAGE = Range("Working voltage", 0.0, 1e6, "V", open_low=True)
PULSE_ENERGY = Range("Pulse energy", 0.0, 1e6, "J", open_low=True)


@action(Permission.DECIDE)
def add_meter(actor: Actor, data: MeterIn) -> MeterOut:
    """Add a meter."""
    meter = Meter.objects.create(workshop_id=actor.workshop_id, **_meter_fields(data))
    append(actor, actor.workshop_id, "meter added", data.model_dump(mode="json"))
    return show_meter(meter)


@action(Permission.DECIDE)
def edit_meter(actor: Actor, meter_id: UUID, data: MeterEdit) -> MeterOut:
    """Change a meter; readings already taken keep the interval they were taken with."""
    meter = Meter.objects.select_for_update().filter(id=meter_id, workshop_id=actor.workshop_id).first()
    if meter is None:
        raise NotFound
    save_edited(meter, data.version, _meter_fields(data), show_meter)
    append(actor, actor.workshop_id, "meter changed", data.model_dump(mode="json", exclude={"version"}))
    return show_meter(meter)


@action(Permission.DECIDE)
def add_resistor(actor: Actor, data: ResistorIn) -> ResistorOut:
    """Add a discharge resistor."""
    resistor = DischargeResistor.objects.create(workshop_id=actor.workshop_id, **_resistor_fields(data))
    append(actor, actor.workshop_id, "resistor added", data.model_dump(mode="json"))
    return show_resistor(resistor)


@action(Permission.DECIDE)
def edit_resistor(actor: Actor, resistor_id: UUID, data: ResistorEdit) -> ResistorOut:
    """Change a discharge resistor."""
    resistor = DischargeResistor.objects.select_for_update().filter(id=resistor_id, workshop_id=actor.workshop_id).first()
    if resistor is None:
        raise NotFound
    save_edited(resistor, data.version, _resistor_fields(data), show_resistor)
    append(actor, actor.workshop_id, "resistor changed", data.model_dump(mode="json", exclude={"version"}))
    return show_resistor(resistor)


def _meter_fields(data: MeterIn) -> dict[str, Any]:
    typed = {"version", "highest_voltage", "category_voltage", "input_resistance", "frequency"}
    read_accuracies(data.accuracies, data.display_counts)
    category_v = data.category_voltage
    return {
        **data.model_dump(exclude=typed),
        "highest_v": parse_quantity(data.highest_voltage, "V", WORKING_VOLTAGE, field="highest_voltage"),
        "category_v": parse_quantity(category_v, "V", WORKING_VOLTAGE, field="category_voltage") if category_v else 0.0,
        "frequency_hz": parse_quantity(data.frequency, "Hz", FREQUENCY, field="frequency") if data.frequency else None,
        "input_ohm": parse_quantity(data.input_resistance, "Ω", RESISTANCE, field="input_resistance"),
    }


def _resistor_fields(data: ResistorIn) -> dict[str, Any]:
    pulse = parse_quantity(data.pulse_energy, "J", PULSE_ENERGY, field="pulse_energy") if data.pulse_energy else None
    return {
        "name": data.name,
        "resistance_ohm": parse_quantity(data.resistance, "Ω", RESISTANCE, field="resistance"),
        "tolerance_percent": data.tolerance_percent,
        "rated_w": parse_quantity(data.power, "W", POWER, field="power"),
        "construction": data.construction,
        "working_v": parse_quantity(data.working_voltage, "V", WORKING_VOLTAGE, field="working_voltage"),
        "pulse_j": pulse,
    }
