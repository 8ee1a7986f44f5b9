"""The Bench and the sheet of a job: what several apps know, put together."""

from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from dusky_heron.assessment.queries import Stand, standings, words
from dusky_heron.assessment.schemas import StandingOut
from dusky_heron.bringup.queries import powered
from dusky_heron.buying.queries import waiting_for
from dusky_heron.core.model import TO_REPLACE, Word
from dusky_heron.core.selection.ways import Way
from dusky_heron.discharge.models import ChargeState
from dusky_heron.discharge.queries import Charge, charges, gravest, harm_of, may_hurt, may_kill, show_charge
from dusky_heron.discharge.schemas import ChargeItem
from dusky_heron.fitting.queries import fitted
from dusky_heron.handback.queries import begun, last_returns
from dusky_heron.jobs import queries as jobs
from dusky_heron.jobs.schemas import JobOut, Place, PositionOut
from dusky_heron.jobs.stages import STAGE_TITLES, Stage
from dusky_heron.presented import Answer
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
    ChargeState.REVOKED: "keep it shorted",
    ChargeState.LINK_OFF: "prove it again",
}


class SheetPosition(PositionOut):
    """A position with where it stands."""

    standing: StandingOut
    choice: ChoiceOut | None


class BenchJob(Answer):
    """A job on the bench: where the work stands, what it waits for, and what may hold the most harm.

    `may_hurt` unless everything is proved, shorted or too small; `may_kill` where it can do more than startle or is live.
    """

    job: JobOut
    stage: Stage
    stage_title: str
    waits_for: str
    gravest: ChargeItem | None
    may_hurt: bool
    may_kill: bool


class JobSheet(BenchJob):
    """A job with its positions and its charge line."""

    charge_line: list[ChargeItem]
    positions: list[SheetPosition]


class ReturnedJob(Answer):
    """A job that was handed back, by whom, and how long the workshop stands for it."""

    job: JobOut
    returned_at: datetime
    by_name: str
    warranty_until: date | None


@router.get("bench", response=list[BenchJob])
def bench(request: HttpRequest) -> list[BenchJob]:
    """Every job on the bench, the worst charge first; those handed back are not there any more."""
    actor = actor_of(request)
    found = jobs.on_the_bench(actor)
    stand = zip(found, _stand(actor, found), strict=True)
    return [_shown(job, one) for (job, _), one in sorted(stand, key=lambda row: harm_of(row[1].line))]


def _shown(job: JobOut, one: "_Stand") -> BenchJob:
    return BenchJob(
        job=job,
        stage=one.stage,
        stage_title=STAGE_TITLES[one.stage],
        waits_for=one.waits_for,
        gravest=gravest(one.line),
        may_hurt=may_hurt(one.line),
        may_kill=may_kill(one.line),
    )


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
    job, shown, places = jobs.with_places(actor, job_id)
    (one,) = _stand(actor, [(job, places)])
    standing = standings({place.id: place.stands for place in one.places})
    return JobSheet(
        **dict(_shown(job, one)),
        charge_line=[show_charge(charge) for charge in one.line],
        positions=[
            SheetPosition(**dict(position), standing=standing[place.id], choice=place.choice)
            for position, place in zip(shown, one.places, strict=True)
        ],
    )


@dataclass(frozen=True, slots=True)
class _Place:
    """A position of a job: whether its marking is settled, where its verdict stands, and what was chosen for it."""

    id: UUID
    name: str
    provisional: bool
    stands: Stand
    choice: ChoiceOut | None


@dataclass(frozen=True, slots=True)
class _Stand:
    """Where a job stands: its places, its charge line, the stage and what it waits for."""

    places: list[_Place]
    line: list[Charge]
    stage: Stage
    waits_for: str


def _stand(actor: Actor, found: list[tuple[JobOut, list[Place]]]) -> list[_Stand]:
    """Where jobs stand, in a constant number of statements whatever theirs."""
    everywhere = [place for _, places in found for place in places]
    known = {place.id: place.known for place in everywhere}
    ids = list(known)
    held = {one.named.id: one for one in charges(everywhere, known)}
    standing, chosen, waits = words(actor, known), choices(ids), waiting_for(ids)
    done, job_ids = fitted(chosen.values()), [job.id for job, _ in found]
    up, checked = powered(job_ids), begun(job_ids)
    rows = []
    for job, found_places in found:
        places = [
            _Place(place.id, place.name, place.provisional, standing[place.id], chosen.get(place.id)) for place in found_places
        ]
        line = [held[place.id] for place in places]
        after = _After(done, job.id in up, job.id in checked, job.returned_at is not None)
        rows.append(_Stand(places, line, *_where_it_stands(places, line, waits, after)))
    return rows


@dataclass(frozen=True, slots=True)
class _After:
    """What was done once the parts were chosen: which are fitted; whether it is up, under check, handed back."""

    fitted: set[UUID]
    powered: bool
    checked: bool
    returned: bool


def _where_it_stands(positions: list[_Place], line: list[Charge], waits: dict[UUID, str], after: _After) -> tuple[Stage, str]:
    """The stage of the work and the next step: the first position that is not done decides."""
    if after.returned:
        return Stage.HANDBACK, "handed back"
    if not positions:
        return Stage.INTAKE, "name the first position"
    for position, charge in zip(positions, line, strict=True):
        word = position.stands.word
        if position.provisional:
            stage = Stage.DISCHARGE if charge.state in TO_DISCHARGE else Stage.ASSESS
            return stage, f"{position.name}: say what is printed on it"
        if not position.stands.recorded and charge.state in TO_DISCHARGE:
            return Stage.DISCHARGE, f"{position.name}: {TO_DISCHARGE[charge.state]}"
        if word in (None, Word.UNKNOWN):
            return Stage.ASSESS, f"{position.name}: measure it"
        if word in TO_REPLACE and position.id in waits:
            return Stage.REPLACE, f"{position.name} waits for {waits[position.id]}"
        if word in TO_REPLACE and position.choice is None:
            return Stage.REPLACE, f"{position.name}: choose from the drawer"
    return _after_choosing(positions, waits, after)


def _after_choosing(positions: list[_Place], waits: dict[UUID, str], after: _After) -> tuple[Stage, str]:
    """Where it stands once every place has its verdict, and what is to be replaced its part."""
    chosen = [p for p in positions if p.choice and p.choice.way is not Way.LEFT and p.id not in after.fitted]
    to_buy = next((p for p in chosen if p.choice and p.choice.way is Way.ORDERED), None)
    if to_buy:
        waits_for = f"waits for {waits[to_buy.id]}" if to_buy.id in waits else "choose what came from the drawer"
        return Stage.REPLACE, f"{to_buy.name}: {waits_for}"
    to_fit = [p.choice for p in chosen if p.choice]
    if to_fit:
        if to_fit[0].way is Way.REMOVED:
            return Stage.FIT, "to take out, and leave its place empty"
        place = f", from {to_fit[0].place}" if to_fit[0].place and not to_fit[0].out_at else ""
        return Stage.FIT, f"to fit: {to_fit[0].marking}{place}"
    if not after.fitted.intersection(p.id for p in positions):
        return Stage.HANDBACK, "nothing to replace"
    if not after.powered and not after.checked:
        return Stage.POWER, "bring it up in steps"
    return Stage.HANDBACK, "its checks"
