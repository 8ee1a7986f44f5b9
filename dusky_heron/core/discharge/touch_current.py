"""Touch current of the Y capacitors on a chassis with the earth lost, against the limits that apply."""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from dusky_heron.core.discharge.limits import DischargeLimit, find_limit
from dusky_heron.core.discharge.planning import MAINS_HIGH
from dusky_heron.core.errors import CAPACITANCE, SUPPLY_FREQUENCY, SUPPLY_VOLTAGE
from dusky_heron.core.model import Equipment, Position, Role
from dusky_heron.core.quantities import show

MEDICAL = "medical"


@dataclass(frozen=True, slots=True)
class TouchLimit:
    """One limit of touch current held against it, amperes rms."""

    row: DischargeLimit
    limit_a: float
    meets: bool
    sentence: str


@dataclass(frozen=True, slots=True)
class TouchCurrent:
    """Touch current in amperes rms: in normal wiring, and with the neutral open."""

    normal_a: float
    neutral_open_a: float
    checks: tuple[TouchLimit, ...]


def to_chassis(position: Position) -> float:
    """What a position puts between the mains and the chassis: its Y sections, or all of a part in a Y place.

    :param position: a place with its part's marking
    :returns: farads at the top of the tolerance; 0 for a part that does not lead there
    :raises InputError: never
    :source: the largest value within tolerance carries most
    """
    sections = list(position.marking.sections)
    if position.role != Role.Y:
        sections = [s for s in sections if len(sections) > 1 and s.is_y]
    return sum(s.highest_f for s in sections)


def on_both_sides(farads: Sequence[float]) -> tuple[list[float], list[float]]:
    """Capacitances shared between line and neutral where nobody wrote down which is where: the largest alternate.

    :param farads: each part that leads to the chassis
    :returns: those on the line side, and those on the neutral side
    :raises InputError: never
    :source: Y parts are fitted in pairs; with the neutral open all of them count, whichever side they are on
    """
    ordered = sorted(farads, reverse=True)
    return ordered[::2], ordered[1::2]


def touch_limits(rows: Iterable[DischargeLimit], standard_id: str | None, equipment: Equipment) -> tuple[DischargeLimit, ...]:
    """The limits of touch current that apply to a piece of equipment.

    :param rows: the workshop's limits table
    :param standard_id: the standard chosen at intake, None or "" when none is: every kind of equipment is returned
    :param equipment: its protection class; "": every row is returned; one that no row names, as a two-core lead, has no earth to
        lose: that of class II
    :returns: rows in the order of the table
    :raises InputError: an unknown standard
    :source: scope of each standard, as in the row
    """
    rows = tuple(rows)
    kind, earthed_as = find_limit(rows, standard_id).equipment if standard_id else None, equipment.earthed_as
    currents = [row for row in rows if row.kind == "current" and (kind is None or row.equipment == kind)]
    bound_as = earthed_as if earthed_as in {row.protection for row in rows} else "II"
    return tuple(row for row in currents if not earthed_as or row.protection in ("", bound_as))


def touch_current(
    line_f: Sequence[float], neutral_f: Sequence[float], supply_v: float, supply_hz: float, rows: Iterable[DischargeLimit] = ()
) -> TouchCurrent:
    """Current through a person from a chassis that has lost its earth: I = 2πf · 1.1 V · C.

    In normal wiring only the larger of the two sides carries it; with the neutral open all of them do together. The worse of
    both is held against each limit.

    :param line_f: capacitances from line to chassis at the top of their tolerance, farads
    :param neutral_f: capacitances from neutral to chassis at the top of their tolerance, farads
    :param supply_v: nominal mains, V rms; taken 10 % high
    :param supply_hz: mains frequency, Hz
    :param rows: limits of touch current that apply to the equipment, of `touch_limits`
    :returns: TouchCurrent, amperes rms
    :raises InputError: a value is out of range
    :source: IEC 60335-1 and IEC 62368-1, leakage of the supply through Y capacitors; some standards use another factor

    >>> round(touch_current([3.96e-9], [3.96e-9], 230, 50).neutral_open_a * 1000, 3)
    0.629
    """
    for farads in (*line_f, *neutral_f):
        CAPACITANCE.check("capacitance_f", farads)
    per_farad = 2 * math.pi * SUPPLY_FREQUENCY.check("supply_hz", supply_hz)
    per_farad *= MAINS_HIGH * SUPPLY_VOLTAGE.check("supply_v", supply_v)
    normal = per_farad * max(sum(line_f), sum(neutral_f))
    neutral_open = per_farad * (sum(line_f) + sum(neutral_f))
    return TouchCurrent(normal, neutral_open, tuple(_check(row, neutral_open) for row in rows))


def _check(row: DischargeLimit, current_a: float) -> TouchLimit:
    limit = (row.value or 0.0) / 1000
    meets = current_a <= limit and row.equipment != MEDICAL
    if row.equipment == MEDICAL:
        sentence = "Medical equipment: a changed Y part is not approved here, whatever it carries."
    else:
        sentence = f"{show(current_a, 'A')}: {'within' if meets else 'above'} {show(limit, 'A')}."
    return TouchLimit(row, limit, meets, sentence)
