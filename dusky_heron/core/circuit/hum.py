"""Ripple and hum of a transformer-fed supply: which fault explains the output, its ripple and the frequency of it."""

import math
from dataclasses import dataclass, replace

from dusky_heron.core.circuit.ranking import Fault, Ranking, State, rank
from dusky_heron.core.circuit.rectifier import HERTZ, VOLTS, ReservoirCircuit, steady_state
from dusky_heron.core.errors import InputError
from dusky_heron.core.quantities import show

FLOOR = {"output_v": 0.05, "ripple_v": 0.02, "ripple_hz": 5.0}


@dataclass(frozen=True, slots=True)
class Heard:
    """What was measured across the reservoir; None for what was not. The ripple peak to peak."""

    output_v: float | None = None
    ripple_v: float | None = None
    ripple_hz: float | None = None

    def check(self) -> None:
        """Raise InputError naming the field that is out of range."""
        for name, known in (("output_v", VOLTS), ("ripple_v", VOLTS), ("ripple_hz", HERTZ)):
            value = getattr(self, name)
            if value is not None:
                known.check(name, value)


def _leak(c: ReservoirCircuit, share: float) -> ReservoirCircuit:
    """A resistor across the output that takes a share of what the load takes now."""
    volts = math.sqrt(2) * c.secondary_v * (2 if c.topology == "doubler" else 1)
    amps = max(c.load.current_at(volts), 1e-6)
    known = c.load.resistance_ohm
    ohms = 1 / (share * amps / volts + (1 / known if known else 0.0))
    return replace(c, load=replace(c.load, resistance_ohm=ohms))


def _diode_open(c: ReservoirCircuit, _: float) -> ReservoirCircuit | None:
    """A full wave is left with a half wave; of a half wave nothing is left."""
    if c.topology == "half_wave":
        return None
    if c.topology == "doubler":
        return replace(c, topology="half_wave")
    return replace(c, topology="half_wave", diode_v=c.drop_v)


FAULTS: tuple[Fault[ReservoirCircuit], ...] = (
    Fault(
        "reservoir_low",
        "reservoir low",
        lambda c, s: replace(c, reservoir_f=c.reservoir_f * s),
        0.01,
        0.95,
        lambda _, c: f"about {show(c.reservoir_f, 'F')}",
    ),
    Fault("diode_open", "one diode, or one half of the winding, open", _diode_open),
    Fault(
        "rectifier_worn",
        "rectifier worn, or a high resistance ahead of it",
        lambda c, s: replace(c, source_ohm=c.source_ohm * s),
        1.2,
        20.0,
        lambda _, c: f"about {show(c.source_ohm, 'Ω')} in all",
    ),
    Fault("more_load", "more load, or a leak across the reservoir", _leak, 0.1, 10.0),
    Fault(
        "less_load",
        "less load than noted",
        lambda c, s: replace(
            c,
            load=replace(
                c.load,
                current_a=c.load.current_a * s,
                power_w=c.load.power_w * s,
                resistance_ohm=c.load.resistance_ohm / s if c.load.resistance_ohm else None,
            ),
        ),
        0.01,
        0.9,
    ),
    Fault(
        "secondary_low",
        "mains or secondary low",
        lambda c, s: replace(c, secondary_v=c.secondary_v * s),
        0.5,
        0.97,
        lambda _, c: f"about {show(c.secondary_v, 'V')}",
    ),
)


def _outside(c: ReservoirCircuit) -> dict[str, float]:
    found = steady_state(c)
    return {
        "output_v": found.output_v,
        "ripple_v": found.ripple_v,
        "ripple_hz": c.supply_hz * (1 if c.topology == "half_wave" else 2),
    }


def rank_hum(circuit: ReservoirCircuit, heard: Heard, *, error: float = 0.03) -> Ranking:
    """Rank the faults of a transformer-fed supply by how well each explains what was measured across its reservoir.

    :param circuit: as drawn, healthy, with its load
    :param heard: what was measured
    :param error: of each reading, as a share
    :returns: Ranking
    :raises InputError: a value out of range, or nothing measured (`heard`)
    :source: circuit equations; least squares over the readings; ripple at twice the mains of full wave, at the mains of half wave
    """
    circuit.check()
    heard.check()
    read = {name: value for name in FLOOR if (value := getattr(heard, name)) is not None}
    if not read:
        raise InputError("heard", "Type at least one reading: output, ripple or its frequency.")
    return rank([State(circuit, read)], FAULTS, _outside, FLOOR, error=error)
