"""What may go wrong in an action besides bad input."""

from typing import Any


class NotFound(Exception):
    """Not there, or another workshop's, which is the same to the asker."""


class Lost(Exception):
    """It was kept once, and is not to be found whole any more; a sentence says what."""


class NotAllowed(Exception):
    """The role does not grant it."""


class Stale(Exception):
    """Somebody changed the thing since it was read; `current` is what it is now."""

    def __init__(self, current: dict[str, Any]) -> None:
        super().__init__("stale")
        self.current = current


class KeyReused(Exception):
    """The idempotency key was used for another write."""


class DoneBefore(Exception):
    """A write with this key was done so long ago that its answer is kept no more; a sentence says when."""


class SignInRefused(Exception):
    """User name and password do not belong together."""


class CodeAsked(Exception):
    """A code of the second factor is asked for; a sentence says so."""


class Throttled(Exception):
    """Too many wrong passwords; `seconds` until another try."""

    def __init__(self, seconds: int) -> None:
        super().__init__("throttled")
        self.seconds = seconds
