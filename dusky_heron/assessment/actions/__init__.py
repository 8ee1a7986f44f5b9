"""Noting a reading or a sign; either is judged at once, and the verdict recorded."""

import json
from uuid import UUID

from dusky_heron.assessment.models import Reading, RecordedVerdict, SeenSign
from dusky_heron.assessment.queries import assessment, reasons_of, show_reading
from dusky_heron.assessment.schemas import AssessmentOut, ReadingIn, SeenIn
from dusky_heron.core.errors import InputError
from dusky_heron.core.metering import FREQUENCY, read_value
from dusky_heron.core.quantities import parse_quantity
from dusky_heron.instruments.queries import meter
from dusky_heron.jobs.queries import core_position
from dusky_heron.jobs.schemas import PositionOut
from dusky_heron.record.actions import action, append
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.errors import NotFound


@action(Permission.WORK)
def enter_reading(actor: Actor, position_id: UUID, data: ReadingIn) -> AssessmentOut:
    """Note a measured value with the interval its meter leaves, and judge."""
    shown, position, _ = core_position(actor, position_id)
    if data.section >= len(position.marking.sections):
        raise InputError("section", f"This part has {len(position.marking.sections)} section(s).")
    try:
        meter_name, accuracy = meter(actor, data.meter_id)
    except NotFound:
        raise InputError("meter_id", "Choose one of the workshop's meters.") from None
    read = read_value(data.value, data.quantity, accuracy)
    hertz = parse_quantity(data.frequency, "Hz", FREQUENCY, field="frequency") if data.frequency else None
    reading = Reading.objects.create(
        position_id=position_id, section=data.section, typed=data.value, value=read.value, low=read.low, high=read.high,
        quantity=data.quantity, frequency_hz=hertz, condition=data.condition, meter_id=data.meter_id, meter_name=meter_name,
        by_name=actor.name,
    )  # fmt: skip
    said = show_reading(reading)
    body = {
        "position": shown.name,
        "section": data.section + 1,
        "quantity": said.quantity,
        "typed": data.value,
        "value": said.value.said,
        "interval": said.interval,
        "condition": data.condition,
        "meter": meter_name,
    }
    append(actor, shown.job_id, "reading", body)
    return _record(actor, shown)


@action(Permission.WORK)
def note_sign(actor: Actor, position_id: UUID, data: SeenIn) -> AssessmentOut:
    """Note something seen on the part, and judge."""
    shown, _, _ = core_position(actor, position_id)
    SeenSign.objects.create(position_id=position_id, sign=data.sign, by_name=actor.name)
    append(actor, shown.job_id, "sign seen", {"position": shown.name, "sign": data.sign})
    return _record(actor, shown)


@action(Permission.WORK)
def record_verdict(actor: Actor, position_id: UUID) -> AssessmentOut:
    """Record the verdict as it stands now, after the marking or the supply was changed."""
    shown, _, _ = core_position(actor, position_id)
    return _record(actor, shown)


def _record(actor: Actor, position: PositionOut) -> AssessmentOut:
    """Judge, and record the verdict with its reasons and the rules' version when it is a new one."""
    judged = assessment(actor, position.id)
    if not judged.differs:
        return judged
    reasons = reasons_of(judged.verdict)
    RecordedVerdict.objects.create(
        position_id=position.id,
        word=judged.verdict.word,
        reasons=json.dumps(reasons, ensure_ascii=False),
        rules_version=judged.verdict.rules_version,
        by_name=actor.name,
    )
    body = {
        "position": position.name,
        "word": judged.verdict.word,
        "reasons": reasons,
        "rules_version": judged.verdict.rules_version,
    }
    append(actor, position.job_id, "verdict", body)
    return assessment(actor, position.id)
