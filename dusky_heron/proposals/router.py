"""Proposals over HTTP."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from dusky_heron.handback.schemas import DeviationIn, ReturnIn
from dusky_heron.jobs.queries import job
from dusky_heron.proposals import actions, queries
from dusky_heron.proposals.schemas import ProposalAnswer, ProposalOut
from dusky_heron.replacement.schemas import ChoiceIn
from dusky_heron.workshops.requests import actor_of, signing

router = Router(tags=["proposals"])


@router.get("proposals", response=list[ProposalOut])
def proposals(request: HttpRequest) -> list[ProposalOut]:
    """What waits for a signature on the bench, and what was returned to the asker."""
    return queries.of_workshop(actor_of(request))


@router.get("jobs/{job_id}/proposals", response=list[ProposalOut])
def proposals_of_job(request: HttpRequest, job_id: UUID) -> list[ProposalOut]:
    """What waits for a signature in a job, and what was returned."""
    return queries.of_job(actor_of(request), job(actor_of(request), job_id).id)


@router.post("positions/{position_id}/choice/proposed", response=ProposalOut)
def propose_choice(request: HttpRequest, position_id: UUID, data: ChoiceIn) -> ProposalOut:
    """Propose how a place is filled."""
    return actions.propose_choice(actor_of(request), position_id, data)


@router.post("jobs/{job_id}/deviations/proposed", response=ProposalOut)
def propose_deviation(request: HttpRequest, job_id: UUID, data: DeviationIn) -> ProposalOut:
    """Propose to sign a deviation."""
    return actions.propose_deviation(actor_of(request), job_id, data)


@router.post("jobs/{job_id}/return/proposed", response=ProposalOut)
def propose_handback(request: HttpRequest, job_id: UUID, data: ReturnIn) -> ProposalOut:
    """Propose to hand a job back."""
    return actions.propose_handback(actor_of(request), job_id, data)


@router.post("jobs/{job_id}/proposals/{proposal_id}/answer", response=ProposalOut)
def answer_proposal(request: HttpRequest, job_id: UUID, proposal_id: UUID, data: ProposalAnswer) -> ProposalOut:
    """Sign a proposal, or return it with a word."""
    if not data.signed:
        return actions.answer_proposal(actor_of(request), job_id, proposal_id, data)
    with signing(request) as actor:
        return actions.answer_proposal(actor, job_id, proposal_id, data)
