"""Reading what was seen before; each function says how many statements it takes."""

import datetime
import json
import re
from collections import defaultdict
from collections.abc import Iterable
from typing import Any
from uuid import UUID

from django.contrib.postgres.search import SearchQuery, TrigramSimilarity
from django.db.models import OuterRef, Q, Subquery

from dusky_heron.assessment.models import Reading, RecordedVerdict
from dusky_heron.assessment.queries import show_reading
from dusky_heron.core.ageing.survival import ENOUGH, Lasted, Surviving, median_life, survival
from dusky_heron.core.discharge.rebound import dielectric_of
from dusky_heron.core.errors import InputError
from dusky_heron.core.model import ROLE_TITLES, TO_REPLACE, Role
from dusky_heron.core.model.materials import MATERIALS
from dusky_heron.jobs.models import Job, Position
from dusky_heron.jobs.queries import find_job
from dusky_heron.memory.plain import plain, plain_word
from dusky_heron.memory.schemas import FailedOut, FailuresOut, GroupBy, HitOut, SeenBeforeOut, SurvivingOut
from dusky_heron.presented import read_kept
from dusky_heron.record.actor import Actor
from dusky_heron.record.models import Entry, WordsOf
from dusky_heron.replacement.queries import choices

PREFIX, LONGEST_WORD = 8, 48  # of a word in the index, see `entry_words` in migration 0006 of the record
ALIKE = 0.4  # similarity of trigrams from which two spellings may be one model
MOST_SEEN, MOST_HITS, LONGEST_SAYS = 20, 50, 240
DAYS_A_YEAR = 365.25


def seen_before(actor: Actor, job_id: UUID) -> list[SeenBeforeOut]:
    """Earlier jobs on the same model, and on one that is spelt much like it. Six statements, whatever their number."""
    job = find_job(actor, job_id)
    maker, model = plain_word(job.maker), plain_word(job.model)
    if not model:
        return []
    others = Job.objects.filter(workshop_id=actor.workshop_id).exclude(id=job_id).exclude(model="")
    spelt = others.annotate(plain_maker=plain("maker"), plain_model=plain("model"))
    alike = spelt.annotate(like=TrigramSimilarity("plain_model", model), made=TrigramSimilarity("plain_maker", maker))
    by_one = Q() if not maker else Q(made__gte=ALIKE) | Q(plain_maker="")
    found = list(alike.filter(by_one, like__gte=ALIKE).order_by("-like", "-made", "-number")[:MOST_SEEN])
    failed = _failed([row.id for row in found])
    return [
        SeenBeforeOut(
            job_id=row.id,
            number=row.number,
            title=row.title,
            model=" ".join(filter(None, (row.maker, row.model))),
            same=(row.plain_maker, row.plain_model) == (maker, model),
            symptom=row.symptom,
            opened_at=row.opened_at,
            returned=row.returned_at is not None,
            failed=failed[row.id],
        )
        for row in found
    ]


def _failed(job_ids: list[UUID]) -> dict[UUID, list[FailedOut]]:
    """What failed in jobs, and what took its place. Three statements."""
    rows = list(_judged().filter(job_id__in=job_ids, word__in=TO_REPLACE))
    chosen = choices([row.id for row in rows])
    read = {r.position_id: show_reading(r) for r in Reading.standing(position_id__in=[row.id for row in rows])}
    found: dict[UUID, list[FailedOut]] = defaultdict(list)
    for row in rows:
        years, reasons, last, part = _age(row), json.loads(row.reasons), read.get(row.id), chosen.get(row.id)
        found[row.job_id].append(
            FailedOut(
                name=row.name,
                role=ROLE_TITLES[Role(row.role)],
                marking=row.marking,
                word=row.word,
                why=reasons[0]["sentence"] if reasons else "",
                reading=f"{last.value.said} {last.how}" if last else "",
                age=f"{years:.0f} years" if years is not None else "",
                fixed_with=part.marking if part else "",
            )
        )
    return found


def failures(actor: Actor, by: GroupBy) -> list[FailuresOut]:
    """Every part that was judged, put together; those that had not failed count until the age they were seen at. One statement."""
    groups: dict[str, list[tuple[bool, float | None]]] = defaultdict(list)
    for row in _judged().filter(job__workshop_id=actor.workshop_id, word__isnull=False):
        for title in _titles(row, by):
            groups[title].append((row.word in TO_REPLACE, _age(row)))
    return sorted((_group(title, parts) for title, parts in groups.items()), key=lambda group: (-group.failed, group.title))


def _judged() -> Any:
    """Positions with the word and the reasons recorded last."""
    last = RecordedVerdict.standing(position_id=OuterRef("id")).order_by(*RecordedVerdict.NEWEST_FIRST)
    return Position.objects.select_related("job").annotate(
        word=Subquery(last.values("word")[:1]), reasons=Subquery(last.values("reasons")[:1])
    )


def _titles(row: Any, by: GroupBy) -> Iterable[str]:
    if by is GroupBy.ROLE:
        return [ROLE_TITLES[Role(row.role)]]
    marking = read_kept(row.marking)
    if by is GroupBy.CLASS:
        return marking.class_names or ["unclassed"]
    return [MATERIALS[dielectric_of(marking, Role(row.role))].title]


def _age(row: Any) -> float | None:
    """Years from the likeliest date printed to the day the job was opened; None where none is printed, or a later one."""
    dates, seen = read_kept(row.marking).dates, row.job.opened_at.date()
    if not dates:
        return None
    date = dates[0]
    made = datetime.date(date.year, date.month or 1, 1) + datetime.timedelta(weeks=(date.week or 1) - 1)
    years = (seen - made).days / DAYS_A_YEAR
    return years if years >= 0 else None


def _group(title: str, parts: list[tuple[bool, float | None]]) -> FailuresOut:
    dated = [Lasted(round(age, 1), failed) for failed, age in parts if age is not None]
    enough = sum(part.failed for part in dated) >= ENOUGH
    steps = survival(dated) if enough else ()
    median = median_life(steps)
    return FailuresOut(
        title=title,
        looked_at=len(parts),
        failed=sum(failed for failed, _ in parts),
        dated=len(dated),
        median=f"{median:.0f} years" if median is not None else "",
        says=_says(steps, median) if enough else f"A curve wants {ENOUGH} failures with a date printed.",
        steps=[SurvivingOut(years=s.years, share=s.share * 100, low=s.low * 100, high=s.high * 100) for s in steps],
    )


def _says(steps: tuple[Surviving, ...], median: float | None) -> str:
    last = next((step for step in reversed(steps) if step.share > 0), steps[0])  # of the very last nothing can be said
    half = f"Half had failed at {median:.0f} years. " if median is not None else ""
    return (
        f"{half}At {last.years:.0f} years {last.share * 100:.0f} % still worked ({last.low * 100:.0f} to {last.high * 100:.0f} %)."
    )


class Beginnings(SearchQuery):
    """A query as it is typed, of words that are taken as they are."""

    template = "(%(expressions)s)::tsquery"

    def __init__(self, text: str) -> None:
        super().__init__(text, search_type="raw")


def search(actor: Actor, words: str) -> list[HitOut]:
    """Entries that hold every word or its beginning, newest first. Two statements."""
    asked = re.findall(r"[^\W_]+", words)[:8]
    if not asked:
        raise InputError("q", "Type a word or a number.")
    behind = str(actor.workshop_id)[:PREFIX]
    query = Beginnings(" & ".join(f"'{behind}:{word.lower()[:LONGEST_WORD]}':*" for word in asked))
    found = (
        Entry.objects.annotate(words=WordsOf())
        .filter(words=query, workshop_id=actor.workshop_id)
        .select_related("chain")
        .order_by("-id")[:MOST_HITS]
    )
    hits = [(entry.chain.subject_id, entry.text) for entry in found]
    jobs = Job.objects.filter(workshop_id=actor.workshop_id).in_bulk([subject for subject, _ in hits])
    return [_hit(jobs[subject], text, asked) for subject, text in hits if subject in jobs]


def _hit(job: Job, text: str, asked: list[str]) -> HitOut:
    try:
        said = json.loads(text)
    except ValueError:
        said = {}
    body = ", ".join(_words(said.get("body", text)))
    at = re.search("|".join(map(re.escape, asked)), body, re.IGNORECASE)
    start = max(0, at.start() - 60) if at else 0
    says = body[start : start + LONGEST_SAYS]
    return HitOut(
        job_id=job.id, number=job.number, title=job.title, kind=str(said.get("kind", "unreadable")), says=says,
        by_name=str(said.get("by_name", "")), at=said.get("at"),
    )  # fmt: skip


def _words(value: Any) -> Iterable[str]:
    """The words of a body, without its field names."""
    if isinstance(value, dict):
        value = list(value.values())
    if isinstance(value, list):
        for inner in value:
            yield from _words(inner)
    elif value not in (None, "", True, False):
        yield str(value)
