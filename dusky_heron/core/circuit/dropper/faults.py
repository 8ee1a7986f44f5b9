"""Which fault of a dropper explains what is measured on it."""

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace

from dusky_heron.core.circuit.dropper.modes import OHMS, VOLTS, DropperCircuit
from dusky_heron.core.circuit.dropper.states import outside
from dusky_heron.core.circuit.load import CURRENT, POWER, Load
from dusky_heron.core.circuit.ranking import Fault, Ranking, State, rank
from dusky_heron.core.errors import InputError, Range
from dusky_heron.core.quantities import show

SHARE = Range("Error", 1e-4, 0.5, "of the value")
FLOOR = {"rail_v": 0.02, "ripple_v": 0.02, "input_a": 20e-6, "input_w": 5e-3}  # below these a reading tells nothing


@dataclass(frozen=True, slots=True)
class Observed:
    """What was measured under one load; None for what was not. `unplugged`: with the load taken off, so not a fault of its own."""

    load: Load
    rail_v: float | None = None
    ripple_v: float | None = None
    input_a: float | None = None
    input_w: float | None = None
    unplugged: bool = False

    def check(self) -> None:
        """Raise InputError naming the field that is out of range."""
        self.load.check()
        for name, known in (("rail_v", VOLTS), ("ripple_v", VOLTS), ("input_a", CURRENT), ("input_w", POWER)):
            value = getattr(self, name)
            if value is not None:
                known.check(name, value)


def _leak(c: DropperCircuit, share: float) -> DropperCircuit:
    """A resistor across the rail that takes a share of what the capacitor can give."""
    volts = c.rail_v or c.source.peak_v
    ohms = max(volts / (share * _full_current(c)), OHMS.low)
    known = c.load.resistance_ohm
    return replace(c, load=replace(c.load, resistance_ohm=1 / (1 / ohms + (1 / known if known else 0.0))))


def _full_current(c: DropperCircuit) -> float:
    """About the current a capacitor can give, amperes."""
    return 4 * c.supply_hz * c.capacitance_f * max(c.source.peak_v, 1.0) / (1 if c.topology == "bridge" else 2)


def _open(_: DropperCircuit, __: float) -> None:
    """Nothing flows: through a diode that is left, the capacitor is charged once and then blocks."""


def _diode_short(c: DropperCircuit, _: float) -> DropperCircuit:
    """A bridge is left with a half wave; in a half wave the rail is shorted."""
    if c.topology == "bridge":
        return replace(c, topology="half_wave")
    return replace(c, clamp_v=0.0, clamp_ohm=OHMS.low)


def _zener(c: DropperCircuit, ratio: float) -> DropperCircuit:
    return replace(c, clamp_v=c.clamp_v * ratio if c.clamp_v else c.clamp_v)


def _bleed(c: DropperCircuit, share: float) -> DropperCircuit:
    """A bleed that takes a share of the reactive current."""
    reactance = 1 / (2 * math.pi * c.supply_hz * c.capacitance_f)
    return replace(c, bleed_ohm=max(reactance / share, OHMS.low))


def _leaks(before: DropperCircuit, after: DropperCircuit) -> str:
    volts = after.rail_v or 0.0
    siemens = [1 / ohms if (ohms := c.load.resistance_ohm) else 0.0 for c in (before, after)]
    return f"about {show(volts * (siemens[1] - siemens[0]), 'A')} at {show(volts, 'V')}"


FAULTS: tuple[Fault[DropperCircuit], ...] = (
    Fault(
        "capacitance_low",
        "capacitance low",
        lambda c, s: replace(c, capacitance_f=c.capacitance_f * s),
        0.03,
        0.97,
        lambda _, c: f"about {show(c.capacitance_f, 'F')}",
    ),
    Fault("bleed_low", "bleed resistor low", _bleed, 0.02, 3.0, lambda _, c: f"about {show(c.bleed_ohm or 0.0, 'Ω')}"),
    Fault(
        "series_high",
        "series resistor high",
        lambda c, s: replace(c, series_ohm=c.series_ohm * s),
        1.5,
        300.0,
        lambda _, c: f"about {show(c.series_ohm, 'Ω')}",
    ),
    Fault("series_open", "series resistor open", _open),
    Fault("diode_open", "diode open", _open),
    Fault("diode_short", "diode shorted", _diode_short),
    Fault("zener_wrong", "zener of another voltage", _zener, 0.3, 2.5, lambda _, c: f"about {show(c.clamp_v or 0.0, 'V')}"),
    Fault("zener_short", "zener shorted", lambda c, _: replace(c, clamp_v=0.0, clamp_ohm=OHMS.low)),
    Fault("zener_open", "zener open", lambda c, _: replace(c, clamp_v=None)),
    Fault("zener_leaky", "zener leaky", _leak, 0.02, 1.5, _leaks),
    Fault(
        "smoothing_low",
        "smoothing capacitor low",
        lambda c, s: replace(c, smoothing_f=c.smoothing_f * s),
        0.002,
        0.9,
        lambda _, c: f"about {show(c.smoothing_f, 'F')}",
    ),
    Fault("smoothing_leaky", "smoothing capacitor leaky", _leak, 0.02, 1.5, _leaks),
    Fault("extra_load", "more load than noted", _leak, 0.02, 1.5, _leaks, load_only=True),
)


def rank_faults(circuit: DropperCircuit, observed: Iterable[Observed], *, error: float = 0.02) -> Ranking:
    """Rank the faults of a dropper by how well each, at its best size, explains all that was measured.

    Faults whose answers differ by less than the errors are named together: another measurement, or one leg lifted, tells them
    apart. A leak of the zener is taken as a resistor across the rail.

    :param circuit: as drawn, healthy, at the mains it was measured on; its own load is not used
    :param observed: what was measured, under each load
    :param error: of each reading, as a share; 0.02 for two per cent
    :returns: Ranking
    :raises InputError: a value out of range, or nothing measured (`observed`)
    :source: circuit equations; least squares over the readings
    """
    circuit.check()
    SHARE.check("error", error)
    states = []
    for seen in observed:
        seen.check()
        read = {name: value for name in FLOOR if (value := getattr(seen, name)) is not None}
        states.append(State(replace(circuit, load=seen.load), read, seen.unplugged))
    if not any(state.read for state in states):
        raise InputError("observed", "Type at least one reading: a rail, a ripple, a current or a power.")
    possible = [fault for fault in FAULTS if circuit.clamp_v is not None or not fault.id.startswith("zener")]
    return rank(states, possible, outside, FLOOR, error=error)
