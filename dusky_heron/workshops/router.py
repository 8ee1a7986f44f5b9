"""Session and members over HTTP."""

import time
from uuid import UUID

from django.contrib.auth import login, logout, update_session_auth_hash
from django.http import HttpRequest
from ninja import Router, Status
from ninja.utils import check_csrf

from dusky_heron.record import queries as record
from dusky_heron.record import verifying
from dusky_heron.record.actor import GRANTED, Permission
from dusky_heron.record.errors import NotAllowed
from dusky_heron.record.schemas import EntryOut, VerifiedOut
from dusky_heron.workshops import actions, queries, second_factor
from dusky_heron.workshops.models import Member
from dusky_heron.workshops.requests import BY_SECOND_FACTOR, CODE_GIVEN, actor_of, must_set_up, signing
from dusky_heron.workshops.schemas import (
    CalendarAddressOut,
    CalendarRenew,
    CalendarRenewed,
    ChosenSchoolOut,
    FactorBegun,
    FactorCode,
    FactorPassword,
    LimitEdit,
    LimitOut,
    May,
    Me,
    MemberEdit,
    MemberOut,
    NewMember,
    NewPassword,
    OwnPassword,
    RecoveryCodes,
    SchoolEdit,
    SignIn,
    TermsEdit,
    TermsOut,
)
from dusky_heron.workshops.signing_in import sign_in as authenticated
from dusky_heron.workshops.signing_in import take_code

router = Router(tags=["workshop"])
MAY: dict[Permission, May] = {Permission.WORK: "work", Permission.DECIDE: "decide", Permission.LEAD: "lead"}


def _me(request: HttpRequest, member: Member) -> Me:
    granted = GRANTED[member.actor.role]
    return Me(
        id=member.id, name=member.name, role=member.actor.role,
        may=[name for one, name in MAY.items() if one in granted], workshop=member.workshop.name,
        second_factor=second_factor.has_one(member.id), must_set_up=must_set_up(request),
    )  # fmt: skip


def _take_code(request: HttpRequest, member: Member, code: str) -> None:
    left = take_code(request, member, code)
    if left is not None:
        actions.note_recovery_code(member, left)


@router.post("session", response=Me, auth=None)
def sign_in(request: HttpRequest, data: SignIn) -> Me:
    """Sign in with a user name, a password and, of who has a second factor, a code; five wrong ones close the door for a while."""
    if check_csrf(request):
        raise NotAllowed("Load the page again, then sign in.")
    member = authenticated(request, data.username, data.password)
    factor = second_factor.has_one(member.id)
    if factor:
        _take_code(request, member, data.code)
    login(request, member)
    if factor:
        request.session[BY_SECOND_FACTOR] = True
    return _me(request, member)


@router.get("session", response=Me)
def who_am_i(request: HttpRequest) -> Me:
    """The signed-in member."""
    assert isinstance(request.user, Member)  # noqa: S101 - the API's auth has let nobody else in
    return _me(request, request.user)


@router.delete("session", response={204: None})
def sign_out(request: HttpRequest) -> Status[None]:
    """Sign out."""
    logout(request)
    return Status(204, None)


@router.post("session/second-factor", response=FactorBegun)
def begin_second_factor(request: HttpRequest, data: FactorPassword) -> FactorBegun:
    """Begin to set one's own second factor up."""
    return actions.begin_second_factor(actor_of(request).here, data)


@router.post("session/second-factor/confirm", response=RecoveryCodes)
def confirm_second_factor(request: HttpRequest, data: FactorCode) -> RecoveryCodes:
    """Show by a code that it is set up."""
    answer = actions.confirm_second_factor(actor_of(request).here, data)
    request.session[BY_SECOND_FACTOR] = True
    return answer


@router.post("session/second-factor/recovery", response=RecoveryCodes)
def renew_recovery_codes(request: HttpRequest) -> RecoveryCodes:
    """Other recovery codes."""
    with signing(request) as actor:
        return actions.renew_recovery_codes(actor.here)


@router.delete("session/second-factor", response=MemberOut)
def remove_own_second_factor(request: HttpRequest) -> MemberOut:
    """Take one's own second factor off."""
    with signing(request) as actor:
        return actions.remove_own_second_factor(actor)


@router.post("session/code", response={204: None})
def give_code(request: HttpRequest, data: FactorCode) -> Status[None]:
    """Type a code for the signature that comes next, within two minutes."""
    assert isinstance(request.user, Member)  # noqa: S101 - the API's auth has let nobody else in
    _take_code(request, request.user, data.code)
    request.session[CODE_GIVEN] = time.time()
    return Status(204, None)


@router.delete("members/{member_id}/second-factor", response=MemberOut)
def remove_second_factor(request: HttpRequest, member_id: UUID) -> MemberOut:
    """Take off the second factor of a member who lost it; leads only."""
    with signing(request) as actor:
        return actions.remove_second_factor(actor, member_id)


@router.post("session/password", response=MemberOut)
def change_own_password(request: HttpRequest, data: OwnPassword) -> MemberOut:
    """Change one's own password and stay signed in."""
    answer = actions.change_own_password(actor_of(request), data)
    update_session_auth_hash(request, Member.objects.get(id=actor_of(request).id))
    return answer


@router.get("members", response=list[MemberOut])
def list_members(request: HttpRequest) -> list[MemberOut]:
    """The workshop's members."""
    return queries.members(actor_of(request))


@router.post("members", response=MemberOut)
def add_member(request: HttpRequest, data: NewMember) -> MemberOut:
    """Add a member; leads only."""
    with signing(request) as actor:
        return actions.add_member(actor, data)


@router.put("members/{member_id}", response=MemberOut)
def edit_member(request: HttpRequest, member_id: UUID, data: MemberEdit) -> MemberOut:
    """Change a member; leads only."""
    with signing(request) as actor:
        return actions.edit_member(actor, member_id, data)


@router.post("members/{member_id}/password", response=MemberOut)
def reset_password(request: HttpRequest, member_id: UUID, data: NewPassword) -> MemberOut:
    """Set a member's password; leads only."""
    with signing(request) as actor:
        return actions.reset_password(actor, member_id, data)


@router.get("limits", response=list[LimitOut])
def list_limits(request: HttpRequest) -> list[LimitOut]:
    """The limits table: what counts here, and what each standard says."""
    return queries.limits(actor_of(request))


@router.put("limits", response=LimitOut)
def change_limit(request: HttpRequest, data: LimitEdit) -> LimitOut:
    """Change a limit; leads only."""
    return actions.change_limit(actor_of(request), data)


@router.get("workshop/record", response=list[EntryOut])
def workshop_record(request: HttpRequest) -> list[EntryOut]:
    """The newest entries of the workshop's own record: members, limits, instruments, the drawer."""
    return record.latest_entries(actor_of(request))


@router.get("workshop/record/verified", response=VerifiedOut)
def workshop_record_verified(request: HttpRequest) -> VerifiedOut:
    """Whether the workshop's own record is whole."""
    actor = actor_of(request)
    return VerifiedOut.from_row(verifying.verify(actor, actor.workshop_id))


@router.get("terms", response=TermsOut)
def see_terms(request: HttpRequest) -> TermsOut:
    """What the workshop charges, and its warranty."""
    return queries.terms(actor_of(request))


@router.put("terms", response=TermsOut)
def set_terms(request: HttpRequest, data: TermsEdit) -> TermsOut:
    """Set what the workshop charges; leads only."""
    with signing(request) as actor:
        return actions.set_terms(actor, data)


@router.get("calendar-address", response=CalendarAddressOut)
def see_calendar_address(request: HttpRequest) -> CalendarAddressOut:
    """Where due dates are read from outside."""
    return queries.calendar_address(actor_of(request))


@router.post("calendar-address", response=CalendarRenewed)
def renew_calendar(request: HttpRequest, data: CalendarRenew) -> CalendarRenewed:
    """Make another such address; leads only."""
    return actions.renew_calendar(actor_of(request), data)


@router.delete("calendar-address", response=CalendarRenewed)
def end_calendar(request: HttpRequest) -> CalendarRenewed:
    """Take it away; leads only."""
    return actions.end_calendar(actor_of(request))


@router.get("schools", response=list[ChosenSchoolOut])
def list_schools(request: HttpRequest) -> list[ChosenSchoolOut]:
    """Where practitioners disagree, and what this workshop chose."""
    return queries.schools_of_workshop(actor_of(request))


@router.put("schools", response=ChosenSchoolOut)
def choose_school(request: HttpRequest, data: SchoolEdit) -> ChosenSchoolOut:
    """Choose where practitioners disagree; leads only."""
    return actions.choose_school(actor_of(request), data)
