"""Reading what is left to do while a part is fitted; each function says how many statements it takes."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from uuid import UUID

from dusky_heron.asfound.queries import Map, maps_of, photo_after, shown_on
from dusky_heron.asfound.schemas import ShownOut
from dusky_heron.core.selection.fitting_list import PHOTO, SHARED, FittingLine, fitting_list
from dusky_heron.core.selection.ways import Way
from dusky_heron.fitting.models import BESIDE_TITLES, Beside, BesideWork, Fitted, FitTick
from dusky_heron.fitting.schemas import BesideKind, BesideListOut, BesideOut, FitLineOut, FittingOut
from dusky_heron.jobs.queries import core_position, find_job, names_of, position_ids
from dusky_heron.record.actor import Actor
from dusky_heron.replacement.queries import HowItFits, how_it_fits
from dusky_heron.replacement.schemas import ChoiceOut
from dusky_heron.workshops.queries import chosen_schools

NOTHING = "Choose a part in Replace first: the list follows from it."
WAITS = {
    Way.ORDERED: "It is still to be bought: when it has come, choose it in Replace.",
    Way.LEFT: "Left as it was: nothing is fitted.",
}
TAKE = "Take the part out of the drawer first, with its lot."


@dataclass(frozen=True, slots=True)
class List:
    """The list of a place with what was ticked, the choice it is of, none without one, and what it was made of last."""

    shown: FittingOut
    choice_id: int | None
    since: tuple[int, int] = (0, 0)


def fitting(actor: Actor, position_id: UUID) -> List:
    """What to do while the chosen part is fitted. At most fifteen statements."""
    position, place, job = core_position(actor, position_id)
    fits = how_it_fits(actor, position_id)
    if fits is None:
        return List(FittingOut(position_id=position_id, part="", lot="", lines=[], missing=NOTHING, fitted_at=None), None)
    schools = chosen_schools(actor)
    found = maps_of([job.id], {job.id: position_ids(actor, job.id)})[job.id]
    asked = fitting_list(
        place,
        fits.filling,
        found.back(position.name),
        distance=fits.distance,
        old_can=schools["old_can"],
        photo=schools["fitting_photo"] == "yes",
    )
    ticks = _ticks(fits, job.id)
    whole = _fitted(found, position.name, Fitted.standing(choice_id=fits.choice_id).last())
    photos = shown_on(position_id, {key for line in asked for key in line.keys})
    lines = [_line(line, ticks.get(line.id), photos) for line in asked]
    missing = WAITS.get(fits.choice.way, "") or ("" if fits.taken else TAKE)
    if any(line.id == PHOTO for line in asked) and not photo_after(job.id, fits.order):
        missing = missing or "A photo of the finished place is asked for here: take it in As found."
    shown = FittingOut(
        position_id=position_id,
        part=f"{position.name}: {fits.choice.marking}",
        lot=fits.choice.lot,
        lines=lines,
        missing=missing,
        fitted_at=whole.when if whole and lines and all(line.done for line in lines) else None,
    )
    return List(shown, fits.choice_id, found.last(position.name))


def _ticks(fits: HowItFits, job_id: UUID) -> dict[str, FitTick]:
    """The last tick of each line: its own, and of what is put back once whichever list it was ticked on since. Two statements."""
    own = FitTick.standing(choice_id=fits.choice_id).exclude(line__startswith=SHARED)
    shared = FitTick.standing(choice__position__job_id=job_id, line__startswith=SHARED)
    return {tick.line: tick for tick in (*own, *(tick for tick in shared if tick.order > fits.order))}


def _fitted(found: Map, name: str, whole: Fitted | None) -> Fitted | None:
    """A part counts as fitted until something more is noted that goes back there."""
    return whole if whole and whole.order > found.last(name) else None


def beside(actor: Actor, job_id: UUID) -> BesideListOut:
    """What else was checked or replaced in a job. Two statements."""
    found = BesideWork.standing(job_id=find_job(actor, job_id).id)
    rows = [
        BesideOut(
            what=Beside(row.what), title=BESIDE_TITLES[Beside(row.what)], replaced=row.replaced, says=row.says,
            by_name=row.by_name, at=row.when, sequence=row.sequence,
        )
        for row in found
    ]  # fmt: skip
    return BesideListOut(kinds=[BesideKind(id=key, title=title) for key, title in BESIDE_TITLES.items()], rows=rows)


def fitted(chosen: Collection[ChoiceOut]) -> set[UUID]:
    """The positions whose chosen part is in its place. At most three statements."""
    which = {choice.position_id: choice.sequence for choice in chosen}
    rows = Fitted.standing(choice__position_id__in=which).select_related("choice__position")
    found = [row for row in rows if which[row.choice.position_id] == row.choice.sequence]
    if not found:
        return set()
    jobs = {row.choice.position.job_id for row in found}
    maps = maps_of(jobs, names_of(jobs))
    places = [(row, row.choice.position) for row in found]
    return {place.id for row, place in places if _fitted(maps[place.job_id], place.name, row)}


def _line(line: FittingLine, tick: FitTick | None, photos: Mapping[str, list[ShownOut]]) -> FitLineOut:
    points = [point for key in line.keys for point in photos.get(key, photos.get("", []))]
    shown = FitLineOut(
        id=line.id, sentence=line.sentence, photos=points, done=False, initials="", by_name="", at=None, note="", sequence=0
    )
    if tick is None or not tick.done:
        return shown
    initials = "".join(piece[0] for piece in tick.by_name.replace(".", " ").split())
    said = {"initials": initials, "by_name": tick.by_name, "at": tick.when, "note": tick.note, "sequence": tick.sequence}
    return shown.model_copy(update={"done": True, **said})
