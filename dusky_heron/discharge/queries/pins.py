"""Plug pins of a job after unplugging."""

from uuid import UUID

from dusky_heron.core.discharge import bleeders
from dusky_heron.core.discharge import pins as core
from dusky_heron.core.discharge.limits import limits_of
from dusky_heron.core.model import Role
from dusky_heron.core.model.voltages import rule_voltage
from dusky_heron.core.quantities import show
from dusky_heron.discharge.queries import shown
from dusky_heron.discharge.schemas import PinOut, PinsOut
from dusky_heron.jobs.queries import core_positions
from dusky_heron.presented import Figure
from dusky_heron.record.actor import Actor
from dusky_heron.workshops.queries import limits_of_workshop

NONE = "No X position is named: nothing known is across the line."


def plug_pins(actor: Actor, job_id: UUID) -> PinsOut:
    """Voltage between the plug pins, from every X position of a job and the bleeders across them. Three statements."""
    job, positions = core_positions(actor, job_id)
    across = [p for p in positions if p.role == Role.X]
    if not across or across[0].supply_v is None:
        return PinsOut.nothing_but(missing=NONE)
    farads = sum(core.across_line(p) for p in across)
    siemens, said = 0.0, []
    for position in across:
        ohm, counted = bleeders.counted_resistance(position.surroundings.bleeder)
        siemens += 1 / ohm if ohm else 0.0
        said.append(f"{position.name} {show(core.across_line(position), 'F')}, bleeder {counted}")
    rows = limits_of(
        limits_of_workshop(actor),
        job.standard or None,
        role=None,
        capacitance_f=farads,
        from_v=rule_voltage(across[0].supply_v).volts,
    )
    found = core.plug_pins(farads, 1 / siemens if siemens else None, across[0].supply_v, rows)
    return PinsOut(
        missing="",
        capacitance=Figure.of(farads, "F"),
        counted="; ".join(said),
        voltages=[
            PinOut(after=Figure.of_time(v.after_s), rated=Figure.of(v.rated_v, "V"), planned=Figure.of(v.planned_v, "V"))
            for v in found.voltages
        ],
        checks=[shown.check(c) for c in found.checks],
    )
