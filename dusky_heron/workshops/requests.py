"""From an HTTP request to an actor and an idempotency key."""

from typing import Any

from django.http import HttpRequest

from dusky_heron.record.actor import Actor
from dusky_heron.workshops.models import Member


def actor_of(request: HttpRequest) -> Actor:
    """The signed-in member; every view but sign-in asks for one first."""
    assert isinstance(request.user, Member)  # noqa: S101 - the API's auth has let nobody else in
    return request.user.actor


def key_of(request: HttpRequest) -> dict[str, Any]:
    """The idempotency key of a write, as the argument an action takes."""
    return {"key": request.headers.get("Idempotency-Key", "")}
