"""Reading evidence and verdicts; each function says how many statements it takes."""

import dataclasses
import json
import math
from collections.abc import Mapping
from uuid import UUID

from django.utils import timezone

from dusky_heron.assessment.models import Reading, RecordedVerdict, SeenSign
from dusky_heron.assessment.schemas import (
    AssessmentOut,
    BarOut,
    CommonOut,
    FindingOut,
    ReadingOut,
    RecordedOut,
    SeenOut,
    StandingOut,
    TouchCheckOut,
    TouchOut,
    VerdictOut,
    ZoneOut,
)
from dusky_heron.core import model as core
from dusky_heron.core import touch_current as core_touch
from dusky_heron.core.errors import CAPACITANCE
from dusky_heron.core.metering import find_common, reads_open
from dusky_heron.core.quantities import parse_quantity, show, show_range
from dusky_heron.core.verdict import judge
from dusky_heron.core.verdict.capacitance import zones
from dusky_heron.jobs.queries import core_position, core_positions
from dusky_heron.presented import Figure
from dusky_heron.record.actor import Actor
from dusky_heron.workshops.queries import limits_of_workshop


def assessment(actor: Actor, position_id: UUID) -> AssessmentOut:
    """Evidence and verdict of a position. Four statements."""
    _, position, _ = core_position(actor, position_id)
    readings = list(Reading.objects.filter(position_id=position_id))
    signs = list(SeenSign.objects.filter(position_id=position_id))
    known = _evidence(readings, signs)
    verdict = judge(position, known, today=timezone.localdate())
    recorded = RecordedVerdict.objects.filter(position_id=position_id).last()
    shown = _show_verdict(verdict)
    return AssessmentOut(
        readings=[show_reading(r) for r in readings],
        signs=[SeenOut.from_row(s) for s in signs],
        bars=[bar for number in range(len(position.marking.sections)) if (bar := _bar(position, number, known))],
        verdict=shown,
        recorded=RecordedOut.from_row(recorded) if recorded else None,
        differs=recorded is None or recorded.word != shown.word or json.loads(recorded.reasons) != reasons_of(shown),
    )


def evidence(position_id: UUID) -> core.Evidence:
    """Readings and signs of a position the asker may see. Two statements."""
    return _evidence(list(Reading.objects.filter(position_id=position_id)), list(SeenSign.objects.filter(position_id=position_id)))


def _bar(position: core.Position, number: int, known: core.Evidence) -> BarOut | None:
    """A section drawn on what its capacitance may be."""
    found = zones(position, number, known)
    if not found:
        return None
    start, end = found[0].low_f, found[-1].high_f
    marked, reading = position.marking.sections[number].capacitance_f, known.screening(number)

    def share(farads: float) -> float:
        return round(min(max((farads - start) / (end - start), 0.0), 1.0), 5)

    return BarOut(
        section=number,
        zones=[
            ZoneOut(
                word=zone.word,
                says=zone.says,
                start=share(zone.low_f),
                width=share(zone.high_f) - share(zone.low_f),
                edge=Figure.of(zone.high_f, "F"),
            )
            for zone in found
        ],
        marked=share(marked),
        marked_value=Figure.of(marked, "F"),
        reading=Figure.of(reading.value, "F") if reading else None,
        at=share(reading.value) if reading else None,
        low=share(reading.low) if reading else None,
        high=share(reading.high) if reading else None,
    )


NO_Y = "No Y position is named: nothing known leads to the chassis."


def touch_current(actor: Actor, job_id: UUID) -> TouchOut:
    """Touch current of all Y parts of a job with the earth lost, against the limits of its equipment. Three statements.

    Which side of the line each is on is not written down: half of them are taken to be on each side.
    """
    job, positions = core_positions(actor, job_id)
    to_chassis = [(p, value) for p in positions if (value := core_touch.to_chassis(p))]
    if not to_chassis or to_chassis[0][0].supply_v is None or to_chassis[0][0].supply_hz is None:
        return TouchOut(missing=NO_Y)
    first = to_chassis[0][0]
    line, neutral = core_touch.on_both_sides([value for _, value in to_chassis])
    rows = core_touch.touch_limits(limits_of_workshop(actor), job.standard, job.protection_class)
    found = core_touch.touch_current(line, neutral, first.supply_v or 0.0, first.supply_hz or 0.0, rows)
    return TouchOut(
        missing="",
        counted=", ".join(f"{p.name} {show(value, 'F')}" for p, value in to_chassis),
        normal=Figure.of(found.normal_a, "A"),
        neutral_open=Figure.of(found.neutral_open_a, "A"),
        checks=[TouchCheckOut(id=c.row.id, meets=c.meets, sentence=c.sentence, source=c.row.source) for c in found.checks],
    )


def standings(position_ids: list[UUID]) -> dict[UUID, StandingOut]:
    """Last recorded word and last reading by position, of positions the asker may see. Two statements."""
    words = {v.position_id: v.word for v in RecordedVerdict.objects.filter(position_id__in=position_ids)}
    capacitances = Reading.objects.filter(position_id__in=position_ids, quantity=core.Quantity.CAPACITANCE)
    read = {r.position_id: r for r in capacitances.exclude(condition=core.Condition.NEW_PART)}
    return {
        position_id: StandingOut(
            word=core.Word(words[position_id]) if position_id in words else None,
            reading=Figure.of(read[position_id].value, "F") if position_id in read else None,
            interval=_interval(read[position_id]) if position_id in read else "",
        )
        for position_id in position_ids
    }


def reasons_of(verdict: VerdictOut) -> list[dict[str, str]]:
    """The reasons of a verdict as plain data, as they are recorded."""
    return [reason.model_dump(mode="json") for reason in verdict.reasons]


def _evidence(readings: list[Reading], signs: list[SeenSign]) -> core.Evidence:
    return core.Evidence(
        readings=tuple(
            core.Reading(
                r.value,
                r.low,
                r.high,
                core.Condition(r.condition),
                r.section,
                r.meter_name,
                core.Quantity(r.quantity),
                r.frequency_hz,
            )
            for r in readings
        ),
        signs=frozenset(core.Sign(s.sign) for s in signs),
    )


def _show_verdict(verdict: core.Verdict) -> VerdictOut:
    fields = FindingOut.model_fields
    return VerdictOut(
        word=verdict.word,
        asks_for_another_part=verdict.word in core.TO_REPLACE,
        reasons=[FindingOut(**{k: v for k, v in dataclasses.asdict(f).items() if k in fields}) for f in verdict.reasons],
        next_measurement=verdict.next_measurement.sentence if verdict.next_measurement else None,
        rules_version=verdict.rules_version,
    )


def _say_quantity(reading: Reading) -> str:
    at = f" at {show(reading.frequency_hz, 'Hz')}" if reading.frequency_hz else ""
    return core.QUANTITY_TITLES[core.Quantity(reading.quantity)] + at


def _interval(reading: Reading) -> str:
    unit = core.QUANTITY_UNITS[core.Quantity(reading.quantity)]
    if math.isinf(reading.high):
        return f"at least {show(reading.low, unit)}"
    return show_range(reading.low, reading.high, unit)


def show_reading(reading: Reading) -> ReadingOut:
    """A reading as the API shows it."""
    return ReadingOut(
        section=reading.section,
        quantity=_say_quantity(reading),
        value=Figure.of(reading.value, core.QUANTITY_UNITS[core.Quantity(reading.quantity)]),
        interval=_interval(reading),
        condition=core.CONDITION_TITLES[core.Condition(reading.condition)],
        meter_name=reading.meter_name,
        at=reading.at,
        by_name=reading.by_name,
    )


def common_terminal(readings: Mapping[tuple[str, str], str]) -> CommonOut:
    """The common terminal of a part with two sections, from its three pairs as typed. No statement."""
    typed = {
        pair: None if reads_open(text) else parse_quantity(text, "F", CAPACITANCE, field="".join(pair))
        for pair, text in readings.items()
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
