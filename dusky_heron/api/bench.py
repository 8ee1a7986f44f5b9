"""The Bench and the sheet of a job: what several apps know, put together."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from dusky_heron.assessment.queries import standings
from dusky_heron.assessment.schemas import StandingOut
from dusky_heron.buying.queries import waiting_for
from dusky_heron.core.model import TO_REPLACE, Word
from dusky_heron.discharge.models import ChargeState
from dusky_heron.discharge.queries import charge_line, gravest
from dusky_heron.discharge.schemas import ChargeItem
from dusky_heron.jobs import queries as jobs
from dusky_heron.jobs.schemas import JobOut, PositionOut
from dusky_heron.presented import Schema
from dusky_heron.record.actor import Actor
from dusky_heron.replacement.queries import choices
from dusky_heron.replacement.schemas import ChoiceOut
from dusky_heron.workshops.requests import actor_of

router = Router(tags=["bench"])
TO_DISCHARGE = {
    ChargeState.UNKNOWN: "empty it first",
    ChargeState.ENERGISED: "empty it first",
    ChargeState.RISING: "find what feeds it",
    ChargeState.EMPTYING: "prove it",
    ChargeState.LAPSED: "prove it again",
}


class SheetPosition(PositionOut):
    """A position with where it stands."""

    standing: StandingOut
    choice: ChoiceOut | None


class JobSheet(Schema):
    """A job with its positions and its charge line; where the work stands and what it waits for."""

    job: JobOut
    stage: str
    waits_for: str
    charge_line: list[ChargeItem]
    gravest: ChargeItem | None
    positions: list[SheetPosition]


@router.get("bench", response=list[JobSheet])
def bench(request: HttpRequest) -> list[JobSheet]:
    """Every job on the bench."""
    actor = actor_of(request)
    return _sheets(actor, jobs.jobs(actor))


@router.get("jobs/{job_id}/sheet", response=JobSheet)
def job_sheet(request: HttpRequest, job_id: UUID) -> JobSheet:
    """One job."""
    actor = actor_of(request)
    return _sheets(actor, [jobs.job(actor, job_id)])[0]


def _sheets(actor: Actor, found: list[JobOut]) -> list[JobSheet]:
    """Sheets of jobs, in a constant number of statements whatever theirs."""
    by_job = jobs.positions(actor, [job.id for job in found])
    everywhere = [position for positions in by_job.values() for position in positions]
    ids = [position.id for position in everywhere]
    charges = {item.position_id: item for item in charge_line(everywhere)}
    standing, chosen, waits = standings(actor, ids), choices(ids), waiting_for(ids)
    return [
        _sheet(
            job,
            [SheetPosition(**dict(p), standing=standing[p.id], choice=chosen.get(p.id)) for p in by_job[job.id]],
            [charges[p.id] for p in by_job[job.id]],
            waits,
        )
        for job in found
    ]


def _sheet(job: JobOut, positions: list[SheetPosition], line: list[ChargeItem], waits: dict[UUID, str]) -> JobSheet:
    stage, waits_for = _where_it_stands(positions, line, waits)
    return JobSheet(job=job, stage=stage, waits_for=waits_for, charge_line=line, gravest=gravest(line), positions=positions)


def _where_it_stands(positions: list[SheetPosition], line: list[ChargeItem], waits: dict[UUID, str]) -> tuple[str, str]:
    """The stage of the work and the next step: the first position that is not done decides."""
    if not positions:
        return "Intake", "name the first position"
    for position, charge in zip(positions, line, strict=True):
        word = position.standing.word
        if not position.standing.recorded and charge.state in TO_DISCHARGE:
            return "Discharge", f"{position.name}: {TO_DISCHARGE[charge.state]}"
        if word in (None, Word.UNKNOWN):
            return "Assess", f"{position.name}: measure it"
        if word in TO_REPLACE and position.id in waits:
            return "Replace", f"{position.name} waits for {waits[position.id]}"
        if word in TO_REPLACE and position.choice is None:
            return "Replace", f"{position.name}: choose from the drawer"
    fitted = [p.choice for p in positions if p.choice]
    if fitted:
        return "Replace", f"to fit: {fitted[0].marking}" + (f", from {fitted[0].place}" if fitted[0].place else "")
    return "Assess", "nothing to replace"
