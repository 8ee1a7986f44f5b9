"""Making checks, soaking, signing deviations, writing the quote, handing back and taking back."""

import datetime
from uuid import UUID

from django.utils import timezone

from dusky_heron.core.discharge.proving import CHARGING
from dusky_heron.core.errors import InputError
from dusky_heron.core.metering.accuracy import Specification
from dusky_heron.core.model import QUANTITY_TITLES, Quantity
from dusky_heron.core.returning import checks as core
from dusky_heron.core.returning.invoice import places_of
from dusky_heron.discharge.actions import charged, energise, links_off
from dusky_heron.handback import tasks
from dusky_heron.handback.models import CheckResult, Deviation, Quote, Return, Soak
from dusky_heron.handback.queries import handback, quote, show_quote, show_soak, stands, warranty_months, work_on
from dusky_heron.handback.schemas import (
    CheckState,
    DeviationIn,
    HandbackOut,
    ProofCheckIn,
    QuoteIn,
    QuoteOut,
    ReturnIn,
    SoakEnd,
    SoakIn,
)
from dusky_heron.instruments.queries import KnownMeter, meter
from dusky_heron.jobs.actions import mark_returned
from dusky_heron.jobs.queries import find_job, job_places
from dusky_heron.longwork.actions import ask_for
from dusky_heron.longwork.schemas import WorkOut
from dusky_heron.record.actions import action, append, enter, save_edited
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.errors import NotFound
from dusky_heron.workshops.queries import terms

TESTED = "The insulation test has charged it."
NO_METER = KnownMeter("", Specification(), overdue=False)


@action(Permission.WORK)
def make_check(actor: Actor, job_id: UUID, data: ProofCheckIn) -> HandbackOut:
    """Write down what was read for a check, and judge it."""
    work = work_on(actor, find_job(actor, job_id, lock=True))
    check = next((check for check in work.checks if check.id == data.check_id), None)
    if check is None:
        raise InputError("check_id", "This job asks for no such check now: look again.")
    by = NO_METER
    if isinstance(check.quantity, Quantity):
        try:
            by = meter(actor, data.meter_id) if data.meter_id else NO_METER
        except NotFound:
            raise InputError("meter_id", "Choose one of the workshop's meters.") from None
        if not by.name:
            raise InputError("meter_id", "Choose the meter.")
        if not core.measures(check, by.specification):
            asked = QUANTITY_TITLES[core.asked_of(check)]
            raise InputError("meter_id", f"{by.name} does not measure {asked}, by what is kept of it: choose one that does.")
    taken = core.take_check(check, data.value, by.specification, against=data.against, lead=data.lead)
    limit = check.limit + (f" {data.against}" if data.against else "")
    result = CheckResult(
        job_id=job_id, check_id=check.id, title=check.title, typed=data.value, against=data.against, lead=data.lead,
        meter_name=by.name, outcome=taken.outcome, sentence=taken.sentence[:400], limit=limit, source=check.source,
    )  # fmt: skip
    body = {
        "check": check.title,
        "place": check.place,
        "typed": data.value,
        **({"lead": data.lead} if data.lead else {}),
        "limit": limit,
        "source": check.source,
        "outcome": taken.outcome,
        "says": taken.sentence,
        "meter": by.name,
        **({"calibration": "overdue"} if by.overdue else {}),
    }
    enter(actor, job_id, "check", body, result)
    if check.quantity in CHARGING:
        charged(actor, [shown for shown, _ in work.places], TESTED)
    return stands(actor, work)


@action(Permission.WORK)
def ask_for_report(actor: Actor, job_id: UUID) -> WorkOut:
    """Ask for the report of a job: the worker lays it out."""
    return ask_for(actor, "report", tasks.write_report.defer, str(find_job(actor, job_id).id))


@action(Permission.WORK)
def begin_soak(actor: Actor, job_id: UUID, data: SoakIn) -> HandbackOut:
    """Begin a soak under load; one runs at a time, and power comes to every place."""
    find_job(actor, job_id, lock=True)
    last = Soak.standing(job_id=job_id).last()
    if last and not last.ended_at:
        raise InputError("minutes", "A soak runs already: end it first.")
    minutes = data.minutes or core.TABLE["soak_minutes"]
    links = energise(actor, job_places(actor, job_id), taken_off=data.links_off)
    enter(actor, job_id, "soak begun", {"minutes": minutes, **links}, Soak(job_id=job_id, minutes=minutes))
    return handback(actor, job_id)


@action(Permission.WORK)
def end_soak(actor: Actor, job_id: UUID, data: SoakEnd) -> HandbackOut:
    """End a soak: it held only when its time is over."""
    find_job(actor, job_id, lock=True)
    soak = Soak.standing(job_id=job_id).select_for_update().last()
    if soak is None or soak.ended_at:
        raise InputError("held", "No soak runs.")
    left = show_soak(soak).left_s
    if data.held and left > 0:
        raise InputError("held", f"It has {left / 60:.0f} minutes to go: let it run, or say that it did not hold.")
    stands = append(actor, job_id, "soak ended", {"held": data.held, "minutes": soak.minutes, "note": data.note})
    soak.ended, soak.ended_at, soak.held, soak.note = stands.sequence, stands.at, data.held, data.note
    soak.save(update_fields=["ended", "ended_at", "held", "note"])
    return handback(actor, job_id)


@action(Permission.LEAD)
def sign_deviation(actor: Actor, job_id: UUID, data: DeviationIn) -> HandbackOut:
    """Sign that a job may go back though a required check failed or is missing, with the reason."""
    work = work_on(actor, find_job(actor, job_id, lock=True))
    check = next((check for check in stands(actor, work).checks if check.id == data.check_id), None)
    if check is None or not check.required or check.state is CheckState.PASSES:
        raise InputError("check_id", "There is nothing to sign there.")
    title = f"{check.place}: {check.title}" if check.place else check.title
    row = Deviation(job_id=job_id, check_id=check.id, title=title, reason=data.reason)
    enter(actor, job_id, "deviation signed", {"check": title, "stood": check.state, "reason": data.reason}, row)
    return stands(actor, work)


@action(Permission.WORK)
def write_quote(actor: Actor, job_id: UUID, data: QuoteIn) -> QuoteOut:
    """Write down what a job costs; the workshop's terms of that moment go with it."""
    find_job(actor, job_id, lock=True)
    fields = {"lines": [line.model_dump(mode="json") for line in data.lines], "minutes": data.minutes}
    kept = Quote.objects.filter(job_id=job_id).first()
    _no_finer(data, kept.currency if kept else terms(actor).currency)
    if kept is None:
        if data.version:
            raise InputError("version", "There is no quote yet.")
        usual = terms(actor)
        kept = Quote(
            job_id=job_id, hourly_rate=usual.hourly_rate, tax_percent=usual.tax_percent, currency=usual.currency,
            warranty_months=usual.warranty_months, **fields,
        )  # fmt: skip
        shown = show_quote(kept)
        kept.save()
    else:
        save_edited(kept, data.version, fields, show_quote)
        shown = show_quote(kept)
    append(
        actor,
        job_id,
        "quote",
        {"lines": fields["lines"], "minutes": data.minutes, "gross": shown.gross, "currency": shown.currency},
    )
    return quote(actor, job_id)


def _no_finer(data: QuoteIn, currency: str) -> None:
    """No price is finer than its currency."""
    places = places_of(currency)
    for number, line in enumerate(data.lines):
        if line.each != round(line.each, places):
            raise InputError(f"lines.{number}.each", f"{currency} has {places} digits behind the point: {line.each} has more.")


@action(Permission.DECIDE)
def hand_back(actor: Actor, job_id: UUID, data: ReturnIn) -> HandbackOut:
    """Hand a job back to its customer: every required check passed, or signed by a lead."""
    job = find_job(actor, job_id, lock=True)
    work = work_on(actor, job)
    now = stands(actor, work)
    if now.returned_at:
        raise InputError("note", "It has been handed back already.")
    if now.missing:
        raise InputError("note", f"It stays here: {'; '.join(now.missing)}. A lead may sign a deviation with a reason.")
    if now.soak and not now.soak.ended:
        raise InputError("note", "A soak still runs: end it first, nothing runs on after the hand-back.")
    links = links_off([shown for shown, _ in work.places], taken_off=data.links_off, field="links_off")
    until = months_on(timezone.localdate(), warranty_months(actor, job_id))
    row = Return(job_id=job_id, warranty_until=until, note=data.note)
    enter(actor, job_id, "handed back", {"warranty until": until.isoformat(), "note": data.note, **links}, row)
    mark_returned(job, row.at)
    return now.model_copy(update={"returned_at": row.at, "returned_by": row.by_name, "warranty_until": until})


@action(Permission.WORK)
def take_back(actor: Actor, job_id: UUID, data: ReturnIn) -> HandbackOut:
    """Take a job that was handed back on the bench again; the record goes on."""
    job = find_job(actor, job_id, lock=True)
    work = work_on(actor, job)
    if not stands(actor, work).returned_at:
        raise InputError("note", "It is on the bench.")
    enter(actor, job_id, "back on the bench", {"note": data.note}, Return(job_id=job_id, returned=False, note=data.note))
    mark_returned(job, None)
    return stands(actor, work)


def months_on(day: datetime.date, months: int) -> datetime.date:
    """The same day so many months on; the last of the month where it has no such day."""
    month = day.month - 1 + months
    year, month = day.year + month // 12, month % 12 + 1
    following = datetime.date(year + month // 12, month % 12 + 1, 1)
    return datetime.date(year, month, min(day.day, (following - datetime.timedelta(days=1)).day))
