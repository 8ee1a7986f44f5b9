"""Reading members; one statement each."""

from dusky_heron.record.actor import Actor
from dusky_heron.workshops.models import Member, Workshop
from dusky_heron.workshops.schemas import MemberOut


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
