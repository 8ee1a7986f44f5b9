"""What each load of a dropper needs at the lowest mains, simulated once and kept beside it for the rules to read."""

from dataclasses import replace
from functools import lru_cache

from dusky_heron.core.circuit.dropper.heat import too_big
from dusky_heron.core.circuit.dropper.modes import DropperCircuit
from dusky_heron.core.circuit.dropper.states import DropperState, steady_state
from dusky_heron.core.circuit.dropper.symptoms import CLOSE, MAINS, ROUNDS, needed_capacitance
from dusky_heron.core.circuit.load import Load
from dusky_heron.core.errors import InputError
from dusky_heron.core.model import Dropper

USUAL_SERIES_OHM = 100.0  # where it is not noted; it asks for about a percent more than none
DIODE_V, CLAMP_OHM = 0.7, 5.0  # silicon, and the usual slope of a zener
START_F, SMOOTHING_F = 1e-6, 470e-6  # where the search begins, and what does not change the answer


@lru_cache(maxsize=512)
def with_needs(dropper: Dropper, supply_v: float, supply_hz: float) -> Dropper:
    """A dropper with the capacitance each of its loads needs at the lowest mains.

    :param dropper: as noted
    :param supply_v: mains at nominal, V rms
    :param supply_hz: mains, Hz
    :returns: the same, its states with `needed_f`, and `largest_f`; without where nothing gives it, or a value cannot be used
    :raises InputError: never
    :source: charge balance at the clamp with the series resistor counted, mains 10 % low
    """
    series = dropper.series_ohm or USUAL_SERIES_OHM
    volts = supply_v * MAINS[0]
    circuit = DropperCircuit(
        dropper.topology.value, volts, supply_hz, START_F, series, None, SMOOTHING_F, dropper.clamp_v, CLAMP_OHM, DIODE_V, Load()
    )
    states = []
    for state in dropper.states:
        try:
            needed = needed_capacitance(circuit, state.current_a)
        except InputError:
            needed = None
        states.append(replace(state, needed_f=needed))
    return replace(dropper, states=tuple(states), largest_f=_largest(circuit, supply_v, dropper))


def _largest(circuit: DropperCircuit, supply_v: float, dropper: Dropper) -> float | None:
    """The capacitance at which the zener takes its rating at the lightest load and the highest mains."""
    if not dropper.zener_w:
        return None
    load = Load(current_a=min((state.current_a for state in dropper.states), default=0.0))
    at, farads = replace(circuit, supply_v=supply_v), circuit.capacitance_f
    try:
        for _ in range(ROUNDS):
            (heat,) = too_big(replace(at, capacitance_f=farads), load, grown=(0.0,))
            drawn = heat.zener_w / dropper.clamp_v + load.current_a  # nearly in proportion to the capacitance
            wanted = dropper.zener_w / dropper.clamp_v + load.current_a
            if abs(drawn / wanted - 1) < CLOSE:
                return farads
            farads *= wanted / drawn
    except InputError:
        return None
    return farads


def powered_at(dropper: Dropper, capacitance_f: float, supply_v: float, supply_hz: float, share: float) -> DropperState:
    """State of a dropper at a share of its mains, its lightest load as the resistor that draws it.

    :param dropper: as noted
    :param capacitance_f: of the part that is fitted, farads
    :param supply_v: mains at nominal, V rms
    :param supply_hz: mains, Hz
    :param share: of the mains, such as 0.25
    :returns: DropperState
    :raises InputError: a value is out of range
    :source: the circuit simulated, as `steady_state`
    """
    lightest = min((state.current_a for state in dropper.states if state.current_a), default=0.0)
    load = Load(resistance_ohm=dropper.clamp_v / lightest if lightest else None)
    series, volts = dropper.series_ohm or USUAL_SERIES_OHM, supply_v * share
    topology, clamp = dropper.topology.value, dropper.clamp_v
    circuit = DropperCircuit(topology, volts, supply_hz, capacitance_f, series, None, SMOOTHING_F, clamp, CLAMP_OHM, DIODE_V, load)
    return steady_state(circuit)
