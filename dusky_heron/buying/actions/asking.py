"""Asking for today's prices: the worker does it."""

from django.conf import settings

from dusky_heron.buying import tasks
from dusky_heron.core.errors import InputError
from dusky_heron.longwork.actions import ask_for
from dusky_heron.longwork.schemas import WorkOut
from dusky_heron.record.actions import action
from dusky_heron.record.actor import Actor, Permission


@action(Permission.WORK)
def ask_for_prices(actor: Actor) -> WorkOut:
    """Ask for the prices of every supplier that has a name at the price service."""
    if not settings.PRICE_SERVICE_URL:
        raise InputError("prices", "No price service is set up here: type the prices.")
    return ask_for(actor, "prices", tasks.renew_prices.defer)
