"""Telling how far a piece of work is from inside its transaction, and hearing that it should stop."""

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from time import monotonic
from types import TracebackType
from uuid import UUID

from django.db import connections

from dusky_heron.longwork.models import Work

EVERY_S = 0.25


class StopAsked(Exception):
    """Somebody asked for the work to stop: nothing of it may stay."""


class Progress:
    """Writes on a connection of its own, so that others see it before the work commits; use as a context."""

    def __init__(self, work_id: UUID) -> None:
        self._work_id = work_id
        self._told = 0.0
        self._aside = ThreadPoolExecutor(max_workers=1)

    def __enter__(self) -> "Progress":
        return self

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None) -> None:
        self._aside.submit(connections.close_all).result()
        self._aside.shutdown()

    def at(self, done: int, total: int) -> None:
        """So many of so many; told four times a second at most. Raises StopAsked."""
        if done < total and monotonic() - self._told < EVERY_S:
            return
        self._told = monotonic()
        if self._aside.submit(self._tell, done, total).result():
            raise StopAsked

    def _tell(self, done: int, total: int) -> bool:
        mine = Work.objects.filter(id=self._work_id)
        mine.update(done=done, total=total)
        return mine.filter(stop_asked=True).exists()


Tell = Callable[[int, int], None]  # what `Progress.at` is to the work


def nobody(done: int, total: int) -> None:
    """For work that nobody watches."""
