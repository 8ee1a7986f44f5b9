"""What a part loses in each respect: the order of preference among parts that may take a place."""

from collections.abc import Iterator

from dusky_heron.core.markings.ratings import MOTOR
from dusky_heron.core.model import Candidate, Need, Origin, Part, Point, Role
from dusky_heron.core.quantities import show
from dusky_heron.core.selection.kinds import ELECTROLYTIC, PULSED, RUN
from dusky_heron.core.selection.rules import RIPPLED, chassis_f
from dusky_heron.core.selection.volts import offered_ac, sections_of

# Points: one is the work of bending leads by a step. 10 is a value off by all of itself, so 1 % off is a tenth of a bend.
VALUE, BEND, NONE_LEFT, TIGHT_VOLTS, NO_HUMIDITY_GRADE, BEYOND, SALVAGED, OLD_STOCK = 10.0, 1.0, 2.0, 1.0, 0.5, 3.0, 3.0, 0.5
PREFERRED_OVER_NOMINAL = 1.1
WIDE_MARGIN_V, BELOW_WIDE = 305.0, 0.3  # 305 to 310 V parts over 275 V ones on 220 to 240 V
ON_230 = (220.0, 240.0)
HUMID = (Role.X, Role.DROPPER)
UNKNOWN_C = -273.0


def points_of(need: Need, part: Part, adaptations: tuple[str, ...]) -> tuple[Point, ...]:
    """What a part loses in each respect, coarse ones first; every part of a need has the same respects in the same order.

    :param need: what the place demands
    :param part: a part that no rule refuses
    :param adaptations: what it takes to make it fit
    :returns: points
    :raises InputError: never
    :source: trade preference: value, voltage margin, humidity grade, work; then temperature, ripple, operating class, date, bleeder
    """
    return (*_coarse(need, part, adaptations), *_fine(need, part))


def order_of(candidate: Candidate) -> tuple[object, ...]:
    """What candidates are sorted by: the score, then each finer respect, the price between equals."""
    fine = tuple(point.points for point in candidate.points if point.fine)
    return (candidate.score, *fine, candidate.part.price or 0.0, candidate.part.part_id)


def off_value(need: Need, part: Part) -> float:
    """How far the worst section lies from the marked value, as a fraction."""
    return max([abs(section.capacitance_f / need.sections_f[k][1] - 1) for k, section in sections_of(need, part)])


def _coarse(need: Need, part: Part, adaptations: tuple[str, ...]) -> Iterator[Point]:
    off = off_value(need, part)
    yield Point("value", round(VALUE * off, 9), "as marked" if off < 1e-6 else f"{off * 100:.2g} % off")
    rated, supply = _mains_volts(need, part), need.supply_v or 0.0
    tight = TIGHT_VOLTS if rated and supply and rated < PREFERRED_OVER_NOMINAL * supply else 0.0
    low = ON_230[0] <= supply <= ON_230[1] and need.role in HUMID and rated is not None and rated < WIDE_MARGIN_V
    yield Point("voltage margin", tight + (BELOW_WIDE if low else 0.0), f"{rated:g} V" if rated else "no AC volts")
    if need.role in HUMID:
        says = "tested under humidity" if part.humidity_grade else "no humidity grade"
        yield Point("grade", 0.0 if part.humidity_grade else NO_HUMIDITY_GRADE, says)
    if need.role in RUN:
        protection = part.marking.duty.protection_class if part.marking.duty else None
        rank = MOTOR["protection_rank"][protection] if protection else None
        loses = 0.5 if rank is None else 0.0 if rank >= 2 else 0.25
        yield Point("protection", loses, protection or "none printed")
    work = max(0, len(adaptations) - 1)  # the last is the distance to keep
    yield Point("fit", BEND * work, f"{work} adaptation{'s' * (work != 1)}" if work else "as it is")
    leads = chassis_f(need, part)
    farads = leads if leads and need.touch else part.marking.highest_f
    beyond = [limit for limit in need.beyond if farads > limit.farads * (1 + 1e-9)]
    yield Point("surroundings", BEYOND * len(beyond), "a limit to decide about" if beyond else "within their limits")
    unused = {Origin.NEW: 0.0, Origin.OLD_STOCK: OLD_STOCK if part.kind in ELECTROLYTIC else 0.0, Origin.SALVAGED: SALVAGED}
    yield Point("origin", unused[part.origin], "new" if part.origin is Origin.NEW else part.origin.replace("_", " "))
    yield Point("stock", NONE_LEFT if part.quantity < 1 else 0.0, "in the drawer" if part.quantity else "to be ordered")


def _mains_volts(need: Need, part: Part) -> float | None:
    """The AC volts to rely on, of the class where one is asked for."""
    classed = [one.rated_ac_v for one in part.marking.classes if one.rated_ac_v] if need.sections_classes else []
    return min(classed) if classed else offered_ac(need, part.marking)


def _fine(need: Need, part: Part) -> Iterator[Point]:
    upper = part.marking.climate.upper_c if part.marking.climate else UNKNOWN_C
    yield Point("temperature", -upper, f"{upper:g} °C" if upper > UNKNOWN_C else "none printed", fine=True)
    if need.role in RIPPLED:
        yield Point(
            "ripple current", -(part.ripple_a or 0.0), show(part.ripple_a, "A") if part.ripple_a else "not known", fine=True
        )
    if need.role in PULSED:
        steep = part.dvdt_v_s
        yield Point("dv/dt", -(steep or 0.0), f"{steep / 1e6:g} V/µs" if steep else "not known", fine=True)
    if need.role in RUN:
        pairs = part.marking.duty.pairs if part.marking.duty else ()
        hours = max((MOTOR["operating_class_hours"][name] for name, _ in pairs), default=0)
        yield Point("operating class", -float(hours), f"{hours} h" if hours else "none printed", fine=True)
    yield Point("date", -(part.made or 0.0), f"{int(part.made)}" if part.made else "no date", fine=True)
    unused = {Origin.NEW: 0.0, Origin.OLD_STOCK: 1.0, Origin.SALVAGED: 2.0}[part.origin]
    yield Point("age", unused, part.origin.replace("_", " "), fine=True)
    kept = not need.old.bleeder_ohm or bool(part.marking.bleeder_ohm)
    yield Point("bleeder", 0.0 if kept else 1.0, "kept" if kept else "lost", fine=True)


def reasons_of(need: Need, part: Part) -> tuple[str, ...]:
    """What speaks for a part and against it, in sentences.

    :param need: what the place demands
    :param part: a part that no rule refuses
    :returns: sentences
    :raises InputError: never
    :source: the two markings
    """
    off = off_value(need, part)
    values = " + ".join(show(s.capacitance_f, "F") for s in part.marking.sections)
    found = [f"{values}, as marked." if off < 1e-6 else f"{values}, {off * 100:.0f} % from the marked value."]
    rated, supply = _mains_volts(need, part), need.supply_v or 0.0
    classed = [asked.old_v for section in need.sections_classes for asked in section if asked.old_v]
    ac, dc = need.floor(alternating=True), need.floor(alternating=False)
    was = min(classed) if classed else ac.old_v if ac else None
    if rated and was:
        found.append(f"{rated:g} V AC for the old {was:g} V AC.")
    if rated and supply and rated < PREFERRED_OVER_NOMINAL * supply:
        found.append("Less than 10 % above the nominal supply.")
    if need.role in RUN:
        protection = part.marking.duty.protection_class if part.marking.duty else None
        found.append(f"{protection}: {MOTOR['protection_means'][protection]}." if protection else "No protection class printed.")
    if need.role in HUMID and not part.humidity_grade:
        found.append("Not a humidity-tested grade.")
    if dc and dc.old_v and part.marking.rated_dc_v:
        found.append(f"{part.marking.rated_dc_v:g} V DC for the old {dc.old_v:g} V DC.")
    return tuple(found)
