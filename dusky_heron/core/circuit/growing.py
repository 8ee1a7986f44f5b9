"""May a reservoir grow: what the rectifier's data allow, and what the larger one does to it at switch-on."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache

from dusky_heron.core.circuit.rectifier import ReservoirCircuit, steady_state, switch_on
from dusky_heron.core.errors import InputError
from dusky_heron.core.quantities import show
from dusky_heron.core.tables import toml_table

GROWTH_POINTS = 12
SOURCE = "usual data-sheet values, to be confirmed for the type fitted"


@dataclass(frozen=True, slots=True)
class Rectifier:
    """What is kept of a rectifier: the largest reservoir of a valve, the single surge of silicon; None where not known."""

    id: str
    title: str
    largest_f: float | None
    surge_a: float | None
    surge_a2s: float | None


@dataclass(frozen=True, slots=True)
class Held:
    """A reservoir held against one limit of a rectifier; `holds` None where no limit is known."""

    sentence: str
    holds: bool | None


@cache
def rectifiers() -> Mapping[str, Rectifier]:
    """The rectifiers whose usual limits are kept, by id.

    :returns: rectifiers in the order of the table
    :raises InputError: never
    :source: table `rectifiers`
    """
    return {
        key: Rectifier(
            key,
            row["title"],
            row["largest_uf"] * 1e-6 if "largest_uf" in row else None,
            row.get("surge_a"),
            row.get("surge_a2s"),
        )
        for key, row in toml_table("rectifiers").items()
    }


def find_rectifier(rectifier_id: str) -> Rectifier:
    """A rectifier by its id; raises InputError (`rectifier`) for one that is not in the table."""
    found = rectifiers().get(rectifier_id)
    if found is None:
        raise InputError("rectifier", "Choose one of the rectifiers of the list.")
    return found


def held_against(circuit: ReservoirCircuit, rectifier: Rectifier) -> tuple[Held, ...]:
    """A supply held against what its rectifier stands.

    :param circuit: the supply as it would be
    :param rectifier: what is kept of its rectifier
    :returns: what holds and what does not; one that says so where no limit is known
    :raises InputError: a value of the circuit is out of range
    :source: usual data-sheet values; surge by the circuit equations, at the mains peak with the reservoir empty
    """
    found = []
    if rectifier.largest_f is not None:
        holds = circuit.reservoir_f <= rectifier.largest_f * (1 + 1e-9)
        largest = show(rectifier.largest_f, "F")
        told = "within" if holds else "more than"
        why = "" if holds else ": the surge at switch-on and the peaks shorten its life, or end it"
        found.append(Held(f"{show(circuit.reservoir_f, 'F')} is {told} the {largest} a {rectifier.title} allows{why}.", holds))
    surge = switch_on(circuit)
    for value, limit, unit in ((surge.peak_a, rectifier.surge_a, "A"), (surge.i2t_a2s, rectifier.surge_a2s, "A²s")):
        if limit is not None:
            holds = value <= limit
            shown, most = (f"{number:.3g} {unit}" for number in (value, limit))
            found.append(Held(f"Surge of {shown}: {'within' if holds else 'more than'} the {most} of a {rectifier.title}.", holds))
    return tuple(found) or (Held("No limit is kept for this rectifier: take it from its data sheet.", holds=None),)


@dataclass(frozen=True, slots=True)
class GrowthPoint:
    """A reservoir, and what it does: ripple peak to peak, and the I²t of the first 10 ms after switch-on."""

    reservoir_f: float
    ripple_v: float
    surge_a2s: float


def growth(circuit: ReservoirCircuit, upto_f: float) -> tuple[GrowthPoint, ...]:
    """What growing the reservoir does, from half of it to a little beyond a capacitance.

    :param circuit: the supply as it is
    :param upto_f: the largest of interest, farads
    :returns: points, the smallest first, evenly spaced
    :raises InputError: a value of the circuit is out of range
    :source: circuit equations
    """
    low, high = circuit.reservoir_f / 2, max(upto_f, circuit.reservoir_f) * 1.25
    points = []
    for k in range(GROWTH_POINTS):
        at = replace(circuit, reservoir_f=low + (high - low) * k / (GROWTH_POINTS - 1))
        points.append(GrowthPoint(at.reservoir_f, steady_state(at).ripple_v, switch_on(at).i2t_a2s))
    return tuple(points)


def source_resistance(secondary_ohm: float, primary_ohm: float, turns_ratio: float) -> float:
    """What a rectifier sees of a transformer: R = R_sec + n²·R_pri, n the turns of half the secondary over the primary.

    :param secondary_ohm: winding of the secondary, of half of it for a centre tap, ohms
    :param primary_ohm: winding of the primary, ohms
    :param turns_ratio: n, near the ratio of the voltages without load
    :returns: ohms
    :raises InputError: never
    :source: impedance referred through an ideal transformer

    >>> round(source_resistance(85, 20, 300 / 230), 1)
    119.0
    """
    return secondary_ohm + turns_ratio**2 * primary_ohm
