"""The volts a part must have: never below its circuit's, below the old part's only with a reason, and never unknown."""

import math
from collections.abc import Iterable, Iterator

from dusky_heron.core.markings.model import Marking, Section
from dusky_heron.core.model import ClassNeed, Floor, Need, Part, Position
from dusky_heron.core.model.roles import MOTORS, ROLES, Volts
from dusky_heron.core.model.terms import ALTERNATING_BASES, DIRECT_BASES, Basis
from dusky_heron.core.model.voltages import RatingVoltage
from dusky_heron.core.quantities import show
from dusky_heron.core.selection.safety_class import acceptable_classes

NOT_PRINTED = "No AC voltage printed: cannot be relied on across the mains."
EXACT = 1e-9
ON_DIRECT = frozenset({*DIRECT_BASES, Basis.TRANSFORMER, Basis.BY_HAND})


def floors_of(position: Position, rating: RatingVoltage | None, *, classed: bool) -> tuple[Floor, ...]:
    """The floors of a place, in the kind it asks: alternating, direct, or what circuit and old part tell where it may be either.

    :param position: the place; its marking is the old part's
    :param rating: what a part of it must be rated for, None where its circuit is not known
    :param classed: whether it demands a safety class, which brings volts of its own
    :returns: at most one floor of either kind
    :raises InputError: never
    :source: the rating voltage of the place, the marking of the old part; the higher binds
    """
    old, volts = position.marking, ROLES[position.role].volts
    basis = position.surroundings.basis
    alternating = volts == Volts.AC or (volts == Volts.EITHER and (basis in ALTERNATING_BASES or bool(old.ac_ratings)))
    direct = volts == Volts.DC or (
        volts == Volts.EITHER and basis not in ALTERNATING_BASES and (basis in ON_DIRECT or bool(old.rated_dc_v))
    )

    def floor(kind: bool, own: float | None) -> Floor:
        if rating is None or rating.alternating != kind:
            return Floor(kind, None, own)
        return Floor(kind, rating.volts, own, rating.rests_on, rating.least)

    found = [floor(True, max(old.ac_ratings, default=None))] if alternating else []
    if direct and not (classed and rating is None and old.rated_dc_v is None):
        found.append(floor(False, old.rated_dc_v))
    return tuple(found)


def offered_ac(need: Need, marking: Marking) -> float | None:
    """The AC volts to rely on: of two on a motor part the higher, for it is good for both; elsewhere the lower."""
    ratings = marking.ac_ratings
    return (max(ratings) if need.role in MOTORS else min(ratings)) if ratings else None


def offered_dc(section: Section, marking: Marking) -> float | None:
    """The DC volts of a section: as printed, or the peak of its AC volts where it prints no other."""
    if section.rated_dc_v is not None:
        return section.rated_dc_v
    alternating = section.rated_ac_v or marking.rated_ac_v
    return math.sqrt(2) * alternating if alternating and marking.rated_dc_v is None else None


def sections_of(need: Need, part: Part) -> Iterable[tuple[int, Section]]:
    """Each section of a place with the one offered for it, by size: a dual may be printed 30+5 or 5+30."""
    if len(need.sections_f) == len(part.marking.sections) == 1:
        return ((0, part.marking.sections[0]),)
    wanted = sorted(range(len(need.sections_f)), key=lambda k: need.sections_f[k][1])
    return zip(wanted, sorted(part.marking.sections, key=lambda section: section.capacitance_f), strict=False)


def _classes(need: Need, part: Part) -> Iterator[tuple[ClassNeed, float | None]]:
    """Each class asked for, with the rated volts of the class relied on for it; without those that the part has no class for."""
    for number, section in sections_of(need, part):
        for asked in need.sections_classes[number] if need.sections_classes else ():
            takes = acceptable_classes(asked.name)
            own = section.classes or part.marking.classes
            relied = [one.rated_ac_v for one in own if one.name in takes]
            if relied:
                yield asked, max((v for v in relied if v), default=None)


def _without_class(need: Need) -> bool:
    return not all(need.sections_classes) if need.sections_classes else True


def class_too_low(need: Need, part: Part) -> str | None:
    """A class rated below the supply, or below the old part's where the supply is not known."""
    for asked, rated in _classes(need, part):
        if rated is None:
            return NOT_PRINTED
        if need.supply_v is not None and rated < need.supply_v:
            return f"{rated:g} V AC is below the {need.supply_v:g} V supply."
        if need.supply_v is None and asked.old_v and rated < asked.old_v:
            return f"{rated:g} V AC is below the old part's {asked.old_v:g} V AC, and the supply is not known."
    return None


def ac_too_low(need: Need, part: Part) -> str | None:
    """AC volts below what nobody may go below."""
    floor = need.floor(alternating=True)
    if floor is None or floor.hard_v is None or not _without_class(need):
        return None
    rated = offered_ac(need, part.marking)
    return NOT_PRINTED if rated is None else _below(rated, floor, "AC") if rated < floor.hard_v * (1 - EXACT) else None


def _below(rated: float, floor: Floor, kind: str) -> str:
    if floor.circuit_v is not None and rated < floor.circuit_v:
        return f"{rated:.4g} V {kind} is below the {floor.circuit_v:.4g} V of its place: {floor.rests_on}."
    return f"{rated:.4g} V {kind} is below the old part's {floor.old_v or 0:.4g} V {kind}. Its circuit is not known."


def _dc_sections(need: Need, part: Part) -> Iterator[tuple[float, float | None, Floor]]:
    """Marked farads, volts offered and floor of each section; one of less volts than the highest stands elsewhere."""
    floor = need.floor(alternating=False)
    if floor is None:
        return
    own = need.sections_dc_v
    for number, section in sections_of(need, part):
        volts = own[number] if own else floor.old_v
        elsewhere = bool(own) and volts is not None and volts < max(own)
        yield (
            need.sections_f[number][1],
            offered_dc(section, part.marking),
            Floor(False, None, volts) if elsewhere else Floor(False, floor.circuit_v, volts, floor.rests_on, floor.least),
        )


def dc_too_low(need: Need, part: Part) -> str | None:
    """DC volts of a section below what nobody may go below."""
    for farads, rated, floor in _dc_sections(need, part):
        if floor.hard_v is None:
            continue
        which = f" (the {show(farads, 'F')})" if len(need.sections_f) > 1 else ""
        if rated is None:
            return f"No DC voltage printed{which}; its place asks for {floor.hard_v:.4g} V DC."
        if rated < floor.hard_v * (1 - EXACT):
            return _below(rated, floor, f"DC{which}")
    return None


def below_the_old(need: Need, part: Part) -> str | None:
    """Volts that its circuit allows, below the old part's."""
    for asked, rated in _classes(need, part):
        if need.supply_v is not None and rated and asked.old_v and need.supply_v <= rated < asked.old_v:
            return f"{rated:g} V AC is below the old part's {asked.old_v:g} V AC, though not below the {need.supply_v:g} V supply."
    floor, alternating = need.floor(alternating=True), offered_ac(need, part.marking)
    if floor and alternating and _without_class(need) and _between(alternating, floor):
        return _though(alternating, floor, "AC")
    for _, rated, own in _dc_sections(need, part):
        if rated and _between(rated, own):
            return _though(rated, own, "DC")
    return None


def _though(rated: float, floor: Floor, kind: str) -> str:
    below = f"{rated:.4g} V {kind} is below the old part's {floor.old_v:g} V {kind}"
    return f"{below}, though not below the {floor.circuit_v:.4g} V of its place."


def _between(rated: float, floor: Floor) -> bool:
    return floor.hard_v is not None and floor.old_v is not None and floor.hard_v * (1 - EXACT) <= rated < floor.old_v * (1 - EXACT)


def unknown(need: Need) -> str:
    """What is to be asked where neither the circuit nor the old part tell what volts are asked for; "" where they do.

    :param need: what the place demands
    :returns: a question or ""
    :raises InputError: never
    :source: not known is never a pass
    """
    for classes in need.sections_classes:
        if any(asked.old_v is None for asked in classes) and need.supply_v is None:
            return "What is the supply across it? Neither that nor the old part's rated volts are known."
    bare = _without_class(need)
    open_floors = [floor for floor in need.floors if floor.hard_v is None and (bare or not floor.alternating)]
    if open_floors or (bare and not need.floors):
        kind = "AC" if open_floors and open_floors[0].alternating else "DC" if open_floors else "AC or DC"
        return f"What volts ({kind}) lie across it in normal work? Neither its circuit nor the old part's rating is known."
    return ""
