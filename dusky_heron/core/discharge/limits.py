"""How empty, and how soon: the limits of the standards, as data a workshop may change."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from dusky_heron.core.discharge.energy import touch_limit
from dusky_heron.core.errors import InputError, Range
from dusky_heron.core.model import ROLES, Role
from dusky_heron.core.quantities import show, show_time
from dusky_heron.core.tables import toml_table

DEFAULT_WORKING_LIMIT_V = 50.0
LEAST_TARGET_V = 5.0  # V: a share of a low voltage is not asked for below this
CHECK_EDITION = "check the edition that binds you"
PLUG_PINS = "plug_pins"
HANDS = "Hands"  # the row of what hands may come near
KIND_UNITS: Mapping[str, str] = {"volts": "V", "share": "%", "es1": "V", "current": "mA"}
VALUES: Mapping[str, Range] = {
    "volts": Range("The limit", 0.0, 1500.0, "V", open_low=True),
    "share": Range("The limit", 0.0, 100.0, "%", open_low=True),
    "current": Range("The limit", 0.0, 10.0, "mA", open_low=True),
}
AFTER = Range("The time", 0.0, 3600.0, "s", open_low=True)


@dataclass(frozen=True, slots=True)
class DischargeLimit:
    """One row: where it applies, and how far it wants a capacitor empty, how soon.

    `kind` volts (V peak or DC), share (per cent of the first voltage), es1 (by capacitance), current (mA rms, touch
    current); `charge_c` the charge that is allowed instead of the volts, coulombs.
    """

    id: str
    applies_to: str
    equipment: str
    place: str
    kind: str
    value: float | None
    after_s: float | None
    above_f: float = 0.0
    up_to_v: float | None = None
    above_v: float = 0.0
    charge_c: float | None = None
    protection: str = ""
    changed: str = ""

    @property
    def source(self) -> str:
        """Where the row comes from, and that editions differ."""
        changed = f"; changed by the workshop: {self.changed}" if self.changed else ""
        return f"{self.id}, {self.applies_to}{changed}; {CHECK_EDITION}"

    @property
    def said(self) -> str:
        """The limit in words: 34 V after 1 s."""
        charge = f" or {show(self.charge_c, 'C')}" if self.charge_c else ""
        value = "ES1 for its capacitance" if self.kind == "es1" else f"{self.value:g} {KIND_UNITS[self.kind]}{charge}"
        return f"{value} after {show_time(self.after_s)}" if self.after_s else value

    def target_v(self, capacitance_f: float, from_v: float) -> float:
        """The volts it allows on a capacitance first charged to a voltage; the charge it may allow instead is left out."""
        if self.kind == "es1":
            return touch_limit(capacitance_f)
        if self.kind == "share":
            return max((self.value or 0.0) / 100 * from_v, LEAST_TARGET_V)
        return self.value or 0.0

    def applies(self, capacitance_f: float, from_v: float) -> bool:
        """Whether capacitance and voltage are within its scope."""
        return capacitance_f > self.above_f and self.above_v < from_v <= (self.up_to_v or float("inf"))


@dataclass(frozen=True, slots=True)
class LimitChange:
    """What a workshop wants instead of a row: its value, its time, and why."""

    value: float | None
    after_s: float | None
    reason: str


@dataclass(frozen=True, slots=True)
class WorkingLimit:
    """How far a circuit must be empty to be worked on, and where that figure comes from."""

    target_v: float
    source: str


def limits_table(changes: Mapping[str, LimitChange] | None = None) -> tuple[DischargeLimit, ...]:
    """The limits of the standards with a workshop's changes in them.

    :param changes: by the id of the row
    :returns: rows in the order of the table `discharge_limits`
    :raises InputError: never
    :source: the clause in the id of each row; check the edition that binds you
    """
    changes = changes or {}
    return tuple(_changed(_row(row), changes.get(row["id"])) for row in toml_table("discharge_limits")["limit"])


def _row(row: dict[str, Any]) -> DischargeLimit:
    return DischargeLimit(
        id=row["id"],
        applies_to=row["applies_to"],
        equipment=row["equipment"],
        place=row["place"],
        kind=row["kind"],
        value=row.get("value"),
        after_s=row.get("after_s"),
        above_f=row.get("above_uf", 0.0) * 1e-6,
        up_to_v=row.get("up_to_v"),
        above_v=row.get("above_v", 0.0),
        charge_c=row["charge_uc"] * 1e-6 if "charge_uc" in row else None,
        protection=row.get("protection", ""),
    )


def _changed(row: DischargeLimit, change: LimitChange | None) -> DischargeLimit:
    if change is None:
        return row
    # A charge allowed instead belongs to the value of the standard, not to another.
    return replace(row, value=change.value, after_s=change.after_s, charge_c=None, changed=change.reason)


def check_change(row: DischargeLimit, change: LimitChange) -> None:
    """Whether a row may be changed so.

    :param row: the row as the standard has it
    :param change: what the workshop wants
    :raises InputError: value or time missing where the row has one, or out of range; no reason
    """
    if row.id == HANDS and (change.value or 0.0) > DEFAULT_WORKING_LIMIT_V:
        raise InputError("value", f"Hands come no nearer than {DEFAULT_WORKING_LIMIT_V:g} V: it may be lowered, never raised.")
    if row.kind in VALUES:
        VALUES[row.kind].check("value", change.value if change.value is not None else float("nan"))
    elif change.value is not None:
        raise InputError("value", "ES1 follows the capacitance: only its time can be changed.")
    if row.after_s is not None:
        AFTER.check("after_s", change.after_s if change.after_s is not None else float("nan"))
    elif change.after_s is not None:
        raise InputError("after_s", "This limit has no time.")
    if not change.reason.strip():
        raise InputError("reason", "Say why: the edition, the clause or the local rule.")


def find_limit(rows: Iterable[DischargeLimit], standard_id: str) -> DischargeLimit:
    """The row of a standard.

    :param rows: a limits table
    :param standard_id: its id
    :returns: the row
    :raises InputError: an unknown standard
    """
    row = next((row for row in rows if row.id == standard_id), None)
    if row is None:
        raise InputError("standard", "That standard is not in the limits table.")
    return row


def working_limit(
    standard_id: str | None, capacitance_f: float, from_v: float, *, rows: tuple[DischargeLimit, ...] | None = None
) -> WorkingLimit:
    """The voltage to which a circuit must be empty before hands come near: 50 V, or what a standard asks for where that is lower.

    What a standard allows on plug pins, as a share of the first voltage or by capacitance, is a requirement on the equipment: it
    may lower this limit and never raises it.

    :param standard_id: the id of a row of the limits table, or None
    :param capacitance_f: farads, for a limit by capacitance
    :param from_v: first voltage, for a limit by share of it
    :param rows: the workshop's limits table; the one of the standards when None
    :returns: the target in volts, at most 50, and its source
    :raises InputError: an unknown standard
    :source: the clause in the id of the row; check the edition that binds you

    >>> working_limit("IEC 62368-1 (5.5.2.2)", 1e-9, 325.0).target_v
    50.0
    """
    rows = rows or limits_table()
    hands = find_limit(rows, HANDS)
    limit_v = min(hands.value or DEFAULT_WORKING_LIMIT_V, DEFAULT_WORKING_LIMIT_V)
    default = f"the workshop's limit for hands: {hands.changed}" if hands.changed else "workshop default"
    if standard_id is None:
        return WorkingLimit(limit_v, f"{default}; check the standard that binds you")
    row = find_limit(rows, standard_id)
    if row.kind == "current":
        return WorkingLimit(limit_v, f"{default}; the chosen limit is one of touch current")
    asked = row.target_v(capacitance_f, from_v)
    if asked >= limit_v:
        allows = f"{row.id} allows {asked:.4g} V on the equipment, which raises no limit for hands"
        return WorkingLimit(limit_v, f"{default}; {allows}; {CHECK_EDITION}")
    return WorkingLimit(asked, row.source)


def limits_of(
    rows: Iterable[DischargeLimit], standard_id: str | None, *, role: Role | None, capacitance_f: float, from_v: float
) -> tuple[DischargeLimit, ...]:
    """Every discharge limit that applies to a part in its equipment.

    Rows of the same kind of equipment as the chosen standard, and rows for the part itself by its role. With no standard
    chosen every row whose scope the part falls in is returned, since which one binds is not known.

    :param rows: the workshop's limits table
    :param standard_id: the standard chosen at intake, None or "" when none is
    :param role: what the part does
    :param capacitance_f: farads
    :param from_v: first voltage
    :returns: rows in the order of the table
    :raises InputError: an unknown standard
    :source: scope of each standard, as in the row
    """
    rows = tuple(rows)
    kinds = set(ROLES[role].equipment) if role else set()
    if standard_id:
        kinds.add(find_limit(rows, standard_id).equipment)
    scope = [row for row in rows if row.kind != "current" and row.applies(capacitance_f, from_v)]
    return tuple(row for row in scope if row.equipment in kinds or (not standard_id and row.place == PLUG_PINS))
