"""Falling capacitance, rising symptoms: how much each state of a dropper's load needs, from lowest to highest mains."""

import itertools
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from dusky_heron.core.circuit.dropper.command import CHATTERS, DEAD, DIM, HOLDS, LETS_GO, NEVER, SAGS, check_relay
from dusky_heron.core.circuit.dropper.modes import DropperCircuit
from dusky_heron.core.circuit.dropper.states import DropperState, available_current
from dusky_heron.core.circuit.load import Load
from dusky_heron.core.errors import InputError
from dusky_heron.core.model import LoadState, Relay

MAINS = (0.9, 1.0, 1.1)  # of nominal
UNSEEN = 0.3  # of what the smallest load needs: nothing is seen any more
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


def symptom_sweep(circuit: DropperCircuit, states: Iterable[LoadState], relay: Relay | None = None) -> tuple[SymptomRow, ...]:
    """What is seen as the capacitance falls, at lowest, nominal and highest mains.

    Above what the largest load needs everything holds. Of a load known by its current, less lets it go. Of a relay: below what
    keeps the rail clamped it holds while the rail sags; below what keeps its coil at the hold voltage it pulls in from the
    charge in the smoothing and lets go; where the controller resets
    first it chatters; where standby does not reach the pull-in voltage it never pulls in; below the reset voltage the supply is
    dim, and at a third of that dead.

    :param circuit: as drawn, its supply at nominal
    :param states: load states with their currents; with a relay the smallest is its controller's
    :param relay: the relay as the largest load, instead of its current
    :returns: a row for each mains voltage, lowest first; nothing for a load no capacitance feeds
    :raises InputError: a value out of range, no state (`loads`), or a circuit without a clamp (`clamp_v`)
    :source: charge balance at the clamp, for a relay at each of its voltages and half a ripple above
    """
    ordered = sorted(states, key=lambda state: state.current_a)
    if not ordered:
        raise InputError("loads", "Name what it feeds, a line for each state.")
    rows = []
    for share in MAINS:
        at = replace(circuit, supply_v=circuit.supply_v * share)
        edges = _relay_edges(at, ordered[0].current_a, relay) if relay else _load_edges(at, ordered)
        if edges:
            rows.append(SymptomRow(at.supply_v, _zones(edges)))
    return tuple(rows)


def state_load(state: LoadState, states: Iterable[LoadState]) -> Load:
    """A load state as a load: its current, or for a relay its coil beside the smallest current.

    :param state: one of the states
    :param states: all of them; the smallest current is the controller's
    :returns: Load
    :raises InputError: never
    :source: V/R of the coil
    """
    if state.relay is None:
        return Load(current_a=state.current_a)
    standby = min((other.current_a for other in states if other.relay is None), default=0.0)
    return Load(resistance_ohm=state.relay.warmed.coil_ohm, current_a=standby)


def holds(state: LoadState, found: DropperState) -> bool:
    """Whether a load holds in a periodic state: a relay at its hold voltage, any other while the rail is clamped.

    :param state: the load
    :param found: the dropper feeding it
    :returns: True where it holds
    :raises InputError: never
    :source: hold voltage of the coil at its temperature; charge balance at the clamp
    """
    return found.output_v >= state.relay.warmed.hold_v if state.relay else found.in_regulation


def _zones(edges: Sequence[tuple[str, float]]) -> tuple[SymptomZone, ...]:
    """Zones from what is seen below each edge; an edge never falls behind the one before."""
    found, low = [], 0.0
    for says, edge in edges:
        if edge > low:
            found.append(SymptomZone(says, low, edge))
            low = edge
    return (*found, SymptomZone(HOLDS, low, None))


def _load_edges(circuit: DropperCircuit, ordered: Sequence[LoadState]) -> list[tuple[str, float]]:
    needs = [needed_capacitance(circuit, state.current_a) for state in ordered]
    known = [need for need in needs if need is not None]
    if len(known) < len(needs):
        return []
    lets_go = [(f"{state.name} lets go", need) for state, need in zip(ordered[1:], known[1:], strict=True)]
    return [(DEAD, known[0] * UNSEEN), (DIM, known[0]), *lets_go]


def _relay_edges(circuit: DropperCircuit, standby_a: float, relay: Relay) -> list[tuple[str, float]]:
    check_relay(relay)
    warm = relay.warmed

    def needed(rail_v: float, *, driven: bool) -> float | None:
        amps = standby_a + (rail_v / warm.coil_ohm if driven else 0.0)
        half_ripple = amps / (circuit.supply_hz * circuit.smoothing_f * (4 if circuit.topology == "bridge" else 2))
        shunt = circuit.diode_v if circuit.topology == "half_wave_shunt" else 0.0
        clamp = min(rail_v + half_ripple + shunt, circuit.clamp_v or 0.0)
        return needed_capacitance(replace(circuit, clamp_v=clamp), amps)

    if circuit.rail_v is None or max(warm.pull_in_v, warm.reset_v, warm.hold_v) > circuit.rail_v:
        raise InputError("loads", "The rail is clamped below what the relay or its controller asks for.")
    alive, pulls = needed(warm.reset_v, driven=False), needed(warm.pull_in_v, driven=False)
    runs, holds = needed(warm.reset_v, driven=True), needed(warm.hold_v, driven=True)
    clamped = needed_capacitance(circuit, standby_a + circuit.rail_v / warm.coil_ohm)
    if alive is None or pulls is None or runs is None or holds is None or clamped is None:
        return []
    return [(DEAD, alive * UNSEEN), (DIM, alive), (NEVER, pulls), (CHATTERS, runs), (LETS_GO, holds), (SAGS, clamped)]


def largest_needed(rows: Iterable[SymptomRow]) -> float | None:
    """The capacitance from which every load holds at every mains voltage of a sweep; None of no row.

    >>> largest_needed([SymptomRow(207, (SymptomZone("dim", 0, 4e-7), SymptomZone("holds", 4e-7, None)))])
    4e-07
    """
    return max(itertools.chain.from_iterable([row.zones[-1].low_f] for row in rows), default=None)
