"""Hard rules of a replacement: each refuses a part for one reason, with its source."""

from collections.abc import Callable, Collection, Iterable, Iterator, Mapping
from dataclasses import dataclass

from dusky_heron.core.markings.ratings import MOTOR
from dusky_heron.core.model import Need, Origin, Part, Policy, Role
from dusky_heron.core.model.roles import roles_that
from dusky_heron.core.quantities import show, show_range
from dusky_heron.core.selection import fit, volts
from dusky_heron.core.selection.kinds import PULSED, RUN, refused_as_made, short_service
from dusky_heron.core.selection.safety_class import may_replace
from dusky_heron.core.selection.volts import sections_of

ALL: frozenset[Role] = frozenset()
RIPPLED = roles_that(lambda row: row.rippled)
EXACT = roles_that(lambda row: row.exact)
Check = Callable[[Need, Part, Policy], str | None]
Plain = Callable[[Need, Part], str | None]


@dataclass(frozen=True, slots=True)
class HardRule:
    """One reason to refuse: the check returns a sentence when the part may not take the place.

    A demand may be overridden by who may decide, with a reason; what is hard is overridden by nobody.
    """

    id: str
    title: str
    source: str
    roles: frozenset[Role]
    check: Check
    demand: bool = False

    def applies(self, role: Role) -> bool:
        """Whether the rule speaks about this role; no roles means all."""
        return not self.roles or role in self.roles


def _as_made(rule_id: str) -> Check:
    """The check of one of the rules of which the plainest alone speaks."""

    def check(need: Need, part: Part, _: Policy) -> str | None:
        refused = refused_as_made(need, part)
        return refused[1] if refused and refused[0] == rule_id else None

    return check


def _plain(says: Plain) -> Check:
    """The check of a rule that no policy bears on."""
    return lambda need, part, _: says(need, part)


def _safety_class(need: Need, part: Part) -> str | None:
    for number, section in sections_of(need, part):
        wanted = tuple(one.name for one in need.sections_classes[number]) if need.sections_classes else ()
        if wanted:
            answer = may_replace(wanted, tuple(one.name for one in section.classes or part.marking.classes))
            if not answer.allowed:
                return f"{answer.reason} {need.asks_class}".strip()
    return None


def _live_chassis(need: Need, part: Part) -> str | None:
    if need.live_chassis and chassis_f(need, part):
        return "The chassis is connected to the mains: no part from the line to it until a licensed person has decided."
    return None


def chassis_f(need: Need, part: Part) -> float:
    """What a part puts from the mains to the chassis, farads at the top of its tolerance."""
    sections = part.marking.sections
    leads = sections if need.role is Role.Y else [s for s in sections if len(sections) > 1 and s.is_y]
    return sum(section.highest_f for section in leads)


def _may_lead_to_chassis(need: Need) -> bool:
    return need.role is Role.Y or len(need.sections_f) > 1


def _touch(need: Need, part: Part) -> str | None:
    farads = chassis_f(need, part)
    if farads and not need.touch_computed and _larger_to_chassis(need, part):
        return "More to the chassis than marked: choose the standard and the protection class, so that touch current is computed."
    if need.touch is None or not farads or farads <= need.touch.farads * (1 + 1e-9):
        return None
    return f"{show(farads, 'F')} at the top of its tolerance: {need.touch.beyond}."


def _larger_to_chassis(need: Need, part: Part) -> bool:
    several = len(need.sections_f) > 1
    return any(
        section.capacitance_f > need.sections_f[number][1] * (1 + 1e-9)
        for number, section in sections_of(need, part)
        if not several or section.is_y
    )


def _sections(need: Need, part: Part) -> str | None:
    have, want = len(part.marking.sections), len(need.sections_f)
    return None if have == want else f"It has {have} section{'s' * (have > 1)}; the place needs {want}."


def _window(need: Need, part: Part) -> str | None:
    for number, section in sections_of(need, part):
        low, marked, high = need.sections_f[number]
        if not low * (1 - 1e-9) <= section.capacitance_f <= high * (1 + 1e-9):
            return (
                f"{show(section.capacitance_f, 'F')} is outside {show_range(low, high, 'F')} around the marked {show(marked, 'F')}."
            )
    return None


def _tolerance(need: Need, part: Part) -> str | None:
    """A tolerance wider than the old part's, printed or assumed, where the place is exact."""
    for number, section in sections_of(need, part):
        if not need.spread:
            return None
        minus, plus = need.spread[number]
        low, high = (end / section.capacitance_f - 1 for end in (section.lowest_f, section.highest_f))
        if low < minus - 1e-6 or high > plus + 1e-6:
            printed = "" if section.low_f is not None else "none printed, taken as "
            was = f"{minus * 100:+.3g}/{plus * 100:+.3g} %"
            return f"Tolerance {printed}{low * 100:+.3g}/{high * 100:+.3g} %: wider than the old part's {was}."
    return None


def _operating_class(need: Need, part: Part) -> str | None:
    hours = MOTOR["operating_class_hours"]
    printed = part.marking.duty.pairs if part.marking.duty else ()
    for name, at_v in need.duty:
        equal = [offered for offered, rated in printed if rated >= at_v]
        if not equal:
            return f"No operating class printed at {at_v:g} V or more; the old part is class {name}."
        best = max(equal, key=lambda offered: hours[offered])
        if hours[best] < hours[name]:
            return f"Class {best} ({hours[best]} h) is below class {name} ({hours[name]} h) of the old part."
    return None


def _protection(need: Need, part: Part) -> str | None:
    if need.protection is None:
        return None
    rank, offered = MOTOR["protection_rank"], part.marking.duty.protection_class if part.marking.duty else None
    if offered is None:
        return f"No protection class printed; the old part is {need.protection}."
    return None if rank[offered] >= rank[need.protection] else f"{offered} protects less than the old {need.protection}."


def _fault_current(need: Need, part: Part) -> str | None:
    if need.fault_current_a is None:
        return None
    offered = part.marking.duty.fault_current_a if part.marking.duty else None
    if offered is None or offered < need.fault_current_a:
        return f"Fault current protection below the old part's {need.fault_current_a:g} A."
    return None


def _temperature(need: Need, part: Part) -> str | None:
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
    if policy.larger or part.marking.capacitance_f <= need.marked_f * (1 + 1e-9):
        return None
    return f"Workshop policy: nothing larger than the marked {show(need.marked_f, 'F')}."


def _dual(need: Need, part: Part, policy: Policy) -> str | None:
    if policy.dual != "singles" or len(need.sections_f) < 2:
        return None
    return "Workshop policy: singles in the place of a dual."


def _place_read(need: Need, part: Part) -> str | None:
    return f"{need.open_question} Until the old part's marking is settled nothing takes its place." if need.open_question else None


def _part_read(need: Need, part: Part) -> str | None:
    doubts = part.marking.doubts
    return f"{doubts[0].asks} Until its marking is settled it takes no place." if doubts else None


def _ripple(need: Need, part: Part) -> str | None:
    return _less("ripple current", need.old.ripple_a, part.ripple_a, "A")


def _peak(need: Need, part: Part) -> str | None:
    return _less("peak current", need.old.peak_a, part.peak_a, "A")


def _pulse(need: Need, part: Part) -> str | None:
    return _less("dv/dt", need.old.dvdt_v_s, part.dvdt_v_s, "V/s")


def _less(what: str, asked: float | None, stands: float | None, unit: str) -> str | None:
    """A sentence where a part stands less than is known to be asked, or nobody knows what it stands."""
    if asked is None or (stands is not None and stands >= asked):
        return None
    of_old = f"the place asks for {show(asked, unit)}"
    return f"Its {what} is not on record; {of_old}." if stands is None else f"Its {what} is {show(stands, unit)}; {of_old}."


def _esr(need: Need, part: Part) -> str | None:
    asked, has = need.old.esr_ohm, part.esr_ohm
    if asked is None or (has is not None and has <= asked):
        return None
    says = "not on record" if has is None else show(has, "Ω")
    return f"Its ESR is {says}; the place asks for at most {show(asked, 'Ω')}."


def _circuit(need: Need, part: Part) -> str | None:
    farads = part.marking.capacitance_f
    for limit in need.circuit:
        if farads < limit.farads if limit.least else farads > limit.farads:
            return f"{show(farads, 'F')}: {limit.beyond}."
    return None


def _space(need: Need, part: Part) -> str | None:
    return fit.too_big(need, part)


def _pitch(need: Need, part: Part) -> str | None:
    return fit.pitch_too_far(need, part)


SAFETY, MOTOR_SOURCE, OLD, SHEETS = "IEC 60384-14", "IEC 60252-1", "the old part's marking", "data sheets"
CIRCUIT = "its circuit at the highest mains (IEC 60038), the old part's marking"
AS_MADE = (  # of these the plainest alone speaks
    ("role.polarity", "No electrolytic where the voltage turns round", "IEC 60384-4"),
    ("role.start_for_run", "No start part in a run place", MOTOR_SOURCE),
    ("role.dc_on_mains", "No DC part on the mains", "IEC 60384-14, IEC 61071"),
    ("role.motor_part", "A run place takes motor run parts", MOTOR_SOURCE),
    ("role.pulse_store", "An energy store takes pulse parts", "IEC 60384-4, what it is made for"),
    ("role.flash_for_filter", "No flash part in a filter", "what it is made for"),
    ("kind.old", "Made as the old part is", "what the old part is made as"),
    ("role.kind", "A kind of part made for the place", "table roles"),
)
HARD_RULES = (
    HardRule(
        "marking.place",
        "The old part's marking is read one way only",
        OLD,
        ALL,
        _plain(_place_read),
    ),
    HardRule("marking.provisional", "Its marking is read one way only", "its marking", ALL, _plain(_part_read)),
    *(HardRule(key, title, source, ALL, _as_made(key)) for key, title, source in AS_MADE),
    HardRule("duty.service", "Made for continuous service", MOTOR_SOURCE, ALL, _plain(short_service)),
    HardRule("class.safety", "Safety class", SAFETY, ALL, _plain(_safety_class)),
    HardRule(
        "voltage.unknown",
        "The volts of the place are known",
        CIRCUIT,
        ALL,
        _plain(lambda need, _: volts.unknown(need)),
    ),
    HardRule("voltage.safety", "Rated voltage of the class not below the supply", SAFETY, ALL, _plain(volts.class_too_low)),
    HardRule(
        "voltage.ac",
        "AC volts not below those of its circuit",
        CIRCUIT,
        ALL,
        _plain(volts.ac_too_low),
    ),
    HardRule(
        "voltage.dc",
        "DC volts not below those of its circuit",
        CIRCUIT,
        ALL,
        _plain(volts.dc_too_low),
    ),
    HardRule(
        "touch.current",
        "Touch current within its limit",
        "2π f 1.1 V C; limits in the table of limits",
        ALL,
        _plain(_touch),
    ),
    HardRule("sections.count", "As many sections as the place", "its marking", ALL, _plain(_sections)),
    HardRule(
        "duty.operating_class",
        "Operating class not lower",
        MOTOR_SOURCE,
        RUN,
        _plain(_operating_class),
    ),
    HardRule("duty.protection", "Protection class not lower", MOTOR_SOURCE, RUN, _plain(_protection)),
    HardRule(
        "duty.fault_current",
        "Fault current not lower",
        "UL 810",
        RUN,
        _plain(_fault_current),
    ),
    HardRule("pulse.dvdt", "dv/dt not lower", SHEETS, PULSED, _plain(_pulse)),
    HardRule("pulse.peak", "Peak current not lower", SHEETS, PULSED, _plain(_peak)),
    HardRule(
        "class.live_chassis",
        "Nothing to a live chassis",
        "licensed practice",
        ALL,
        _plain(_live_chassis),
        demand=True,
    ),
    HardRule("voltage.old", "Volts at least the old part's", OLD, ALL, _plain(volts.below_the_old), demand=True),
    HardRule(
        "circuit.simulated",
        "Capacitance the circuit allows",
        "simulation of the circuit",
        ALL,
        _plain(_circuit),
        demand=True,
    ),
    HardRule(
        "capacitance.window",
        "Capacitance in the window of the role",
        "the marking, the role's window",
        ALL,
        _plain(_window),
        demand=True,
    ),
    HardRule("value.tolerance", "Tolerance not wider", OLD, EXACT, _plain(_tolerance), demand=True),
    HardRule(
        "ripple.current",
        "Ripple current not lower",
        SHEETS,
        RIPPLED,
        _plain(_ripple),
        demand=True,
    ),
    HardRule("esr.higher", "ESR not higher", SHEETS, RIPPLED, _plain(_esr), demand=True),
    HardRule(
        "temperature.upper",
        "Upper temperature not lower",
        "IEC 60068-1",
        ALL,
        _plain(_temperature),
        demand=True,
    ),
    HardRule("policy.salvaged", "Salvaged parts", "workshop policy", ALL, _salvaged, demand=True),
    HardRule("policy.larger", "Larger than marked", "workshop policy", ALL, _larger, demand=True),
    HardRule("policy.dual", "Singles for a dual", "workshop policy", RUN, _dual, demand=True),
    HardRule("fit.space", "Fits the space there is", "measured space", ALL, _plain(_space), demand=True),
    HardRule(
        "fit.pitch",
        "Terminals that reach its holes",
        "lead pitches of IEC 60384-14 film parts",
        ALL,
        _plain(_pitch),
        demand=True,
    ),
)
WHEN: Mapping[str, Callable[[Need], object]] = {  # what a rule looks at is asked for at all; the others look at every part
    "marking.place": lambda need: need.open_question,
    "class.safety": lambda need: need.sections_classes,
    "voltage.unknown": volts.unknown,
    "voltage.safety": lambda need: need.sections_classes,
    "voltage.ac": lambda need: need.floor(alternating=True),
    "voltage.dc": lambda need: need.floor(alternating=False),
    "touch.current": _may_lead_to_chassis,
    "duty.operating_class": lambda need: need.duty,
    "duty.protection": lambda need: need.protection,
    "duty.fault_current": lambda need: need.fault_current_a,
    "pulse.dvdt": lambda need: need.old.dvdt_v_s,
    "pulse.peak": lambda need: need.old.peak_a,
    "class.live_chassis": lambda need: need.live_chassis,
    "circuit.simulated": lambda need: need.circuit,
    "ripple.current": lambda need: need.old.ripple_a,
    "esr.higher": lambda need: need.old.esr_ohm,
    "temperature.upper": lambda need: need.upper_c is not None,
    "fit.space": lambda need: need.space_mm,
    "fit.pitch": lambda need: need.pitch_mm,
}
HARD_IDS = frozenset(rule.id for rule in HARD_RULES if not rule.demand)
BY_ID = {rule.id: rule for rule in HARD_RULES}
OF_WHAT_IT_IS = frozenset(key for key, _, _ in AS_MADE)


def rules_for(need: Need, but: Collection[str] = frozenset()) -> tuple[HardRule, ...]:
    """The rules that have something to look at in a place, in their order.

    :param need: what the place demands
    :param but: ids of rules that are not asked
    :returns: rules; of those of what a part is made as the first stands for all
    :raises InputError: never
    :source: each rule names its own
    """
    rest = OF_WHAT_IT_IS - {AS_MADE[0][0]}
    asked = (rule for rule in HARD_RULES if rule.id not in but and rule.id not in rest and rule.applies(need.role))
    return tuple(rule for rule in asked if rule.id not in WHEN or WHEN[rule.id](need))


def refusals_of(need: Need, part: Part, policy: Policy, rules: Iterable[HardRule]) -> Iterator[tuple[HardRule, str]]:
    """Every rule that refuses a part, with its sentence; those of what it is made as looked at once for all of them.

    :param need: what the place demands
    :param part: the part offered
    :param policy: of the workshop
    :param rules: of `rules_for`
    :returns: rules with their sentences, in the order of the rules
    :raises InputError: never
    :source: each rule names its own
    """
    for rule in rules:
        if rule.id in OF_WHAT_IT_IS:
            made = refused_as_made(need, part)
            if made:
                yield BY_ID[made[0]], made[1]
        elif sentence := rule.check(need, part, policy):
            yield rule, sentence
