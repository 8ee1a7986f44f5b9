"""What is known of each role: one row of the table `roles`, from which every set of roles is derived."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, fields
from enum import StrEnum
from typing import Any

from dusky_heron.core.model.terms import Basis, Quantity, Role, Word
from dusky_heron.core.tables import toml_table


class Volts(StrEnum):
    """What a place stands on in normal work."""

    AC = "ac"
    DC = "dc"
    EITHER = "either"


class ServiceDuty(StrEnum):
    """How long at a time, and how."""

    CONTINUOUS = "continuous"
    START = "start"
    PULSE = "pulse"


@dataclass(frozen=True, slots=True)
class RoleFacts:
    """One row of the table `roles`; what each field means stands at its head. Farads, and fractions of the marked value."""

    role: Role
    title: str
    plain: str
    volts: Volts
    usual_class: str
    class_needed: bool
    on_mains: bool
    polarised: bool
    rippled: bool
    pulsed: bool
    duty: ServiceDuty
    kinds: tuple[str, ...]
    window: tuple[float, float]
    materials: tuple[str, ...]
    made_f: tuple[float, float]
    basis: Basis
    equipment: tuple[str, ...]
    decides: str
    tolerance: float
    tolerance_source: str
    exact: bool
    loss: float
    loss_source: str
    asks: tuple[Quantity, ...]
    leak: bool
    doubt: Word
    salvaged: bool
    clamped: bool
    checks: tuple[str, ...]
    power: str
    caution: str

    @property
    def electrolytic(self) -> bool:
        """Whether parts here are usually electrolytics."""
        return self.materials[0] == "electrolytic"


READ: Mapping[str, Callable[[Any], object]] = {
    "volts": Volts,
    "duty": ServiceDuty,
    "kinds": tuple,
    "window": tuple,
    "materials": tuple,
    "made_f": tuple,
    "basis": Basis,
    "equipment": tuple,
    "asks": lambda names: tuple(map(Quantity, names)),
    "doubt": Word,
    "checks": tuple,
}


def read_role(role: Role, row: Mapping[str, Any]) -> RoleFacts:
    """The facts of a role from its row.

    :param role: the role
    :param row: a table of `roles`
    :returns: RoleFacts
    :raises ValueError: a key is missing or is not one, or a value is none there is
    :source: table `roles`
    """
    wanted = {"class" if f.name == "usual_class" else f.name for f in fields(RoleFacts)} - {"role"}
    if wrong := wanted ^ set(row):
        raise ValueError(f"roles.toml, {role}: {', '.join(sorted(wrong))} missing or unknown")
    values: dict[str, Any] = {
        "usual_class" if key == "class" else key: READ[key](value) if key in READ else value for key, value in row.items()
    }
    return RoleFacts(role, **values)


def _read_all() -> dict[Role, RoleFacts]:
    rows = toml_table("roles")
    if wrong := set(rows) ^ set(Role):
        raise ValueError(f"roles.toml: {', '.join(sorted(wrong))} missing or unknown")
    return {role: read_role(role, rows[role]) for role in Role}


ROLES: Mapping[Role, RoleFacts] = _read_all()
ROLE_TITLES: Mapping[Role, str] = {role: facts.title for role, facts in ROLES.items()}


def roles_that(has: Callable[[RoleFacts], bool]) -> frozenset[Role]:
    """Every role whose row has something.

    :param has: of a row
    :returns: roles
    :source: table `roles`

    >>> sorted(roles_that(lambda row: row.duty == ServiceDuty.START))
    [<Role.MOTOR_START: 'motor_start'>]
    """
    return frozenset(role for role, facts in ROLES.items() if has(facts))


# What stands on direct and on alternating volts, so that volts printed without a sign are of that kind; a snubber may be on either.
DIRECT_ROLES = roles_that(lambda row: row.volts == Volts.DC)
ALTERNATING_ROLES = roles_that(lambda row: row.volts == Volts.AC)
CLASSED = roles_that(lambda row: bool(row.usual_class))
POLARISED = roles_that(lambda row: row.polarised)
MOTORS = roles_that(lambda row: row.basis == Basis.MOTOR)
