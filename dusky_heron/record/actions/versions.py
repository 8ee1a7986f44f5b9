"""Saving an edit only when nobody else saved one since it was read."""

from collections.abc import Callable
from typing import Any

from pydantic import BaseModel

from dusky_heron.record.errors import Stale
from dusky_heron.record.models import Versioned


def save_edited(thing: Versioned, version: int, changes: dict[str, Any], show: Callable[[Any], BaseModel]) -> None:
    """Apply changes to a thing that was read for update; raise Stale, with what it is now, if its version moved on."""
    if thing.version != version:
        raise Stale(show(thing).model_dump(mode="json"))
    for field, value in changes.items():
        setattr(thing, field, value)
    thing.version += 1
    thing.save()
