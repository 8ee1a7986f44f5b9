"""What a place demands of a replacement."""

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings.model import Marking, Section
from dusky_heron.core.model import ROLES, CircuitLimit, Need, Position, Role
from dusky_heron.core.model.roles import CLASSED, ServiceDuty
from dusky_heron.core.quantities import show, show_range
from dusky_heron.core.selection.rules import ACROSS_MAINS, ON_DC


def need_of(position: Position, beyond: tuple[CircuitLimit, ...] = ()) -> Need:
    """What a position demands of a replacement, from its role, its old part's marking, its supply and its space.

    :param position: the place; its marking is the old part's
    :param beyond: limits of its surroundings that somebody has to decide about, of `consequences.limits_beyond`
    :returns: Need with a capacitance window for each section (farads) and the ratings not to fall below
    :raises InputError: a start part in a run place (`marking`)
    :source: windows by role in the table `roles`; ratings IEC 60252-1, IEC 60384-14; the circuit as simulated
    """
    if position.role == Role.MOTOR_RUN and position.marking.printed_range:
        raise InputError(
            "marking", "A start capacitor in a run place says nothing about it: take the value from the motor's plate."
        )
    window = ROLES[position.role].window
    old = position.marking
    classes = _place_classes(position, old)
    return Need(
        role=position.role,
        sections_f=tuple(_section(position.role, s, window) for s in old.sections),
        old_ac_ratings=old.ac_ratings,
        supply_v=position.supply_v,
        place_classes=classes,
        class_volts=_class_volts(classes, old),
        duty=old.duty.pairs if old.duty else (),
        protection=old.duty.protection_class if old.duty else None,
        fault_current_a=old.duty.fault_current_a if old.duty else None,
        upper_c=old.climate.upper_c if old.climate else None,
        space_mm=position.space_mm,
        pitch_mm=position.pitch_mm,
        old_dc_v=old.rated_dc_v if position.role in ON_DC else None,
        sections_dc_v=tuple(s.rated_dc_v or 0.0 for s in old.sections) if position.role in ON_DC else (),
        open_question=old.doubts[0].asks if old.doubts else "",
        circuit=_circuit_limits(position),
        beyond=beyond,
        mounting=position.mounting,
    )


def describe(need: Need) -> tuple[str, ...]:
    """What a need demands, in short phrases to be read as one line.

    :param need: what the place demands
    """
    said = [f"{' and '.join(need.place_classes)} or better"] if need.place_classes else []
    said += [show_range(low, high, "F") for low, _, high in need.sections_f]
    volts = max(*need.old_ac_ratings, *need.class_volts, need.supply_v or 0.0, 0.0)
    said += [f"{volts:g} V AC or more"] if volts and need.role in ACROSS_MAINS else []
    said += [f"{need.old_dc_v:g} V DC or more"] if need.old_dc_v else []
    said += [f"{'at least' if limit.least else 'at most'} {show(limit.farads, 'F')} by its circuit" for limit in need.circuit]
    said += [f"class {name} or better at {rated:g} V" for name, rated in need.duty]
    said += [f"{need.protection} or better"] if need.protection else []
    said += [f"{need.upper_c:g} °C or more"] if need.upper_c is not None else []
    said += [f"pitch {need.pitch_mm:g} mm"] if need.pitch_mm else []
    return tuple(said)


def _place_classes(position: Position, old: Marking) -> tuple[str, ...]:
    if position.role not in CLASSED:
        return ()
    usual = ROLES[position.role]
    return position.place_classes or old.class_names or ((usual.usual_class,) if usual.class_needed else ())


def _section(role: Role, section: Section, window: tuple[float, float]) -> tuple[float, float, float]:
    """Least, marked and most of one section; of a start part its printed range."""
    marked = section.capacitance_f
    if ROLES[role].duty == ServiceDuty.START and section.low_f and section.high_f:
        return section.low_f, marked, section.high_f
    return marked * (1 + window[0]), marked, marked * (1 + window[1])


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


def _class_volts(classes: tuple[str, ...], old: Marking) -> tuple[float, ...]:
    """The old part's rated voltage for each class; where it has not that class, its highest AC rating."""
    own: dict[str, float | None] = {c.name: c.rated_ac_v for c in old.classes}
    return tuple(own.get(name) or max(old.ac_ratings, default=0.0) for name in classes)
