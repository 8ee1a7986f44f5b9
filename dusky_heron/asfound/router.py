"""How equipment was found, over HTTP."""

from io import BytesIO
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router
from ninja.files import UploadedFile

from dusky_heron.asfound import actions, queries
from dusky_heron.asfound.schemas import LineIn, LineOut, MapOut, PhotoIn, PhotoOut, PhotoPointIn, PhotoPointOut
from dusky_heron.workshops.requests import actor_of

router = Router(tags=["as found"])


@router.get("jobs/{job_id}/found", response=MapOut)
def found_map(request: HttpRequest, job_id: UUID) -> MapOut:
    """How a job was found."""
    return queries.found_map(actor_of(request), job_id)


@router.post("jobs/{job_id}/found", response=LineOut)
def add_line(request: HttpRequest, job_id: UUID, data: LineIn) -> LineOut:
    """Note one line: a wire, a connector, screws, a polarity, an earlier repair."""
    return actions.add_line(actor_of(request), job_id, data)


@router.post("jobs/{job_id}/photos", response=PhotoOut)
def add_photo(request: HttpRequest, job_id: UUID, photo: File[UploadedFile], about: Form[PhotoIn]) -> PhotoOut:
    """Keep a photo: JPEG, PNG, WebP or HEIC."""
    return actions.add_photo(actor_of(request), job_id, photo.file or BytesIO(), photo.size or 0, about.caption)


@router.get("photos/{photo_id}", response={200: None})
def picture(request: HttpRequest, photo_id: UUID) -> HttpResponse:
    """The picture itself."""
    return _picture(request, photo_id, small=False)


@router.get("photos/{photo_id}/small", response={200: None})
def small_picture(request: HttpRequest, photo_id: UUID) -> HttpResponse:
    """The picture, small."""
    return _picture(request, photo_id, small=True)


def _picture(request: HttpRequest, photo_id: UUID, *, small: bool) -> HttpResponse:
    """A picture never changes: its browser may keep it, and nobody else."""
    found = queries.picture(actor_of(request), photo_id, small=small)
    headers = {"Cache-Control": "private, max-age=31536000, immutable", "Content-Disposition": "inline"}
    return HttpResponse(found, content_type="image/jpeg", headers=headers)


@router.post("photos/{photo_id}/points", response=PhotoPointOut)
def mark_point(request: HttpRequest, photo_id: UUID, data: PhotoPointIn) -> PhotoPointOut:
    """Mark a point on a photo."""
    return actions.mark_point(actor_of(request), photo_id, data)
