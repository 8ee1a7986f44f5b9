"""Jobs out and in over HTTP."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import File, Router, Status
from ninja.files import UploadedFile

from dusky_heron.asfound.queries import few_photos
from dusky_heron.jobs.queries import job
from dusky_heron.jobs.schemas import JobOut
from dusky_heron.longwork.schemas import PaperWork, WorkOut
from dusky_heron.transfer.asking import ask_for_job_file, ask_to_take_in, many_photos
from dusky_heron.transfer.inward import MOST_BYTES, take_in
from dusky_heron.transfer.keeping import job_kept, workshop_kept
from dusky_heron.transfer.outward import as_zip
from dusky_heron.transfer.schemas import JobKept, JobWork, WorkshopKept
from dusky_heron.workshops.requests import actor_of

router = Router(tags=["transfer"])


@router.post("jobs/{job_id}/job-file", response={202: PaperWork})
def ask_for_file(request: HttpRequest, job_id: UUID) -> Status[WorkOut]:
    """Ask for a job as one file, however many photos it has: a file of the work once that is done."""
    return Status(202, ask_for_job_file(actor_of(request), job_id))


@router.get("jobs/{job_id}/job.zip", response={200: None})
def out(request: HttpRequest, job_id: UUID) -> HttpResponse:
    """A job as one file: all that is kept of it, its photos and its report. One with many photos is asked for."""
    few_photos(actor_of(request), job_id)
    number = job(actor_of(request), job_id).number
    answer = HttpResponse(as_zip(actor_of(request), job_id), content_type="application/zip")
    answer["Content-Disposition"] = f'attachment; filename="job-{number}.zip"'
    return answer


@router.post("job-files", response={200: JobOut, 202: JobWork})
def take(request: HttpRequest, file: File[UploadedFile]) -> Status[JobOut | WorkOut]:
    """Take a job in from a file, all of it or nothing; one with many photos by the worker, whose answer is the job."""
    content = file.read(MOST_BYTES + 1)
    if many_photos(content):
        return Status(202, ask_to_take_in(actor_of(request), content))
    return Status(200, take_in(actor_of(request), content))


@router.get("kept", response=WorkshopKept)
def keep_workshop(request: HttpRequest) -> WorkshopKept:
    """What a device keeps of the workshop to go on with where no server answers."""
    return workshop_kept(actor_of(request))


@router.get("jobs/{job_id}/kept", response=JobKept)
def keep_job(request: HttpRequest, job_id: UUID) -> JobKept:
    """What a device keeps of a job to go on with where no server answers."""
    return job_kept(actor_of(request), job_id)
