"""Candidates and choices, from outside."""

from datetime import datetime
from uuid import UUID

from dusky_heron.presented import Schema
from dusky_heron.stock.schemas import PartOut


class RefusalOut(Schema):
    """Why a part may not take the place."""

    rule_id: str
    sentence: str
    source: str


class CandidateOut(Schema):
    """A part that may take the place."""

    part: PartOut
    score: float
    reasons: list[str]
    adaptations: list[str]
    conditions: list[str]


class RejectedOut(Schema):
    """A part that may not."""

    part: PartOut
    reasons: list[RefusalOut]


class ChoiceOut(Schema):
    """The part chosen last."""

    position_id: UUID
    part_id: UUID
    marking: str
    place: str
    at: datetime
    by_name: str


class CandidatesOut(Schema):
    """What the place demands, what may take it best first, and what may not nearest miss first."""

    need: list[str]
    accepted: list[CandidateOut]
    rejected: list[RejectedOut]
    choice: ChoiceOut | None


class ChoiceIn(Schema):
    """The part to take."""

    part_id: UUID
