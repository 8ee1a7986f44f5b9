"""Filling the dropper bench from a position."""

import datetime
from uuid import UUID

from dusky_heron.assessment.queries import evidence
from dusky_heron.circuits.schemas import DropperIn, DropperStart
from dusky_heron.core.ageing.life import years_left
from dusky_heron.core.model import LoadState, Position
from dusky_heron.core.quantities import show
from dusky_heron.core.verdict.age import age_years
from dusky_heron.jobs.queries import core_position
from dusky_heron.presented import Figure
from dusky_heron.record.actor import Actor


def start(actor: Actor, position_id: UUID, today: datetime.date) -> DropperStart:
    """The bench as a position's values fill it: its reading where it has one. Three statements."""
    _, position, job = core_position(actor, position_id)
    around, bleeder = position.surroundings.dropper, position.surroundings.bleeder
    reading = evidence(position_id).deciding(0)
    read = reading.value if reading and not reading.beyond_range and reading.value > 0 else None
    marked = position.marking.capacitance_f
    given = DropperIn(
        supply_voltage=job.supply_voltage,
        supply_frequency=job.supply_frequency,
        capacitance=show(read or marked, "F", digits=6),
        bleed=show(bleeder.marked_ohm, "Ω", digits=6) if bleeder and not bleeder.open else "",
        marked=show(marked, "F", digits=6),
    )
    if reading and read:
        percent = max(reading.high - read, read - reading.low) / read * 100
        given = given.model_copy(update={"reading": show(read, "F", digits=6), "reading_error": f"{max(percent, 0.01):.2g} %"})
    if around:
        update = {"topology": around.topology, "clamp": show(around.clamp_v, "V"), "loads": _typed_loads(around.states)}
        if around.zener_w:
            update["zener_rating"] = show(around.zener_w, "W", digits=6)
        if around.series_ohm:
            update["series"] = show(around.series_ohm, "Ω", digits=6)
        given = given.model_copy(update=update)
    return DropperStart(
        given=given,
        read=Figure.of(read, "F") if read else None,
        marked=Figure.of(marked, "F"),
        crosses=_crosses(position, marked, read, today),
    )


def _typed_loads(states: tuple[LoadState, ...]) -> str:
    """States as they would be typed."""
    lines = []
    for state in states:
        if state.relay is None:
            lines.append(f"{state.name} {show(state.current_a, 'A', digits=6)}")
            continue
        r = state.relay
        line = f"{state.name} {r.coil_ohm:g} Ω pulls in {r.pull_in_v:g} V holds {r.hold_v:g} V resets {r.reset_v:g} V"
        lines.append(f"{line} restarts {r.restart_s:g} s at {r.coil_c:g} °C")
    return "\n".join(lines)


def _crosses(position: Position, marked: float, read: float | None, today: datetime.date) -> str:
    """When a falling part no longer gives its heaviest load enough at the lowest mains."""
    around, years = position.surroundings.dropper, age_years(position, today)
    needs = [state.needed_f for state in around.states if state.needed_f] if around else []
    if not needs or not years or read is None:
        return ""
    limit = max(needs)
    left = years_left(marked, read, years, limit)
    if left == 0:
        return f"It is below the {show(limit, 'F')} its loads need at the lowest mains."
    if left > 100:
        return f"On a straight line it does not reach the {show(limit, 'F')} its loads need in its life."
    return f"On a straight line it crosses the {show(limit, 'F')} its loads need about {today.year + round(left)}."
