"""A set that was here before: by its serial number, or by model and customer where none is written; and what was done then."""

import datetime
import re
from collections.abc import Iterable, Mapping
from typing import NamedTuple
from uuid import UUID

from django.db.models import Q
from django.utils import timezone

from dusky_heron.assessment.models import Reading
from dusky_heron.assessment.queries import show_reading
from dusky_heron.fitting.queries import fitted
from dusky_heron.handback.models import Return
from dusky_heron.handback.queries import last_returns
from dusky_heron.jobs.models import Job, Position
from dusky_heron.jobs.queries import find_job
from dusky_heron.memory.plain import plain, plain_word
from dusky_heron.memory.schemas import CameBackOut, PartThenOut, Warranty
from dusky_heron.record.actor import Actor
from dusky_heron.replacement.queries import choices
from dusky_heron.replacement.schemas import ChoiceOut

MOST = 5
DATE = re.compile(r"(19|20)\d\d(0[1-9]|1[0-2])?|(0?[1-9]|1[0-2])(19|20)\d\d")  # a year, with its month or without
LEAST_SIGNS = 3  # of a serial number, a figure among them and not all the same: less is `n/a`, `none`, `0`, `000`
SHORTEST = 4  # letters of a serial number of which one may be misread
COMPARED = {"supply_v": "supply, V", "supply_hz": "frequency, Hz", "protection_class": "protection class", "customer": "customer"}


class _Known(NamedTuple):
    """How a set is known again; `surely` where nothing written speaks against it."""

    surely: bool
    by: str


def came_back(actor: Actor, job_id: UUID) -> list[CameBackOut]:
    """Earlier jobs on the same set, the newest first, each with what was left in it and what is otherwise now. Nine statements."""
    job = find_job(actor, job_id)
    known = [(row, how) for row in _alike(job) if (how := _known_by(job, row))][:MOST]
    places = list(Position.objects.filter(job_id__in=[job.id, *(row.id for row, _ in known)]))
    chosen = choices([place.id for place in places])
    inside = fitted(chosen.values())
    read = {r.position_id: r for r in Reading.standing(position_id__in=[place.id for place in places])}
    back = last_returns(row.id for row, _ in known)
    found = []
    for row, how in known:
        parts = [_part(place, chosen.get(place.id), inside, read) for place in places if place.job_id == row.id]
        now = {place.name.lower(): place.marking for place in places if place.job_id == job.id}
        warranty, until = _warranty(job, row, back.get(row.id))
        found.append(
            CameBackOut(
                job_id=row.id,
                number=row.number,
                title=row.title,
                surely=how.surely,
                by=how.by,
                opened_at=row.opened_at,
                returned_at=row.returned_at,
                warranty=warranty,
                warranty_until=until,
                symptom=row.symptom,
                parts=parts,
                differs=[*_otherwise(job, row), *_other_parts(parts, now)],
            )
        )
    return found


def _alike(job: Job) -> Iterable[Job]:
    """The workshop's other jobs that may be on the same set, newest first. One statement."""
    spelt = Job.objects.annotate(plain_serial=plain("serial"), plain_model=plain("model"))
    serial, model = _serial(job), plain_word(job.model)
    same = (Q(plain_serial=serial) if serial else Q(pk=None)) | (Q(plain_model=model) if model else Q(pk=None))
    return spelt.filter(same, workshop_id=job.workshop_id, number__lt=job.number).exclude(id=job.id).order_by("-number")


def _known_by(job: Job, other: Job) -> _Known | None:
    """Whether another job was on the same set, as far as what is written tells."""
    serial, then = _serial(job), _serial(other)
    models = plain_word(job.model), plain_word(other.model)
    model, customer = models[0] == models[1] != "", plain_word(job.customer) == plain_word(other.customer) != ""
    if serial and then:
        if serial == then and model:
            return _Known(True, "the same serial number and model")
        if serial == then:
            other_model = all(models)
            says = "the same serial number, on another model: look which is wrong" if other_model else "the same serial number"
            return _Known(False, says)
        return _Known(False, "the same model, all but one sign of its serial number") if model and _near(serial, then) else None
    return _Known(False, "the same model of the same customer; its serial number is not written") if model and customer else None


def _serial(job: Job) -> str:
    """What tells one set from its like; "" for what stands in that field and does not."""
    word = plain_word(job.serial)
    told = len(word) >= LEAST_SIGNS and re.search("[0-9]", word) and len(set(word)) > 1 and not DATE.fullmatch(word)
    return word if told else ""


def _near(one: str, other: str) -> bool:
    """Whether one sign of a serial number is another, missing or too many."""
    short, long = sorted((one, other), key=len)
    if len(short) < SHORTEST or len(long) - len(short) > 1:
        return False
    at = next((k for k, (a, b) in enumerate(zip(short, long, strict=False)) if a != b), len(short))
    return short[at:] == long[at + 1 :] or short[at + 1 :] == long[at + 1 :]


def _warranty(job: Job, other: Job, back: Return | None) -> tuple[Warranty, datetime.date | None]:
    """Whether the workshop still stood for its work when the set came in again."""
    until = back.warranty_until if back and other.returned_at else None
    if other.returned_at is None:
        return Warranty.HERE, None
    if until is None:
        return Warranty.NONE, None
    runs = timezone.localdate(job.opened_at) <= until
    return Warranty.RUNS if runs else Warranty.OVER, until


def _part(place: Position, choice: ChoiceOut | None, inside: set[UUID], read: Mapping[UUID, Reading]) -> PartThenOut:
    """What stood in a place when the job went back."""
    new = choice if choice and place.id in inside else None
    last = read.get(place.id)
    shown = show_reading(last) if last else None
    return PartThenOut(
        name=place.name,
        marking=new.marking if new else place.marking,
        fitted=new is not None,
        lot=", ".join(filter(None, (f"{part.lot} {part.date_code}".strip() for part in new.parts))) if new else "",
        reading=f"{shown.what} {shown.value.said} {shown.how}".strip() if shown else "",
    )


def _otherwise(job: Job, other: Job) -> list[str]:
    """What was written at intake and is not the same now; what one of both does not say differs in nothing."""
    pairs = ((says, getattr(other, name), getattr(job, name)) for name, says in COMPARED.items())
    return [f"{says}: {then} then, {now} now" for says, then, now in pairs if then and now and then != now]


def _other_parts(parts: Iterable[PartThenOut], now: Mapping[str, str]) -> list[str]:
    """Places in which another part stands now than was left there: somebody else was at it."""
    there = [(part, now.get(part.name.lower(), "")) for part in parts]
    return [
        f"{part.name}: left with {part.marking}, now {marking}" for part, marking in there if marking and marking != part.marking
    ]
