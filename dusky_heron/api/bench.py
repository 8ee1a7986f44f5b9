"""The Bench and the sheet of a job: what several apps know, put together."""

from collections.abc import Collection
from dataclasses import dataclass
from datetime import date, datetime
from enum import StrEnum
from functools import partial
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from dusky_heron.assessment.queries import Stand, standings, words
from dusky_heron.assessment.schemas import StandingOut
from dusky_heron.bringup.queries import powered
from dusky_heron.buying.queries import waiting_for
from dusky_heron.core.model import TO_REPLACE, Word
from dusky_heron.core.selection.ways import Way
from dusky_heron.discharge.queries import Charge, Noted, gravest, harm_of, may_hurt, may_kill, noted, show_charge
from dusky_heron.discharge.schemas import ChargeItem
from dusky_heron.discharge.states import ChargeState
from dusky_heron.fitting.queries import fitted
from dusky_heron.handback.queries import begun, last_returns
from dusky_heron.jobs import queries as jobs
from dusky_heron.jobs.schemas import HandedOut, JobOut, Place, PositionOut
from dusky_heron.jobs.stages import STAGE_TITLES, Stage
from dusky_heron.presented import Answer
from dusky_heron.proposals.queries import waiting
from dusky_heron.record.actor import Actor
from dusky_heron.record.clock import watch
from dusky_heron.record.heads import Kept
from dusky_heron.record.queries import last_entries
from dusky_heron.record.schemas import EntryOut
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


class WaitsOn(StrEnum):
    """Whom or what the next step waits for: a signature before a part, a part before hands."""

    SIGNATURE = "signature"
    PART = "part"
    HANDS = "hands"


class BenchJob(Answer):
    """A job on the bench: where the work stands, what it waits for, what of it is `proposed`, and what may hold the most harm.

    `last_by` wrote in its record last; `handed_over` is the last word that somebody left for whoever goes on.

    `may_hurt` unless everything is proved, shorted or too small; `may_kill` where it reaches the lethal mark, is live, or nobody
    can work it out.
    """

    job: JobOut
    stage: Stage
    stage_title: str
    waits_for: str
    waits_on: WaitsOn
    proposed: list[str]
    handed_over: HandedOut | None
    last_by: str
    last_at: datetime | None
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
    actor, moment = actor_of(request), watch()
    found = JOBS.of(partial(jobs.heads_on_the_bench, actor), partial(_known, actor))
    lines = [(job, [one.at(moment) for one in job.charges]) for job in found.values()]
    return [_shown(job, line) for job, line in sorted(lines, key=lambda row: harm_of(row[1]))]


def _shown(known: "_Known", line: list[Charge]) -> BenchJob:
    stage, waits_for = _where_it_stands(known, line)
    return BenchJob(
        job=known.job,
        stage=stage,
        stage_title=STAGE_TITLES[stage],
        waits_for=waits_for,
        waits_on=WaitsOn.SIGNATURE if known.proposed else WaitsOn.PART if known.waits else WaitsOn.HANDS,
        proposed=known.proposed,
        handed_over=known.handed_over,
        last_by=known.last.by_name if known.last else "",
        last_at=known.last.at if known.last else None,
        gravest=gravest(line),
        may_hurt=may_hurt(line),
        may_kill=may_kill(line),
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
    actor, moment = actor_of(request), watch()
    (sheet,) = SHEETS.of(partial(jobs.heads_of_job, actor, job_id), partial(_sheets, actor)).values()
    line = [one.at(moment) for one in sheet.known.charges]
    shown = _shown(sheet.known, line)
    return JobSheet(**dict(shown), charge_line=[show_charge(charge) for charge in line], positions=sheet.positions)


@dataclass(frozen=True, slots=True)
class _Place:
    """A position of a job: whether its marking is settled, where its verdict stands, and what was chosen for it."""

    id: UUID
    name: str
    provisional: bool
    stands: Stand
    choice: ChoiceOut | None


@dataclass(frozen=True, slots=True)
class _Known:
    """What the record of a job says of it, whatever the time: its places and their charges, what they wait for, what was done.

    `fitted` are the places whose part is in; it may be `powered`, and under check. `proposed` waits for a signature; `last` is
    the newest entry of its record.
    """

    job: JobOut
    places: list[_Place]
    charges: list[Noted]
    waits: dict[UUID, str]
    fitted: set[UUID]
    powered: bool
    checked: bool
    proposed: list[str]
    handed_over: HandedOut | None
    last: EntryOut | None


_WithPlaces = tuple[JobOut, list[Place]]


@dataclass(frozen=True, slots=True)
class _Sheet:
    """A job with its positions as they are shown."""

    known: _Known
    positions: list[SheetPosition]


JOBS, SHEETS = Kept[_Known](1000), Kept[_Sheet](100)  # some 10 kB a position known, 20 kB a position shown


def _known(actor: Actor, job_ids: Collection[UUID]) -> dict[UUID, _Known]:
    """What is known of jobs the asker may see, in a constant number of statements whatever theirs."""
    return {job.id: known for (job, _), known in _looked_through(actor, jobs.with_places(job_ids))}


def _sheets(actor: Actor, job_ids: Collection[UUID]) -> dict[UUID, _Sheet]:
    """The same with their positions as they are shown. One statement more."""
    looked = _looked_through(actor, jobs.with_places(job_ids))
    standing = standings({place.id: place.stands for _, known in looked for place in known.places})
    return {
        job.id: _Sheet(
            known,
            [
                SheetPosition(**dict(place.shown()), standing=standing[place.id], choice=one.choice)
                for place, one in zip(places, known.places, strict=True)
            ],
        )
        for (job, places), known in looked
    }


def _looked_through(actor: Actor, found: list[_WithPlaces]) -> list[tuple[_WithPlaces, _Known]]:
    everywhere = [place for _, places in found for place in places]
    known = {place.id: place.known for place in everywhere}
    ids, job_ids = list(known), [job.id for job, _ in found]
    held = {one.named.id: one for one in noted(everywhere, known)}
    standing, chosen, waits = words(actor, known), choices(ids), waiting_for(ids)
    done, up, checked, proposed = fitted(chosen.values()), powered(job_ids), begun(job_ids), waiting(job_ids)
    left, last = jobs.handed_over(job_ids), last_entries(job_ids)
    rows = []
    for job, places in found:
        one = _Known(
            job,
            [_Place(place.id, place.name, place.provisional, standing[place.id], chosen.get(place.id)) for place in places],
            [held[place.id] for place in places],
            {place.id: waits[place.id] for place in places if place.id in waits},
            {place.id for place in places if place.id in done},
            job.id in up,
            job.id in checked,
            proposed.get(job.id, []),
            left.get(job.id),
            last.get(job.id),
        )
        rows.append(((job, places), one))
    return rows


def _where_it_stands(known: _Known, line: list[Charge]) -> tuple[Stage, str]:
    """The stage of the work and the next step: the first position that is not done decides."""
    if known.job.returned_at is not None:
        return Stage.HANDBACK, "handed back"
    if not known.places:
        return Stage.INTAKE, "name the first position"
    for position, charge in zip(known.places, line, strict=True):
        word = position.stands.word
        if position.provisional:
            stage = Stage.DISCHARGE if charge.state in TO_DISCHARGE else Stage.ASSESS
            return stage, f"{position.name}: say what is printed on it"
        if not position.stands.recorded and charge.state in TO_DISCHARGE:
            return Stage.DISCHARGE, f"{position.name}: {TO_DISCHARGE[charge.state]}"
        if word in (None, Word.UNKNOWN):
            return Stage.ASSESS, f"{position.name}: measure it"
        if word in TO_REPLACE and position.id in known.waits:
            return Stage.REPLACE, f"{position.name} waits for {known.waits[position.id]}"
        if word in TO_REPLACE and position.choice is None:
            return Stage.REPLACE, f"{position.name}: choose from the drawer"
    return _after_choosing(known)


def _after_choosing(known: _Known) -> tuple[Stage, str]:
    """Where it stands once every place has its verdict, and what is to be replaced its part."""
    chosen = [p for p in known.places if p.choice and p.choice.way is not Way.LEFT and p.id not in known.fitted]
    to_buy = next((p for p in chosen if p.choice and p.choice.way is Way.ORDERED), None)
    if to_buy:
        waits_for = f"waits for {known.waits[to_buy.id]}" if to_buy.id in known.waits else "choose what came from the drawer"
        return Stage.REPLACE, f"{to_buy.name}: {waits_for}"
    to_fit = [p.choice for p in chosen if p.choice]
    if to_fit:
        if to_fit[0].way is Way.REMOVED:
            return Stage.FIT, "to take out, and leave its place empty"
        place = f", from {to_fit[0].place}" if to_fit[0].place and not to_fit[0].out_at else ""
        return Stage.FIT, f"to fit: {to_fit[0].marking}{place}"
    if not known.fitted:
        return Stage.HANDBACK, "nothing to replace"
    if not known.powered and not known.checked:
        return Stage.POWER, "bring it up in steps"
    return Stage.HANDBACK, "its checks"
