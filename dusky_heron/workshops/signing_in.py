"""Who may try to sign in, and how many at once: guessing is slowed by address and by name, and a flood of it stalls nobody."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from ipaddress import ip_address
from uuid import UUID

from axes.handlers.proxy import AxesProxyHandler
from axes.helpers import get_cool_off
from axes.models import AccessAttempt, AccessLog
from django.conf import settings
from django.contrib.auth import authenticate
from django.contrib.auth.backends import ModelBackend
from django.contrib.auth.signals import user_login_failed
from django.db.models import Sum
from django.http import HttpRequest
from django.utils import timezone

from dusky_heron.record.errors import CodeAsked, SignInRefused, Throttled
from dusky_heron.workshops import second_factor
from dusky_heron.workshops.models import Member

AT_ONCE, WAITING = 1, 2  # hashings of a process at a time, and how many more may wait: argon2 takes 100 MB and a core each
PATIENCE_S, AGAIN_S = 1.0, 5  # how long one waits, and after how many seconds another try is worth it
STRANGE = 50  # wrong passwords for a name from all addresses, after which only addresses that have signed it in before may try
FROM_ONE = 100  # wrong passwords from one address for all names together: a workshop behind one address does not come to so many

_hashing, _waiting = threading.BoundedSemaphore(AT_ONCE), threading.BoundedSemaphore(AT_ONCE + WAITING)


def address_of(request: HttpRequest) -> str:
    """The address a request comes from: behind our proxy what the proxy itself adds last, else whoever is connected."""
    connected = str(request.META.get("REMOTE_ADDR", ""))
    if not settings.BEHIND_TLS:
        return connected
    last = request.headers.get("X-Forwarded-For", "").rpartition(",")[2].strip()
    try:
        return str(ip_address(last))
    except ValueError:
        return connected


class Members(ModelBackend):
    """The signed-in member with what their workshop asks of them. One statement."""

    def get_user(self, user_id: UUID) -> Member | None:
        """The member, unless they may not sign in any more."""
        member = Member.objects.select_related("workshop__terms").filter(pk=user_id).first()
        return member if member is not None and self.user_can_authenticate(member) else None


def sign_in(request: HttpRequest, username: str, password: str) -> Member:
    """The member whose name and password these are. Raises SignInRefused, or Throttled with the seconds to wait."""
    credentials = {"username": username}
    _may_try(request, username)
    if not AxesProxyHandler.is_allowed(request, credentials):
        raise Throttled(cool_off().seconds)
    with in_turn():
        member = authenticate(request, username=username, password=password)
    if isinstance(member, Member):
        return member
    if not AxesProxyHandler.is_allowed(request, credentials):
        raise Throttled(cool_off().seconds)
    raise SignInRefused


def take_code(request: HttpRequest, member: Member, code: str) -> int | None:
    """Take a code of a member's second factor; see there. A wrong one counts as a wrong password does: five close the door."""
    credentials = {"username": member.username}
    if not AxesProxyHandler.is_allowed(request, credentials):
        raise Throttled(cool_off().seconds)
    try:
        return second_factor.take_code(member.id, code)
    except CodeAsked:
        if code.strip():
            user_login_failed.send(sender=__name__, credentials=credentials, request=request)
        raise


def cool_off() -> timedelta:
    """How long a door stays closed."""
    return get_cool_off() or timedelta(minutes=15)


def _may_try(request: HttpRequest, username: str) -> None:
    """A name that is guessed at from everywhere stays open where it was signed in before: nobody is locked out by others."""
    address = address_of(request)
    lately = AccessAttempt.objects.filter(attempt_time__gte=timezone.now() - cool_off())
    from_here = lately.filter(ip_address=address).aggregate(wrong=Sum("failures_since_start"))["wrong"] or 0
    at_name = lately.filter(username=username).aggregate(wrong=Sum("failures_since_start"))["wrong"] or 0
    if from_here < FROM_ONE and at_name < STRANGE:
        return
    if not AccessLog.objects.filter(username=username, ip_address=address).exists():
        raise Throttled(cool_off().seconds)


@contextmanager
def in_turn() -> Iterator[None]:
    """One hashing after another; who would wait long is told to come again, and holds up nobody."""
    if not _waiting.acquire(blocking=False):
        raise Throttled(AGAIN_S)
    try:
        if not _hashing.acquire(timeout=PATIENCE_S):
            raise Throttled(AGAIN_S)
        try:
            yield
        finally:
            _hashing.release()
    finally:
        _waiting.release()
