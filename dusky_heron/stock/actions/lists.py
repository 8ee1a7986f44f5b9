"""Asking for a stock list to be seen, taken or undone: the worker does it."""

from dusky_heron.longwork.actions import ask_for
from dusky_heron.longwork.schemas import WorkOut
from dusky_heron.record.actions import action
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.errors import NotFound
from dusky_heron.sheets import read_sheet
from dusky_heron.stock import tasks
from dusky_heron.stock.csvfile import COLUMNS
from dusky_heron.stock.models import PartImport


@action(Permission.WORK)
def ask_to_preview(actor: Actor, name: str, content: bytes) -> WorkOut:
    """Ask what a file would change; one that cannot be read at all is refused at once."""
    read_sheet(content, COLUMNS)
    return ask_for(actor, "stock list preview", tasks.preview_list.defer, name, content)


@action(Permission.DECIDE)
def ask_to_take(actor: Actor, name: str, content: bytes) -> WorkOut:
    """Ask for a file to be taken; one that cannot be read at all is refused at once."""
    read_sheet(content, COLUMNS)
    return ask_for(actor, "stock list", tasks.take_list.defer, name, content)


@action(Permission.DECIDE)
def ask_to_undo(actor: Actor, import_id: int) -> WorkOut:
    """Ask for a whole import to be undone."""
    if not PartImport.objects.filter(id=import_id, workshop_id=actor.workshop_id, undone=False).exists():
        raise NotFound
    return ask_for(actor, "undo a stock list", tasks.undo_list.defer, str(import_id))
