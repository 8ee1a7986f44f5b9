"""What follows from a record, kept in memory for as long as the record stands as it is.

The head of a chain is a digest of all that was ever entered in it, and whatever an action writes is entered in the chain of its
job, or of its workshop for what belongs to no job: meters, limits, schools, parts, orders. What follows from the rows of a job is
therefore the same wherever both heads are, on every server and after every restart. What follows from the time of day is not: it is
worked out from what is kept, each time anew, and the day is part of what it is kept under.
"""

import datetime
from collections import OrderedDict
from collections.abc import Callable, Mapping, Sequence
from threading import Lock
from typing import Generic, NamedTuple, TypeVar
from uuid import UUID

from django.db.models import Model, OuterRef, QuerySet, Subquery
from django.utils import timezone

from dusky_heron.record.models import Chain

Row = TypeVar("Row", bound=Model)
Kind = TypeVar("Kind")


class Heads(NamedTuple):
    """Of a job, the heads of its record and of its workshop's; none where there is no record."""

    own: str | None
    workshop: str | None


def heads_of(rows: QuerySet[Row]) -> dict[UUID, Heads]:
    """The heads of jobs, in the order of the rows. One statement."""
    own, workshop = (Subquery(Chain.objects.filter(subject_id=OuterRef(field)).values("head")) for field in ("id", "workshop_id"))
    return {key: Heads(*heads) for key, *heads in rows.values_list("id", own, workshop)}


class Kept(Generic[Kind]):
    """What was worked out of jobs, of at most so many at once: those that were looked at last."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._kept: OrderedDict[tuple[UUID, Heads, datetime.date], Kind] = OrderedDict()
        self._lock = Lock()

    def of(
        self, read_heads: Callable[[], Mapping[UUID, Heads]], work_out: Callable[[Sequence[UUID]], Mapping[UUID, Kind]]
    ) -> dict[UUID, Kind]:
        """What follows of each job whose heads are read, in their order. One statement; two and what it takes for what is new.

        The heads are read again after working out: what was written meanwhile is shown, and kept under neither.
        """
        today = timezone.localdate()
        heads = read_heads()
        found = {job: self._find((job, head, today)) for job, head in heads.items()}
        missing = [job for job, one in found.items() if one is None]
        if missing:
            made = work_out(missing)
            now = read_heads()
            for job, one in made.items():
                found[job] = one
                if heads[job] == now.get(job) and None not in heads[job] and timezone.localdate() == today:
                    self._keep((job, heads[job], today), one)
        return {job: one for job, one in found.items() if one is not None}

    def forget(self) -> None:
        """Keep nothing, as a server that starts; where rows are laid beside the actions."""
        with self._lock:
            self._kept.clear()

    def _find(self, key: tuple[UUID, Heads, datetime.date]) -> Kind | None:
        with self._lock:
            found = self._kept.get(key)
            if found is not None:
                self._kept.move_to_end(key)
            return found

    def _keep(self, key: tuple[UUID, Heads, datetime.date], one: Kind) -> None:
        with self._lock:
            self._kept[key] = one
            while len(self._kept) > self._most:
                self._kept.popitem(last=False)
