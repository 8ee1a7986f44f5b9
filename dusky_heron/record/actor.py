"""Who acts: a signed-in member as plain data, and what each role may do."""

from dataclasses import dataclass
from enum import StrEnum
from uuid import UUID


class MemberRole(StrEnum):
    """A member's standing in the workshop."""

    LEAD = "lead"
    TECHNICIAN = "technician"
    APPRENTICE = "apprentice"


class Permission(StrEnum):
    """What an action asks for, in the words of its refusal."""

    WORK = "work on jobs"
    DECIDE = "choose a replacement or change the drawer and the instruments"
    LEAD = "change members, limits or schools"


GRANTED = {
    MemberRole.LEAD: frozenset(Permission),
    MemberRole.TECHNICIAN: frozenset({Permission.WORK, Permission.DECIDE}),
    MemberRole.APPRENTICE: frozenset({Permission.WORK}),
}


@dataclass(frozen=True, slots=True)
class Actor:
    """The member behind a request, and the workshop whose data alone they see."""

    id: UUID
    name: str
    workshop_id: UUID
    role: MemberRole

    def may(self, permission: Permission) -> bool:
        """Whether the role grants it."""
        return permission in GRANTED[self.role]
