"""Proposing what one may not decide, and answering it: signed it is done as if its signer asked for it, by the rules of then."""

from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import TypeVar
from uuid import UUID

from pydantic import BaseModel, ValidationError

from dusky_heron.core.errors import InputError
from dusky_heron.discharge.queries import charge_noted_since
from dusky_heron.handback.actions import hand_back, sign_deviation
from dusky_heron.handback.models import Deviation
from dusky_heron.handback.queries import handback
from dusky_heron.handback.schemas import DeviationIn, ReturnIn
from dusky_heron.jobs.queries import core_position, find_job
from dusky_heron.proposals.models import Act, Proposal
from dusky_heron.proposals.queries import ASKS, made_here, show
from dusky_heron.proposals.schemas import ProposalAnswer, ProposalOut
from dusky_heron.record.actions import action, append, enter, writing
from dusky_heron.record.actor import Actor, MemberRole, Permission
from dusky_heron.record.errors import NotAllowed, NotFound
from dusky_heron.replacement.actions import choose
from dusky_heron.replacement.models import Choice
from dusky_heron.replacement.schemas import ChoiceIn

LEAST_WORD = 3  # letters
UNREAD = "What it asks cannot be read any more: it has to be proposed anew."
Kind = TypeVar("Kind", bound=BaseModel)


class _Undone(Exception):
    """What was only tried is rolled back."""


@action(Permission.WORK)
def propose_choice(actor: Actor, position_id: UUID, data: ChoiceIn) -> ProposalOut:
    """Propose how a place is filled."""
    shown, _, _ = core_position(actor, position_id)
    row = Proposal(job_id=shown.job_id, position_id=position_id, act=Act.CHOICE, reason=data.reason)
    return _propose(actor, row, data.model_dump(mode="json"))


@action(Permission.WORK)
def propose_deviation(actor: Actor, job_id: UUID, data: DeviationIn) -> ProposalOut:
    """Propose to sign that a job may go back though a check failed or is missing."""
    row = Proposal(job_id=job_id, act=Act.DEVIATION, about=data.check_id, reason=data.reason)
    return _propose(actor, row, data.model_dump(mode="json"))


@action(Permission.WORK)
def propose_handback(actor: Actor, job_id: UUID, data: ReturnIn) -> ProposalOut:
    """Propose to hand a job back."""
    return _propose(actor, Proposal(job_id=job_id, act=Act.HANDBACK, reason=data.note), data.model_dump(mode="json"))


@action(Permission.WORK)
def answer_proposal(actor: Actor, job_id: UUID, proposal_id: UUID, data: ProposalAnswer) -> ProposalOut:
    """Sign a proposal, and so do what it asks; or return it with a word. By whoever may do it themselves."""
    job = find_job(actor, job_id, lock=True)
    row = made_here(id=proposal_id, job_id=job_id).first()
    if row is None:
        raise NotFound
    permission, _ = ASKS[Act(row.act)]
    if not actor.may(permission):
        raise NotAllowed(f"A member who is {actor.role} may not {permission}.")
    if row.answered is not None:
        raise InputError("signed", f"{row.answered_by} has answered it already.")
    if not data.signed and len(data.word) < LEAST_WORD:
        raise InputError("word", "Say in a word or two what it lacks.")
    if data.signed and (now := DOING[Act(row.act)](actor, row)) != row.says:
        raise InputError("signed", f"It would come to something else now: {now}. It has to be proposed anew.")
    body = {"proposal": row.says, "of": row.by_name, **({"word": data.word} if data.word else {})}
    stands = append(actor, row.job_id, "proposal signed" if data.signed else "proposal returned", body)
    row.answered, row.answered_at, row.answered_by = stands.sequence, stands.at, actor.name
    row.signed, row.word, row.job = data.signed, data.word, job
    row.save(update_fields=["answered", "answered_at", "answered_by", "signed", "word"])
    return show(actor, row)


def _propose(actor: Actor, row: Proposal, asked: dict[str, object]) -> ProposalOut:
    row.job, row.asked, row.by_id = find_job(actor, row.job_id, lock=True), asked, actor.id
    act = Act(row.act)
    if actor.may(ASKS[act][0]):
        raise InputError("act", "You may do that yourself: there is nobody to ask.")
    same = made_here(job_id=row.job_id, position_id=row.position_id, act=act, about=row.about, answered=None)
    if same.exists():
        raise InputError("act", "It is proposed already, and waits for a signature.")
    row.says = _tried(actor, row)
    enter(actor, row.job_id, "proposed", {"what": row.says, **({"reason": row.reason} if row.reason else {})}, row)
    return show(actor, row)


def _tried(actor: Actor, row: Proposal) -> str:
    """What would come of it, in a line: done as a lead would, and undone. Whatever the rules refuse is refused here already."""
    says = ""
    try:
        with writing():
            says = DOING[Act(row.act)](replace(actor.here, role=MemberRole.LEAD), row)
            raise _Undone
    except _Undone:
        return says


def _asked(kind: type[Kind], row: Proposal) -> Kind:
    try:
        return kind.model_validate(row.asked)
    except ValidationError:
        raise InputError("signed", UNREAD) from None


def _choose(actor: Actor, row: Proposal) -> str:
    if row.position is None:
        raise InputError("signed", UNREAD)
    choose(actor, row.position.id, _asked(ChoiceIn, row))
    return f"{row.position.name}: {Choice.standing(position_id=row.position.id).last()}"


def _sign(actor: Actor, row: Proposal) -> str:
    stood = {check.id: check.state for check in handback(actor, row.job_id).checks}.get(row.about, "")
    sign_deviation(actor, row.job_id, _asked(DeviationIn, row))
    signed = Deviation.standing(job_id=row.job_id, check_id=row.about).last()
    return f"sign a deviation, {signed.title if signed else row.about}: {stood}"


def _hand_back(actor: Actor, row: Proposal) -> str:
    asked = _asked(ReturnIn, row)
    if row.sequence and charge_noted_since(row.job_id, row.sequence):  # that links were off was said of before
        asked = asked.model_copy(update={"links_off": False})
    hand_back(actor, row.job_id, asked)
    return "hand it back"


DOING: Mapping[Act, Callable[[Actor, Proposal], str]] = {Act.CHOICE: _choose, Act.DEVIATION: _sign, Act.HANDBACK: _hand_back}
