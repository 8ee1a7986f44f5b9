"""Candidates, combinations, overrides and choices, from outside."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import BeforeValidator, Field

from dusky_heron.core.model import PartKind, Role
from dusky_heron.core.selection.ways import Way
from dusky_heron.presented import Answer, Figure, Schema
from dusky_heron.record.schemas import Line, Printed, Typed
from dusky_heron.stock.schemas import PartOut


class RefusalOut(Answer):
    """Why a part may not take the place; hard where nobody may decide otherwise; the explicit choice that sets it aside."""

    rule_id: str
    title: str
    sentence: str
    source: str
    hard: bool
    choice: str


class BoxOut(Answer):
    """A body or a space, mm."""

    length: float
    width: float
    height: float


class OutlineOut(Answer):
    """A body in the space there is, seen from above and from the side, mm; `over` where it does not fit."""

    body: BoxOut
    space: BoxOut
    pitch: float | None
    wanted_pitch: float | None
    other_pitches: list[float]
    over: bool
    says: str


class CandidateOut(Answer):
    """A part that may take the place; `to_sign` of its conditions have to be signed before it is taken."""

    part: PartOut
    score: float
    reasons: list[str]
    adaptations: list[str]
    conditions: list[str]
    to_sign: list[str]
    consequences: list[str]
    outline: OutlineOut | None


class RejectedOut(Answer):
    """A part that may not."""

    part: PartOut
    reasons: list[RefusalOut]
    outline: OutlineOut | None


class CountedOut(Answer):
    """How many more parts one rule keeps away."""

    rule_id: str
    title: str
    parts: int


class CombinationOut(Answer):
    """Parts that take the place together."""

    way: str
    parts: list[PartOut]
    sections: list[Figure]
    spread: str
    worst_share: Figure | None
    makes: list[str]
    to_sign: list[str]


class OverrideOut(Answer):
    """A demand that was overridden here."""

    rule_id: str
    title: str
    reason: str
    at: datetime
    by_name: str
    sequence: int


class ChosenPart(Answer):
    """A part of a choice as it was then; `part_id` none where it lies in the drawer of another workshop."""

    part_id: UUID | None
    marking: str
    place: str
    lot: str
    date_code: str
    price: str


class ChoiceOut(Answer):
    """How the place is to be filled, as it was chosen last; `stands` where new parts stand in it afterwards."""

    position_id: UUID
    way: Way
    way_title: str
    stands: bool
    part_id: UUID | None
    parts: list[ChosenPart]
    marking: str
    place: str
    lot: str
    resistor: str
    reason: str
    signed: list[str]
    specification: list[str]
    out_at: datetime | None
    at: datetime
    by_name: str
    sequence: int


class CandidatesOut(Answer):
    """What the place demands, what may take it best first, and what may not nearest miss first.

    Of what may take it this is the part of the list from `start`, with how many `more` follow; `why_first` says why the first
    stands before the second, `not_compared` what of the old part is not known. `question` is what has to be answered before
    anything is accepted; `specification` what a supplier would have to know.
    """

    need: list[str]
    not_compared: str
    question: str
    specification: list[str]
    start: int
    why_first: str
    accepted: list[CandidateOut]
    rejected: list[RejectedOut]
    more: int
    others: list[CountedOut]
    overrides: list[OverrideOut]
    choice: ChoiceOut | None


class ChoiceIn(Schema):
    """How to fill the place: by parts of the drawer, in the order of the sections they take, or without one, with the reason.

    `signed` are the sentences that have to be signed, as they were shown; a resistor is typed as `470k`, across the part or in
    series with it.
    """

    way: Way = Way.SINGLE
    part_id: UUID | None = None
    part_ids: Annotated[list[UUID], Field(max_length=8)] = []
    reason: Line = ""
    signed: Annotated[list[Annotated[str, Field(max_length=500)]], Field(max_length=20)] = []
    bleeder: Typed = ""
    series: Typed = ""

    @property
    def parts(self) -> list[UUID]:
        """All of them."""
        return self.part_ids or ([self.part_id] if self.part_id else [])


class OverrideIn(Schema):
    """A demand to override, or to ask for again, with the reason."""

    rule_id: Line
    reason: Annotated[Line, Field(min_length=3)]
    stands: bool = True


class WhyOut(Answer):
    """One part judged for a place."""

    part: PartOut
    allowed: bool
    reasons: list[str]
    refusals: list[RefusalOut]


class BillRow(Answer):
    """A row of a bill of materials that cannot be taken."""

    line: int
    column: str
    sentence: str
    name: str


class BillOut(Answer):
    """What a bill of materials adds to a job, changes in it, leaves and refuses."""

    adds: list[str]
    changes: list[str]
    same: int
    refused: list[BillRow]
    unknown: list[str]


class QuestionIn(Schema):
    """May this part replace that one: both as printed."""

    old: Printed
    new: Printed
    role: Annotated[Role | None, BeforeValidator(lambda typed: typed or None)] = None
    kind: Annotated[PartKind | None, BeforeValidator(lambda typed: typed or None)] = None
    supply_voltage: Typed = ""


class QuestionOut(Answer):
    """The answer, with what was taken for granted."""

    role: Role
    role_title: str
    kind: PartKind
    kind_title: str
    allowed: bool
    reasons: list[str]
    refusals: list[RefusalOut]
    conditions: list[str]
