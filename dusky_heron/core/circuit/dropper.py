"""Capacitive droppers: three topologies, what they give and lose, what a change of load does, and their capacitance backwards."""

import math
from dataclasses import dataclass, replace

from dusky_heron.core.circuit.dropper_modes import OHMS, TOPOLOGIES, VOLTS, DropperCircuit, engine_circuit, powers
from dusky_heron.core.circuit.engine import Segment, Vector
from dusky_heron.core.circuit.load import Load
from dusky_heron.core.circuit.steady import around, extremes, integrate, polished, settle
from dusky_heron.core.errors import InputError, Range

__all__ = [
    "OHMS",
    "TOPOLOGIES",
    "DropperCircuit",
    "DropperState",
    "available_current",
    "infer_capacitance",
    "settled_state",
    "steady_state",
    "switch_load",
    "switch_on",
]
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


@dataclass(frozen=True, slots=True)
class Inferred:
    """The capacitance that explains a rail; of a clamped one a lower bound only (`low_f`, and None for the others)."""

    capacitance_f: float | None
    low_f: float
    high_f: float | None
    determinable: bool


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
    found = _settled(circuit)
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
    """About where it settles: the rail where the first-order current is what the load draws, or where it is clamped."""
    low, high = 0.0, 2 * c.source.peak_v
    for _ in range(40):
        middle = (low + high) / 2
        if _first_order_current(c, middle) > c.load.current_at(middle):
            low = middle
        else:
            high = middle
    rail = low if c.rail_v is None else min(low, max(c.rail_v, 0.0))
    return (-(c.source.peak_v - (rail if c.topology == "bridge" else c.diode_v)), rail)


@dataclass(frozen=True, slots=True)
class _Settled:
    """A settled circuit: its state at the zero crossing, the segments of its cycle, and means over it."""

    x: Vector
    segments: list[Segment]
    means: Vector

    @property
    def rail_rms(self) -> float:
        """The rail, rms."""
        return math.sqrt(max(self.means[9], 0.0))


def _settled(c: DropperCircuit) -> _Settled:
    halves = c.topology == "bridge"  # half a cycle later its capacitor stands the other way round
    back = ((-1.0 if halves else 1.0, 0.0), (0.0, 1.0))
    guess = _guess(c)
    highest = 2.5 * c.source.peak_v + c.diode_v + 1e-3

    def solve(changed: DropperCircuit, start: Vector, around_v: float) -> _Settled:
        x, segments = settle(engine_circuit(changed, around_v), start, highest, back, halves=halves)
        means, _ = integrate(segments, powers(changed, around_v), c.source)
        return _Settled(x, segments, means)

    def plain(around_v: float) -> tuple[_Settled, float]:
        found = solve(c, guess, around_v)
        return found, max(found.rail_rms, c.load.knee_v)

    def near(load: Load, found: _Settled) -> tuple[_Settled, float]:
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
    if circuit.clamp_v is None:
        return None
    return _settled(replace(circuit, load=Load(), clamp_ohm=OHMS.low)).means[8]


def settled_state(circuit: DropperCircuit) -> Vector:
    """The voltages of capacitor and rail at a rising zero crossing of the mains, settled."""
    circuit.check()
    return _settled(circuit).x


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
    settled = _settled(replace(circuit, load=before))
    loaded = replace(circuit, load=after)
    loaded.check()
    x, t, around_v, period = settled.x, 0.0, settled.rail_rms, circuit.source.period
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
    about = max(_guess(circuit)[1], circuit.load.knee_v)
    segments = engine_circuit(circuit, about).run((residual_v, 0.0), circuit.source.period / 4, INRUSH_S)
    means, seconds = integrate(segments, powers(circuit, about), circuit.source)
    return Inrush(max(map(abs, extremes(segments, lambda s: _series(circuit, s)))), means[2] * seconds)


def _series(c: DropperCircuit, segment: Segment) -> tuple[Vector, float, float]:
    """The current through the series resistor as a form of the voltages: what charges C and what its bleed takes."""
    (g, across), *_ = segment.mode.g
    bleed = 1 / c.bleed_ohm if c.bleed_ohm else 0.0
    return (bleed - g, -across), segment.mode.source[0], segment.mode.current[0]


def infer_capacitance(circuit: DropperCircuit, output_v: float, *, error_v: float = 0.0) -> Inferred:
    """The capacitance that explains a rail voltage under a known load.

    The rail rises with the capacitance until it is clamped; a clamped rail tells a lower bound only.

    :param circuit: as drawn; its capacitance is not used
    :param output_v: mean rail voltage as measured, volts
    :param error_v: what that may be wrong by, volts
    :returns: Inferred, farads
    :raises InputError: a value out of range, or a rail no capacitance up to 1 F explains (`output_v`)
    :source: bisection on the periodic state
    """
    VOLTS.check("output_v", output_v)
    VOLTS.check("error_v", error_v)
    circuit.check()
    rail = circuit.rail_v
    low = _capacitance_for(circuit, max(output_v - error_v, 0.0))
    if rail is not None and output_v + error_v >= rail:
        edge = _capacitance_for(circuit, min(max(output_v - error_v, 0.0), rail * (1 - 1e-4)))
        return Inferred(None, edge or 0.0, None, determinable=False)
    middle, high = _capacitance_for(circuit, output_v), _capacitance_for(circuit, output_v + error_v)
    if middle is None:
        raise InputError("output_v", "No capacitance explains that rail: the supply or the load is another.")
    return Inferred(middle, low or 0.0, high, determinable=True)


def _capacitance_for(c: DropperCircuit, rail: float) -> float | None:
    """The capacitance at which the mean rail is this; None when even a very large one falls short."""
    if rail <= 0:
        return None

    def above(log_farads: float) -> bool:
        return _settled(replace(c, capacitance_f=math.exp(log_farads))).means[0] >= rail

    low, high = math.log(1e-12), math.log(1e-3)
    if not above(high):
        return None
    while high - low > 1e-6:
        middle = (low + high) / 2
        low, high = (low, middle) if above(middle) else (middle, high)
    return math.exp((low + high) / 2)
