"""Signing in and members, from outside."""

from decimal import Decimal
from enum import StrEnum
from typing import Annotated, Literal
from urllib.parse import parse_qs, urlsplit
from uuid import UUID

from pydantic import AfterValidator, Field, StringConstraints

from dusky_heron.codes import squares
from dusky_heron.core.returning.invoice import places_of
from dusky_heron.presented import Answer, Schema
from dusky_heron.record.actor import MemberRole
from dusky_heron.record.schemas import Line, Name, Number, Version, printable

Username = Annotated[str, StringConstraints(min_length=2, max_length=60, pattern=r"^[A-Za-z0-9._-]+$", strip_whitespace=True)]
Password = Annotated[str, StringConstraints(min_length=1, max_length=200), AfterValidator(printable)]

Code = Annotated[str, StringConstraints(max_length=40), AfterValidator(printable)]


class SignIn(Schema):
    """A user name and password."""

    username: Name
    password: Password
    code: Code = ""


class FactorPassword(Schema):
    """One's own password, to set a second factor up."""

    password: Password


class FactorCode(Schema):
    """A code of an authenticator, or a recovery code."""

    code: Code


class FactorBegun(Answer):
    """What an authenticator reads: a code of `modules` squares a side whose dark ones are an SVG path, or typed, its secret."""

    address: str
    secret: str
    modules: int
    dark: str

    @classmethod
    def of(cls, address: str) -> "FactorBegun":
        """The picture of an address, and the secret within it."""
        modules, dark = squares(address)
        return cls(address=address, secret=parse_qs(urlsplit(address).query)["secret"][0], modules=modules, dark=dark)


class RecoveryCodes(Answer):
    """Recovery codes, shown once."""

    codes: list[str]


May = Literal["work", "decide", "lead"]


class Me(Answer):
    """The signed-in member, their workshop and what they may do there.

    Whether they have a second factor, and whether nothing is open without one.
    """

    id: UUID
    name: str
    role: MemberRole
    may: list[May]
    workshop: str
    second_factor: bool
    must_set_up: bool


class OwnPassword(Schema):
    """A change of one's own password."""

    old: Password
    new: Password


class NewPassword(Schema):
    """A password set by a lead."""

    new: Password


class MemberOut(Answer):
    """A member of the workshop."""

    id: UUID
    version: int
    username: str
    name: str
    role: MemberRole
    is_active: bool
    second_factor: bool


class NewMember(Schema):
    """A member to add."""

    username: Username
    name: Name
    role: MemberRole
    password: Password


class MemberEdit(Schema):
    """What a lead may change of a member."""

    version: Version
    name: Name
    role: MemberRole
    is_active: bool


class LimitIn(Schema):
    """What a workshop wants instead of a row of the limits table; without a reason the row of the standard comes back."""

    id: Name
    value: float | None = None
    after_s: float | None = None
    reason: Line = ""


class LimitEdit(LimitIn):
    """A limit as changed."""

    version: Version


def in_use(currency: str) -> str:
    """A currency of ISO 4217, as it was typed."""
    places_of(currency)
    return currency


class TermsIn(Schema):
    """What a workshop charges, how long it stands for its work, and its ways: address, decimal sign, second factor."""

    hourly_rate: Annotated[Decimal, Number, Field(ge=0, max_digits=9, decimal_places=2)]
    tax_percent: Annotated[Decimal, Number, Field(ge=0, le=100, max_digits=5, decimal_places=2)]
    currency: Annotated[str, StringConstraints(max_length=10), AfterValidator(in_use)]
    warranty_months: Annotated[int, Field(ge=0, le=240)]
    address: Annotated[Line, Field(max_length=300)] = ""
    decimal_sign: Literal["", ".", ","] = ""
    second_factor: bool = False


class TermsEdit(TermsIn):
    """Terms as changed; `version` 1 before the first time."""

    version: Version


class TermsOut(Answer, TermsIn):
    """The terms that count."""

    version: int


class CalendarAddressOut(Answer):
    """Where due dates are read from outside without signing in, below the server's own address; "" where nowhere.

    `number` counts the addresses there have been.
    """

    address: str
    number: int


class CalendarRenew(Schema):
    """Another address instead of the one that was seen, by its number."""

    number: Annotated[int, Field(ge=0, le=1_000_000)]


class CalendarRenewed(Answer):
    """Whether there is an address now; it is read by itself, and never kept with an answer."""

    stands: bool


class LimitGroup(StrEnum):
    """What a limit is for."""

    DISCHARGE = "discharge"
    VERDICT = "verdict"


class LimitOut(Answer, LimitIn):
    """A limit: as it counts here, and as its source has it."""

    version: int
    group: LimitGroup
    applies_to: str
    unit: str
    said: str
    standard_said: str
    source: str
    changed: bool


class SchoolOption(Answer):
    """One school, and its words."""

    id: str
    title: str


class SchoolEdit(Schema):
    """What a workshop chooses where practitioners disagree, and why; the default needs no reason."""

    id: Name
    version: Version
    option: Name
    reason: Line = ""


class ChosenSchoolOut(Answer):
    """A question on which practitioners disagree: its schools, the default and why, what the choice does, what counts here."""

    id: str
    version: int
    question: str
    options: list[SchoolOption]
    option: str
    default: str
    why: str
    effect: str
    reason: str
