"""Hard rules of a replacement: each refuses a part for one reason, with its source."""

from collections.abc import Callable
from dataclasses import dataclass

from dusky_heron.core.markings.ratings import MOTOR
from dusky_heron.core.model import KIND_TITLES, ROLES, Basis, Need, Origin, Part, PartKind, Policy, Role
from dusky_heron.core.model.roles import ALTERNATING_ROLES, CLASSED, POLARISED, ServiceDuty, Volts, roles_that
from dusky_heron.core.quantities import show, show_range
from dusky_heron.core.selection import fit
from dusky_heron.core.selection.safety_class import acceptable_classes, may_replace

ALL: frozenset[Role] = frozenset()
RUN = roles_that(lambda row: row.basis == Basis.MOTOR and row.duty == ServiceDuty.CONTINUOUS)
ACROSS_MAINS = ALTERNATING_ROLES
ON_AC = roles_that(lambda row: row.volts == Volts.AC and not row.class_needed)
ON_DC = roles_that(lambda row: row.volts != Volts.AC)
RIPPLED = roles_that(lambda row: row.rippled)
PULSED = roles_that(lambda row: row.pulsed)
STORE = POLARISED & PULSED
FILTERS = POLARISED - PULSED
ELECTROLYTIC = frozenset({PartKind.ELECTROLYTIC, PartKind.PULSE_ELECTROLYTIC})


@dataclass(frozen=True, slots=True)
class HardRule:
    """One reason to refuse: the check returns a sentence when the part may not take the place.

    A demand may be overridden by who may decide, with a reason; what is hard is overridden by nobody.
    """

    id: str
    title: str
    source: str
    roles: frozenset[Role]
    check: Callable[[Need, Part, Policy], str | None]
    demand: bool = False

    def applies(self, role: Role) -> bool:
        """Whether the rule speaks about this role; no roles means all."""
        return not self.roles or role in self.roles


def _start_for_run(need: Need, part: Part, policy: Policy) -> str | None:
    if part.kind == PartKind.MOTOR_START or part.marking.printed_range:
        return "A start capacitor stands seconds, not continuous duty: never in a run place."
    return None


def _motor_part(need: Need, part: Part, policy: Policy) -> str | None:
    if part.kind in (PartKind.MOTOR_RUN, PartKind.MOTOR_START):
        return None
    return "Not a motor run part: continuous AC duty is not proved by its marking."


def _dc_on_mains(need: Need, part: Part, policy: Policy) -> str | None:
    if part.kind in (PartKind.FILM_DC, PartKind.FILM_PULSE, PartKind.CERAMIC):
        return f"A {KIND_TITLES[part.kind]} part on the mains burns: its DC volts say nothing about AC."
    return None


def _polarity(need: Need, part: Part, policy: Policy) -> str | None:
    if part.kind in ELECTROLYTIC and need.role not in POLARISED:
        return "An electrolytic has a polarity: never where the voltage turns round or may."
    return None


def _pulse_store(need: Need, part: Part, policy: Policy) -> str | None:
    if part.kind == PartKind.ELECTROLYTIC:
        return "A general electrolytic is not made for the discharge of an energy store."
    return None


def _flash_for_filter(need: Need, part: Part, policy: Policy) -> str | None:
    if part.kind == PartKind.PULSE_ELECTROLYTIC:
        return "A part made for flash discharges does not stand continuous ripple current."
    return None


def _kind(need: Need, part: Part, policy: Policy) -> str | None:
    kinds = ROLES[need.role].kinds
    if part.kind.value in kinds:
        return None
    wanted = " or ".join(KIND_TITLES[PartKind(kind)] for kind in kinds)
    return f"A {KIND_TITLES[part.kind]} part is not made for this place; it takes {wanted}."


def _safety_class(need: Need, part: Part, policy: Policy) -> str | None:
    answer = may_replace(need.place_classes, part.marking.class_names)
    return None if answer.allowed else answer.reason


def _safety_voltage(need: Need, part: Part, policy: Policy) -> str | None:
    """Each class the place demands is judged by the rated voltage of the class relied on for it."""
    for wanted, old in zip(need.place_classes, need.class_volts, strict=True):
        relied = [c.rated_ac_v or 0.0 for c in part.marking.classes if c.name in acceptable_classes(wanted)]
        refused = _too_few_volts(need, max(relied), old) if relied else None
        if refused:
            return refused
    return None


def _ac_voltage(need: Need, part: Part, policy: Policy) -> str | None:
    """Of two ratings the lower is held against the lower, and the higher against the higher."""
    if part.kind in (PartKind.FILM_DC, *ELECTROLYTIC) and not part.marking.ac_ratings:
        return "No AC voltage printed: cannot be relied on across the mains."
    offered, old = part.marking.ac_ratings or (0.0,), need.old_ac_ratings or (0.0,)
    return _too_few_volts(need, min(offered), min(old)) or _too_few_volts(need, max(offered), max(old))


def _too_few_volts(need: Need, rated: float, old: float) -> str | None:
    if not rated:
        return "No AC voltage printed: cannot be relied on across the mains."
    if rated < (need.supply_v or 0.0):
        return f"{rated:g} V AC is below the {need.supply_v:g} V supply."
    return f"{rated:g} V AC is below the old part's {old:g} V AC." if rated < old else None


def _sections(need: Need, part: Part, policy: Policy) -> str | None:
    have, want = len(part.marking.sections), len(need.sections_f)
    return None if have == want else f"It has {have} section{'s' * (have > 1)}; the place needs {want}."


def _window(need: Need, part: Part, policy: Policy) -> str | None:
    wanted = sorted(need.sections_f, key=lambda window: window[1])  # a dual may be printed 30+5 or 5+30
    offered = sorted(part.marking.sections, key=lambda section: section.capacitance_f)
    for (low, marked, high), section in zip(wanted, offered, strict=False):
        if not low * (1 - 1e-9) <= section.capacitance_f <= high * (1 + 1e-9):
            return (
                f"{show(section.capacitance_f, 'F')} is outside {show_range(low, high, 'F')} around the marked {show(marked, 'F')}."
            )
    return None


def _operating_class(need: Need, part: Part, policy: Policy) -> str | None:
    hours = MOTOR["operating_class_hours"]
    printed = part.marking.duty.pairs if part.marking.duty else ()
    for name, volts in need.duty:
        equal = [offered for offered, rated in printed if rated >= volts]
        if not equal:
            return f"No operating class printed at {volts:g} V or more; the old part is class {name}."
        best = max(equal, key=lambda offered: hours[offered])
        if hours[best] < hours[name]:
            return f"Class {best} ({hours[best]} h) is below class {name} ({hours[name]} h) of the old part."
    return None


def _protection(need: Need, part: Part, policy: Policy) -> str | None:
    if need.protection is None:
        return None
    rank, offered = MOTOR["protection_rank"], part.marking.duty.protection_class if part.marking.duty else None
    if offered is None:
        return f"No protection class printed; the old part is {need.protection}."
    return None if rank[offered] >= rank[need.protection] else f"{offered} protects less than the old {need.protection}."


def _fault_current(need: Need, part: Part, policy: Policy) -> str | None:
    if need.fault_current_a is None:
        return None
    offered = part.marking.duty.fault_current_a if part.marking.duty else None
    if offered is None or offered < need.fault_current_a:
        return f"Fault current protection below the old part's {need.fault_current_a:g} A."
    return None


def _temperature(need: Need, part: Part, policy: Policy) -> str | None:
    climate = part.marking.climate
    if need.upper_c is None or (climate and climate.upper_c >= need.upper_c):
        return None
    if climate is None:
        return f"No upper temperature printed; the old part stands {need.upper_c:g} °C."
    return f"Stands {climate.upper_c:g} °C; the old part {need.upper_c:g} °C."


def _salvaged(need: Need, part: Part, policy: Policy) -> str | None:
    if part.origin != Origin.SALVAGED:
        return None
    if need.role not in policy.salvaged_roles:
        return "Workshop policy: no salvaged part in this place."
    if policy.salvaged_measured and not part.measured:
        return "Workshop policy: a salvaged part with its measurements on record only."
    return None


def _larger(need: Need, part: Part, policy: Policy) -> str | None:
    marked = sum(section[1] for section in need.sections_f)
    if policy.larger or part.marking.capacitance_f <= marked * (1 + 1e-9):
        return None
    return f"Workshop policy: nothing larger than the marked {show(marked, 'F')}."


def _dual(need: Need, part: Part, policy: Policy) -> str | None:
    if policy.dual != "singles" or len(need.sections_f) < 2:
        return None
    return "Workshop policy: singles in the place of a dual."


def _place_read(need: Need, part: Part, policy: Policy) -> str | None:
    return f"{need.open_question} Until the old part's marking is settled nothing takes its place." if need.open_question else None


def _part_read(need: Need, part: Part, policy: Policy) -> str | None:
    doubts = part.marking.doubts
    return f"{doubts[0].asks} Until its marking is settled it takes no place." if doubts else None


def _dc_voltage(need: Need, part: Part, policy: Policy) -> str | None:
    if need.old_dc_v is None:
        return None
    if len(need.sections_dc_v) > 1 and len(part.marking.sections) == len(need.sections_dc_v):
        return _dc_of_sections(need, part)
    rated = part.marking.rated_dc_v
    if rated is None:
        return f"No DC voltage printed; the old part is {need.old_dc_v:g} V DC."
    return f"{rated:g} V DC is below the old part's {need.old_dc_v:g} V DC." if rated < need.old_dc_v else None


def _dc_of_sections(need: Need, part: Part) -> str | None:
    """Section against section, by size: each at least the volts of the one whose place it takes."""
    wanted = sorted(zip((marked for _, marked, _ in need.sections_f), need.sections_dc_v, strict=True))
    offered = sorted((section.capacitance_f, section.rated_dc_v or 0.0) for section in part.marking.sections)
    for (farads, asked), (_, rated) in zip(wanted, offered, strict=True):
        if rated < asked:
            return f"{rated:g} V DC of one section is below the {asked:g} V DC of the old {show(farads, 'F')}."
    return None


def _ripple(need: Need, part: Part, policy: Policy) -> str | None:
    if need.ripple_a is None or part.ripple_a is None or part.ripple_a >= need.ripple_a:
        return None
    return f"Stands {show(part.ripple_a, 'A')} of ripple; the place carries {show(need.ripple_a, 'A')}."


def _pulse(need: Need, part: Part, policy: Policy) -> str | None:
    if need.dvdt_v_s is None:
        return None
    if part.dvdt_v_s is None:
        return f"Its dv/dt is not known; the old part stands {need.dvdt_v_s / 1e6:g} V/µs."
    if part.dvdt_v_s < need.dvdt_v_s:
        return f"Stands {part.dvdt_v_s / 1e6:g} V/µs; the old part {need.dvdt_v_s / 1e6:g} V/µs."
    return None


def _circuit(need: Need, part: Part, policy: Policy) -> str | None:
    farads = part.marking.capacitance_f
    for limit in need.circuit:
        if farads < limit.farads if limit.least else farads > limit.farads:
            return f"{show(farads, 'F')}: {limit.beyond}."
    return None


def _space(need: Need, part: Part, policy: Policy) -> str | None:
    return fit.too_big(need, part)


def _pitch(need: Need, part: Part, policy: Policy) -> str | None:
    return fit.pitch_too_far(need, part)


SAFETY, MOTOR_SOURCE, OLD = "IEC 60384-14", "IEC 60252-1", "the old part's marking"
HARD_RULES = (
    HardRule("marking.place", "The old part's marking is read one way only", OLD, ALL, _place_read),
    HardRule("marking.provisional", "Its marking is read one way only", "its marking", ALL, _part_read),
    HardRule("role.start_for_run", "No start part in a run place", MOTOR_SOURCE, RUN, _start_for_run),
    HardRule("role.motor_part", "A run place takes motor run parts", MOTOR_SOURCE, RUN, _motor_part),
    HardRule("role.dc_on_mains", "No DC part on the mains", "IEC 60384-14, IEC 61071", ACROSS_MAINS, _dc_on_mains),
    HardRule("role.polarity", "No electrolytic where the voltage turns round", "IEC 60384-4", ALL, _polarity),
    HardRule("role.pulse_store", "An energy store takes pulse parts", "IEC 60384-4, what it is made for", STORE, _pulse_store),
    HardRule("role.flash_for_filter", "No flash part in a filter", "what it is made for", FILTERS, _flash_for_filter),
    HardRule("role.kind", "A kind of part made for the place", "table roles", ALL, _kind),
    HardRule("class.safety", "Safety class", SAFETY, CLASSED, _safety_class),
    HardRule("voltage.safety", "Rated voltage of the class relied on", SAFETY, CLASSED, _safety_voltage),
    HardRule("voltage.ac", "Rated AC voltage at least the old one's", MOTOR_SOURCE, ON_AC, _ac_voltage),
    HardRule("voltage.dc", "Rated DC voltage at least the old one's", OLD, ON_DC, _dc_voltage),
    HardRule("sections.count", "As many sections as the place", "its marking", ALL, _sections),
    HardRule("duty.operating_class", "Operating class not lower", MOTOR_SOURCE, RUN, _operating_class),
    HardRule("duty.protection", "Protection class not lower", MOTOR_SOURCE, RUN, _protection),
    HardRule("duty.fault_current", "Fault current not lower", "UL 810", RUN, _fault_current),
    HardRule("pulse.dvdt", "dv/dt not lower", "data sheet of the old part", PULSED, _pulse),
    HardRule("circuit.simulated", "Capacitance the circuit allows", "simulation of the circuit", ALL, _circuit, demand=True),
    HardRule(
        "capacitance.window", "Capacitance in the window of the role", "the marking, the role's window", ALL, _window, demand=True
    ),
    HardRule("ripple.current", "Ripple current not lower", "data sheets", RIPPLED, _ripple, demand=True),
    HardRule("temperature.upper", "Upper temperature not lower", "IEC 60068-1", ALL, _temperature, demand=True),
    HardRule("policy.salvaged", "Salvaged parts", "workshop policy", ALL, _salvaged, demand=True),
    HardRule("policy.larger", "Larger than marked", "workshop policy", ALL, _larger, demand=True),
    HardRule("policy.dual", "Singles for a dual", "workshop policy", RUN, _dual, demand=True),
    HardRule("fit.space", "Fits the space there is", "measured space", ALL, _space, demand=True),
    HardRule("fit.pitch", "Lead pitch within one step", "lead pitches of IEC 60384-14 film parts", ALL, _pitch, demand=True),
)
HARD_IDS = frozenset(rule.id for rule in HARD_RULES if not rule.demand)
