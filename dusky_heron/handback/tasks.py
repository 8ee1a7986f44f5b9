"""What the worker writes of a job that goes back."""

from uuid import UUID

from procrastinate.contrib.django import app

from dusky_heron.handback.report import report_pdf
from dusky_heron.longwork.actions import perform
from dusky_heron.longwork.models import Work
from dusky_heron.longwork.papers import keep_paper
from dusky_heron.longwork.progress import Tell
from dusky_heron.longwork.schemas import Paper
from dusky_heron.record.actor import Actor


@app.task
def write_report(work_id: str) -> None:
    """Lay a report out."""
    perform(UUID(work_id), _report)


def _report(actor: Actor, work: Work, tell: Tell) -> Paper:
    return keep_paper(work, "report.pdf", "application/pdf", report_pdf(actor, UUID(work.name), tell))
