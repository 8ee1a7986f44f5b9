"""Falling capacitance, rising symptoms: how much each state of a dropper's load needs, from lowest to highest mains."""

import itertools
from collections.abc import Iterable
from dataclasses import dataclass, replace

from dusky_heron.core.circuit.dropper import DropperCircuit, available_current
from dusky_heron.core.errors import InputError
from dusky_heron.core.model import LoadState

MAINS = (0.9, 1.0, 1.1)  # of nominal
DEAD = 0.3  # of what the smallest load needs: nothing is seen any more
CLOSE, ROUNDS, MOST_F = 1e-4, 12, 1e-2


@dataclass(frozen=True, slots=True)
class SymptomZone:
    """A stretch of capacitance and what is seen there; farads, the last without an end."""

    says: str
    low_f: float
    high_f: float | None


@dataclass(frozen=True, slots=True)
class SymptomRow:
    """What is seen at one mains voltage, lowest capacitance first."""

    supply_v: float
    zones: tuple[SymptomZone, ...]


def needed_capacitance(circuit: DropperCircuit, current_a: float) -> float | None:
    """The capacitance that just gives a current at the clamp: the charge balance, with the series resistor counted.

    :param circuit: as drawn; its capacitance and its load are not used
    :param current_a: mean current asked for, amperes
    :returns: farads; None where no capacitance gives it
    :raises InputError: a value out of range, or a circuit without a clamp (`clamp_v`)
    :source: secant on the current into an ideal clamp, which rises nearly in proportion to the capacitance
    """
    if circuit.clamp_v is None:
        raise InputError("clamp_v", "That needs the voltage the rail is clamped at.")
    if current_a <= 0:
        return 0.0
    farads = circuit.capacitance_f
    for _ in range(ROUNDS):
        given = available_current(replace(circuit, capacitance_f=farads)) or 0.0
        if given <= 0 or farads > MOST_F:
            return None
        if abs(given / current_a - 1) < CLOSE:
            return farads
        farads *= current_a / given
    return None


def symptom_band(circuit: DropperCircuit, states: Iterable[LoadState]) -> tuple[SymptomRow, ...]:
    """What is seen as the capacitance falls, at lowest, nominal and highest mains.

    Above what the largest load needs everything holds. Below it that load lets go: it may pull in from the charge in the
    smoothing, then the rail falls away. Below what the smallest needs the supply is dim, and at a third of that dead.

    :param circuit: as drawn, its supply at nominal
    :param states: load states with their currents
    :returns: a row for each mains voltage, lowest first; nothing for a load no capacitance feeds
    :raises InputError: a value out of range, no state (`loads`), or a circuit without a clamp (`clamp_v`)
    :source: charge balance at the clamp
    """
    ordered = sorted(states, key=lambda state: state.current_a)
    if not ordered:
        raise InputError("loads", "Name what it feeds, a line for each state.")
    rows = []
    for share in MAINS:
        at = replace(circuit, supply_v=circuit.supply_v * share)
        edges = [(needed_capacitance(at, state.current_a), state.name) for state in ordered]
        if any(farads is None for farads, _ in edges):
            continue
        smallest = edges[0][0] or 0.0
        zones = [SymptomZone("dead", 0.0, smallest * DEAD), SymptomZone("dim", smallest * DEAD, smallest)]
        for (low, _), (high, name) in itertools.pairwise(edges):
            zones.append(SymptomZone(f"{name} lets go", low or 0.0, high))
        zones.append(SymptomZone("holds", edges[-1][0] or 0.0, None))
        rows.append(SymptomRow(at.supply_v, tuple(zones)))
    return tuple(rows)
