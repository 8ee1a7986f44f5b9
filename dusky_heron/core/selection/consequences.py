"""What a part of another value does to its surroundings: plug pins, touch current, bleeder, dropper, ripple, hold-up."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from math import sqrt

from dusky_heron.core.discharge.bleeders import counted_resistance
from dusky_heron.core.discharge.falling import time_to
from dusky_heron.core.discharge.limits import DischargeLimit, limits_of, limits_table
from dusky_heron.core.discharge.pins import across_line, behind_plug, plug_pins
from dusky_heron.core.discharge.touch_current import MEDICAL, on_both_sides, to_chassis, touch_current, touch_limits
from dusky_heron.core.model import CircuitLimit, Position, Reach, Role
from dusky_heron.core.model.voltages import rule_voltage
from dusky_heron.core.quantities import show, show_time

ASIDE_V = 34.0  # what a plug may hold after a second, IEC 60335-1 (22.5), shown where no limit is chosen
CLOSE = 1e-4


def limits_beyond(
    position: Position, others: Sequence[Position], standard_id: str | None, rows: Iterable[DischargeLimit]
) -> tuple[CircuitLimit, ...]:
    """The capacitance from which a limit of the surroundings is broken that the marked value keeps.

    :param position: the place
    :param others: the other places of the job, which share the plug pins and the chassis
    :param standard_id: the standard chosen at intake, None or "" when none is
    :param rows: the workshop's limits table
    :returns: at most one limit, for the plug pins
    :raises InputError: an unknown standard
    :source: as `plug_pins`; the clause in each row
    """
    rows = tuple(rows)
    if position.role is Role.X and position.supply_v:
        return _most(position, lambda farads: _pins_broken(position, others, standard_id, rows, farads))
    return ()


@dataclass(frozen=True, slots=True)
class Touch:
    """What touch current allows to the chassis: the most by every limit that may apply, and the least, to decide about.

    `computed` where supply, protection class, the standard and the other places are all known: the marked value binds no more.
    """

    most: CircuitLimit | None = None
    asks: tuple[CircuitLimit, ...] = ()
    computed: bool = False


def touch_of(
    position: Position, others: Sequence[Position], standard_id: str | None, rows: Iterable[DischargeLimit] | None = None
) -> Touch:
    """What touch current allows a part that leads to the chassis, with the neutral open and all others with it.

    Where no standard was chosen, what the most generous of them forbids is refused, and what the strictest forbids is asked about.

    :param position: the place
    :param others: the other places of the job that lead to the same chassis
    :param standard_id: the standard chosen at intake, None or "" when none is
    :param rows: the workshop's limits table; that of the standards where none is given
    :returns: Touch; farads at the top of the tolerance; empty where it leads to no chassis, or to a core
        nobody can touch, or the supply is not known
    :raises InputError: an unknown standard
    :source: I = 2πf·1.1 V·C; limits IEC 60335-1, IEC 62368-1, IEC 61010-1; in medical equipment no changed part is approved
    """
    leads = position.role is Role.Y or to_chassis(position) > 0
    if not leads or position.reaches is Reach.CORE or not position.supply_v or not position.supply_hz:
        return Touch()
    limits = touch_limits(limits_table() if rows is None else rows, standard_id, position.equipment)
    if standard_id and any(row.equipment == MEDICAL for row in limits):
        return Touch(CircuitLimit(0.0, "in medical equipment no changed Y part is approved here", least=False), (), computed=True)
    known = sorted((row for row in limits if row.equipment != MEDICAL and row.value), key=lambda row: row.value or 0.0)
    if not known:
        return Touch()
    already = [value for one in others if (value := to_chassis(one))]
    per_farad = touch_current([1e-9], [], position.supply_v, position.supply_hz).neutral_open_a / 1e-9

    def allowed(row: DischargeLimit) -> CircuitLimit:
        left = max((row.value or 0.0) / 1000 / per_farad - sum(already), 0.0)
        says = f"above {show(left, 'F')}" if left else "with the others already there"
        return CircuitLimit(
            left, f"{says} the touch current passes {show((row.value or 0.0) / 1000, 'A')} ({row.source})", least=False
        )

    strict, generous = allowed(known[0]), allowed(known[-1])
    asks = (strict,) if strict.farads < generous.farads else ()
    return Touch(generous, asks, computed=bool(standard_id and position.equipment.earthed_as))


def _most(position: Position, broken: Callable[[float], str]) -> tuple[CircuitLimit, ...]:
    """By halving: where a limit begins to be broken, between the marked value and twice its window."""
    low, high = position.marking.highest_f, position.marking.highest_f * 2
    if broken(low) or not (says := broken(high)):
        return ()
    while high > low * (1 + CLOSE):
        middle = (low + high) / 2
        low, high = (low, middle) if broken(middle) else (middle, high)
    return (CircuitLimit(low, f"above {show(low, 'F')} {says}", least=False),)


def _pins_broken(
    position: Position, others: Sequence[Position], standard_id: str | None, rows: tuple[DischargeLimit, ...], farads: float
) -> str:
    known = behind_plug((position, *others))
    across, volts = known.across_f - across_line(position) + farads, position.supply_v or 0.0
    held = limits_of(rows, standard_id, role=None, capacitance_f=across, from_v=rule_voltage(volts).volts)
    failed = [c for c in plug_pins(across, known.bleeder_ohm, volts, held).checks if not c.meets]
    if not failed:
        return ""
    row = failed[0].row
    return f"the plug pins hold more than {show(failed[0].target_v, 'V')} after {show_time(row.after_s or 0.0)} ({row.source})"


def consequences(position: Position, others: Sequence[Position], farads: float, highest_f: float) -> tuple[str, ...]:
    """What a part of a capacitance does to its surroundings, beside what the marked one did, in short sentences.

    :param position: the place; its marking is the old part's
    :param others: the other places of the job
    :param farads: nominal capacitance offered, farads
    :param highest_f: the same at the top of its tolerance
    :returns: sentences; none where nothing of it is known
    :raises InputError: never
    :source: first-order discharge; I = 2πf·1.1 V·C; a ripple of I/(f C); hold-up ½ C (V1² - V2²)/P
    """
    marked, old_highest = position.marking.capacitance_f, position.marking.highest_f
    ratio, volts = farads / marked, position.supply_v or 0.0
    found: list[str] = []
    ohm, _ = counted_resistance(position.surroundings.bleeder)
    if position.role is Role.X and ohm and volts:
        now, before = (time_to(f, ohm, volts * sqrt(2), ASIDE_V) for f in (highest_f, old_highest))
        found.append(f"Plug pins at {ASIDE_V:g} V after {show_time(now)} by its bleeder; the old one {show_time(before)}.")
    elif ohm:
        found.append(f"Empties through its bleeder in {ratio * 100:.0f} % of the old time.")
    if position.role is Role.Y and volts and position.supply_hz:
        line, neutral = on_both_sides([highest_f, *(value for one in others if (value := to_chassis(one)))])
        current = touch_current(line, neutral, volts, position.supply_hz).neutral_open_a
        found.append(f"Touch current of all Y parts {show(current, 'A')} with the neutral open.")
    around = position.surroundings.dropper
    if position.role is Role.DROPPER and around:
        needs = [state.needed_f for state in around.states if state.needed_f]
        said = [f"{(farads / max(needs) - 1) * 100:+.0f} % on what its loads need at lowest mains"] if needs else []
        said += [f"the zener stands {(around.largest_f / farads - 1) * 100:.0f} % more"] if around.largest_f else []
        found += [f"{'; '.join(said)}."] if said else []
    if position.role is Role.RESERVOIR and abs(ratio - 1) > CLOSE:
        found.append(f"Ripple about {(1 / ratio - 1) * 100:+.0f} %.")
    if position.role is Role.SMPS_BULK and abs(ratio - 1) > CLOSE:
        found.append(f"Hold-up about {(ratio - 1) * 100:+.0f} %.")
    return tuple(found)
