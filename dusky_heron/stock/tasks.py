"""What the worker does to the drawer."""

from uuid import UUID

from procrastinate.contrib.django import app

from dusky_heron.longwork.actions import perform
from dusky_heron.stock.actions import imports


@app.task
def preview_list(work_id: str) -> None:
    """See what a stock list would change."""
    perform(UUID(work_id), lambda actor, work, tell: imports.preview_import(actor, bytes(work.given), tell))


@app.task
def take_list(work_id: str) -> None:
    """Take a stock list, all of it or nothing."""
    perform(UUID(work_id), lambda actor, work, tell: imports.take_import(actor, work.name, bytes(work.given), tell))


@app.task
def undo_list(work_id: str) -> None:
    """Undo a whole import."""
    perform(UUID(work_id), lambda actor, work, tell: imports.undo_import(actor, int(work.name), tell))
