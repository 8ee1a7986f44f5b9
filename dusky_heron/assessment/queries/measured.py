"""What is worked out from readings without judging a part: touch current, and which terminal is common."""

from collections.abc import Mapping
from uuid import UUID

from dusky_heron.assessment.schemas import CommonOut, TouchCheckOut, TouchOut
from dusky_heron.core.discharge import touch_current as core_touch
from dusky_heron.core.errors import CAPACITANCE
from dusky_heron.core.metering import find_common, reads_open
from dusky_heron.core.quantities import parse_quantity, show
from dusky_heron.jobs.queries import core_positions
from dusky_heron.presented import Figure
from dusky_heron.record.actor import Actor
from dusky_heron.workshops.queries import limits_of_workshop

NO_Y = "No Y position is named: nothing known leads to the chassis."


def touch_current(actor: Actor, job_id: UUID) -> TouchOut:
    """Touch current of all Y parts of a job with the earth lost, against the limits of its equipment. Three statements.

    Which side of the line each is on is not written down: half of them are taken to be on each side.
    """
    job, positions = core_positions(actor, job_id)
    to_chassis = [(p, value) for p in positions if (value := core_touch.to_chassis(p))]
    if not to_chassis or to_chassis[0][0].supply_v is None or to_chassis[0][0].supply_hz is None:
        return TouchOut.nothing_but(missing=NO_Y)
    first = to_chassis[0][0]
    line, neutral = core_touch.on_both_sides([value for _, value in to_chassis])
    rows = core_touch.touch_limits(limits_of_workshop(actor), job.standard, first.equipment)
    found = core_touch.touch_current(line, neutral, first.supply_v or 0.0, first.supply_hz or 0.0, rows)
    return TouchOut(
        missing="",
        counted=", ".join(f"{p.name} {show(value, 'F')}" for p, value in to_chassis),
        normal=Figure.of(found.normal_a, "A"),
        neutral_open=Figure.of(found.neutral_open_a, "A"),
        checks=[TouchCheckOut(id=c.row.id, meets=c.meets, sentence=c.sentence, source=c.row.source) for c in found.checks],
    )


def common_terminal(readings: Mapping[tuple[str, str], str]) -> CommonOut:
    """The common terminal of a part with two sections, from two or three of its pairs as typed. No statement."""
    typed = {
        pair: None if reads_open(text) else parse_quantity(text, "F", CAPACITANCE, field="".join(pair))
        for pair, text in readings.items()
        if text
    }
    found = find_common(typed)
    sections = [f"{terminal} {show(value, 'F')}" for terminal, value in sorted(found.sections.items())]
    if found.common:
        sentence = f"Terminal {found.common} is common; {' and '.join(sections)}."
    elif not found.agrees:
        sentence = "The three readings do not agree: a section leaks, or a lead has slipped. Measure again."
    elif None in typed.values():
        sentence = "One section is open. Which terminal is common has to come from the marking or the wiring."
    else:
        sentence = "It cannot be told within the error of the readings: take it from the marking or the wiring."
    return CommonOut(common=found.common or "", sections=sections, sentence=sentence)
