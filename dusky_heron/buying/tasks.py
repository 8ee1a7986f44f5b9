"""What the worker buys with."""

from uuid import UUID

from procrastinate.contrib.django import app

from dusky_heron.buying.actions import offers
from dusky_heron.longwork.actions import perform


@app.task
def renew_prices(work_id: str) -> None:
    """Ask the price service for every supplier's prices."""
    perform(UUID(work_id), lambda actor, _, tell: offers.renew_prices(actor, tell))
