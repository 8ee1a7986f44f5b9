"""Reading members and limits; one statement each."""

from dusky_heron.core.discharge.limits import KIND_UNITS, DischargeLimit, LimitChange, find_limit, limits_table
from dusky_heron.record.actor import Actor
from dusky_heron.workshops.models import ChangedLimit, Member, Workshop
from dusky_heron.workshops.schemas import LimitOut, MemberOut


def members(actor: Actor) -> list[MemberOut]:
    """The workshop's members by name."""
    found = Member.objects.filter(workshop_id=actor.workshop_id).order_by("name")
    return [MemberOut.from_row(member) for member in found]


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


def limits(actor: Actor) -> list[LimitOut]:
    """The limits table as shown: what counts here beside what the standard says."""
    rows = _rows(actor)
    versions = {row.limit_id: row.version for row in rows}
    return [_show_limit(row, versions.get(row.id, 1)) for row in limits_table(_changes(rows))]


def show_limit(row: ChangedLimit) -> LimitOut:
    """One row after a change."""
    return _show_limit(find_limit(limits_table(_changes([row])), row.limit_id), row.version)


def _rows(actor: Actor) -> list[ChangedLimit]:
    return list(ChangedLimit.objects.filter(workshop_id=actor.workshop_id))


def _changes(rows: list[ChangedLimit]) -> dict[str, LimitChange]:
    return {row.limit_id: LimitChange(row.value, row.after_s, row.reason) for row in rows if row.reason}


def _show_limit(row: DischargeLimit, version: int) -> LimitOut:
    return LimitOut(
        id=row.id,
        version=version,
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
