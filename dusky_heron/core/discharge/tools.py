"""Which resistors may empty a charge: one, or up to four in series, in parallel or two by two."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from dusky_heron.core.discharge.falling import TargetTime, target_times
from dusky_heron.core.discharge.limits import WorkingLimit
from dusky_heron.core.discharge.planning import PlannedCharge
from dusky_heron.core.errors import InputError
from dusky_heron.core.quantities import show
from dusky_heron.core.tables import toml_table

PULSE = toml_table("resistor_pulse")
PEAK_A: float = PULSE["peak_current_a"]
MIN_TAU_S: float = PULSE["min_tau_s"]
MOST_RESISTORS = 4


class Construction(StrEnum):
    """How a resistor is made, which sets the pulse it stands."""

    WIREWOUND = "wirewound"
    METAL_OXIDE = "metal_oxide"
    FILM = "film"


CONSTRUCTION_TITLES: Mapping[Construction, str] = {made: PULSE[made]["title"] for made in Construction}


class Shape(StrEnum):
    """How the resistors of a tool are connected; of pairs the first two and the last two belong together."""

    SINGLE = "single"
    SERIES = "series"
    PARALLEL = "parallel"
    SERIES_PAIRS = "series_pairs"
    PARALLEL_PAIRS = "parallel_pairs"


SHAPE_TITLES: Mapping[Shape, str] = {
    Shape.SINGLE: "one resistor",
    Shape.SERIES: "in series",
    Shape.PARALLEL: "in parallel",
    Shape.SERIES_PAIRS: "two series pairs in parallel",
    Shape.PARALLEL_PAIRS: "two parallel pairs in series",
}
OUTER_SERIES = frozenset({Shape.SINGLE, Shape.SERIES, Shape.PARALLEL_PAIRS})
PAIRS = frozenset({Shape.SERIES_PAIRS, Shape.PARALLEL_PAIRS})


@dataclass(frozen=True, slots=True)
class Resistor:
    """A discharge resistor the workshop owns: ohms, tolerance as a fraction, watts, volts, joules if on its data sheet."""

    resistor_id: str
    name: str
    resistance_ohm: float
    tolerance: float
    rated_w: float
    construction: Construction
    working_v: float
    pulse_j: float | None = None

    @property
    def low_ohm(self) -> float:
        """Ohms at the bottom of its tolerance."""
        return self.resistance_ohm * (1 - self.tolerance)

    @property
    def high_ohm(self) -> float:
        """Ohms at the top of its tolerance."""
        return self.resistance_ohm * (1 + self.tolerance)


@dataclass(frozen=True, slots=True)
class Share:
    """What one resistor of a tool bears at worst: volts, joules, and the joules it stands."""

    resistor: Resistor
    voltage_v: float
    energy_j: float
    pulse_limit_j: float | None
    pulse_source: str

    @property
    def continuous(self) -> bool:
        """Whether it bears the first voltage for good: V²/R at the bottom of its tolerance within its rated watts."""
        return self.voltage_v**2 / self.resistor.low_ohm <= self.resistor.rated_w


@dataclass(frozen=True, slots=True)
class Tool:
    """Resistors judged as a discharge tool for one charge."""

    shape: Shape
    shares: tuple[Share, ...]
    resistance_ohm: float
    highest_ohm: float
    times: tuple[TargetTime, ...]
    peak_a: float
    energy_j: float
    live_w: float
    live_seconds: float | None
    refusals: tuple[str, ...]

    @property
    def allowed(self) -> bool:
        """Whether nothing speaks against it."""
        return not self.refusals

    @property
    def name(self) -> str:
        """The resistors and how they are connected."""
        names = [share.resistor.name for share in self.shares]
        if self.shape == Shape.SINGLE:
            return names[0]
        if self.shape in PAIRS:
            return f"{names[0]} with {names[1]}, and {names[2]} with {names[3]}: {SHAPE_TITLES[self.shape]}"
        return f"{', '.join(names[:-1])} and {names[-1]} {SHAPE_TITLES[self.shape]}"

    @property
    def resistor_ids(self) -> tuple[str, ...]:
        """Which resistors, in the order of the shape."""
        return tuple(share.resistor.resistor_id for share in self.shares)


def pulse_limit(resistor: Resistor, tau_s: float) -> tuple[float | None, str]:
    """The single-pulse energy a resistor stands, with its source; None where only a data sheet could tell.

    :param resistor: the tool
    :param tau_s: time constant of the discharge, seconds
    :returns: joules or None, and where the figure comes from
    :raises InputError: never
    :source: data sheet if given; else the planning figures of the table `resistor_pulse`
    """
    if resistor.pulse_j is not None:
        return resistor.pulse_j, "its data sheet"
    if tau_s < MIN_TAU_S:
        return None, "no data sheet, and the pulse is shorter than 50 ms"
    row = PULSE[resistor.construction]
    joules_per_watt = row["j_per_w"]
    if "slow_j_per_w" in row:
        share = (tau_s - row["fast_tau_s"]) / (row["slow_tau_s"] - row["fast_tau_s"])
        joules_per_watt += min(max(share, 0.0), 1.0) * (row["slow_j_per_w"] - row["j_per_w"])
    return joules_per_watt * resistor.rated_w, PULSE["source"]


def _groups(shape: Shape, resistors: tuple[Resistor, ...]) -> list[tuple[Resistor, ...]]:
    return [resistors[:2], resistors[2:]] if shape in PAIRS else [(resistor,) for resistor in resistors]


def _combined(ohms: list[float], *, series: bool) -> float:
    return sum(ohms) if series else 1 / sum(1 / ohm for ohm in ohms)


def resistance_of(shape: Shape, resistors: tuple[Resistor, ...]) -> tuple[float, float, float]:
    """The resistance of a tool at the bottom of its tolerance, as marked and at the top.

    :param shape: how they are connected
    :param resistors: up to four
    :returns: low, nominal and high ohms
    :raises InputError: never
    :source: resistances in series add, conductances in parallel add
    """
    series = shape in OUTER_SERIES
    groups = _groups(shape, resistors)

    def at(pick: str) -> float:
        return _combined([_combined([getattr(r, pick) for r in group], series=not series) for group in groups], series=series)

    return at("low_ohm"), at("resistance_ohm"), at("high_ohm")


def worst_shares(shape: Shape, resistors: tuple[Resistor, ...]) -> list[tuple[float, float]]:
    """The largest fraction of voltage and of energy each resistor of a tool may bear, within the tolerances.

    In series a resistor bears most when it is high and the others low; in parallel it takes most when it is low and the
    others high.

    :param shape: how they are connected
    :param resistors: up to four, in the order of the shape
    :returns: (share of the voltage, share of the energy) for each
    :raises InputError: never
    :source: voltage divides as resistance in series, current as conductance in parallel
    """
    series = shape in OUTER_SERIES
    groups = _groups(shape, resistors)
    shares = []
    for group in groups:
        outer = _part(group, [other for other in groups if other is not group], series=series)
        for resistor in group:
            inner = _part((resistor,), [(other,) for other in group if other is not resistor], series=not series)
            volts = outer if series else inner
            shares.append((volts if len(group) > 1 or series else 1.0, outer * inner))
    return shares


def _part(mine: tuple[Resistor, ...], others: list[tuple[Resistor, ...]], *, series: bool) -> float:
    """The largest share of one group among groups in series (of voltage) or in parallel (of current)."""
    if not others:
        return 1.0
    if series:
        high = _combined([r.high_ohm for r in mine], series=False)
        low = sum(_combined([r.low_ohm for r in group], series=False) for group in others)
        return high / (high + low)
    conductance = 1 / sum(r.low_ohm for r in mine)
    rest = sum(1 / sum(r.high_ohm for r in group) for group in others)
    return conductance / (conductance + rest)


def judge_tool(shape: Shape, resistors: tuple[Resistor, ...], charge: PlannedCharge, limit: WorkingLimit) -> Tool:
    """Judge resistors as the tool to empty a charge: I₀ = V₀/R, P₀ = V₀²/R, and all of E goes into them.

    :param shape: how they are connected
    :param resistors: the tool, up to four, in the order of the shape
    :param charge: what is to be emptied, worst case
    :param limit: the working limit that applies
    :returns: Tool with times, shares, what happens if the circuit is live, and every reason against it
    :raises InputError: more than four, or pairs that are not two by two
    :source: first-order discharge; planning figures of the table `resistor_pulse`
    """
    if not 1 <= len(resistors) <= MOST_RESISTORS or (shape in PAIRS and len(resistors) != MOST_RESISTORS):
        raise InputError("resistor_ids", "A tool is one to four resistors; pairs are two by two.")
    low, nominal, high = resistance_of(shape, resistors)
    volts, energy, tau = charge.each_v, charge.each.energy_j, low * charge.nominal_f
    shares = tuple(
        Share(resistor, voltage * volts, part * energy, *pulse_limit(resistor, tau))
        for resistor, (voltage, part) in zip(resistors, worst_shares(shape, resistors), strict=True)
    )
    live = volts**2 / low
    return Tool(
        shape=shape,
        shares=shares,
        resistance_ohm=nominal,
        highest_ohm=high,
        times=target_times(charge, limit, nominal, high),
        peak_a=volts / low,
        energy_j=energy,
        live_w=live,
        live_seconds=_live_seconds(shares, live, energy),
        refusals=tuple(_refusals(shares, volts / low)),
    )


def _refusals(shares: tuple[Share, ...], peak_a: float) -> list[str]:
    said = []
    if peak_a > PEAK_A:
        said.append(f"First touch draws {show(peak_a, 'A')}: more than {PEAK_A:g} A sparks.")
    for share in shares:
        which = f"{share.resistor.name}: " if len(shares) > 1 else ""
        if share.voltage_v > share.resistor.working_v:
            said.append(
                f"{which}{show(share.voltage_v, 'V')} is more than the {show(share.resistor.working_v, 'V')} it may work at."
            )
        if len(shares) == 1 and share.continuous:
            continue  # within what it stands for good: no pulse figure is needed; several are held to theirs, to be careful
        if share.pulse_limit_j is None:
            said.append(f"{which}Shorter than 50 ms: only a data sheet tells what pulse it stands.")
        elif share.energy_j > share.pulse_limit_j:
            stands = f"{show(share.pulse_limit_j, 'J')} it stands ({share.pulse_source})"
            said.append(f"{which}{show(share.energy_j, 'J')} at once is more than the {stands}.")
    return said


def _live_seconds(shares: tuple[Share, ...], live_w: float, energy_j: float) -> float | None:
    """How long the weakest resistor stands a circuit that turns out to be live; None when it stands it for good."""
    stands = math.inf
    for share in shares:
        watts = live_w * share.energy_j / energy_j if energy_j else 0.0
        if watts > share.resistor.rated_w:
            stands = min(stands, (share.pulse_limit_j or 0.0) / watts)
    return None if math.isinf(stands) else stands
