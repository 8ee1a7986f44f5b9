"""Reading proposals; each function says how many statements it takes."""

from collections import defaultdict
from collections.abc import Iterable, Mapping
from uuid import UUID

from django.db.models import QuerySet

from dusky_heron.proposals.models import Act, Proposal
from dusky_heron.proposals.schemas import ProposalOut, Stand
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.workshops.schemas import May

ASKS: Mapping[Act, tuple[Permission, May]] = {
    Act.CHOICE: (Permission.DECIDE, "decide"),
    Act.DEVIATION: (Permission.LEAD, "lead"),
    Act.HANDBACK: (Permission.DECIDE, "decide"),
}


def of_job(actor: Actor, job_id: UUID) -> list[ProposalOut]:
    """What is open in a job, and what was returned and not proposed anew, oldest first. One statement."""
    return [one for one in _shown(actor, job_id=job_id) if one.stands is not Stand.SIGNED]


def of_workshop(actor: Actor) -> list[ProposalOut]:
    """What is open on the bench, and what was returned to the asker and not proposed anew. One statement."""
    found = _shown(actor, job__returned_at=None)
    return [one for one in found if one.stands is Stand.OPEN or (one.mine and one.stands is Stand.RETURNED)]


def waiting(job_ids: Iterable[UUID]) -> dict[UUID, list[str]]:
    """What of jobs the asker may see waits for a signature, in lines. One statement."""
    found: dict[UUID, list[str]] = defaultdict(list)
    for job_id, says in made_here(job_id__in=list(job_ids), answered=None).values_list("job_id", "says"):
        found[job_id].append(says)
    return found


def made_here(**where: object) -> QuerySet[Proposal]:
    """Those that were not struck, of this server: what came in a job's file waits for nobody here."""
    return Proposal.standing(turn__isnull=False, **where)


def _shown(actor: Actor, **where: object) -> list[ProposalOut]:
    """The newest of each thing that was proposed."""
    rows = made_here(job__workshop_id=actor.workshop_id, **where).select_related("job")
    newest = {(row.job_id, row.act, row.position_id, row.about): row for row in rows}
    return [show(actor, row) for row in newest.values()]


def show(actor: Actor, row: Proposal) -> ProposalOut:
    """A proposal as the API shows it."""
    stands = Stand.OPEN if row.answered is None else Stand.SIGNED if row.signed else Stand.RETURNED
    return ProposalOut(
        id=row.id,
        job_id=row.job_id,
        job_number=row.job.number,
        job_title=row.job.title,
        position_id=row.position_id,
        act=Act(row.act),
        says=row.says,
        reason=row.reason,
        conditions=[str(sentence) for sentence in row.asked.get("signed") or []],
        by_name=row.by_name,
        mine=row.by_id == actor.id,
        at=row.when,
        asks=ASKS[Act(row.act)][1],
        stands=stands,
        answered_by=row.answered_by,
        word=row.word,
        sequence=row.sequence,
    )
