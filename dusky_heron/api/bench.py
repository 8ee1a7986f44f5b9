"""The Bench and the sheet of a job: what several apps know, put together."""

from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from dusky_heron.assessment.queries import standings
from dusky_heron.assessment.schemas import StandingOut
from dusky_heron.bringup.queries import powered
from dusky_heron.buying.queries import waiting_for
from dusky_heron.core.model import TO_REPLACE, Word
from dusky_heron.discharge.models import ChargeState
from dusky_heron.discharge.queries import charge_line, gravest
from dusky_heron.discharge.schemas import ChargeItem
from dusky_heron.fitting.queries import fitted
from dusky_heron.handback.queries import begun, last_returns
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


class ReturnedJob(Schema):
    """A job that was handed back, by whom, and how long the workshop stands for it."""

    job: JobOut
    returned_at: datetime
    by_name: str
    warranty_until: date | None


@router.get("bench", response=list[JobSheet])
def bench(request: HttpRequest) -> list[JobSheet]:
    """Every job on the bench; those handed back are not there any more."""
    actor = actor_of(request)
    return _sheets(actor, jobs.jobs(actor))


@router.get("returned", response=list[ReturnedJob])
def returned_jobs(request: HttpRequest) -> list[ReturnedJob]:
    """Jobs that were handed back, the last of them first."""
    found = jobs.returned_jobs(actor_of(request))
    last = last_returns(job.id for job in found)
    return [
        ReturnedJob(job=job, returned_at=last[job.id].at, by_name=last[job.id].by_name, warranty_until=last[job.id].warranty_until)
        for job in found
        if job.id in last
    ]


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
    done, job_ids = fitted(chosen.values()), [job.id for job in found]
    up, checked = powered(job_ids), begun(job_ids)
    return [
        _sheet(
            job,
            [SheetPosition(**dict(p), standing=standing[p.id], choice=chosen.get(p.id)) for p in by_job[job.id]],
            [charges[p.id] for p in by_job[job.id]],
            waits,
            _After(done, job.id in up, job.id in checked, job.returned_at is not None),
        )
        for job in found
    ]


@dataclass(frozen=True, slots=True)
class _After:
    """What was done once the parts were chosen: which are fitted; whether it is up, under check, handed back."""

    fitted: set[UUID]
    powered: bool
    checked: bool
    returned: bool


def _sheet(job: JobOut, positions: list[SheetPosition], line: list[ChargeItem], waits: dict[UUID, str], after: _After) -> JobSheet:
    stage, waits_for = _where_it_stands(positions, line, waits, after)
    return JobSheet(job=job, stage=stage, waits_for=waits_for, charge_line=line, gravest=gravest(line), positions=positions)


def _where_it_stands(
    positions: list[SheetPosition], line: list[ChargeItem], waits: dict[UUID, str], after: _After
) -> tuple[str, str]:
    """The stage of the work and the next step: the first position that is not done decides."""
    if after.returned:
        return "Hand back", "handed back"
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
    return _after_choosing(positions, after)


def _after_choosing(positions: list[SheetPosition], after: _After) -> tuple[str, str]:
    """Where it stands once every place has its verdict, and what is to be replaced its part."""
    to_fit = [p.choice for p in positions if p.choice and p.id not in after.fitted]
    if to_fit:
        place = f", from {to_fit[0].place}" if to_fit[0].place and not to_fit[0].taken_at else ""
        return "Fit", f"to fit: {to_fit[0].marking}{place}"
    if not after.fitted.intersection(p.id for p in positions):
        return "Hand back", "nothing to replace"
    if not after.powered and not after.checked:
        return "Power up", "bring it up in steps"
    return "Hand back", "its checks"
