"""Where positions stand: the sheet of a job, and the last word and reading of each."""

from collections.abc import Mapping, Sequence
from functools import partial
from typing import NamedTuple
from uuid import UUID

from dusky_heron.assessment.models import Reading, RecordedVerdict
from dusky_heron.assessment.queries.known import Known, known, verdicts
from dusky_heron.assessment.queries.shown import interval, show_bar, show_reading, show_verdict
from dusky_heron.assessment.schemas import BoardOut, BoardRow, StandingOut
from dusky_heron.core import model as core
from dusky_heron.jobs.queries import heads_of_job, known_positions
from dusky_heron.presented import Figure
from dusky_heron.record.actor import Actor
from dusky_heron.record.heads import Kept


def board(actor: Actor, job_id: UUID) -> BoardOut:
    """Every position of a job with its verdict now. One statement; eight where something was written, whatever their number."""
    return BOARDS.of(partial(heads_of_job, actor, job_id), partial(_boards, actor))[job_id]


BOARDS = Kept[BoardOut](50)  # of a hundred positions some 300 kB


def _boards(actor: Actor, job_ids: Sequence[UUID]) -> dict[UUID, BoardOut]:
    (job_id,) = job_ids
    return {job_id: BoardOut(rows=[_row(one) for one in known(actor, known_positions(actor, job_id=job_id))])}


def _row(one: Known) -> BoardRow:
    measured = [r for r in one.standing if r.quantity == core.Quantity.CAPACITANCE and r.condition != core.Condition.NEW_PART]
    last = show_reading(measured[-1]) if measured else None
    verdict = show_verdict(one.verdict)
    return BoardRow(
        id=one.shown.id,
        name=one.shown.name,
        role_title=one.shown.role_title,
        marking=one.shown.marking,
        parts=one.shown.parts,
        marked=one.shown.read.capacitance,
        reading=last.value if last else None,
        interval=last.interval if last else "",
        bar=show_bar(one, measured[-1].section if measured else 0),
        word=verdict.word,
        sentence=verdict.reasons[0].sentence,
        attention=core.SEVERITY[verdict.word],
        differs=one.differs and one.recorded is not None,
        provisional=one.shown.read.provisional,
    )


class Stand(NamedTuple):
    """Where the verdict of a position stands: its word, and whether that is recorded."""

    word: core.Word | None
    recorded: bool


def words(actor: Actor, places: Mapping[UUID, core.Position]) -> dict[UUID, Stand]:
    """Last recorded word by position, of positions the asker may see. One to six statements.

    A position without a recorded verdict stands where its marking and its place already ask for another part.
    """
    recorded = RecordedVerdict.standing(position_id__in=places).only("position_id", "word")
    last = RecordedVerdict.newest_of_each(recorded, "position_id")
    kept = {row.position_id: core.Word(row.word) for row in last}
    fresh = {position_id: place for position_id, place in places.items() if position_id not in kept}
    now = verdicts(actor, fresh) if fresh else {}
    asks = {position_id: verdict.word for position_id, verdict in now.items() if verdict.word in core.TO_REPLACE}
    return {position_id: Stand(kept.get(position_id, asks.get(position_id)), position_id in kept) for position_id in places}


def standings(found: Mapping[UUID, Stand]) -> dict[UUID, StandingOut]:
    """The words of positions with the last reading of each, as they are shown. One statement."""
    capacitances = Reading.standing(position_id__in=found, quantity=core.Quantity.CAPACITANCE)
    decides = capacitances.exclude(condition=core.Condition.NEW_PART)
    newest = Reading.newest_of_each(decides.only("position_id", "quantity", "value", "low", "high"), "position_id")
    read = {r.position_id: r for r in newest}
    return {
        position_id: StandingOut(
            word=word,
            recorded=recorded,
            reading=Figure.of(read[position_id].value, "F") if position_id in read else None,
            interval=interval(read[position_id]) if position_id in read else "",
        )
        for position_id, (word, recorded) in found.items()
    }
