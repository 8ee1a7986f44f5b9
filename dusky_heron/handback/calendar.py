"""Due dates as iCalendar (RFC 5545): jobs that are promised, warranties that end, calibrations, parts that are needed."""

from collections.abc import Iterator
from datetime import date, datetime
from uuid import UUID

from django.http import HttpRequest, HttpResponse
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
    for uid, day, says, at in _due(actor):
        event = Event()
        event.add("uid", f"{uid}@dusky-heron")
        event.add("dtstamp", at)
        event.add("dtstart", day)
        event.add("summary", says)
        calendar.add_component(event)
    found: bytes = calendar.to_ical()
    return found


def _due(actor: Actor) -> Iterator[tuple[str, date, str, datetime]]:
    now = datetime.now().astimezone()
    for job in promised(actor):
        if job.promised_by:
            yield f"promised-{job.id}", job.promised_by, f"Promised: job {job.number}, {job.title}", now
    for row in Return.standing(job__workshop_id=actor.workshop_id, returned=True).select_related("job"):
        if row.warranty_until:
            yield f"warranty-{row.id}", row.warranty_until, f"Warranty ends: job {row.job.number}, {row.job.title}", row.at
    for meter in meters(actor):
        if meter.calibration_due:
            yield f"calibration-{meter.id}", meter.calibration_due, f"Calibration due: {meter.name}", now
    for uid, day, says in needed_dates(actor):
        yield f"needed-{uid}", day, says, now
