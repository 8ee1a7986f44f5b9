"""What the benches put on record."""

from uuid import UUID

from dusky_heron.circuits.models import WalkReading
from dusky_heron.circuits.queries import as_typed, job_walk
from dusky_heron.circuits.schemas import FormingIn, FormingOut, JobWalkOut, WalkIn, WalkReadingIn
from dusky_heron.circuits.worked import forming, walk
from dusky_heron.core.ageing.reforming import FormingWord
from dusky_heron.core.errors import InputError
from dusky_heron.jobs.queries import core_position, find_job
from dusky_heron.record.actions import action, append, enter
from dusky_heron.record.actor import Actor, Permission


@action(Permission.WORK)
def log_forming(actor: Actor, position_id: UUID, data: FormingIn) -> FormingOut:
    """Put one step of re-forming on record: source, resistor, what was read, and what it says."""
    shown, _, _ = core_position(actor, position_id)
    found = forming(data)
    if found.word is FormingWord.TOO_FEW and not data.warm:
        raise InputError("log", "Write down at least one reading of this step.")
    body = {
        "position": shown.name,
        "source": data.source or found.steps[0].source.said,
        "through": found.resistor.said,
        "readings": [line.strip() for line in data.log.splitlines() if line.strip()],
        "can_warms": data.warm,
        "leakage": found.leakage.said if found.leakage else None,
        "says": found.says,
    }
    append(actor, shown.job_id, "re-forming", body)
    return found


@action(Permission.WORK)
def log_walk(actor: Actor, job_id: UUID, data: WalkReadingIn) -> JobWalkOut:
    """Put one reading of the fault walk on record, and what it says."""
    find_job(actor, job_id, lock=True)
    parts = data.model_dump(include={"part_ntc", "part_bleed", "part_choke", "part_bulk"})
    before = [row for row in WalkReading.standing(job_id=job_id) if row.symptom == data.symptom]
    if data.check_id not in WalkIn.model_fields or data.check_id in {"symptom", *parts}:
        raise InputError("check_id", "There is no such check on this walk.")
    if not data.value:
        raise InputError("value", "What did it read? OL for no reading.")
    row = WalkReading(job_id=job_id, symptom=data.symptom, parts=parts, check_id=data.check_id, typed=data.value)
    try:
        found = next(check for check in walk(as_typed([*before, row])).checks if check.id == data.check_id)
    except InputError as error:
        raise InputError("value" if error.field == data.check_id else error.field, error.sentence) from error
    row.found, row.sentence = found.found, found.sentence
    body = {"shows": data.symptom.replace("_", " "), "check": found.title, "read": data.value, "expected": found.expected}
    enter(actor, job_id, "fault walk", {**body, "found": found.found.replace("_", " "), "says": found.sentence}, row)
    return job_walk(actor, job_id)
