"""Setting a second factor up, renewing its recovery codes, and taking it off."""

from uuid import UUID

from dusky_heron.core.errors import InputError
from dusky_heron.record.actions import action, append
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.workshops import second_factor
from dusky_heron.workshops.actions.members import check_own_password, find_member
from dusky_heron.workshops.queries import demands_second_factor, show_member
from dusky_heron.workshops.schemas import FactorBegun, FactorCode, FactorPassword, MemberOut, RecoveryCodes


@action(Permission.WORK)
def begin_second_factor(actor: Actor, data: FactorPassword) -> FactorBegun:
    """Begin to set one's own up, knowing the password: what an authenticator reads."""
    member = find_member(actor, actor.id)
    check_own_password(member, data.password, "password")
    if second_factor.has_one(member.id):
        raise InputError("password", "You have one: take it off first.")
    device = second_factor.begin(member.id, member.username)
    return FactorBegun.of(device.config_url)


@action(Permission.WORK)
def confirm_second_factor(actor: Actor, data: FactorCode) -> RecoveryCodes:
    """Show by a code that the authenticator has it; from now on it is asked for."""
    member = find_member(actor, actor.id)
    if not second_factor.confirm(member.id, data.code):
        raise InputError("code", "That code does not fit: is the clock of the telephone right? Type the one it shows now.")
    append(actor, actor.workshop_id, "second factor set up", {"member": member.name})
    return RecoveryCodes(codes=second_factor.new_recovery_codes(member.id))


@action(Permission.WORK)
def renew_recovery_codes(actor: Actor) -> RecoveryCodes:
    """Other recovery codes in the place of those from before."""
    member = find_member(actor, actor.id)
    if not second_factor.has_one(member.id):
        raise InputError("code", "Set a second factor up first.")
    append(actor, actor.workshop_id, "recovery codes renewed", {"member": member.name})
    return RecoveryCodes(codes=second_factor.new_recovery_codes(member.id))


@action(Permission.WORK)
def remove_own_second_factor(actor: Actor) -> MemberOut:
    """Take one's own off, where the workshop does not demand it."""
    if demands_second_factor(actor):
        raise InputError("second_factor", "This workshop demands a second factor of everybody.")
    return _remove(actor, actor.id)


@action(Permission.LEAD)
def remove_second_factor(actor: Actor, member_id: UUID) -> MemberOut:
    """Take another's off, who lost it."""
    return _remove(actor, member_id)


def _remove(actor: Actor, member_id: UUID) -> MemberOut:
    member = find_member(actor, member_id)
    second_factor.remove(member.id)
    append(actor, actor.workshop_id, "second factor removed", {"member": member.name})
    return show_member(member)
