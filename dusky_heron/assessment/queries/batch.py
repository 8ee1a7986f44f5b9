"""The rest of a set when one of it failed: both schools compared, and what the workshop decided."""

from uuid import UUID

from django.utils import timezone

from dusky_heron.assessment.models import BatchDecision
from dusky_heron.assessment.schemas import BatchDecided, BatchIn, BatchOut
from dusky_heron.core.ageing.life import Costs, compare_batch
from dusky_heron.core.model import Position
from dusky_heron.core.schools import find_school
from dusky_heron.core.verdict.age import age_years, life_used
from dusky_heron.jobs.queries import core_position
from dusky_heron.record.actor import Actor
from dusky_heron.workshops.queries import judging

SCHOOL = "batch"


def batch(actor: Actor, position_id: UUID, data: BatchIn) -> BatchOut:
    """Replace only what failed, or the set. Four statements."""
    _, position, _ = core_position(actor, position_id)
    last = BatchDecision.standing(position_id=position_id).last()
    return compared(position, judging(actor).schools[SCHOOL], data, BatchDecided.from_row(last) if last else None)


def compared(position: Position, school: str, data: BatchIn, decided: BatchDecided | None) -> BatchOut:
    """Both schools for a position, as typed; what was not typed comes from its date code and its circuit where they tell."""
    today = timezone.localdate()
    age = data.age_years or age_years(position, today)
    used = data.used_percent / 100 if data.used_percent is not None else life_used(position, today)
    if not age or used is None:
        missing = "its age" if not age else "the share of its life it has used"
        return BatchOut.nothing_but(missing=f"Give {missing}: date code and circuit do not tell.", age_years=age, decided=decided)
    costs = Costs(data.part_price, data.minutes_each, data.hourly_rate, data.return_cost)
    found = compare_batch(data.siblings, used, used * (age + data.warranty_months / 12) / age, costs, data.shape)
    titles = find_school(SCHOOL, school).options
    choice = found.cheaper if school == "computed" else school
    return BatchOut(
        missing="",
        age_years=round(age, 1),
        used_percent=round(used * 100, 1),
        one_fails_percent=round(found.one_fails * 100, 1),
        any_fails_percent=round(found.any_fails * 100, 1),
        failed_costs=round(found.failed_costs, 2),
        set_costs=round(found.set_costs, 2),
        cheaper=titles[found.cheaper],
        choice=choice,
        recommends=titles[choice],
        policy="" if school == "computed" else f"workshop policy: {titles[school]}",
        decided=decided,
    )
