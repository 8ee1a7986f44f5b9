"""Jobs out and in over HTTP."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import File, Router
from ninja.files import UploadedFile

from dusky_heron.jobs.queries import job
from dusky_heron.jobs.schemas import JobOut
from dusky_heron.transfer.inward import MOST_BYTES, take_in
from dusky_heron.transfer.outward import as_zip
from dusky_heron.workshops.requests import actor_of

router = Router(tags=["transfer"])


@router.get("jobs/{job_id}/job.zip", response={200: None})
def out(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """A job as one file: all that is kept of it, its photos and its report."""
    number = job(actor_of(request), job_id).number
    answer = HttpResponse(as_zip(actor_of(request), job_id), content_type="application/zip")
    answer["Content-Disposition"] = f'attachment; filename="job-{number}.zip"'
    return answer


@router.post("job-files", response=JobOut)
def take(request: HttpRequest, file: File[UploadedFile]) -> JobOut:
    """Take a job in from a file, all of it or nothing."""
    return take_in(actor_of(request), file.read(MOST_BYTES + 1))
