"""Noting a reading or a sign, judged at once and recorded; taking or keeping a re-judgement; deciding about the rest of a set."""

import json
from dataclasses import replace
from uuid import UUID

from dusky_heron.assessment.models import BatchDecision, Reading, RecordedVerdict, SeenSign
from dusky_heron.assessment.queries import assessment, batch, known, plain_evidence, show_known, show_reading
from dusky_heron.assessment.schemas import AssessmentOut, BatchChoice, BatchOut, BoardLineIn, BoardLineOut, ReadingIn, SeenIn
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.metering.taking import TypedReading, take
from dusky_heron.core.schools import find_school
from dusky_heron.core.selection.likely import likely_role
from dusky_heron.instruments.queries import meter
from dusky_heron.jobs.actions import add_position
from dusky_heron.jobs.queries import core_position
from dusky_heron.jobs.schemas import PositionIn, PositionOut
from dusky_heron.record.actions import action, enter
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.errors import NotFound


@action(Permission.WORK)
def enter_reading(actor: Actor, position_id: UUID, data: ReadingIn) -> AssessmentOut:
    """Note a measured value with the interval its meter leaves, and judge."""
    shown, position, _ = core_position(actor, position_id)
    if data.section >= len(position.parts):
        raise InputError("section", f"There are {len(position.parts)} to be measured here.")
    try:
        known_meter = meter(actor, data.meter_id)
    except NotFound:
        raise InputError("meter_id", "Choose one of the workshop's meters.") from None
    typed = TypedReading(**data.model_dump(exclude={"meter_id", "section", "temperature_c"}))
    taken = take(typed, known_meter.specification, position)
    reading = Reading(
        position_id=position_id, section=data.section, typed=taken.typed, value=taken.value.value, low=taken.value.low,
        high=taken.value.high, quantity=taken.quantity, frequency_hz=taken.frequency_hz, condition=taken.condition,
        meter_id=data.meter_id, meter_name=known_meter.name, overdue=known_meter.overdue, temperature_c=data.temperature_c,
        volts=taken.volts, seconds=taken.seconds,
    )  # fmt: skip
    said = show_reading(reading)
    body = {
        "position": shown.name,
        "part": position.part_names[data.section],
        "quantity": said.what,
        "typed": taken.typed,
        "value": said.value.said,
        "interval": said.interval,
        "condition": taken.condition,
        "meter": known_meter.name,
        **({"at": said.at_volts} if said.at_volts else {}),
        **({"temperature": said.temperature} if said.temperature else {}),
        **({"calibration": "overdue"} if known_meter.overdue else {}),
    }
    enter(actor, shown.job_id, "reading", body, reading)
    return judge_again(actor, shown)


@action(Permission.WORK)
def enter_line(actor: Actor, job_id: UUID, data: BoardLineIn) -> BoardLineOut:
    """Name a position and note what it reads, in one line of a board."""
    pointed_to = None if data.role_chosen else likely_role(read_marking(data.marking))
    role = pointed_to or data.role
    place = PositionIn(name=data.name, role=role, marking=data.marking)
    position_id = add_position(actor, job_id, place).id
    if data.value:
        if data.meter_id is None:
            raise InputError("meter_id", "Choose the meter.")
        reading = ReadingIn(value=data.value, meter_id=data.meter_id, condition=data.condition)
        enter_reading(actor, position_id, reading)
    judged = assessment(actor, position_id)
    return BoardLineOut(position_id=position_id, name=data.name, role=role, word=judged.verdict.word)


@action(Permission.WORK)
def note_sign(actor: Actor, position_id: UUID, data: SeenIn) -> AssessmentOut:
    """Note something seen on the part, and judge."""
    shown, _, _ = core_position(actor, position_id)
    body = {"position": shown.name, "sign": data.sign}
    enter(actor, shown.job_id, "sign seen", body, SeenSign(position_id=position_id, sign=data.sign))
    return judge_again(actor, shown)


@action(Permission.WORK)
def record_verdict(actor: Actor, position_id: UUID) -> AssessmentOut:
    """Record the verdict as it stands now, after the marking, the supply, a limit or the rules were changed."""
    shown, _, _ = core_position(actor, position_id)
    return judge_again(actor, shown)


@action(Permission.WORK)
def keep_verdict(actor: Actor, position_id: UUID) -> AssessmentOut:
    """Keep the recorded verdict though a judgement now would say otherwise; the record shows both."""
    one = known(actor, [core_position(actor, position_id)])[0]
    if one.recorded is None:
        raise InputError("position_id", "No verdict is recorded yet: there is nothing to keep.")
    if one.differs:
        stands, not_taken = one.recorded, json.dumps(one.reasons, ensure_ascii=False)
        kept = RecordedVerdict(
            position_id=position_id, word=stands.word, reasons=stands.reasons, evidence=stands.evidence, kept=not_taken,
            rules_version=stands.rules_version,
        )  # fmt: skip
        body = {
            "position": one.shown.name,
            "kept": one.recorded.word,
            "not taken": one.verdict.word,
            "reasons not taken": one.reasons,
            "rules_version": one.verdict.rules_version,
        }
        enter(actor.here, one.shown.job_id, "verdict kept", body, kept)
    return assessment(actor, position_id)


@action(Permission.WORK)
def decide_batch(actor: Actor, position_id: UUID, data: BatchChoice) -> BatchOut:
    """Decide about the rest of a set, on the figures both schools come to."""
    shown, _, _ = core_position(actor, position_id)
    found = batch(actor, position_id, data)
    if found.missing:
        raise InputError("used_percent" if found.age_years else "age_years", found.missing)
    title = find_school("batch", data.choice).options[data.choice]
    sentence = (
        f"{title}: {data.siblings} more, {found.any_fails_percent:g} % that one fails in {data.warranty_months:g} months; "
        f"set {found.set_costs:.2f}, only the failed {found.failed_costs:.2f} on average."
    )
    decision = BatchDecision(position_id=position_id, choice=data.choice, sentence=sentence)
    body = {"position": shown.name, "decided": sentence, "recommended": found.recommends}
    enter(actor, shown.job_id, "rest of the set", body, decision)
    return batch(actor, position_id, data)


def judge_again(actor: Actor, position: PositionOut) -> AssessmentOut:
    """Judge, and record the verdict with its reasons, its evidence and the rules' version when it is a new one."""
    one = known(actor, [core_position(actor, position.id)])[0]
    if not one.differs:
        return show_known(one)
    verdict = RecordedVerdict(
        position_id=position.id,
        word=one.verdict.word,
        reasons=json.dumps(one.reasons, ensure_ascii=False),
        evidence=json.dumps(plain_evidence(one.evidence), ensure_ascii=False),
        rules_version=one.verdict.rules_version,
    )
    body = {
        "position": position.name,
        "word": one.verdict.word,
        "reasons": one.reasons,
        "rules_version": one.verdict.rules_version,
        **({"before": one.recorded.word} if one.recorded else {}),
    }
    enter(actor.here, position.job_id, "verdict", body, verdict)
    return show_known(replace(one, recorded=verdict))
