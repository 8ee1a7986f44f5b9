"""Plug pins of a job after unplugging."""

from collections.abc import Iterable
from uuid import UUID

from dusky_heron.core.discharge import pins as core
from dusky_heron.core.discharge.limits import PLUG_PINS, DischargeLimit, find_limit, limits_of
from dusky_heron.core.model.voltages import rule_voltage
from dusky_heron.core.quantities import show
from dusky_heron.discharge.schemas import PinOut, PinsOut
from dusky_heron.discharge.worked import shown
from dusky_heron.jobs.queries import core_positions
from dusky_heron.presented import Figure
from dusky_heron.record.actor import Actor
from dusky_heron.workshops.queries import limits_of_workshop

NONE = "No position is named that stands across the line: nothing known reaches the pins."
NO_SUPPLY = "What reaches the pins is charged by a supply that is not known: say at intake which."
NO_RULE = "No rule for the plug pins of this equipment is in the table: check the standard that binds you."
OUT_OF_SCOPE = "No rule of the table has {} in its scope: check the standard that binds you."


def plug_pins(actor: Actor, job_id: UUID) -> PinsOut:
    """Voltage between the plug pins, from everything of a job that can reach them. Three statements."""
    job, positions = core_positions(actor, job_id)
    known = core.behind_plug(positions)
    if not known.across_f:
        return PinsOut.nothing_but(missing=NONE)
    supply_v = positions[0].supply_v
    if supply_v is None:
        return PinsOut.nothing_but(missing=NO_SUPPLY)
    workshop, standard = limits_of_workshop(actor), job.standard or None
    volts = rule_voltage(supply_v).volts
    rows = [r for r in limits_of(workshop, standard, role=None, capacitance_f=known.across_f, from_v=volts) if r.place == PLUG_PINS]
    found = core.plug_pins(known.across_f, known.bleeder_ohm, supply_v, rows)
    stored = ", ".join(f"{name} {show(planned, 'V')}" for name, planned in known.stored)
    return PinsOut(
        missing="",
        capacitance=Figure.of(known.across_f, "F"),
        counted="; ".join(known.counted),
        behind=f"A leaky rectifier brings to the pins what is behind it: {stored}. Measure them." if stored else "",
        no_rule="" if rows else _no_rule(workshop, standard, known.across_f),
        voltages=[
            PinOut(after=Figure.of_time(v.after_s), rated=Figure.of(v.rated_v, "V"), planned=Figure.of(v.planned_v, "V"))
            for v in found.voltages
        ],
        checks=[shown.check(c) for c in found.checks],
    )


def _no_rule(rows: Iterable[DischargeLimit], standard: str | None, farads: float) -> str:
    """Why nothing was held against: the equipment has no rule for its pins, or the capacitance is out of their scope."""
    kept = list(rows)
    kind = find_limit(kept, standard).equipment if standard else None
    ruled = any(row.place == PLUG_PINS and kind in (None, row.equipment) for row in kept)
    return OUT_OF_SCOPE.format(show(farads, "F")) if ruled else NO_RULE
