"""Capacitive droppers: three topologies, what they give and lose, what a change of load does, and their capacitance backwards."""

import math
from dataclasses import dataclass, replace

from dusky_heron.core.circuit.dropper.modes import (
    VOLTS,
    DropperCircuit,
    engine_circuit,
    held_ends,
    held_rail_circuit,
    powers,
)
from dusky_heron.core.circuit.engine import Segment, Vector
from dusky_heron.core.circuit.load import Load
from dusky_heron.core.circuit.steady import around, extremes, integrate, polished, settle, stepped
from dusky_heron.core.errors import InputError, Range

SECONDS = Range("Time", 0.0, 60.0, "s", open_low=True)
INRUSH_S = 2e-3
SAMPLES = 40  # a cycle, of a transient


@dataclass(frozen=True, slots=True)
class DropperState:
    """A dropper in its periodic state: means, but ripple peak to peak and input current rms."""

    output_v: float
    ripple_v: float
    input_w: float
    input_a: float
    apparent_va: float
    power_factor: float
    clamp_w: float
    series_w: float
    bleed_w: float
    diode_w: float
    load_w: float
    clamp_a: float
    available_a: float | None
    in_regulation: bool


@dataclass(frozen=True, slots=True)
class Transient:
    """Rail voltage against time."""

    t_s: tuple[float, ...]
    v: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Inrush:
    """What flows when it is switched on at the mains peak: highest current, and I²t of the first milliseconds."""

    peak_a: float
    i2t_a2s: float


def steady_state(circuit: DropperCircuit) -> DropperState:
    """The periodic state of a dropper on its mains.

    Newton on the map of one cycle (half a cycle for a bridge, whose capacitor then stands mirrored); between switchings the
    answer is exact. Constant power is linearised around the mean rail until that stands still to 1e-6.

    :param circuit: as drawn; volts rms, hertz, ohms, farads
    :returns: DropperState: volts, amperes and watts, means
    :raises InputError: a value out of range, naming its field, or a circuit that settles nowhere (`circuit`)
    :source: circuit equations; clamp current near f·C·(2V̂ − Vo − 2Vf), for a bridge 4·f·C·(V̂ − Vo − 2Vf)
    """
    circuit.check()
    found = settled(circuit)
    mean = found.means
    lowest, highest = extremes(found.segments, lambda _: ((0.0, 1.0), 0.0, 0.0))
    apparent = circuit.supply_v * math.sqrt(max(mean[2], 0.0))
    available = available_current(circuit)
    rail = circuit.rail_v
    return DropperState(
        output_v=mean[0],
        ripple_v=highest - lowest,
        input_w=mean[1],
        input_a=math.sqrt(max(mean[2], 0.0)),
        apparent_va=apparent,
        power_factor=mean[1] / apparent if apparent > 0 else 0.0,
        clamp_w=mean[5],
        series_w=mean[3],
        bleed_w=mean[4],
        diode_w=mean[6],
        load_w=mean[7],
        clamp_a=mean[8],
        available_a=available,
        in_regulation=available is not None and rail is not None and available > circuit.load.current_at(max(rail, 0.0)),
    )


def _first_order_current(c: DropperCircuit, rail: float) -> float:
    """Mean current into a rail by charge moved each cycle, without the series resistor."""
    peak, fc = c.source.peak_v, c.supply_hz * c.capacitance_f
    if c.topology == "bridge":
        return max(4 * fc * (peak - rail - 2 * c.diode_v), 0.0)
    return max(fc * (2 * peak - rail - 2 * c.diode_v), 0.0)


def _guess(c: DropperCircuit) -> Vector:
    """About where it settles: the rail where the first-order current is what the load draws, or where it is clamped.

    At a rising zero crossing current flows already, into the rail and through the series resistor.
    """
    low, high = 0.0, 2 * c.source.peak_v
    for _ in range(24):
        middle = (low + high) / 2
        if _first_order_current(c, middle) > c.load.current_at(middle):
            low = middle
        else:
            high = middle
    rail = low if c.rail_v is None else min(low, max(c.rail_v, 0.0))
    return (_capacitor_at_zero(c, rail + c.diode_v * (2 if c.topology == "bridge" else 1)), rail)


def _capacitor_at_zero(c: DropperCircuit, node_v: float) -> float:
    """About the capacitor's voltage as the mains rises through zero, with so much behind it."""
    return max(-node_v - c.source.omega * c.capacitance_f * c.series_ohm * c.source.peak_v, -c.source.peak_v)


@dataclass(frozen=True, slots=True)
class Settled:
    """A settled circuit: its state at the zero crossing, the segments of its cycle, and means over it."""

    x: Vector
    segments: list[Segment]
    means: Vector

    @property
    def rail_rms(self) -> float:
        """The rail, rms."""
        return math.sqrt(max(self.means[9], 0.0))


def settled(c: DropperCircuit) -> Settled:
    """A circuit, checked already, in its periodic state."""
    halves = c.topology == "bridge"  # half a cycle later its capacitor stands the other way round
    back = ((-1.0 if halves else 1.0, 0.0), (0.0, 1.0))
    guess = _guess(c)
    highest = 2.5 * c.source.peak_v + c.diode_v + 1e-3

    def solve(changed: DropperCircuit, start: Vector, around_v: float) -> Settled:
        x, segments = settle(engine_circuit(changed, around_v), start, highest, back, halves=halves)
        means, _ = integrate(segments, powers(changed, around_v), c.source)
        return Settled(x, segments, means)

    def plain(around_v: float) -> tuple[Settled, float]:
        found = solve(c, guess, around_v)
        return found, max(found.rail_rms, c.load.knee_v)

    def near(load: Load, found: Settled) -> tuple[Settled, float]:
        better = solve(replace(c, load=load), found.x, 0.0)
        return better, better.means[0]

    found = around(plain, max(guess[1], c.load.knee_v), fixed=not c.load.power_w)
    return polished(c.load, found, near, found.means[0])


def available_current(circuit: DropperCircuit) -> float | None:
    """Mean current into an ideal source where the clamp is: what a clamp without slope takes with no load.

    :param circuit: as drawn; its load and the slope of its clamp are not used
    :returns: amperes; None without a clamp
    :raises InputError: a value out of range
    :source: circuit equations
    """
    circuit.check()
    held_v = circuit.clamp_v
    if held_v is None:
        return None
    y, (up, down), both = 1 / circuit.series_ohm, held_ends(circuit, held_v), circuit.topology == "bridge"
    guess = (_capacitor_at_zero(circuit, up),)

    def into(segment: Segment, x: Vector, v: float) -> Vector:
        if segment.key == "up":
            return ((v - x[0] - up) * y,)
        return (((down - v + x[0]) * y) if both and segment.key == "down" else 0.0,)

    engine, highest = held_rail_circuit(circuit, held_v), 2.5 * circuit.source.peak_v + held_v + circuit.diode_v + 1e-3
    _, segments = settle(engine, guess, highest, ((-1.0 if both else 1.0,),), halves=both, lowest=-highest)
    return max(integrate(segments, into, circuit.source)[0][0], 0.0)


def settled_state(circuit: DropperCircuit) -> Vector:
    """The voltages of capacitor and rail at a rising zero crossing of the mains, settled."""
    circuit.check()
    return settled(circuit).x


def switch_load(circuit: DropperCircuit, before: Load, after: Load, seconds: float) -> Transient:
    """The rail when the load changes at a zero crossing, from the periodic state under the load before.

    :param circuit: as drawn; its own load is not used
    :param before: load until time zero
    :param after: load from then on
    :param seconds: how long to follow it, up to 60
    :returns: Transient, forty samples a cycle
    :raises InputError: a value out of range
    :source: circuit equations, exact between switchings; constant power as a resistor around the rail of the cycle before
    """
    circuit.check()
    SECONDS.check("seconds", seconds)
    before.check()
    idle = settled(replace(circuit, load=before))
    loaded = replace(circuit, load=after)
    loaded.check()
    x, t, around_v, period = idle.x, 0.0, idle.rail_rms, circuit.source.period
    times, volts = [0.0], [x[1]]
    while t < seconds * (1 - 1e-12):
        whole = min(period if after.power_w else 50 * period, seconds - t)
        segments = engine_circuit(loaded, around_v).run(x, t, whole)
        for segment in segments:
            ends = segment.start + segment.tau
            while (sample := len(times) * period / SAMPLES) <= min(ends, seconds) * (1 + 1e-12):
                times.append(sample)
                volts.append(segment.x(sample - segment.start)[1])
        x, t = segments[-1].x(segments[-1].tau), t + whole
        if after.power_w:
            means, _ = integrate(segments, powers(loaded, around_v), circuit.source)
            around_v = math.sqrt(max(means[9], after.knee_v**2))
    return Transient(tuple(times), tuple(volts))


def switch_on(circuit: DropperCircuit, *, residual_v: float = 0.0) -> Inrush:
    """What flows when it is switched on at the mains peak with the rail empty: the worst instant.

    :param circuit: as drawn
    :param residual_v: what is left on the capacitor, volts with a sign; −V̂ for one re-plugged at the opposite peak
    :returns: Inrush: highest current in amperes, I²t of the first 2 ms in A²s
    :raises InputError: a value out of range
    :source: V̂/R at the first instant, 2V̂/R re-plugged; circuit equations after it
    """
    circuit.check()
    if not math.isfinite(residual_v) or abs(residual_v) > VOLTS.high:
        raise InputError("residual_v", f"The residual voltage must be at most {VOLTS.high:g} V.")
    segments = stepped(
        lambda around_v: engine_circuit(circuit, max(around_v, circuit.load.knee_v)),
        (residual_v, 0.0),
        circuit.source.period / 4,
        INRUSH_S,
        lambda x: x[1],
        fixed=not circuit.load.power_w,
    )
    means, seconds = integrate(segments, powers(circuit, 1.0), circuit.source)
    return Inrush(max(map(abs, extremes(segments, lambda s: _series(circuit, s)))), means[2] * seconds)


def _series(c: DropperCircuit, segment: Segment) -> tuple[Vector, float, float]:
    """The current through the series resistor as a form of the voltages: what charges C and what its bleed takes."""
    (g, across), *_ = segment.mode.g
    bleed = 1 / c.bleed_ohm if c.bleed_ohm else 0.0
    return (bleed - g, -across), segment.mode.source[0], segment.mode.current[0]


def outside(circuit: DropperCircuit) -> dict[str, float]:
    """What a meter finds on a dropper in its periodic state: rail and its ripple, mains current and power. Checked already."""
    found = settled(circuit)
    low, high = extremes(found.segments, lambda _: ((0.0, 1.0), 0.0, 0.0))
    return {
        "rail_v": found.means[0],
        "ripple_v": high - low,
        "input_a": math.sqrt(max(found.means[2], 0.0)),
        "input_w": found.means[1],
    }
