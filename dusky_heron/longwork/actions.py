"""Asking for long work, doing it, stopping it."""

from collections.abc import Callable
from dataclasses import replace
from uuid import UUID

import structlog
from pydantic import BaseModel

from dusky_heron.core.errors import InputError
from dusky_heron.longwork.models import State, Work
from dusky_heron.longwork.progress import Progress, StopAsked, Tell
from dusky_heron.longwork.queries import show_work
from dusky_heron.longwork.schemas import WorkOut
from dusky_heron.record.actions import action
from dusky_heron.record.actor import Actor, Permission, Sending
from dusky_heron.record.errors import Lost, NotAllowed, NotFound

ENDED = (State.DONE, State.REFUSED, State.STOPPED)
Defer = Callable[..., object]  # of a task: puts its job into the same transaction
Do = Callable[[Actor, Work, Tell], BaseModel]


def ask_for(actor: Actor, kind: str, defer: Defer, name: str = "", given: bytes = b"") -> WorkOut:
    """Ask for a piece of work; call inside an action's transaction."""
    work = Work.objects.create(workshop_id=actor.workshop_id, by_id=actor.id, kind=kind, name=name[:200], given=given)
    defer(work_id=str(work.id))
    return show_work(work)


@action(Permission.WORK)
def stop_work(actor: Actor, work_id: UUID) -> WorkOut:
    """Ask a piece of work to stop; what has not begun is stopped at once."""
    work = Work.objects.select_for_update().filter(id=work_id, workshop_id=actor.workshop_id).first()
    if work is None:
        raise NotFound
    if work.state == State.WAITING:
        work.state, work.given = State.STOPPED, b""
    if work.state not in ENDED:
        work.stop_asked = True
    work.save(update_fields=["state", "given", "stop_asked"])
    return show_work(work)


def perform(work_id: UUID, do: Do) -> None:
    """Do a piece of work and keep what came of it; called by the worker, once for each job in its queue."""
    work = Work.objects.select_related("by").filter(id=work_id).exclude(state__in=ENDED).first()
    if work is None:
        return
    Work.objects.filter(id=work_id).update(state=State.RUNNING)
    try:
        if not work.by.is_active:
            raise InputError("", "Who asked for it may no longer sign in.")
        with Progress(work_id) as progress:
            answer = do(replace(work.by.actor, sending=Sending(key=str(work.id))), work, progress.at)
        _end(work_id, State.DONE, answer=answer.model_dump(mode="json"))
    except StopAsked:
        _end(work_id, State.STOPPED)
    except InputError as error:
        _end(work_id, State.REFUSED, field=error.field[:60], sentence=error.sentence[:500])
    except (NotAllowed, Lost) as error:
        _end(work_id, State.REFUSED, sentence=f"{error}"[:500])
    except NotFound:
        _end(work_id, State.REFUSED, sentence="It is no longer there.")
    except Exception as error:  # noqa: BLE001 - the asker must not wait for ever
        structlog.get_logger().error("long work failed", work=str(work_id), kind=work.kind, exc_info=error)
        _end(work_id, State.REFUSED, sentence="The worker failed; nothing was changed. Try again.")


def _end(work_id: UUID, state: State, **came_of_it: object) -> None:
    Work.objects.filter(id=work_id).update(state=state, given=b"", **came_of_it)
