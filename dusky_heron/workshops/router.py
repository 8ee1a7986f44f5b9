"""Session and members over HTTP."""

from uuid import UUID

from django.contrib.auth import login, logout, update_session_auth_hash
from django.http import HttpRequest
from ninja import Router, Status
from ninja.utils import check_csrf

from dusky_heron.record import queries as record
from dusky_heron.record.errors import NotAllowed
from dusky_heron.record.schemas import EntryOut, VerifiedOut
from dusky_heron.workshops import actions, queries
from dusky_heron.workshops.models import Member
from dusky_heron.workshops.requests import actor_of
from dusky_heron.workshops.schemas import (
    ChosenSchoolOut,
    LimitEdit,
    LimitOut,
    Me,
    MemberEdit,
    MemberOut,
    NewMember,
    NewPassword,
    OwnPassword,
    SchoolEdit,
    SignIn,
    TermsEdit,
    TermsOut,
)
from dusky_heron.workshops.signing_in import sign_in as authenticated

router = Router(tags=["workshop"])


def _me(member: Member) -> Me:
    return Me(id=member.id, name=member.name, role=member.actor.role, workshop=member.workshop.name)


@router.post("session", response=Me, auth=None)
def sign_in(request: HttpRequest, data: SignIn) -> Me:
    """Sign in with a user name and password; five wrong ones close the door for a while."""
    if check_csrf(request):
        raise NotAllowed("Load the page again, then sign in.")
    member = authenticated(request, data.username, data.password)
    login(request, member)
    return _me(member)


@router.get("session", response=Me)
def who_am_i(request: HttpRequest) -> Me:
    """The signed-in member."""
    assert isinstance(request.user, Member)  # noqa: S101 - the API's auth has let nobody else in
    return _me(request.user)


@router.delete("session", response={204: None})
def sign_out(request: HttpRequest) -> Status[None]:
    """Sign out."""
    logout(request)
    return Status(204, None)


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
    return actions.add_member(actor_of(request), data)


@router.put("members/{member_id}", response=MemberOut)
def edit_member(request: HttpRequest, member_id: UUID, data: MemberEdit) -> MemberOut:
    """Change a member; leads only."""
    return actions.edit_member(actor_of(request), member_id, data)


@router.post("members/{member_id}/password", response=MemberOut)
def reset_password(request: HttpRequest, member_id: UUID, data: NewPassword) -> MemberOut:
    """Set a member's password; leads only."""
    return actions.reset_password(actor_of(request), member_id, data)


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
    return VerifiedOut.from_row(record.verify(actor, actor.workshop_id))


@router.get("terms", response=TermsOut)
def see_terms(request: HttpRequest) -> TermsOut:
    """What the workshop charges, and its warranty."""
    return queries.terms(actor_of(request))


@router.put("terms", response=TermsOut)
def set_terms(request: HttpRequest, data: TermsEdit) -> TermsOut:
    """Set what the workshop charges; leads only."""
    return actions.set_terms(actor_of(request), data)


@router.get("schools", response=list[ChosenSchoolOut])
def list_schools(request: HttpRequest) -> list[ChosenSchoolOut]:
    """Where practitioners disagree, and what this workshop chose."""
    return queries.schools_of_workshop(actor_of(request))


@router.put("schools", response=ChosenSchoolOut)
def choose_school(request: HttpRequest, data: SchoolEdit) -> ChosenSchoolOut:
    """Choose where practitioners disagree; leads only."""
    return actions.choose_school(actor_of(request), data)
