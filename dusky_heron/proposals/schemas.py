"""Proposals from outside."""

from datetime import datetime
from enum import StrEnum
from typing import Annotated
from uuid import UUID

from pydantic import Field

from dusky_heron.presented import Answer, Schema
from dusky_heron.proposals.models import Act
from dusky_heron.record.schemas import Line
from dusky_heron.workshops.schemas import May


class Stand(StrEnum):
    """How a proposal stands."""

    OPEN = "open"
    RETURNED = "returned"
    SIGNED = "signed"


class ProposalOut(Answer):
    """An action that waits for a signature, or how it was answered; `asks` for whoever may give it, `mine` of the asker's own.

    `conditions` are sentences that are signed with it. `sequence` is its entry, by which its writer takes it back.
    """

    id: UUID
    job_id: UUID
    job_number: int
    job_title: str
    position_id: UUID | None
    act: Act
    says: str
    reason: str
    conditions: list[str]
    by_name: str
    mine: bool
    at: datetime
    asks: May
    stands: Stand
    answered_by: str
    word: str
    sequence: int


class ProposalAnswer(Schema):
    """Sign it, and so do it; or return it with a word."""

    signed: bool
    word: Annotated[Line, Field(max_length=300)] = ""
