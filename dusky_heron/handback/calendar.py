"""Due dates as iCalendar (RFC 5545): jobs that are promised, warranties that end, calibrations, parts that are needed."""

from collections.abc import Iterator
from datetime import date, datetime, timedelta
from functools import lru_cache
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_safe
from icalendar import Calendar, Event

from dusky_heron.buying.queries import needed_dates
from dusky_heron.handback.models import Return
from dusky_heron.instruments.queries import meters
from dusky_heron.jobs.queries import promised
from dusky_heron.record.actor import Actor, MemberRole
from dusky_heron.workshops.queries import reads_calendar

NOBODY = UUID(int=0)
LONG_PAST = timedelta(days=31)  # a warranty that ended before is due no more: what is told does not grow with the years
ENDS = b"END:VCALENDAR"
MOST_EVENTS = 20_000  # of some 500 bytes: 10 MB


@never_cache
@require_safe
def at_address(request: HttpRequest, workshop_id: UUID, secret: str) -> HttpResponse:  # noqa: ARG001
    """What another program reads under a workshop's calendar address; it knows no member. Five statements."""
    if not reads_calendar(workshop_id, secret):
        return HttpResponse("There is no such calendar.", status=404, content_type="text/plain; charset=utf-8")
    reader = Actor(NOBODY, "calendar", workshop_id, MemberRole.APPRENTICE)
    return HttpResponse(due_dates(reader), content_type="text/calendar; charset=utf-8")


def due_dates(actor: Actor) -> bytes:
    """All of them of a workshop. Four statements."""
    calendar = Calendar()
    calendar.add("prodid", "-//Dusky Heron//due dates//EN")
    calendar.add("version", "2.0")
    begins, end = calendar.to_ical().split(ENDS)
    events: list[bytes] = [_event(*one) for one in _due(actor)]
    return b"".join([begins, *events, ENDS, end])


@lru_cache(maxsize=MOST_EVENTS)
def _event(uid: str, day: date, says: str, at: datetime) -> bytes:
    """One of them; most are as they were when the calendar was asked for last."""
    event = Event()
    event.add("uid", f"{uid}@dusky-heron")
    event.add("dtstamp", at)
    event.add("dtstart", day)
    event.add("summary", says)
    written: bytes = event.to_ical()
    return written


def _due(actor: Actor) -> Iterator[tuple[str, date, str, datetime]]:
    now = timezone.localtime().replace(hour=0, minute=0, second=0, microsecond=0)  # the same all day
    for job in promised(actor):
        if job.promised_by:
            yield f"promised-{job.id}", job.promised_by, f"Promised: job {job.number}, {job.title}", now
    ends = {"returned": True, "warranty_until__gte": (now - LONG_PAST).date()}
    rows = Return.standing(job__workshop_id=actor.workshop_id, **ends)
    for key, until, at, number, title in rows.values_list("id", "warranty_until", "at", "job__number", "job__title"):
        if until is not None:
            yield f"warranty-{key}", until, f"Warranty ends: job {number}, {title}", at
    for meter in meters(actor):
        if meter.calibration_due:
            yield f"calibration-{meter.id}", meter.calibration_due, f"Calibration due: {meter.name}", now
    for uid, day, says in needed_dates(actor):
        yield f"needed-{uid}", day, says, now
