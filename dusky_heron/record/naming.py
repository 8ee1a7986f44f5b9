"""Ids of what is made: of a write with a key they follow from it, so that a device and the server name a thing alike."""

import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from itertools import count

_numbers: ContextVar[tuple[uuid.UUID, str, Iterator[int]] | None] = ContextVar("naming", default=None)


def new_id() -> uuid.UUID:
    """An id that nothing else has: a drawn one, or of a write with a key the next that follows from its member and the key.

    UUID version 5 (RFC 9562): SHA-1 over the member's id and "key number"; nobody makes an id of another member's with it.
    """
    named = _numbers.get()
    if named is None:
        return uuid.uuid4()
    member, key, numbers = named
    return uuid.uuid5(member, f"{key} {next(numbers)}")


@contextmanager
def named_by(member: uuid.UUID, key: str) -> Iterator[None]:
    """Within it ids follow from a member and the key of what they write; without a key as around it."""
    if not key:
        yield
        return
    token = _numbers.set((member, key, count()))
    try:
        yield
    finally:
        _numbers.reset(token)
