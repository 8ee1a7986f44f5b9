"""Reading what is left to do while a part is fitted; each function says how many statements it takes."""

from collections.abc import Collection
from dataclasses import dataclass
from uuid import UUID

from dusky_heron.asfound.queries import lines_about, photo_after
from dusky_heron.core.selection.fitting_list import PHOTO, FittingLine, fitting_list
from dusky_heron.core.selection.ways import Way
from dusky_heron.fitting.models import BESIDE_TITLES, Beside, BesideWork, Fitted, FitTick
from dusky_heron.fitting.schemas import BesideKind, BesideListOut, BesideOut, FitLineOut, FittingOut
from dusky_heron.jobs.queries import core_position, find_job
from dusky_heron.record.actor import Actor
from dusky_heron.replacement.queries import how_it_fits
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
    """The list of a place with what was ticked, and the choice it is of; none without one."""

    shown: FittingOut
    choice_id: int | None


def fitting(actor: Actor, position_id: UUID) -> List:
    """What to do while the chosen part is fitted. At most twelve statements."""
    position, place, job = core_position(actor, position_id)
    fits = how_it_fits(actor, position_id)
    if fits is None:
        return List(FittingOut(position_id=position_id, part="", lot="", lines=[], missing=NOTHING, fitted_at=None), None)
    schools = chosen_schools(actor)
    asked = fitting_list(
        place,
        fits.filling,
        lines_about(position_id),
        distance=fits.distance,
        old_can=schools["old_can"],
        photo=schools["fitting_photo"] == "yes",
    )
    ticks = {tick.line: tick for tick in FitTick.standing(choice_id=fits.choice_id)}
    whole = Fitted.standing(choice_id=fits.choice_id).last()
    lines = [_line(line, ticks.get(line.id)) for line in asked]
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
    return List(shown, fits.choice_id)


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
    """The positions whose chosen part is in its place. One statement."""
    which = {choice.position_id: choice.sequence for choice in chosen}
    found = Fitted.standing(choice__position_id__in=which).values_list("choice__position_id", "choice__sequence")
    return {position_id for position_id, sequence in found if which[position_id] == sequence}


def _line(line: FittingLine, tick: FitTick | None) -> FitLineOut:
    if tick is None or not tick.done:
        return FitLineOut(id=line.id, sentence=line.sentence, done=False, initials="", by_name="", at=None, note="", sequence=0)
    initials = "".join(piece[0] for piece in tick.by_name.replace(".", " ").split())
    return FitLineOut(
        id=line.id, sentence=line.sentence, done=True, initials=initials, by_name=tick.by_name, at=tick.when, note=tick.note,
        sequence=tick.sequence,
    )  # fmt: skip
