"""Reading evidence and verdicts; each function says how many statements it takes."""

import dataclasses
import json
import math
from uuid import UUID

from django.utils import timezone

from dusky_heron.assessment.models import Reading, RecordedVerdict, SeenSign
from dusky_heron.assessment.schemas import (
    AssessmentOut,
    FindingOut,
    ReadingOut,
    RecordedOut,
    SeenOut,
    StandingOut,
    VerdictOut,
)
from dusky_heron.core import model as core
from dusky_heron.core.quantities import show, show_range
from dusky_heron.core.verdict import judge
from dusky_heron.jobs.queries import core_position
from dusky_heron.presented import Figure
from dusky_heron.record.actor import Actor


def assessment(actor: Actor, position_id: UUID) -> AssessmentOut:
    """Evidence and verdict of a position. Four statements."""
    _, position, _ = core_position(actor, position_id)
    readings = list(Reading.objects.filter(position_id=position_id))
    signs = list(SeenSign.objects.filter(position_id=position_id))
    verdict = judge(position, _evidence(readings, signs), today=timezone.localdate())
    recorded = RecordedVerdict.objects.filter(position_id=position_id).last()
    shown = _show_verdict(verdict)
    return AssessmentOut(
        readings=[show_reading(r) for r in readings],
        signs=[SeenOut.from_row(s) for s in signs],
        verdict=shown,
        recorded=RecordedOut.from_row(recorded) if recorded else None,
        differs=recorded is None or recorded.word != shown.word or json.loads(recorded.reasons) != reasons_of(shown),
    )


def evidence(position_id: UUID) -> core.Evidence:
    """Readings and signs of a position the asker may see. Two statements."""
    return _evidence(list(Reading.objects.filter(position_id=position_id)), list(SeenSign.objects.filter(position_id=position_id)))


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
