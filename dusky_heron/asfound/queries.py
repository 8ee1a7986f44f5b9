"""Reading how equipment was found; each function says how many statements it takes."""

from uuid import UUID

from dusky_heron.asfound.models import FoundLine, Photo, Point
from dusky_heron.asfound.photos import read
from dusky_heron.asfound.schemas import LineOut, MapOut, PhotoOut, PhotoPointOut
from dusky_heron.core.errors import InputError
from dusky_heron.core.wiring import FOUND_TITLES, FoundKind
from dusky_heron.jobs.queries import job
from dusky_heron.record.actor import Actor
from dusky_heron.record.errors import NotFound

AT_ONCE = 20  # photos of a paper that is written while its asker waits: about a second


def found_map(actor: Actor, job_id: UUID) -> MapOut:
    """Lines and photos of a job, struck ones too. Four statements."""
    job(actor, job_id)
    points: dict[UUID, list[PhotoPointOut]] = {}
    for point in Point.objects.filter(photo__job_id=job_id):
        points.setdefault(point.photo_id, []).append(PhotoPointOut.from_row(point))
    return MapOut(
        lines=[show_line(line) for line in FoundLine.objects.filter(job_id=job_id)],
        photos=[show_photo(photo, points.get(photo.id, [])) for photo in Photo.objects.filter(job_id=job_id)],
    )


def lines_about(position_id: UUID) -> list[str]:
    """The wires and polarities of the map that name a position the asker may see, as typed. One statement."""
    kinds = (FoundKind.WIRE, FoundKind.CONNECTOR, FoundKind.POLARITY)
    found = FoundLine.standing(position_id=position_id, kind__in=kinds)
    return list(found.values_list("typed", flat=True))


def photo_after(job_id: UUID, order: tuple[int, int]) -> bool:
    """Whether a photo of a job stands in its record after a line. One statement."""
    return any(photo.order > order for photo in Photo.standing(job_id=job_id))


def picture(actor: Actor, photo_id: UUID, *, small: bool) -> bytes:
    """The picture of a photo of the actor's workshop. One statement."""
    if not Photo.objects.filter(id=photo_id, job__workshop_id=actor.workshop_id).exists():
        raise NotFound
    return read(actor.workshop_id, photo_id, small=small)


def few_photos(actor: Actor, job_id: UUID) -> None:
    """Raises InputError for a job with more photos than a paper of them may be written at once. One statement."""
    count = Photo.objects.filter(job_id=job_id, job__workshop_id=actor.workshop_id).count()
    if count > AT_ONCE:
        raise InputError("job_id", f"It has {count} photos: ask the worker for it, and fetch it when it is done.")


def show_line(line: FoundLine) -> LineOut:
    """A line as the API shows it."""
    kind = FoundKind(line.kind)
    return LineOut(
        id=line.id,
        kind=kind,
        title=FOUND_TITLES[kind],
        typed=line.typed,
        colours=line.colour.split("/") if line.colour else [],
        start=line.start,
        end=line.end,
        note=line.note,
        position_id=line.position_id,
        at=line.when,
        by_name=line.by_name,
        sequence=line.sequence,
        struck=line.struck is not None,
    )


def show_photo(photo: Photo, points: list[PhotoPointOut]) -> PhotoOut:
    """A photo as the API shows it."""
    return PhotoOut(
        id=photo.id,
        caption=photo.caption,
        width=photo.width,
        height=photo.height,
        digest=photo.digest,
        at=photo.when,
        by_name=photo.by_name,
        sequence=photo.sequence,
        struck=photo.struck is not None,
        points=points,
    )
