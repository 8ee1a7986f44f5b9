"""Reading what may take a place; each function says how many statements it takes."""

from uuid import UUID

from dusky_heron.core.model import Selection
from dusky_heron.core.schools import selection_policy
from dusky_heron.core.selection import describe, need_of, rank
from dusky_heron.jobs.queries import core_position
from dusky_heron.record.actor import Actor
from dusky_heron.replacement.models import Choice
from dusky_heron.replacement.schemas import CandidateOut, CandidatesOut, ChoiceOut, RefusalOut, RejectedOut
from dusky_heron.stock.queries import drawer
from dusky_heron.stock.schemas import PartOut
from dusky_heron.workshops.queries import judging


def candidates(actor: Actor, position_id: UUID) -> CandidatesOut:
    """The whole drawer judged for a position. Five statements."""
    _, position, _ = core_position(actor, position_id)
    need = need_of(position)
    shown, parts = drawer(actor)
    last = Choice.objects.filter(position_id=position_id).last()
    return show_candidates(
        describe(need),
        rank(need, parts, selection_policy(judging(actor).schools)),
        shown,
        ChoiceOut.from_row(last) if last else None,
    )


def choices(position_ids: list[UUID]) -> dict[UUID, ChoiceOut]:
    """The part chosen last by position, of positions the asker may see. One statement."""
    return {c.position_id: ChoiceOut.from_row(c) for c in Choice.objects.filter(position_id__in=position_ids)}


def show_candidates(
    need: tuple[str, ...], selection: Selection, shown: dict[str, PartOut], choice: ChoiceOut | None
) -> CandidatesOut:
    """A selection as the API shows it."""
    return CandidatesOut(
        need=list(need),
        accepted=[
            CandidateOut(
                part=shown[c.part.part_id],
                score=c.score,
                reasons=list(c.reasons),
                adaptations=list(c.adaptations),
                conditions=list(c.conditions),
            )
            for c in selection.accepted
        ],
        rejected=[
            RejectedOut(
                part=shown[r.part.part_id],
                reasons=[RefusalOut(rule_id=f.rule_id, sentence=f.sentence, source=f.source) for f in r.reasons],
            )
            for r in selection.rejected
        ],
        choice=choice,
    )
