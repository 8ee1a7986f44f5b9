"""The fault walk of a job."""

from uuid import UUID

from dusky_heron.circuits.models import WalkReading
from dusky_heron.circuits.schemas import JobWalkOut, WalkIn
from dusky_heron.circuits.worked import walk
from dusky_heron.jobs.queries import find_job
from dusky_heron.record.actor import Actor


def job_walk(actor: Actor, job_id: UUID) -> JobWalkOut:
    """The walk of a job as it stands on its record. Two statements."""
    find_job(actor, job_id)
    read = list(WalkReading.standing(job_id=job_id))
    typed = as_typed(read)
    return JobWalkOut(typed=typed, walk=walk(typed), begun=bool(read))


def as_typed(read: list[WalkReading]) -> WalkIn:
    """Readings as they would be typed again: of the symptom that was said last, of each check the newest."""
    if not read:
        return WalkIn()
    last = read[-1]
    readings = {row.check_id: row.typed for row in read if row.symptom == last.symptom}
    return WalkIn(symptom=last.symptom, **last.parts, **readings)
