"""Reading members, limits and schools; one statement each unless it says otherwise."""

from collections.abc import Mapping
from dataclasses import dataclass
from uuid import UUID

from django.core.signing import Signer
from django.db.models import FloatField, Value
from django.utils.crypto import constant_time_compare

from dusky_heron.core.discharge.limits import KIND_UNITS, DischargeLimit, LimitChange, find_limit, limits_table
from dusky_heron.core.model import Limit
from dusky_heron.core.schools import School, default_schools, schools
from dusky_heron.core.verdict.registry import DEFAULT_LIMITS, say_limit, show_limit_value, verdict_limits
from dusky_heron.record.actor import Actor, MemberRole
from dusky_heron.workshops import second_factor
from dusky_heron.workshops.models import CalendarAddress, ChangedLimit, ChosenSchool, Member, Terms, Workshop
from dusky_heron.workshops.schemas import (
    CalendarAddressOut,
    ChosenSchoolOut,
    LimitGroup,
    LimitOut,
    MemberOut,
    SchoolOption,
    TermsOut,
)


def members(actor: Actor) -> list[MemberOut]:
    """The workshop's members by name. Two statements."""
    found = Member.objects.filter(workshop_id=actor.workshop_id).order_by("name")
    by_factor = second_factor.who_has_one(member.id for member in found)
    return [show_member(member, has_factor=member.id in by_factor) for member in found]


def show_member(member: Member, *, has_factor: bool | None = None) -> MemberOut:
    """A member as the API shows them."""
    return MemberOut(
        id=member.id, version=member.version, username=member.username, name=member.name, role=MemberRole(member.role),
        is_active=member.is_active, second_factor=second_factor.has_one(member.id) if has_factor is None else has_factor,
    )  # fmt: skip


def terms(actor: Actor) -> TermsOut:
    """What the workshop charges."""
    return show_terms(Terms.objects.filter(workshop_id=actor.workshop_id).first() or Terms(workshop_id=actor.workshop_id))


def show_terms(row: Terms) -> TermsOut:
    """Terms as the API shows them."""
    return TermsOut.from_row(row)


def calendar_address(actor: Actor) -> CalendarAddressOut:
    """Where the workshop's due dates are read from outside; "" where nowhere. One statement."""
    row = CalendarAddress.objects.filter(workshop_id=actor.workshop_id).first()
    stands = row is not None and not row.ended
    return CalendarAddressOut(
        address=f"/calendar/{actor.workshop_id}/{_calendar_secret(row)}.ics" if row and stands else "",
        number=row.number if row else 0,
    )


def reads_calendar(workshop_id: UUID, secret: str) -> bool:
    """Whether a workshop's due dates are read under this secret now. One statement."""
    row = CalendarAddress.objects.filter(workshop_id=workshop_id, ended=False).first()
    return row is not None and constant_time_compare(secret, _calendar_secret(row))


def _calendar_secret(row: CalendarAddress) -> str:
    """256 bits that only the server's own key makes."""
    return Signer(salt="calendar").signature(f"{row.workshop_id}:{row.number}")


def demands_second_factor(actor: Actor) -> bool:
    """Whether the workshop asks a second factor of everybody."""
    return Terms.objects.filter(workshop_id=actor.workshop_id, second_factor=True).exists()


def workshop_name(actor: Actor) -> str:
    """What the workshop is called."""
    return Workshop.objects.get(id=actor.workshop_id).name


def user_name_taken(username: str) -> bool:
    """Whether somebody, of whatever workshop, signs in so."""
    return Member.objects.filter(username=username).exists()


def nominal_supply(actor: Actor) -> tuple[float, float]:
    """The workshop's mains, V rms and Hz."""
    workshop = Workshop.objects.get(id=actor.workshop_id)
    return workshop.supply_v, workshop.supply_hz


def any_workshop() -> bool:
    """Whether the database holds any workshop's work."""
    return Workshop.objects.exists()


def signs_in(username: str, password: str) -> bool:
    """Whether a member signs in with this password."""
    member = Member.objects.filter(username=username, is_active=True).first()
    return member is not None and member.check_password(password)


def limits_of_workshop(actor: Actor) -> tuple[DischargeLimit, ...]:
    """The limits table with the workshop's changes in it."""
    return limits_table(_changes(_rows(actor)))


@dataclass(frozen=True, slots=True)
class Judging:
    """By what a workshop's verdicts are judged: its limits, and what it chose where practitioners disagree."""

    limits: Mapping[str, Limit]
    schools: Mapping[str, str]


def judging(actor: Actor) -> Judging:
    """The workshop's limits of verdicts and its schools. Two statements."""
    return Judging(verdict_limits(_verdict_changes(_rows(actor))), chosen_schools(actor))


def limits_and_schools(actor: Actor) -> tuple[tuple[DischargeLimit, ...], dict[str, str]]:
    """The workshop's limits of discharge, and the option that counts for every question. One statement."""
    limit = ChangedLimit.objects.filter(workshop_id=actor.workshop_id).order_by()
    chosen = ChosenSchool.objects.filter(workshop_id=actor.workshop_id).order_by()
    none = Value(None, output_field=FloatField())
    rows = limit.values_list(Value("limit"), "limit_id", "value", "after_s", "reason").union(
        chosen.values_list(Value("school"), "school_id", none, none, "option"), all=True
    )
    changes, schools_chosen = {}, default_schools()
    for kind, key, value, after_s, text in rows:
        if kind == "limit" and text:
            changes[key] = LimitChange(value, after_s, text)
        elif kind == "school" and text:
            schools_chosen[key] = text
    return limits_table(changes), schools_chosen


def chosen_schools(actor: Actor) -> dict[str, str]:
    """The option that counts for every question practitioners disagree about. One statement."""
    return default_schools() | {row.school_id: row.option for row in _chosen(actor) if row.option}


def limits(actor: Actor) -> list[LimitOut]:
    """Every limit as shown: what counts here beside what it was before."""
    rows = _rows(actor)
    versions = {row.limit_id: row.version for row in rows}
    discharge = [_show_discharge(row, versions.get(row.id, 1)) for row in limits_table(_changes(rows))]
    reasons = {row.limit_id: row.reason for row in rows}
    of_verdicts = verdict_limits(_verdict_changes(rows)).values()
    return discharge + [_show_verdict_limit(row, versions.get(row.id, 1), reasons.get(row.id, "")) for row in of_verdicts]


def show_limit(row: ChangedLimit) -> LimitOut:
    """One limit after a change."""
    if row.limit_id in DEFAULT_LIMITS:
        return _show_verdict_limit(verdict_limits(_verdict_changes([row]))[row.limit_id], row.version, row.reason)
    return _show_discharge(find_limit(limits_table(_changes([row])), row.limit_id), row.version)


def schools_of_workshop(actor: Actor) -> list[ChosenSchoolOut]:
    """Where practitioners disagree, with what this workshop chose."""
    rows = {row.school_id: row for row in _chosen(actor)}
    return [show_school(school, rows.get(school.id)) for school in schools()]


def show_school(school: School, row: ChosenSchool | None) -> ChosenSchoolOut:
    """One question as the API shows it."""
    return ChosenSchoolOut(
        id=school.id,
        version=row.version if row else 1,
        question=school.question,
        options=[SchoolOption(id=key, title=title) for key, title in school.options.items()],
        option=(row.option if row else "") or school.default,
        default=school.default,
        why=school.why,
        effect=school.effect,
        reason=row.reason if row else "",
    )


def _rows(actor: Actor) -> list[ChangedLimit]:
    return list(ChangedLimit.objects.filter(workshop_id=actor.workshop_id))


def _chosen(actor: Actor) -> list[ChosenSchool]:
    return list(ChosenSchool.objects.filter(workshop_id=actor.workshop_id))


def _changes(rows: list[ChangedLimit]) -> dict[str, LimitChange]:
    return {row.limit_id: LimitChange(row.value, row.after_s, row.reason) for row in rows if row.reason}


def _verdict_changes(rows: list[ChangedLimit]) -> dict[str, tuple[float, str]]:
    return {row.limit_id: (row.value, row.reason) for row in rows if row.reason and row.value is not None}


def _show_discharge(row: DischargeLimit, version: int) -> LimitOut:
    return LimitOut(
        id=row.id,
        version=version,
        group=LimitGroup.DISCHARGE,
        applies_to=row.applies_to,
        value=row.value,
        after_s=row.after_s,
        unit=KIND_UNITS[row.kind],
        reason=row.changed,
        said=row.said,
        standard_said=find_limit(limits_table(), row.id).said,
        source=row.source,
        changed=bool(row.changed),
    )


def _show_verdict_limit(row: Limit, version: int, reason: str) -> LimitOut:
    standard = DEFAULT_LIMITS[row.id]
    return LimitOut(
        id=row.id,
        version=version,
        group=LimitGroup.VERDICT,
        applies_to=row.title,
        value=show_limit_value(row),
        after_s=None,
        unit=row.unit,
        reason=reason,
        said=say_limit(row),
        standard_said=say_limit(standard),
        source=standard.source,
        changed=bool(reason),
    )
