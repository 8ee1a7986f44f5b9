"""What a part must at least be to be worth judging: conditions on plain columns, each necessary for a rule of the core.

A condition is said once, as data: here it is held against the traits of a part, and the drawer makes SQL of the same.
"""

import math
from collections.abc import Iterator, Mapping
from dataclasses import asdict, dataclass, replace
from typing import Any

from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import LeadForm, Need, Origin, Part, Policy, Role
from dusky_heron.core.model.roles import MOTORS, POLARISED
from dusky_heron.core.selection import fit, volts
from dusky_heron.core.selection.kinds import kinds_for
from dusky_heron.core.selection.safety_class import acceptable_classes

SLACK = 1e-9  # of a comparison of what was multiplied


@dataclass(frozen=True, slots=True)
class Traits:
    """What a marking says, as plain columns: volts, farads in all, sections, classes with a blank on either side of each.

    `provisional` while it leaves a question open.
    """

    capacitance_f: float
    sections: int
    ac_low_v: float
    ac_high_v: float
    dc_v: float
    upper_c: float
    classes: str
    provisional: bool = False


def traits_of(marking: Marking) -> Traits:
    """The traits of a marking; 0 volts and −273 °C where nothing is printed.

    :param marking: as read
    :returns: Traits
    :raises InputError: never
    :source: none
    """
    ratings = [*marking.ac_ratings, *(c.rated_ac_v for c in marking.classes if c.rated_ac_v)] or [0.0]
    return Traits(
        capacitance_f=marking.capacitance_f,
        sections=len(marking.sections),
        ac_low_v=min(marking.ac_ratings or (0.0,)),
        ac_high_v=max(ratings),
        dc_v=marking.rated_dc_v or 0.0,
        upper_c=marking.climate.upper_c if marking.climate else -273.0,
        classes="".join(f" {name} " for name in marking.class_names),
        provisional=marking.provisional,
    )


def columns_of(part: Part) -> dict[str, Any]:
    """A part as the columns that conditions speak of: its traits, what it is made as, its size and its terminals; None unknown.

    :param part: a part
    :returns: values by column
    :raises InputError: never
    :source: none
    """
    length, width, height = part.size_mm or (None, None, None)
    made = {"kind": part.kind.value, "origin": part.origin.value, "lead_form": part.lead_form.value if part.lead_form else ""}
    size = {"length_mm": length, "width_mm": width, "height_mm": height, "pitch_mm": part.pitch_mm}
    return asdict(traits_of(part.marking)) | made | size


@dataclass(frozen=True, slots=True)
class Below:
    """A column that is known and below a limit."""

    column: str
    limit: float

    def holds(self, columns: Mapping[str, Any]) -> bool:
        """Whether it does of a part."""
        return columns[self.column] is not None and columns[self.column] < self.limit


@dataclass(frozen=True, slots=True)
class Above:
    """A column that is known and above a limit."""

    column: str
    limit: float

    def holds(self, columns: Mapping[str, Any]) -> bool:
        """Whether it does of a part."""
        return columns[self.column] is not None and columns[self.column] > self.limit


@dataclass(frozen=True, slots=True)
class Among:
    """A column that is one of some values."""

    column: str
    values: tuple[Any, ...]

    def holds(self, columns: Mapping[str, Any]) -> bool:
        """Whether it does of a part."""
        return columns[self.column] in self.values


@dataclass(frozen=True, slots=True)
class Lacks:
    """A column of words that has none of some."""

    column: str
    words: tuple[str, ...]

    def holds(self, columns: Mapping[str, Any]) -> bool:
        """Whether it does of a part."""
        return not any(f" {word} " in columns[self.column] for word in self.words)


@dataclass(frozen=True, slots=True)
class Larger:
    """A body, turned to its best, that is known and larger than a space, mm."""

    space_mm: tuple[float, float, float]

    def holds(self, columns: Mapping[str, Any]) -> bool:
        """Whether it does of a part."""
        length, width, height = (columns[f"{side}_mm"] for side in ("length", "width", "height"))
        if not (length and width and height):
            return False
        small, large = sorted(self.space_mm[:2])
        return bool(min(length, width) > small or max(length, width) > large or height > self.space_mm[2])


@dataclass(frozen=True, slots=True)
class Not:
    """What does not hold."""

    of: "Condition"

    def holds(self, columns: Mapping[str, Any]) -> bool:
        """Whether it does of a part."""
        return not self.of.holds(columns)


@dataclass(frozen=True, slots=True)
class Every:
    """All of some conditions; of none: always."""

    of: tuple["Condition", ...] = ()

    def holds(self, columns: Mapping[str, Any]) -> bool:
        """Whether it does of a part."""
        return all(one.holds(columns) for one in self.of)


@dataclass(frozen=True, slots=True)
class Either:
    """At least one of some conditions."""

    of: tuple["Condition", ...]

    def holds(self, columns: Mapping[str, Any]) -> bool:
        """Whether it does of a part."""
        return any(one.holds(columns) for one in self.of)


Condition = Below | Above | Among | Lacks | Larger | Not | Every | Either
ALWAYS = Every()


@dataclass(frozen=True, slots=True)
class Miss:
    """What keeps a part away, and the rule that says so."""

    rule_id: str
    condition: Condition


@dataclass(frozen=True, slots=True)
class Sieve:
    """What keeps parts away from a place, in the order a database asks; the kinds and values left, of which an index serves."""

    kinds: tuple[str, ...]
    misses: tuple[Miss, ...]
    low_f: float | None
    high_f: float | None
    marked_f: float

    def refuses(self, part: Part) -> str | None:
        """The rule by which a part falls through; None for one that is worth judging."""
        columns = columns_of(part)
        return next((miss.rule_id for miss in self.misses if miss.condition.holds(columns)), None)

    def without(self, *rule_ids: str) -> "Sieve":
        """The same sieve with some of its conditions taken out."""
        return replace(self, misses=tuple(miss for miss in self.misses if miss.rule_id not in rule_ids))


def sieve_of(need: Need, policy: Policy) -> Sieve:
    """The sieve of a need: looser than the rules, never tighter; a demand that was overridden sieves nothing.

    :param need: what the place demands
    :param policy: of the workshop, with what was overridden
    :returns: Sieve
    :raises InputError: never
    :source: each condition is implied by the rule whose id it carries
    """
    kinds = tuple(kind.value for kind in kinds_for(need))
    low, high = _range(need, policy)
    misses = [Miss("role.kind", Not(Among("kind", kinds))), Miss("marking.provisional", Among("provisional", (True,)))]
    if need.open_question:
        misses.append(Miss("marking.place", ALWAYS))
    misses += [Miss("class.safety", Lacks("classes", acceptable_classes(name))) for name in need.place_classes]
    misses += _volts(need)
    misses.append(Miss("sections.count", Not(Among("sections", (len(need.sections_f),)))))
    if low is not None:
        misses.append(Miss("capacitance.window", Below("capacitance_f", low)))
    if high is not None:
        misses.append(Miss("capacitance.window", Above("capacitance_f", high)))
    if need.role is Role.Y and need.touch:
        most = need.touch.farads * (1 + SLACK)
        misses.append(Miss("touch.current", Above("capacitance_f", most)))
        high = min(most, high if high is not None else math.inf)
    misses += _rest(need, policy)
    standing = tuple(miss for miss in misses if miss.rule_id not in policy.overridden)
    return Sieve(kinds, standing, low, high, need.marked_f)


def _range(need: Need, policy: Policy) -> tuple[float | None, float | None]:
    """The least and most farads in all."""
    low: float | None = None
    high: float | None = None
    if "capacitance.window" not in policy.overridden:
        low, high = (sum(section[k] for section in need.sections_f) for k in (0, 2))
        low, high = low * (1 - SLACK), high * (1 + SLACK) if math.isfinite(high) else None
    if "circuit.simulated" not in policy.overridden:
        for limit in need.circuit:
            low, high = (max(low or 0.0, limit.farads), high) if limit.least else (low, min(high or math.inf, limit.farads))
    return low, high


def _volts(need: Need) -> Iterator[Miss]:
    """What the rules of volts imply of the highest and lowest rating of a part."""
    if volts.unknown(need):
        yield Miss("voltage.unknown", ALWAYS)
    classed = [asked for section in need.sections_classes for asked in section]
    if classed and need.supply_v:
        yield Miss("voltage.safety", Below("ac_high_v", need.supply_v))
        old = min((asked.old_v or 0.0 for asked in classed), default=0.0)
        yield Miss("voltage.old", Below("ac_high_v", old))
    floor = need.floor(alternating=True)
    if floor and not classed:
        rated = "ac_high_v" if need.role in MOTORS else "ac_low_v"
        yield Miss("voltage.ac", Below(rated, floor.hard_v or 0.0))
        yield Miss("voltage.old", Below(rated, floor.old_v or 0.0))
    floor = need.floor(alternating=False)
    if floor:
        for rule_id, asked in (("voltage.dc", floor.hard_v), ("voltage.old", floor.old_v)):
            by_peak = Every((Below("dc_v", math.ulp(0.0)), Not(Below("ac_high_v", (asked or 0.0) / math.sqrt(2) * (1 - SLACK)))))
            yield Miss(rule_id, Every((Below("dc_v", (asked or 0.0) * (1 - SLACK)), Not(by_peak))))


def _rest(need: Need, policy: Policy) -> Iterator[Miss]:
    if need.upper_c is not None:
        yield Miss("temperature.upper", Below("upper_c", need.upper_c))
    if need.role not in policy.salvaged_roles:
        yield Miss("policy.salvaged", Among("origin", (Origin.SALVAGED.value,)))
    if need.space_mm is not None:
        yield Miss("fit.space", Larger(need.space_mm))
    if need.pitch_mm and fit.leads_bound(need):
        low, high = _pitches(need)
        off = Either((Below("pitch_mm", low), Above("pitch_mm", high)))
        free = Among("lead_form", tuple(form.value for form in LeadForm if not fit.in_holes(need, form)))
        yield Miss("fit.pitch", Every((Not(free), off)))


def loosened(sieve: Sieve, need: Need) -> Sieve:
    """The sieve of parts that may take a place together: each a single below the whole value, its fit not asked yet.

    :param sieve: of the need
    :param need: what the place demands
    :returns: Sieve; without the classes that a pair or a network shares out, and without the volts of a string
    :raises InputError: never
    :source: as `sieve_of`
    """
    shared = "Y1" in need.place_classes or len(need.sections_f) > 1
    loose = sieve.without(
        "capacitance.window", "sections.count", "fit.space", "fit.pitch", "voltage.dc", "voltage.old", "temperature.upper",
        *(("class.safety", "voltage.safety", "voltage.ac") if shared else ()),
    )  # fmt: skip
    most = sieve.high_f * 2 if sieve.high_f and (need.role in POLARISED or shared) else sieve.high_f
    kept = (*loose.misses, Miss("sections.count", Not(Among("sections", (1,)))))
    above = (Miss("capacitance.window", Above("capacitance_f", most)),) if most else ()
    return replace(loose, misses=(*kept, *above), low_f=None, high_f=most)


def _pitches(need: Need) -> tuple[float, float]:
    """From the least to the most pitch within a step of any of the board's holes."""
    within = [fit.pitches_within(pitch) for pitch in fit.holes(need)]
    return min(low for low, _ in within), max(high for _, high in within)
