"""Does a dropper give enough current at the lowest mains: by what was simulated, or the first-order balance of charge."""

import math
from collections.abc import Iterator

from dusky_heron.core.errors import CAPACITANCE, SUPPLY_FREQUENCY, SUPPLY_VOLTAGE, VOLTAGE
from dusky_heron.core.model import Finding, Role, Topology, Word
from dusky_heron.core.quantities import show
from dusky_heron.core.verdict.bounds import Bound, at_least
from dusky_heron.core.verdict.registry import Case, Rule

LOWEST_MAINS = 0.9  # of nominal
DIODE_V = 0.7


def available_current(topology: Topology, capacitance_f: float, supply_v: float, supply_hz: float, clamp_v: float) -> float:
    """Mean current of a dropper into its clamp.

    Bridge 4fC(V̂ − Vo − 2Vf); half wave fC(2V̂ − Vo − 2Vf); zener as the reverse diode fC(2V̂ − Vz − Vf). Without the series
    resistor, which the simulation counts.

    :param topology: how it is rectified
    :param capacitance_f: farads
    :param supply_v: mains, V rms
    :param supply_hz: mains, Hz
    :param clamp_v: the clamp, volts
    :returns: amperes, 0 where the clamp is above the mains peak
    :raises InputError: a value out of range
    :source: charge moved through the capacitor each cycle

    >>> round(available_current(Topology.BRIDGE, 680e-9, 207, 50, 24) * 1000, 1)
    36.4
    """
    peak = math.sqrt(2) * SUPPLY_VOLTAGE.check("supply_v", supply_v)
    VOLTAGE.check("clamp_v", clamp_v)
    swing = {
        Topology.BRIDGE: 4 * (peak - clamp_v - 2 * DIODE_V),
        Topology.HALF_WAVE: 2 * peak - clamp_v - 2 * DIODE_V,
        Topology.HALF_WAVE_SHUNT: 2 * peak - clamp_v - DIODE_V,
    }[topology]
    charge = CAPACITANCE.check("capacitance_f", capacitance_f) * max(swing, 0.0)
    return SUPPLY_FREQUENCY.check("supply_hz", supply_hz) * charge


def _balance(rule: Rule, case: Case) -> Iterator[Finding]:
    around, volts, hertz = case.position.surroundings.dropper, case.position.supply_v, case.position.supply_hz
    reading = case.evidence.deciding(0)
    if around is None or volts is None or hertz is None or not around.states:
        sentence = "Note its rail and what it feeds under the circuit, and its current at the lowest mains is judged too."
        yield rule.says(Word.KEEP, sentence)
        return
    if reading is None or reading.beyond_range:
        return
    low = volts * LOWEST_MAINS
    per_farad = available_current(around.topology, 1.0, low, hertz, around.clamp_v)
    for state in around.states:
        if per_farad == 0:
            yield rule.says(Word.REPLACE, f"The clamp is above the peak of {low:.0f} V: it gives nothing there.")
            return
        need = state.needed_f or state.current_a / per_farad
        given = state.current_a * reading.value / need if need else 0.0  # in proportion to the capacitance
        what = f"For {state.name} at {low:.0f} V it gives {show(given, 'A')} of {show(state.current_a, 'A')}: its capacitance"
        yield at_least(rule, reading, Bound(need, what, f"at least {show(need, 'F')}", near=0.03, fine=0.0025))


RULES = (
    Rule(
        "dropper.current",
        "Enough current at the lowest mains for each load",
        "charge balance at the clamp, mains 10 % low",
        frozenset({Role.DROPPER}),
        _balance,
    ),
)
