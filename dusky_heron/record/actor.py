"""Who acts: a signed-in member as plain data, and what each role may do."""

import datetime
from dataclasses import dataclass, replace
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
class Sending:
    """How a write reached us: under which key, and what is known of one that waited where there was no server.

    `taken_at` is when it was typed, None when it did not wait; `seen` how many entries of the job's record they had seen then,
    None when nobody knows, and `after` the keys of what they had written themselves and not seen in it yet.
    """

    key: str = ""
    taken_at: datetime.datetime | None = None
    seen: int | None = None
    after: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Actor:
    """The member behind a request, the workshop whose data alone they see, and how what they write reached us."""

    id: UUID
    name: str
    workshop_id: UUID
    role: MemberRole
    sending: Sending = Sending()

    @property
    def here(self) -> "Actor":
        """The same member, of what follows now from what they sent."""
        return replace(self, sending=Sending())

    def may(self, permission: Permission) -> bool:
        """Whether the role grants it."""
        return permission in GRANTED[self.role]
