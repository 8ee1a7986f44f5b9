"""From an HTTP request to an actor."""

import math
from dataclasses import replace

from django.http import HttpRequest

from dusky_heron.record.actor import Actor, Sending
from dusky_heron.workshops.models import Member

WAITED, SEEN = "Waited-Seconds", "Seen-Entries"  # of a write that waited in the browser: how long, and what its writer had seen


def actor_of(request: HttpRequest) -> Actor:
    """The signed-in member, and how their request reached us; every view but sign-in asks for one first."""
    assert isinstance(request.user, Member)  # noqa: S101 - the API's auth has let nobody else in
    return replace(request.user.actor, sending=_sending(request))


def _sending(request: HttpRequest) -> Sending:
    """A wait that nobody can read is an endless one, and what was seen then is nothing: the later word is never taken for it."""
    key, waited, seen = (request.headers.get(name) for name in ("Idempotency-Key", WAITED, SEEN))
    return Sending(
        key or "",
        None if waited is None else _seconds(waited),
        int(seen) if seen is not None and seen.isdecimal() and len(seen) < 10 else None,
    )


def _seconds(text: str) -> float:
    try:
        seconds = float(text)
    except ValueError:
        return math.inf
    return seconds if seconds >= 0 else math.inf  # NaN too
