"""How a place is filled: by one part, by several together, by none, or by one that is still to be bought."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from enum import StrEnum

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings.model import Marking, Section
from dusky_heron.core.model import KIND_TITLES, LEAD_FORM_TITLES, ROLES, Need
from dusky_heron.core.quantities import show
from dusky_heron.core.selection.kinds import CONTINUOUS, kinds_for
from dusky_heron.core.selection.need import describe
from dusky_heron.core.selection.rules import EXACT


class Way(StrEnum):
    """How a place is filled."""

    SINGLE = "single"
    PARALLEL = "parallel"
    SERIES = "series"
    SINGLES = "singles"
    REMOVED = "removed"
    LEFT = "left"
    ORDERED = "ordered"


WAY_TITLES: Mapping[Way, str] = {
    Way.SINGLE: "one part",
    Way.PARALLEL: "two in parallel",
    Way.SERIES: "two in series",
    Way.SINGLES: "a single for each section",
    Way.REMOVED: "removed, left empty",
    Way.LEFT: "left as it was",
    Way.ORDERED: "to be ordered",
}
WITH_PARTS = frozenset({Way.SINGLE, Way.PARALLEL, Way.SERIES, Way.SINGLES})
TOGETHER = frozenset({Way.PARALLEL, Way.SERIES, Way.SINGLES})


def as_one(way: Way, parts: Sequence[Marking]) -> Marking:
    """What parts put together are to the place: as one marking, its sections worked out, its text that of the first.

    :param way: single, parallel, series or singles
    :param parts: the markings of the parts, in the order of the sections they take
    :returns: Marking
    :raises InputError: no part (`parts`)
    :source: capacitances in parallel add up, of two equal ones in series each is halved; the lower rating binds, in series both add
    """
    if not parts:
        raise InputError("parts", "Name the parts.")
    first, sections = parts[0], [section for marking in parts for section in marking.sections]
    if way is Way.SINGLE or len(parts) == 1:
        return first
    if way is Way.SINGLES:
        classes = tuple({one.name: one for section in sections for one in section.classes}.values())
        return replace(first, sections=tuple(sections), classes=classes)
    volts = [section.rated_dc_v for section in sections if section.rated_dc_v]
    if way is Way.PARALLEL:
        whole, dc = 1.0, min(volts, default=None)
    else:
        whole, dc = 1 / len(parts) ** 2, sum(volts) if len(volts) == len(sections) else None
    one = Section(
        sum(section.capacitance_f for section in sections) * whole,
        sum(section.lowest_f for section in sections) * whole,
        sum(section.highest_f for section in sections) * whole,
        sections[0].classes,
        dc,
        min((section.rated_ac_v for section in sections if section.rated_ac_v), default=None),
    )
    return replace(first, sections=(one,), rated_dc_v=dc)


def specification(need: Need, count: int = 1) -> tuple[str, ...]:
    """All that a supplier has to know of a part that the place takes, a line each.

    :param need: what the place demands
    :param count: how many the place holds
    :returns: lines
    :raises InputError: nothing may take the place yet, for what is not known of it (`way`)
    :source: the need itself
    """
    title, kinds = ROLES[need.role].title, " or ".join(KIND_TITLES[kind] for kind in kinds_for(need))
    marked = " + ".join(show(farads, "F") for _, farads, _ in need.sections_f)
    lines = [f"Capacitor: {title}" if title == kinds else f"Capacitor: {kinds}, for {title}", f"Marked {marked}"]
    lines += [said[:1].upper() + said[1:] for said in describe(need)]
    if need.spread and need.role in EXACT:
        minus, plus = need.spread[0]
        lines.append(f"Tolerance {minus * 100:+.3g}/{plus * 100:+.3g} % or closer")
    lines += ["Continuous duty"] if need.role in CONTINUOUS and ROLES[need.role].volts == "ac" else []
    known = need.old
    figures = (
        ("Ripple current at least", known.ripple_a, "A"),
        ("ESR at most", known.esr_ohm, "Ω"),
        ("dv/dt at least", known.dvdt_v_s, "V/s"),
        ("Peak current at least", known.peak_a, "A"),
        ("With an internal bleeder of about", known.bleeder_ohm, "Ω"),
        ("With a resistor in series inside of", known.series_ohm, "Ω"),
    )
    lines += [f"{says} {show(value, unit)}" for says, value, unit in figures if value]
    if need.space_mm:
        lines.append("Body at most " + " × ".join(f"{side:g}" for side in need.space_mm) + " mm")
    if need.mounting.lead_form:
        lines.append(f"Connected by {LEAD_FORM_TITLES[need.mounting.lead_form]}")
    return (*lines, f"Quantity {count}")
