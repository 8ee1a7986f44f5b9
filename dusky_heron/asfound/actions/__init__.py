"""Noting how equipment was found: lines, photos and the points on them. What was wrong is struck."""

from typing import IO
from uuid import UUID

from dusky_heron.asfound.models import FoundLine, Photo, Point
from dusky_heron.asfound.photos import encode, keep
from dusky_heron.asfound.queries import place_of, show_line, show_photo
from dusky_heron.asfound.schemas import LineIn, LineOut, PhotoOut, PhotoPointIn, PhotoPointOut
from dusky_heron.core.errors import InputError
from dusky_heron.core.wiring import read_found
from dusky_heron.jobs.queries import job, position_ids
from dusky_heron.record.actions import action, enter
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.errors import NotFound


@action(Permission.WORK)
def add_line(actor: Actor, job_id: UUID, data: LineIn) -> LineOut:
    """Note one line; what it names is linked to it, also when that gets its name later."""
    job(actor, job_id)
    read = read_found(data.text)
    named = position_ids(actor, job_id)
    line = FoundLine(
        job_id=job_id, position_id=place_of(read, named), kind=read.kind, typed=data.text, colour=read.colour,
        start=read.start.text if read.start else "", end=read.end.text if read.end else "", note=read.note,
    )  # fmt: skip
    enter(actor, job_id, "found so", {"line": data.text, "read as": read.kind}, line)
    return show_line(line, named)


@action(Permission.WORK)
def add_photo(actor: Actor, job_id: UUID, file: IO[bytes], size: int, caption: str) -> PhotoOut:
    """Keep a photo of so many bytes, encoded anew without its metadata."""
    job(actor, job_id)
    encoded = encode(file, size)
    photo = Photo(job_id=job_id, caption=caption, width=encoded.width, height=encoded.height, digest=encoded.digest)
    keep(actor.workshop_id, photo.id, encoded)
    enter(actor, job_id, "photo", {"caption": caption, "sha256": photo.digest}, photo)
    return show_photo(photo, [])


@action(Permission.WORK)
def mark_point(actor: Actor, photo_id: UUID, data: PhotoPointIn) -> PhotoPointOut:
    """Mark a point on a photo, and what it shows."""
    photo = Photo.standing(id=photo_id, job__workshop_id=actor.workshop_id).first()
    if photo is None:
        raise NotFound
    if data.position_id and data.position_id not in position_ids(actor, photo.job_id).values():
        raise InputError("position_id", "Choose a position of this job.")
    if data.line_id and not FoundLine.standing(id=data.line_id, job_id=photo.job_id).exists():
        raise InputError("line_id", "Choose a line of this job.")
    point = Point(photo_id=photo_id, **data.model_dump())
    enter(actor, photo.job_id, "point marked", {"photo": photo.caption, "label": data.label}, point)
    return PhotoPointOut.from_row(point)
