"""Striking a line of a job's record."""

from collections.abc import Callable
from uuid import UUID

from dusky_heron.assessment.actions import judge_again
from dusky_heron.assessment.models import Observation, Reading, SeenSign
from dusky_heron.fitting.actions import follow_tick
from dusky_heron.fitting.models import FitTick
from dusky_heron.jobs.queries import core_position, find_job
from dusky_heron.record.actions import action, strike
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.models import Entered
from dusky_heron.record.schemas import StrikeIn, StruckOut
from dusky_heron.replacement.actions import put_back
from dusky_heron.replacement.models import Choice


@action(Permission.WORK)
def strike_line(actor: Actor, job_id: UUID, sequence: int, data: StrikeIn) -> StruckOut:
    """Strike what an entry said: by its writer or a lead, with a reason, or at once without one.

    Both lines stay in the record. What was struck decides nothing, and what was decided by it is decided again.
    """
    find_job(actor, job_id, lock=True)
    for row in strike(actor, job_id, sequence, data.reason):
        follow = FOLLOWS.get(type(row))
        if follow:
            follow(actor.here, row)
    return StruckOut(sequence=sequence)


def _judge(actor: Actor, row: Entered) -> None:
    assert isinstance(row, Observation)  # noqa: S101 - of FOLLOWS
    judge_again(actor, core_position(actor, row.position_id)[0])


def _unfit(actor: Actor, row: Entered) -> None:
    assert isinstance(row, FitTick)  # noqa: S101 - of FOLLOWS
    follow_tick(actor, row)


def _put_back(actor: Actor, row: Entered) -> None:
    assert isinstance(row, Choice)  # noqa: S101 - of FOLLOWS
    put_back(actor, row)


# What is decided when it is written, and so again when it is struck; all else is worked out when it is looked at.
FOLLOWS: dict[type[Entered], Callable[[Actor, Entered], None]] = {
    Reading: _judge,
    SeenSign: _judge,
    FitTick: _unfit,
    Choice: _put_back,
}
