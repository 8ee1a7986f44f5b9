"""What a place demands of a replacement."""

import math

from dusky_heron.core.discharge.rating import rating_voltage
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings.model import ClassName, Section
from dusky_heron.core.model import ROLES, Basis, CircuitLimit, ClassNeed, Need, Position, Reach, Role
from dusky_heron.core.model.roles import CLASSED, ServiceDuty
from dusky_heron.core.quantities import show, show_range
from dusky_heron.core.selection.as_it_is import old_as_it_is
from dusky_heron.core.selection.consequences import Touch, touch_of
from dusky_heron.core.selection.kinds import opens_question
from dusky_heron.core.selection.volts import floors_of

EARTHED_OR_NOT = (
    "Is the equipment of protection class I (earthed) or II? In class II, and with a two-core lead, a part from the line to metal "
    "one can touch has to be Y1."
)


def need_of(position: Position, beyond: tuple[CircuitLimit, ...] = (), touch: Touch | None = None) -> Need:
    """What a position demands of a replacement, from its role, its old part as it is, its circuit and its space.

    :param position: the place; its marking is the old part's
    :param beyond: limits of its surroundings that somebody has to decide about, of `consequences.limits_beyond`
    :param touch: what touch current allows, of `consequences.touch_of`; without it that of this place alone, by every standard
    :returns: Need with a capacitance window for each section (farads) and the ratings not to fall below
    :raises InputError: a start part in a run place (`marking`)
    :source: windows by role in the table `roles`; ratings IEC 60252-1, IEC 60384-14; the circuit as simulated
    """
    if position.role == Role.MOTOR_RUN and position.marking.printed_range:
        raise InputError(
            "marking", "A start capacitor in a run place says nothing about it: take the value from the motor's plate."
        )
    old = position.marking
    touch = touch_of(position, (), None) if touch is None else touch
    classes = tuple(_section_classes(position, section) for section in old.sections)
    rating = rating_voltage(position)
    inside = position.surroundings.bleeder if ROLES[position.role].basis == Basis.MAGNETRON else None
    known = old_as_it_is(old, position.old, inside)
    floors = floors_of(position, rating, classed=any(classes))
    own_dc = tuple(section.rated_dc_v or 0.0 for section in old.sections)
    return Need(
        role=position.role,
        sections_f=tuple(_section(position.role, section, len(old.sections) > 1, touch) for section in old.sections),
        floors=floors,
        supply_v=position.supply_v or None,
        old=known,
        sections_classes=classes if any(classes) else (),
        sections_dc_v=own_dc if len(set(own_dc)) > 1 else (),
        spread=tuple((s.lowest_f / s.capacitance_f - 1, s.highest_f / s.capacitance_f - 1) for s in old.sections),
        duty=old.duty.pairs if old.duty else (),
        protection=old.duty.protection_class if old.duty else None,
        fault_current_a=old.duty.fault_current_a if old.duty else None,
        upper_c=old.climate.upper_c if old.climate else None,
        space_mm=position.space_mm,
        pitch_mm=position.pitch_mm,
        open_question=old.doubts[0].asks if old.doubts else opens_question(position.role, known.service),
        asks_class=EARTHED_OR_NOT if _earth_asked(position) else "",
        live_chassis=position.equipment.live_chassis,
        alternating=any(floor.alternating for floor in floors),
        circuit=_circuit_limits(position),
        touch=touch.most,
        touch_computed=touch.computed,
        beyond=(*beyond, *touch.asks),
        mounting=position.mounting,
    )


def describe(need: Need) -> tuple[str, ...]:
    """What a need demands, in short phrases to be read as one line.

    :param need: what the place demands
    """
    said = [f"{' and '.join(need.place_classes)} or better"] if need.place_classes else []
    said += [show_range(low, high, "F") if high != math.inf else f"from {show(low, 'F')}" for low, _, high in need.sections_f]
    classed = [asked.old_v or 0.0 for section in need.sections_classes for asked in section]
    volts = max(*classed, need.supply_v or 0.0, 0.0) if classed else 0.0
    for floor in need.floors:
        most = max(floor.circuit_v or 0.0, floor.old_v or 0.0, volts if floor.alternating else 0.0)
        said += [f"{most:.4g} V {'AC' if floor.alternating else 'DC'} or more"] if most else []
    said += [f"{'at least' if limit.least else 'at most'} {show(limit.farads, 'F')} by its circuit" for limit in need.circuit]
    said += [f"at most {show(need.touch.farads, 'F')} to the chassis by touch current"] if need.touch else []
    said += [f"class {name} or better at {rated:g} V" for name, rated in need.duty]
    said += [f"{need.protection} or better"] if need.protection else []
    said += [f"{need.upper_c:g} °C or more"] if need.upper_c is not None else []
    said += [f"pitch {need.pitch_mm:g} mm"] if need.pitch_mm else []
    return tuple(said)


def _section_classes(position: Position, section: Section) -> tuple[ClassNeed, ...]:
    """The classes a section must have, each with the old part's rated volts of it, else its highest AC rating."""
    old, own = position.marking, section.classes or position.marking.classes
    printed = tuple(one.name for one in own)
    several = len(old.sections) > 1
    given = printed if several else tuple(ClassName(name) for name in position.place_classes) or printed
    if position.role is Role.Y and not several:
        names = _y_classes(position, given, printed)
    elif position.role in CLASSED and not given and ROLES[position.role].class_needed:
        names = (ClassName(ROLES[position.role].usual_class),)
    else:
        names = given
    volts = {one.name: one.rated_ac_v for one in own}
    return tuple(ClassNeed(name, volts.get(name) or max(old.ac_ratings, default=None)) for name in names)


def _y_classes(position: Position, given: tuple[ClassName, ...], printed: tuple[ClassName, ...]) -> tuple[ClassName, ...]:
    """What a Y place demands: in class II, or without an earth, Y1 to what can be touched, unless the maker's own part says Y2."""
    usual = ClassName(ROLES[Role.Y].usual_class)
    makers = any(name in (ClassName.Y1, ClassName.Y2) for name in printed)
    if position.reaches is not Reach.CORE and not makers and (_unearthed(position) or _earth_asked(position)):
        usual = ClassName.Y1
        return (*(name for name in given if not name.is_y), usual) if position.place_classes else (usual,)
    return given if any(name.is_y for name in given) else (*(given if position.place_classes else ()), usual)


def _unearthed(position: Position) -> bool:
    """No earth on its chassis: class II, class 0, or a two-core lead."""
    return position.equipment.two_core or position.equipment.protection not in ("", "I")


def _earth_asked(position: Position) -> bool:
    """Whether it has to be known if the equipment is earthed before anything below Y1 is taken."""
    said = (*position.place_classes, *position.marking.class_names)
    told = position.equipment.protection or position.equipment.two_core or position.reaches is Reach.CORE
    return position.role is Role.Y and not told and not any(name in ("Y1", "Y2", "Y3", "Y4") for name in said)


def _section(role: Role, section: Section, several: bool, touch: Touch) -> tuple[float, float, float]:
    """Least, marked and most of one section; of a start part its printed range; to the chassis what touch current leaves."""
    marked = section.capacitance_f
    if ROLES[role].duty == ServiceDuty.START and section.low_f and section.high_f:
        return section.low_f, marked, section.high_f
    to_chassis = role is Role.Y or (several and section.is_y)
    low, high = ROLES[Role.Y if to_chassis else role].window
    return marked * (1 + low), marked, math.inf if to_chassis and touch.computed else marked * (1 + high)


def _circuit_limits(position: Position) -> tuple[CircuitLimit, ...]:
    """What the circuit of a dropper was simulated to allow: enough for each load, not more than the zener stands."""
    around = position.surroundings.dropper
    if position.role is not Role.DROPPER or around is None:
        return ()
    needs = [state for state in around.states if state.needed_f]
    limits = []
    if needs:
        most = max(needs, key=lambda state: state.needed_f or 0.0)
        least = most.needed_f or 0.0
        limits.append(CircuitLimit(least, f"{most.name} needs {show(least, 'F')} at the lowest mains", least=True))
    if around.largest_f and around.zener_w:
        rated = show(around.zener_w, "W")
        beyond = f"above {show(around.largest_f, 'F')} the zener takes more than its {rated} at the highest mains"
        limits.append(CircuitLimit(around.largest_f, beyond, least=False))
    return tuple(limits)
