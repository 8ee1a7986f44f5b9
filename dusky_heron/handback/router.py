"""Proof of work and handing back over HTTP."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from dusky_heron.asfound.queries import few_photos
from dusky_heron.handback import actions, queries
from dusky_heron.handback.calendar import due_dates
from dusky_heron.handback.report import report_pdf
from dusky_heron.handback.schemas import DeviationIn, HandbackOut, ProofCheckIn, QuoteIn, QuoteOut, ReturnIn, SoakEnd, SoakIn
from dusky_heron.longwork.schemas import PaperWork, WorkOut
from dusky_heron.workshops.requests import actor_of, signing

router = Router(tags=["handing back"])


@router.get("jobs/{job_id}/handback", response=HandbackOut)
def see(request: HttpRequest, job_id: UUID) -> HandbackOut:
    """Where a job stands before it goes back."""
    return queries.handback(actor_of(request), job_id)


@router.post("jobs/{job_id}/checks", response=HandbackOut)
def make_check(request: HttpRequest, job_id: UUID, data: ProofCheckIn) -> HandbackOut:
    """Write down what was read for a check."""
    return actions.make_check(actor_of(request), job_id, data)


@router.post("jobs/{job_id}/soak", response=HandbackOut)
def begin_soak(request: HttpRequest, job_id: UUID, data: SoakIn) -> HandbackOut:
    """Begin a soak under load."""
    return actions.begin_soak(actor_of(request), job_id, data)


@router.post("jobs/{job_id}/soak/end", response=HandbackOut)
def end_soak(request: HttpRequest, job_id: UUID, data: SoakEnd) -> HandbackOut:
    """End a soak."""
    return actions.end_soak(actor_of(request), job_id, data)


@router.post("jobs/{job_id}/deviations", response=HandbackOut)
def sign_deviation(request: HttpRequest, job_id: UUID, data: DeviationIn) -> HandbackOut:
    """Sign a deviation; leads only."""
    with signing(request) as actor:
        return actions.sign_deviation(actor, job_id, data)


@router.get("jobs/{job_id}/quote", response=QuoteOut)
def see_quote(request: HttpRequest, job_id: UUID) -> QuoteOut:
    """What a job costs."""
    return queries.quote(actor_of(request), job_id)


@router.put("jobs/{job_id}/quote", response=QuoteOut)
def write_quote(request: HttpRequest, job_id: UUID, data: QuoteIn) -> QuoteOut:
    """Write down what a job costs."""
    return actions.write_quote(actor_of(request), job_id, data)


@router.post("jobs/{job_id}/return", response=HandbackOut)
def hand_back(request: HttpRequest, job_id: UUID, data: ReturnIn) -> HandbackOut:
    """Hand a job back."""
    return actions.hand_back(actor_of(request), job_id, data)


@router.post("jobs/{job_id}/take-back", response=HandbackOut)
def take_back(request: HttpRequest, job_id: UUID, data: ReturnIn) -> HandbackOut:
    """Take a job back on the bench."""
    return actions.take_back(actor_of(request), job_id, data)


@router.post("jobs/{job_id}/report", response={202: PaperWork})
def ask_for_report(request: HttpRequest, job_id: UUID) -> Status[WorkOut]:
    """Ask for the report of a job, however many photos it has: a file of the work once that is done."""
    return Status(202, actions.ask_for_report(actor_of(request), job_id))


@router.get("jobs/{job_id}/report.pdf", response={200: None})
def report(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """The report of a job: one page for the customer, the full record behind it. One with many photos is asked for."""
    few_photos(actor_of(request), job_id)
    answer = HttpResponse(report_pdf(actor_of(request), job_id), content_type="application/pdf")
    answer["Content-Disposition"] = 'inline; filename="report.pdf"'
    return answer


@router.get("due.ics", response={200: None})
def calendar(request: HttpRequest) -> HttpResponse:
    """Warranties, calibrations and parts that are due, for a calendar."""
    return HttpResponse(due_dates(actor_of(request)), content_type="text/calendar; charset=utf-8")
