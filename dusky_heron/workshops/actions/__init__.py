"""Changing members, passwords and limits."""

from uuid import UUID

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError

from dusky_heron.core.discharge.limits import LimitChange, check_change, find_limit, limits_table
from dusky_heron.core.errors import InputError
from dusky_heron.core.schools import find_school
from dusky_heron.core.verdict.registry import DEFAULT_LIMITS, read_limit_value
from dusky_heron.record.actions import action, append, save_edited, writing
from dusky_heron.record.actor import Actor, MemberRole, Permission
from dusky_heron.record.errors import NotFound
from dusky_heron.workshops.models import ChangedLimit, ChosenSchool, Member, Terms, Workshop
from dusky_heron.workshops.queries import show_limit, show_school, show_terms, user_name_taken
from dusky_heron.workshops.schemas import (
    ChosenSchoolOut,
    LimitEdit,
    LimitOut,
    MemberEdit,
    MemberOut,
    NewMember,
    NewPassword,
    OwnPassword,
    SchoolEdit,
    TermsEdit,
    TermsOut,
)


@action(Permission.LEAD)
def add_member(actor: Actor, data: NewMember) -> MemberOut:
    """Add a member to the actor's workshop."""
    if user_name_taken(data.username):
        raise InputError("username", "That user name is taken.")
    member = Member(workshop_id=actor.workshop_id, username=data.username, name=data.name, role=data.role)
    _set_password(member, data.password, "password")
    append(actor, actor.workshop_id, "member added", {"member": data.name, "username": data.username, "role": data.role})
    return MemberOut.from_row(member)


@action(Permission.LEAD)
def edit_member(actor: Actor, member_id: UUID, data: MemberEdit) -> MemberOut:
    """Change a member's name, role or standing; the last active lead stays one."""
    lock_workshop(actor)  # two leads may not take each other's standing at the same moment
    member = _member(actor, member_id)
    stays_lead = data.role == MemberRole.LEAD and data.is_active
    others = Member.objects.filter(workshop_id=actor.workshop_id, role=MemberRole.LEAD, is_active=True).exclude(id=member_id)
    if not stays_lead and not others.exists():
        raise InputError("role", "A workshop keeps at least one active lead.")
    save_edited(member, data.version, data.model_dump(exclude={"version"}), MemberOut.from_row)
    append(actor, actor.workshop_id, "member changed", data.model_dump(mode="json", exclude={"version"}))
    return MemberOut.from_row(member)


@action(Permission.LEAD)
def reset_password(actor: Actor, member_id: UUID, data: NewPassword) -> MemberOut:
    """Set a member's password for them; the password itself is never recorded."""
    member = _member(actor, member_id)
    _set_password(member, data.new, "new")
    append(actor, actor.workshop_id, "password reset", {"member": member.name})
    return MemberOut.from_row(member)


@action(Permission.WORK)
def change_own_password(actor: Actor, data: OwnPassword) -> MemberOut:
    """Change one's own password, knowing the old one."""
    member = _member(actor, actor.id)
    if not member.check_password(data.old):
        raise InputError("old", "That is not your present password.")
    _set_password(member, data.new, "new")
    append(actor, actor.workshop_id, "password changed", {"member": member.name})
    return MemberOut.from_row(member)


def _member(actor: Actor, member_id: UUID) -> Member:
    member = Member.objects.select_for_update().filter(id=member_id, workshop_id=actor.workshop_id).first()
    if member is None:
        raise NotFound
    return member


def _set_password(member: Member, password: str, field: str) -> None:
    try:
        validate_password(password, member)
    except ValidationError as error:
        raise InputError(field, " ".join(error.messages)) from error
    member.set_password(password)
    member.save()


def lock_workshop(actor: Actor) -> None:
    """Let one transaction at a time hand out the workshop's next number."""
    Workshop.objects.select_for_update().get(id=actor.workshop_id)


@writing()
def found_workshop(name: str, username: str, lead: str, password: str) -> Actor:
    """Make a workshop with its first lead, who may then do the rest. From the command line only: nobody is signed in yet."""
    workshop = Workshop.objects.create(name=name)
    member = Member(workshop=workshop, username=username, name=lead, role=MemberRole.LEAD)
    _set_password(member, password, "password")
    append(member.actor, workshop.id, "workshop founded", {"workshop": name, "lead": lead})
    return member.actor


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
    """Set what the workshop charges, and its warranty."""
    Terms.objects.get_or_create(workshop_id=actor.workshop_id)
    row = Terms.objects.select_for_update().get(workshop_id=actor.workshop_id)
    save_edited(row, data.version, data.model_dump(exclude={"version"}), show_terms)
    append(actor, actor.workshop_id, "terms set", data.model_dump(mode="json", exclude={"version"}))
    return show_terms(row)


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
