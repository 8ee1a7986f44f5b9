"""Reading evidence and verdicts; each function says how many statements it takes."""

from uuid import UUID

from dusky_heron.assessment.queries.batch import batch
from dusky_heron.assessment.queries.board import Stand, board, standings, words
from dusky_heron.assessment.queries.effects import effect_of_limit, effect_of_school
from dusky_heron.assessment.queries.known import evidence, evidences, known, plain_evidence, read_since
from dusky_heron.assessment.queries.measured import common_terminal, touch_current
from dusky_heron.assessment.queries.shown import show_known, show_reading
from dusky_heron.assessment.schemas import AssessmentOut
from dusky_heron.jobs.queries import core_position
from dusky_heron.record.actor import Actor

__all__ = [
    "Stand",
    "assessment",
    "batch",
    "board",
    "common_terminal",
    "effect_of_limit",
    "effect_of_school",
    "evidence",
    "evidences",
    "known",
    "plain_evidence",
    "read_since",
    "show_known",
    "show_reading",
    "standings",
    "touch_current",
    "words",
]


def assessment(actor: Actor, position_id: UUID) -> AssessmentOut:
    """Evidence and verdict of a position. Six statements."""
    return show_known(known(actor, [core_position(actor, position_id)])[0])
