"""Reading how equipment was found; each function says how many statements it takes."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from uuid import UUID

from django.db.models import Q

from dusky_heron.asfound.models import FoundLine, Photo, Point
from dusky_heron.asfound.photos import read
from dusky_heron.asfound.schemas import ConnectorPinOut, LineOut, MapOut, PhotoOut, PhotoPointOut, ShownOut
from dusky_heron.core.errors import InputError
from dusky_heron.core.wiring import FOUND_TITLES, FoundKind, PutBack, read_kept, to_put_back
from dusky_heron.core.wiring import FoundLine as ReadLine
from dusky_heron.jobs.queries import job, position_ids
from dusky_heron.record.actor import Actor
from dusky_heron.record.errors import NotFound

AT_ONCE = 20  # photos of a paper that is written while its asker waits: about a second


def found_map(actor: Actor, job_id: UUID) -> MapOut:
    """Lines and photos of a job, struck ones too. Five statements."""
    job(actor, job_id)
    named = position_ids(actor, job_id)
    points: dict[UUID, list[PhotoPointOut]] = {}
    for point in Point.objects.filter(photo__job_id=job_id):
        points.setdefault(point.photo_id, []).append(PhotoPointOut.from_row(point))
    return MapOut(
        lines=[show_line(line, named) for line in FoundLine.objects.filter(job_id=job_id)],
        photos=[show_photo(photo, points.get(photo.id, [])) for photo in Photo.objects.filter(job_id=job_id)],
    )


@dataclass(frozen=True, slots=True)
class Map:
    """What stands in the map of a job, by the name of each of its places what goes back there, and where photos show it."""

    lines: list[FoundLine]
    places: Collection[str]

    def back(self, place: str) -> tuple[PutBack, ...]:
        """What goes back while the part of a place is fitted."""
        return to_put_back([(str(line.id), line.typed) for line in self.lines], place, self.places)

    def last(self, place: str) -> tuple[int, int]:
        """Where in the record the last of these lines stands."""
        keys = {key for one in self.back(place) for key in one.keys}
        return max((line.order for line in self.lines if str(line.id) in keys), default=(0, 0))


def maps_of(job_ids: Collection[UUID], names: Mapping[UUID, Collection[str]]) -> dict[UUID, Map]:
    """The maps of jobs the asker may see, by the names of their places. One statement."""
    lines: dict[UUID, list[FoundLine]] = {job_id: [] for job_id in job_ids}
    for line in FoundLine.standing(job_id__in=job_ids):
        lines[line.job_id].append(line)
    return {job_id: Map(found, names.get(job_id, ())) for job_id, found in lines.items()}


def shown_on(position_id: UUID, line_ids: Collection[str]) -> dict[str, list[ShownOut]]:
    """The points on standing photos that show a line of the map, by its id, or a place, by "". One statement."""
    found: dict[str, list[ShownOut]] = {}
    for point in Point.standing(photo__struck=None).filter(Q(line_id__in=line_ids) | Q(position_id=position_id)):
        found.setdefault(str(point.line_id or ""), []).append(ShownOut.from_row(point))
    return found


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


def place_of(read: ReadLine | None, named: Mapping[str, UUID]) -> UUID | None:
    """The place a line names, of those of its job by their names in small letters."""
    return next((named[name] for name in read.names if name in named), None) if read else None


def show_line(line: FoundLine, named: Mapping[str, UUID]) -> LineOut:
    """A line as the API shows it, linked to the place of its job that bears a name it says now, or did when it was noted."""
    kind = FoundKind(line.kind)
    read = read_kept(line.typed)
    return LineOut(
        id=line.id,
        kind=kind,
        title=FOUND_TITLES[kind],
        typed=line.typed,
        colours=line.colour.split("/") if line.colour else [],
        start=line.start,
        end=line.end,
        note=line.note,
        name=read.about.name if read and read.pins and read.about else "",
        pins=[ConnectorPinOut(name=pin.name, wires=[colour.split("/") for colour in pin.colours]) for pin in read.pins]
        if read
        else [],
        position_id=place_of(read, named) or line.position_id,
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
