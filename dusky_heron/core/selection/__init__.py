"""The right replacement: what the place demands, hard refusals, then ranking."""

import math
from collections.abc import Iterable

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.markings.ratings import MOTOR
from dusky_heron.core.model import (
    Candidate,
    Need,
    Part,
    Policy,
    Position,
    Refusal,
    Rejected,
    Role,
    Selection,
)
from dusky_heron.core.quantities import show, show_range
from dusky_heron.core.selection import fit
from dusky_heron.core.selection.rules import HARD_RULES, SAFETY_ROLES
from dusky_heron.core.tables import toml_table

RANKED_ROLES = frozenset({Role.MOTOR_RUN, Role.X})
DEFAULT_POLICY = Policy()
PREFERRED_OVER_NOMINAL = 1.1


def need_of(position: Position) -> Need:
    """What a position demands of a replacement, from its role, its old part's marking, its supply and its space.

    :param position: the place; its marking is the old part's
    :returns: Need with a capacitance window for each section (farads) and the ratings not to fall below
    :raises InputError: a role the drawer is not ranked for yet (field `role`), or a start part in a run place (`marking`)
    :source: windows by role in the table `replacement_windows`; ratings IEC 60252-1, IEC 60384-14
    """
    if position.role not in RANKED_ROLES:
        raise InputError("role", "The drawer is ranked for motor run and X places so far; choose by the standard here.")
    if position.role == Role.MOTOR_RUN and position.marking.printed_range:
        raise InputError(
            "marking", "A start capacitor in a run place says nothing about it: take the value from the motor's plate."
        )
    window = toml_table("replacement_windows")[position.role]
    old = position.marking
    classes = _place_classes(position, old)
    return Need(
        role=position.role,
        sections_f=tuple(
            (s.capacitance_f * (1 + window["minus"]), s.capacitance_f, s.capacitance_f * (1 + window["plus"])) for s in old.sections
        ),
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
    )


def describe(need: Need) -> tuple[str, ...]:
    """What a need demands, in short phrases to be read as one line.

    :param need: what the place demands
    """
    said = [f"{' and '.join(need.place_classes)} or better"] if need.place_classes else []
    said += [show_range(low, high, "F") for low, _, high in need.sections_f]
    volts = max(*need.old_ac_ratings, *need.class_volts, need.supply_v or 0.0, 0.0)
    said += [f"{volts:g} V AC or more"] if volts else []
    said += [f"class {name} or better at {rated:g} V" for name, rated in need.duty]
    said += [f"{need.protection} or better"] if need.protection else []
    said += [f"{need.upper_c:g} °C or more"] if need.upper_c is not None else []
    said += [f"pitch {need.pitch_mm:g} mm"] if need.pitch_mm else []
    return tuple(said)


def _place_classes(position: Position, old: Marking) -> tuple[str, ...]:
    if position.role not in SAFETY_ROLES:
        return ()
    return position.place_classes or old.class_names or ("X2",)


def _class_volts(classes: tuple[str, ...], old: Marking) -> tuple[float, ...]:
    """The old part's rated voltage for each class; where it has not that class, its highest AC rating."""
    own = {c.name: c.rated_ac_v for c in old.classes}
    return tuple(own.get(name) or max(old.ac_ratings, default=0.0) for name in classes)


def rank(need: Need, parts: Iterable[Part], policy: Policy = DEFAULT_POLICY) -> Selection:
    """Refuse what may not take the place, with every reason; rank the rest, best first.

    The score is a penalty, lower is better: distance from the marked value, missing preferred voltage margin or humidity
    grade, work to fit, none in the drawer.

    :param need: what the place demands
    :param parts: the drawer
    :param policy: what the workshop decided for itself
    :returns: Selection; rejected parts nearest in capacitance first, so that near misses are seen
    :raises InputError: never for parts that could be built
    :source: each refusal names its own
    """
    accepted, rejected = [], []
    rules = [rule for rule in HARD_RULES if rule.applies(need.role)]
    for part in parts:
        said = ((rule, rule.check(need, part, policy)) for rule in rules)
        refusals = tuple(Refusal(rule.id, sentence, rule.source) for rule, sentence in said if sentence)
        if refusals:
            rejected.append(Rejected(part, refusals))
        else:
            accepted.append(_candidate(need, part))
    accepted.sort(key=lambda c: (c.score, c.part.price or 0.0, c.part.part_id))
    rejected.sort(key=lambda r: (_distance(need, r.part), len(r.reasons), r.part.part_id))
    return Selection(tuple(accepted), tuple(rejected))


def _distance(need: Need, part: Part) -> float:
    """How far the capacitance lies from the marked value, as a ratio, whatever the number of sections."""
    marked = sum(section[1] for section in need.sections_f)
    return round(abs(math.log(part.marking.capacitance_f / marked)), 2)


def _candidate(need: Need, part: Part) -> Candidate:
    score, reasons, conditions = 0.0, [], []
    offered = sorted(section.capacitance_f for section in part.marking.sections)
    wanted = sorted(marked for _, marked, _ in need.sections_f)
    off = max(abs(have / want - 1) for have, want in zip(offered, wanted, strict=True))
    score += 10 * off
    values = " + ".join(show(s.capacitance_f, "F") for s in part.marking.sections)
    reasons.append(f"{values}, as marked." if off < 1e-6 else f"{values}, {off * 100:.0f} % from the marked value.")
    rated = part.marking.rated_ac_v
    if rated and need.old_ac_ratings:
        reasons.append(f"{rated:g} V AC for the old {min(need.old_ac_ratings):g} V AC.")
    if rated and need.supply_v and rated < PREFERRED_OVER_NOMINAL * need.supply_v:
        score += 1
        reasons.append("Less than 10 % above the nominal supply.")
    score += _duty_penalty(need, part, reasons)
    if need.role == Role.X and not part.humidity_grade:
        score += 0.5
        reasons.append("Not a humidity-tested grade.")
    adaptations = fit.adaptations(need, part)
    score += len(adaptations)
    if need.role == Role.X and part.marking.capacitance_f > sum(marked for _, marked, _ in need.sections_f):
        conditions.append("Larger than marked: check the discharge time at the plug and the standby current.")
    if part.quantity < 1:
        score += 2
        conditions.append("None in the drawer: order it.")
    return Candidate(part, round(score, 6), tuple(reasons), adaptations, tuple(conditions))


def _duty_penalty(need: Need, part: Part, reasons: list[str]) -> float:
    """A motor part that says nothing about its protection ranks behind one that fails open only."""
    if need.role != Role.MOTOR_RUN:
        return 0.0
    protection = part.marking.duty.protection_class if part.marking.duty else None
    if protection is None:
        reasons.append("No protection class printed.")
        return 0.5
    reasons.append(f"{protection}: {MOTOR['protection_means'][protection]}.")
    return 0.0 if MOTOR["protection_rank"][protection] >= 2 else 0.25
