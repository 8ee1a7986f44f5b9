"""From an HTTP request to an actor."""

import datetime
import math
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import replace
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils import timezone

from dusky_heron.record.actor import Actor, Sending
from dusky_heron.record.errors import CodeAsked
from dusky_heron.record.typed import use_sign_of
from dusky_heron.workshops import second_factor
from dusky_heron.workshops.models import Member, Terms

BY_SECOND_FACTOR, CODE_GIVEN = "by_second_factor", "code_given"  # of a session: signed in with one; when one was typed to sign
CODE_LASTS_S = 120  # from a code to the signature it was typed for
WAITED, SEEN, AFTER = "Waited-Seconds", "Seen-Entries", "After-Writes"  # of a write that waited in the browser, see `Sending`
SENT = "Sent-At"  # when it left the browser, ms since 1970 by our clock as far as that is known there
MOMENT_S = 2.0  # a Date has whole seconds, and an answer that tells it takes its time: less on the way is none
LONG_AGO = datetime.datetime(1970, 1, 1, tzinfo=datetime.UTC)  # where nobody knows how long it waited
MOST_AFTER = 20  # of one's own writes that are named: whoever types faster than they are answered is not farther ahead


class DecimalSign:
    """Lets what is typed in a request be read with the decimal sign of the workshop, which is looked up when it is needed."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer the request, and forget whose it was."""
        use_sign_of(lambda: sign_of(request.user.workshop_id) if isinstance(request.user, Member) else "")
        try:
            return self.get_response(request)
        finally:
            use_sign_of(None)


def sign_of(workshop_id: UUID) -> str:
    """The decimal sign that a workshop types; "" when it has not said. One statement."""
    return Terms.objects.filter(workshop_id=workshop_id).values_list("decimal_sign", flat=True).first() or ""


def actor_of(request: HttpRequest) -> Actor:
    """The signed-in member, and how their request reached us; every view but sign-in asks for one first."""
    assert isinstance(request.user, Member)  # noqa: S101 - the API's auth has let nobody else in
    return replace(request.user.actor, sending=_sending(request))


def must_set_up(request: HttpRequest) -> bool:
    """Whether the workshop demands a second factor and this member signed in without one. No statement."""
    member = request.user
    assert isinstance(member, Member)  # noqa: S101 - the API's auth has let nobody else in
    terms: Terms | None = getattr(member.workshop, "terms", None)
    return terms is not None and terms.second_factor and BY_SECOND_FACTOR not in request.session


@contextmanager
def signing(request: HttpRequest) -> Iterator[Actor]:
    """The member who signs now: whoever has a second factor gives a code of it for each signature. One statement."""
    actor = actor_of(request)
    if second_factor.has_one(actor.id):
        given = request.session.get(CODE_GIVEN, -math.inf)
        if not 0 <= time.time() - given <= CODE_LASTS_S:
            raise CodeAsked("Type a code of your authenticator to sign.")
    yield actor
    request.session.pop(CODE_GIVEN, None)


def _sending(request: HttpRequest) -> Sending:
    """A wait that nobody can read is an endless one, and what was seen then is nothing: the later word is never taken for it."""
    key, waited, seen, sent = (request.headers.get(name) for name in ("Idempotency-Key", WAITED, SEEN, SENT))
    came = timezone.now()
    there = None if waited is None else _seconds(waited)
    under_way = 0.0 if sent is None else came.timestamp() - _seconds(sent) / 1000
    late_s = (there or 0.0) + abs(under_way) if under_way > MOMENT_S or under_way == -math.inf else there
    return Sending(
        key or "",
        None if late_s is None else _before(came, late_s),
        int(seen) if seen is not None and seen.isdecimal() and len(seen) < 10 else None,
        tuple(name for name in request.headers.get(AFTER, "").split(",") if name and name.isprintable())[-MOST_AFTER:],
    )


def _before(moment: datetime.datetime, seconds: float) -> datetime.datetime:
    """What waited was taken so long before it came, whatever the clock of its writer says."""
    return LONG_AGO if seconds > (moment - LONG_AGO).total_seconds() else moment - datetime.timedelta(seconds=seconds)


def _seconds(text: str) -> float:
    try:
        seconds = float(text)
    except ValueError:
        return math.inf
    return seconds if seconds >= 0 else math.inf  # NaN too
