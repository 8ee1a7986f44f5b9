"""Changing limits, terms and schools."""

from dusky_heron.core.discharge.limits import LimitChange, check_change, find_limit, limits_table
from dusky_heron.core.errors import InputError
from dusky_heron.core.schools import find_school
from dusky_heron.core.verdict.registry import DEFAULT_LIMITS, read_limit_value
from dusky_heron.record.actions import action, append, save_edited
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.workshops import second_factor
from dusky_heron.workshops.models import CalendarAddress, ChangedLimit, ChosenSchool, Terms
from dusky_heron.workshops.queries import show_limit, show_school, show_terms
from dusky_heron.workshops.schemas import (
    CalendarRenew,
    CalendarRenewed,
    ChosenSchoolOut,
    LimitEdit,
    LimitOut,
    SchoolEdit,
    TermsEdit,
    TermsOut,
)


@action(Permission.LEAD)
def change_limit(actor: Actor, data: LimitEdit) -> LimitOut:
    """Change a limit with a reason, or without one take the source's figure again."""
    value = data.value
    if data.id in DEFAULT_LIMITS:
        if data.after_s is not None:
            raise InputError("after_s", "This limit has no time.")
        value = read_limit_value(DEFAULT_LIMITS[data.id], data.value) if data.reason else None
    else:
        standard = find_limit(limits_table(), data.id)
        if data.reason:
            check_change(standard, LimitChange(value, data.after_s, data.reason))
    ChangedLimit.objects.get_or_create(workshop_id=actor.workshop_id, limit_id=data.id)
    row = ChangedLimit.objects.select_for_update().get(workshop_id=actor.workshop_id, limit_id=data.id)
    save_edited(row, data.version, {"value": value, "after_s": data.after_s, "reason": data.reason}, show_limit)
    shown = show_limit(row)
    body = {"limit": data.id, "counts": shown.said, "standard": shown.standard_said, "reason": data.reason}
    append(actor, actor.workshop_id, "limit changed", body)
    return shown


@action(Permission.LEAD)
def set_terms(actor: Actor, data: TermsEdit) -> TermsOut:
    """Set what the workshop charges, its warranty, and whether its members need a second factor."""
    if data.second_factor and not second_factor.has_one(actor.id):
        raise InputError("second_factor", "Set up your own first: whoever demands it has one.")
    Terms.objects.get_or_create(workshop_id=actor.workshop_id)
    row = Terms.objects.select_for_update().get(workshop_id=actor.workshop_id)
    save_edited(row, data.version, data.model_dump(exclude={"version"}), show_terms)
    append(actor, actor.workshop_id, "terms set", data.model_dump(mode="json", exclude={"version"}))
    return show_terms(row)


@action(Permission.LEAD)
def renew_calendar(actor: Actor, data: CalendarRenew) -> CalendarRenewed:
    """Read due dates under a new address; who knew the one before reads nothing any more."""
    CalendarAddress.objects.get_or_create(workshop_id=actor.workshop_id)
    row = CalendarAddress.objects.select_for_update().get(workshop_id=actor.workshop_id)
    if row.number != data.number:
        raise InputError("number", "It was changed meanwhile: look again.")
    row.number, row.ended = row.number + 1, False
    row.save(update_fields=["number", "ended"])
    append(actor, actor.workshop_id, "calendar address renewed", {"number": row.number})
    return CalendarRenewed(stands=True)


@action(Permission.LEAD)
def end_calendar(actor: Actor) -> CalendarRenewed:
    """Let nobody read due dates from outside."""
    row = CalendarAddress.objects.select_for_update().filter(workshop_id=actor.workshop_id, ended=False).first()
    if row:
        row.ended = True
        row.save(update_fields=["ended"])
        append(actor, actor.workshop_id, "calendar address ended", {"number": row.number})
    return CalendarRenewed(stands=False)


@action(Permission.LEAD)
def choose_school(actor: Actor, data: SchoolEdit) -> ChosenSchoolOut:
    """Choose where practitioners disagree; what is not the default needs a reason."""
    school = find_school(data.id, data.option)
    if data.option != school.default and not data.reason:
        raise InputError("reason", "Say why this workshop does it so.")
    ChosenSchool.objects.get_or_create(workshop_id=actor.workshop_id, school_id=school.id)
    row = ChosenSchool.objects.select_for_update().get(workshop_id=actor.workshop_id, school_id=school.id)
    changes = {"option": data.option, "reason": data.reason}
    save_edited(row, data.version, changes, lambda kept: show_school(school, kept))
    body = {"question": school.question, "chosen": school.options[data.option], "reason": data.reason}
    append(actor, actor.workshop_id, "school chosen", body)
    return show_school(school, row)
