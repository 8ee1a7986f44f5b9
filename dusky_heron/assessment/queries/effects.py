"""What a change of a limit or of a school would do to the workshop's verdicts, before it is made."""

from dataclasses import replace

from django.utils import timezone

from dusky_heron.assessment.queries.known import Known, known
from dusky_heron.assessment.schemas import EffectOut, EffectRow
from dusky_heron.core.errors import InputError
from dusky_heron.core.schools import find_school
from dusky_heron.core.verdict import judge
from dusky_heron.core.verdict.registry import read_limit_value
from dusky_heron.jobs.queries import known_positions
from dusky_heron.record.actor import Actor
from dusky_heron.workshops.queries import Judging


def effect_of_limit(actor: Actor, limit_id: str, value: float) -> EffectOut:
    """Which verdicts a limit of this value would change. Six statements."""
    now = known(actor, known_positions(actor))
    if not now:
        return EffectOut(judged=0, rows=[])
    limit = now[0].judging.limits.get(limit_id)
    if limit is None:
        raise InputError("id", "No verdict is judged by that limit.")
    changed = replace(limit, value=read_limit_value(limit, value))
    return _effect(now, Judging({**now[0].judging.limits, limit_id: changed}, now[0].judging.schools))


def effect_of_school(actor: Actor, school_id: str, option: str) -> EffectOut:
    """Which verdicts another school would change. Six statements."""
    find_school(school_id, option)
    now = known(actor, known_positions(actor))
    if not now:
        return EffectOut(judged=0, rows=[])
    return _effect(now, Judging(now[0].judging.limits, {**now[0].judging.schools, school_id: option}))


def _effect(now: list[Known], by: Judging) -> EffectOut:
    rows, today = [], timezone.localdate()
    for one in now:
        then = judge(one.position, one.evidence, limits=by.limits, schools=by.schools, today=today)
        if then.word != one.verdict.word:
            rows.append(
                EffectRow(
                    job_id=one.job.id,
                    position_id=one.shown.id,
                    job=f"{one.job.number} {one.job.title}",
                    position=one.shown.name,
                    now=one.verdict.word,
                    then=then.word,
                    sentence=then.reasons[0].sentence,
                )
            )
    return EffectOut(judged=len(now), rows=rows)
