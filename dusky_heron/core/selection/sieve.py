"""What a part must at least be to be worth judging: conditions a database can hold, each necessary for a rule of the core."""

import math
from dataclasses import dataclass, replace

from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import ROLES, Need, Origin, Part, Policy
from dusky_heron.core.model.roles import POLARISED
from dusky_heron.core.selection import fit
from dusky_heron.core.selection.rules import ACROSS_MAINS, ON_AC
from dusky_heron.core.selection.safety_class import acceptable_classes


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


@dataclass(frozen=True, slots=True)
class Sieve:
    """Necessary conditions of an accepted part; None where there is none. Ranges hold both ends."""

    kinds: tuple[str, ...]
    sections: int
    classes: tuple[tuple[str, ...], ...]
    ac_low_v: float
    ac_high_v: float
    dc_v: float
    low_f: float | None
    high_f: float | None
    upper_c: float | None
    no_salvaged: bool
    pitch_mm: tuple[float, float] | None
    space_mm: tuple[float, float, float] | None
    marked_f: float

    def refuses(self, part: Part) -> str | None:
        """The rule by which a part falls through, in the order a database asks; None for one that is worth judging."""
        traits = traits_of(part.marking)
        size, space, pitch, asked = part.size_mm, self.space_mm, part.pitch_mm, self.pitch_mm
        misses = (
            ("role.kind", part.kind.value not in self.kinds),
            ("marking.provisional", traits.provisional),
            ("class.safety", not all(any(f" {name} " in traits.classes for name in wanted) for wanted in self.classes)),
            ("voltage.ac", traits.ac_low_v < self.ac_low_v or traits.ac_high_v < self.ac_high_v),
            ("voltage.dc", traits.dc_v < self.dc_v),
            ("sections.count", traits.sections != self.sections),
            ("capacitance.window", not (self.low_f or 0.0) <= traits.capacitance_f <= (self.high_f or math.inf)),
            ("temperature.upper", self.upper_c is not None and traits.upper_c < self.upper_c),
            ("policy.salvaged", self.no_salvaged and part.origin is Origin.SALVAGED),
            ("fit.space", space is not None and size is not None and not _fits(size, space)),
            ("fit.pitch", asked is not None and pitch is not None and not asked[0] <= pitch <= asked[1]),
        )
        return next((rule_id for rule_id, missed in misses if missed), None)


def sieve_of(need: Need, policy: Policy) -> Sieve:
    """The sieve of a need: looser than the rules, never tighter; a demand that was overridden sieves nothing.

    :param need: what the place demands
    :param policy: of the workshop, with what was overridden
    :returns: Sieve
    :raises InputError: never
    :source: each condition is implied by the rule whose id it carries
    """

    def asked(rule_id: str) -> bool:
        return rule_id not in policy.overridden

    low: float | None = None
    high: float | None = None
    if asked("capacitance.window"):
        low, high = (sum(section[k] for section in need.sections_f) for k in (0, 2))
        low, high = low * (1 - 1e-9), high * (1 + 1e-9)
    if asked("circuit.simulated"):
        for limit in need.circuit:
            low, high = (max(low or 0.0, limit.farads), high) if limit.least else (low, min(high or math.inf, limit.farads))
    supply, old = need.supply_v or 0.0, need.old_ac_ratings
    mains = need.role in ACROSS_MAINS
    return Sieve(
        kinds=ROLES[need.role].kinds,
        sections=len(need.sections_f),
        classes=tuple(acceptable_classes(name) for name in need.place_classes),
        ac_low_v=max(supply, min(old, default=0.0)) if need.role in ON_AC else 0.0,
        ac_high_v=max(supply, max(old, default=0.0) if need.role in ON_AC else 0.0) if mains else 0.0,
        dc_v=need.old_dc_v or 0.0,
        low_f=low,
        high_f=high,
        upper_c=need.upper_c if asked("temperature.upper") else None,
        no_salvaged=asked("policy.salvaged") and need.role not in policy.salvaged_roles,
        pitch_mm=_pitches(need) if need.pitch_mm and asked("fit.pitch") else None,
        space_mm=need.space_mm if asked("fit.space") else None,
        marked_f=sum(section[1] for section in need.sections_f),
    )


def loosened(sieve: Sieve, need: Need) -> Sieve:
    """The sieve of parts that may take a place together: each a single below the whole value, its fit not asked yet.

    :param sieve: of the need
    :param need: what the place demands
    :returns: Sieve; without the class of a Y1, which two Y2 may take, and without the volts of a string
    :raises InputError: never
    :source: as `sieve_of`
    """
    return replace(
        sieve,
        sections=1,
        low_f=None,
        high_f=sieve.high_f * 2 if sieve.high_f and need.role in POLARISED else sieve.high_f,
        classes=() if "Y1" in need.place_classes else sieve.classes,
        ac_high_v=0.0 if "Y1" in need.place_classes else sieve.ac_high_v,
        dc_v=0.0,
        pitch_mm=None,
        space_mm=None,
    )


def _pitches(need: Need) -> tuple[float, float]:
    """From the least to the most pitch within a step of any of the board's holes."""
    within = [fit.pitches_within(pitch) for pitch in fit.holes(need)]
    return min(low for low, _ in within), max(high for _, high in within)


def _fits(body: tuple[float, float, float], space: tuple[float, float, float]) -> bool:
    return all(b <= s for b, s in zip(sorted(body[:2]), sorted(space[:2]), strict=True)) and body[2] <= space[2]
