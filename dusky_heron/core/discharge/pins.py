"""Plug pins after unplugging: what everything behind them leaves there, against every limit that applies."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from dusky_heron.core.discharge.bleeders import TOLERANCE, LimitCheck, check_limits, counted_resistance
from dusky_heron.core.discharge.falling import voltage_after
from dusky_heron.core.discharge.limits import PLUG_PINS, DischargeLimit
from dusky_heron.core.discharge.planning import MAINS_HIGH, plan_charge
from dusky_heron.core.model import ROLES, Basis, Position, Role
from dusky_heron.core.model.materials import MATERIALS
from dusky_heron.core.model.terms import DIRECT_BASES
from dusky_heron.core.model.voltages import rule_voltage
from dusky_heron.core.quantities import show

ACROSS = (Role.X, Role.DROPPER)
TELLS_NOT_WHERE = (None, Basis.UNKNOWN, Basis.BY_HAND)
REACHING = frozenset({Basis.MAINS, Basis.MOTOR})  # bases of places that are joined to the pins, by wire or by a winding
AFTER_S = (1.0, 2.0, 5.0)


@dataclass(frozen=True, slots=True)
class PinVoltage:
    """What is left after a time: at rated voltage, and at the planning figure with the mains 10 % high."""

    after_s: float
    rated_v: float
    planned_v: float


@dataclass(frozen=True, slots=True)
class PlugPins:
    """The voltage on the pins at three times, and each limit held against it."""

    capacitance_f: float
    resistance_ohm: float | None
    voltages: tuple[PinVoltage, ...]
    checks: tuple[LimitCheck, ...]


def plug_pins(capacitance_f: float, bleeder_ohm: float | None, supply_v: float, rows: Iterable[DischargeLimit]) -> PlugPins:
    """Voltage between the pins 1, 2 and 5 s after unplugging at the worst phase, the peak, and the limits it has to meet.

    :param capacitance_f: all capacitance across the line at the top of its tolerance, farads
    :param bleeder_ohm: what is fitted across it as marked or measured; None when open or absent: only leakage is left
    :param supply_v: rated mains, V rms
    :param rows: limits that apply to the equipment; those for plug pins are held against
    :returns: PlugPins; judged at √2 × rated voltage, planned at +10 %
    :raises InputError: a value is out of range
    :source: first-order discharge; the clause in the id of each row
    """
    peak = rule_voltage(supply_v).volts
    leakage = MATERIALS["polypropylene"].rc_s[1] / capacitance_f
    ohm = bleeder_ohm * (1 + TOLERANCE) if bleeder_ohm else leakage
    return PlugPins(
        capacitance_f,
        bleeder_ohm,
        tuple(
            PinVoltage(
                seconds,
                voltage_after(capacitance_f, ohm, peak, seconds),
                voltage_after(capacitance_f, ohm, peak * MAINS_HIGH, seconds),
            )
            for seconds in AFTER_S
        ),
        check_limits([row for row in rows if row.place == PLUG_PINS], capacitance_f, ohm, peak, peak * MAINS_HIGH),
    )


def across_line(position: Position) -> float:
    """What a position puts across the line: its X sections at the top of their tolerance; of one without classes all.

    :param position: a place with its part's marking
    :returns: farads
    :raises InputError: never
    :source: the largest value within tolerance holds its voltage longest
    """
    sections = position.marking.sections
    x = [s for s in sections if s.is_x] or list(sections)
    return sum(s.highest_f for s in x) * position.surroundings.count


@dataclass(frozen=True, slots=True)
class BehindPlug:
    """All that can reach the pins: what stands across the line, what empties it, and what a leaky rectifier would bring there.

    `counted` says in words what was counted. `stored` names the places behind a rectifier, with the volts planned for them.
    """

    across_f: float
    bleeder_ohm: float | None
    counted: tuple[str, ...]
    stored: tuple[tuple[str, float], ...]


def behind_plug(positions: Sequence[Position]) -> BehindPlug:
    """What can reach the plug pins of a job: X parts, motor parts, droppers through their rectifier, Y to both lines.

    What bleeds a dropper is across it alone and empties nothing else: it counts only where nothing else is across the line. Two Y
    parts from line to chassis and on to neutral are in series: at most a quarter of their sum.

    :param positions: every place of the job
    :returns: BehindPlug; nothing across where none is
    :raises InputError: a value of the circuit is out of range
    :source: capacitances in parallel add; C₁C₂/(C₁+C₂) ≤ (C₁+C₂)/4
    """
    across, siemens, own, counted, stored, to_chassis = 0.0, 0.0, 0.0, [], [], 0.0
    for position in positions:
        basis = _fed_by(position)
        ohm, said = counted_resistance(position.surroundings.bleeder)
        conducts = 1 / ohm if ohm else 0.0
        to_chassis += sum(s.highest_f for s in position.marking.sections if s.is_y) * position.surroundings.count
        if position.role is Role.Y:
            continue
        if position.role is Role.DROPPER:
            across, own = across + across_line(position), own + conducts
            counted.append(f"{position.name} {show(across_line(position), 'F')} through its rectifier")
        elif basis in REACHING:
            across, siemens = across + across_line(position), siemens + conducts
            counted.append(f"{position.name} {show(across_line(position), 'F')}, bleeder {said}")
        elif basis in DIRECT_BASES:
            charge = plan_charge(
                position.marking, role=position.role, supply_v=position.supply_v, surroundings=position.surroundings
            )
            stored += [(position.name, charge.voltage.voltage_v)] if charge else []
    if all(p.role is Role.DROPPER for p in positions if _across(p)):
        siemens = own
    if across and to_chassis:
        across += to_chassis / 4
        counted.append(f"Y parts {show(to_chassis / 4, 'F')}")
    return BehindPlug(across, 1 / siemens if siemens else None, tuple(counted), tuple(stored))


def on_the_pins(positions: Sequence[Position]) -> list[Position]:
    """The places whose charge the pins are measured for before a hand-back: on the mains by wire, or through a rectifier alone.

    A motor's windings empty its parts at once.

    :param positions: every place of the job
    :returns: those with X parts, droppers and power-factor parts, and the Y parts beside them
    :raises InputError: never
    :source: IEC 60335-1, 22.5 and the like: what a plug leaves, whatever holds it
    """
    mains = [p for p in positions if p.role is not Role.Y and _fed_by(p) is Basis.MAINS]
    return [*mains, *(p for p in positions if p.role is Role.Y)] if mains else []


def _across(position: Position) -> bool:
    return position.role is Role.DROPPER or _fed_by(position) in REACHING


def _fed_by(position: Position) -> Basis:
    """What feeds a place, as far as the pins go.

    X parts and droppers are across the line whatever is said beside them, and a basis that only says that nobody knows, or a
    voltage, takes no place away from the pins.
    """
    usual, stated = ROLES[position.role].basis, position.surroundings.basis
    return usual if position.role in ACROSS or stated in TELLS_NOT_WHERE else stated
