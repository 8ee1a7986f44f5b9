"""Changing members and their passwords, and founding and repairing a workshop from the command line."""

from uuid import UUID

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError

from dusky_heron.core.errors import InputError
from dusky_heron.record.actions import action, append, save_edited, writing
from dusky_heron.record.actor import Actor, MemberRole, Permission
from dusky_heron.record.errors import NotFound
from dusky_heron.workshops import second_factor
from dusky_heron.workshops.models import Member, Workshop
from dusky_heron.workshops.queries import show_member, user_name_taken
from dusky_heron.workshops.schemas import MemberEdit, MemberOut, NewMember, NewPassword, OwnPassword
from dusky_heron.workshops.signing_in import in_turn


@action(Permission.LEAD)
def add_member(actor: Actor, data: NewMember) -> MemberOut:
    """Add a member to the actor's workshop."""
    if user_name_taken(data.username):
        raise InputError("username", "That user name is taken.")
    member = Member(workshop_id=actor.workshop_id, username=data.username, name=data.name, role=data.role)
    _set_password(member, data.password, "password")
    append(actor, actor.workshop_id, "member added", {"member": data.name, "username": data.username, "role": data.role})
    return show_member(member)


@action(Permission.LEAD)
def edit_member(actor: Actor, member_id: UUID, data: MemberEdit) -> MemberOut:
    """Change a member's name, role or standing; the last active lead stays one."""
    lock_workshop(actor)  # two leads may not take each other's standing at the same moment
    member = find_member(actor, member_id)
    stays_lead = data.role == MemberRole.LEAD and data.is_active
    others = Member.objects.filter(workshop_id=actor.workshop_id, role=MemberRole.LEAD, is_active=True).exclude(id=member_id)
    if not stays_lead and not others.exists():
        raise InputError("role", "A workshop keeps at least one active lead.")
    save_edited(member, data.version, data.model_dump(exclude={"version"}), show_member)
    append(actor, actor.workshop_id, "member changed", data.model_dump(mode="json", exclude={"version"}))
    return show_member(member)


@action(Permission.LEAD)
def reset_password(actor: Actor, member_id: UUID, data: NewPassword) -> MemberOut:
    """Set a member's password for them; the password itself is never recorded."""
    member = find_member(actor, member_id)
    _set_password(member, data.new, "new")
    append(actor, actor.workshop_id, "password reset", {"member": member.name})
    return show_member(member)


@action(Permission.WORK)
def change_own_password(actor: Actor, data: OwnPassword) -> MemberOut:
    """Change one's own password, knowing the old one."""
    member = find_member(actor, actor.id)
    check_own_password(member, data.old, "old")
    _set_password(member, data.new, "new")
    append(actor, actor.workshop_id, "password changed", {"member": member.name})
    return show_member(member)


def find_member(actor: Actor, member_id: UUID) -> Member:
    """A member of the actor's workshop, held."""
    member = Member.objects.select_for_update().filter(id=member_id, workshop_id=actor.workshop_id).first()
    if member is None:
        raise NotFound
    return member


def check_own_password(member: Member, password: str, field: str) -> None:
    """Raises InputError at the field unless it is theirs."""
    with in_turn():
        right = member.check_password(password)
    if not right:
        raise InputError(field, "That is not your present password.")


def _set_password(member: Member, password: str, field: str) -> None:
    try:
        validate_password(password, member)
    except ValidationError as error:
        raise InputError(field, " ".join(error.messages)) from error
    with in_turn():
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


@writing()
def appoint_lead(member: Member, password: str) -> None:
    """Make a member a lead with a new password and no second factor: a workshop without a lead, repaired from the server."""
    member.role, member.is_active = MemberRole.LEAD, True
    second_factor.remove(member.id)
    _set_password(member, password, "password")
    append(member.actor, member.workshop_id, "lead appointed from the server", {"member": member.name})


@writing()
def note_recovery_code(member: Member, left: int) -> None:
    """Write down that somebody signed in, or signed, by a recovery code."""
    append(member.actor, member.workshop_id, "recovery code used", {"member": member.name, "left": left})
