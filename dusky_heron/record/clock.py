"""The server's clock, and whether it ran back: what lasts for a time does not outlast that."""

import datetime
from dataclasses import dataclass, replace

from django.db import transaction
from django.utils import timezone

from dusky_heron.record.models import Clock

THE_ONE = 1
BACK = datetime.timedelta(seconds=2)  # more than a clock is slewed or stepped by when it keeps time by others
EVERY = datetime.timedelta(seconds=10)  # how far it may go on before that is written down


@dataclass(frozen=True, slots=True)
class Moment:
    """Now, how often the clock had run back by then, and when it did last, by itself."""

    now: datetime.datetime
    turn: int
    turned_at: datetime.datetime | None

    def gone(self, since: datetime.datetime, turn: int | None) -> datetime.timedelta | None:
        """The time gone since a moment of a turn; None when nobody can tell, for the clock ran back between."""
        return self.now - since if turn == self.turn and since <= self.now else None


def watch(before: Moment | None = None) -> Moment:
    """What time it is, and whether the clock ran back since anybody looked; that is written down. One statement, seldom three.

    :param before: watched in the same transaction: as long as that tells enough there is no statement
    """
    now = timezone.now()
    if before and before.now <= now <= before.now + EVERY:
        return replace(before, now=now)
    kept = Clock.objects.filter(id=THE_ONE).first()
    if kept is None or now < kept.latest - BACK or now > kept.latest + EVERY:
        kept = _write_down(now)
    return Moment(now, kept.turn, kept.turned_at)


def _write_down(now: datetime.datetime) -> Clock:
    """Nobody waits for it: who finds it held by another comes to the same, and leaves the writing to them."""
    with transaction.atomic():
        kept = Clock.objects.select_for_update(skip_locked=True).filter(id=THE_ONE).first()
        if kept:
            _set(kept, now)
            kept.save()
            return kept
        Clock.objects.bulk_create([Clock(id=THE_ONE, latest=now)], ignore_conflicts=True)
        kept = Clock.objects.get(id=THE_ONE)
        _set(kept, now)
        return kept


def _set(kept: Clock, now: datetime.datetime) -> None:
    if now < kept.latest - BACK:
        kept.turn, kept.turned_at, kept.latest = kept.turn + 1, now, now
    kept.latest = max(now, kept.latest)
