"""Transformer-fed supplies: rectifier, source resistance and reservoir; ripple, diode currents and the surge at switch-on."""

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

from dusky_heron.core.circuit.engine import Circuit, Guard, Mode, Segment, Source, Vector
from dusky_heron.core.circuit.load import Load
from dusky_heron.core.circuit.steady import Course, around, extremes, integrate, polished, sampled, settle, stepped
from dusky_heron.core.errors import InputError, Range

TOPOLOGIES = ("full_wave", "half_wave", "bridge", "doubler")
FARADS = Range("Reservoir", 0.0, 100.0, "F", open_low=True)
OHMS = Range("Source resistance", 0.01, 1e12, "Ω")
VOLTS = Range("Voltage", 0.0, 1e6, "V")
HERTZ = Range("Frequency", 0.0, 1e5, "Hz", open_low=True)
SURGE_S = 10e-3
DRAWN = 100  # steps of a course that is drawn
EVENLY = tuple(k / DRAWN for k in range(DRAWN + 1))
EARLY = tuple(share * share for share in EVENLY)  # finest where a surge is steepest


@dataclass(frozen=True, slots=True)
class ReservoirCircuit:
    """A supply as drawn; secondary volts rms. full_wave is a centre tap, its volts and source ohms of each half.

    doubler: two reservoirs of this capacitance in series, charged on alternate half cycles; the load lies across both.
    """

    topology: str
    secondary_v: float
    supply_hz: float
    source_ohm: float
    reservoir_f: float
    diode_v: float
    load: Load

    def check(self) -> None:
        """Raise InputError naming the field that is out of range."""
        if self.topology not in TOPOLOGIES:
            raise InputError("topology", f"Choose one of: {', '.join(TOPOLOGIES)}.")
        VOLTS.check("secondary_v", self.secondary_v)
        HERTZ.check("supply_hz", self.supply_hz)
        OHMS.check("source_ohm", self.source_ohm)
        FARADS.check("reservoir_f", self.reservoir_f)
        VOLTS.check("diode_v", self.diode_v)
        self.load.check()

    @property
    def source(self) -> Source:
        """The secondary."""
        return Source(math.sqrt(2) * self.secondary_v, self.supply_hz)

    @property
    def drop_v(self) -> float:
        """The forward voltage in the path of the current: of two diodes in a bridge."""
        return self.diode_v * (2 if self.topology == "bridge" else 1)


@dataclass(frozen=True, slots=True)
class ReservoirState:
    """A supply in its periodic state: mean output, ripple peak to peak, lowest output, and currents, amperes.

    Diode currents are of one diode; the capacitor's is the ripple current of one reservoir, rms.
    """

    output_v: float
    ripple_v: float
    valley_v: float
    peak_diode_a: float
    rms_diode_a: float
    capacitor_rms_a: float


@dataclass(frozen=True, slots=True)
class Surge:
    """What flows when it is switched on at the mains peak: highest current, and I²t of the first 10 ms."""

    peak_a: float
    i2t_a2s: float


def _modes(c: ReservoirCircuit, around_v: float) -> dict[str, Mode]:
    return {
        f"{node}{'+' if high else '-'}": _mode(c, node, high, around_v)
        for node in (("off", "up") if c.topology == "half_wave" else ("off", "up", "down"))
        for high in (False, True)
    }


def _mode(c: ReservoirCircuit, node: str, high: bool, around_v: float) -> Mode:
    """`up` conducts on the positive half cycle, `down` on the negative one."""
    y, d, two = 1 / c.source_ohm, c.drop_v, c.topology == "doubler"
    siemens, amps = c.load.line(above_knee=high, around_v=around_v)
    n = 2 if two else 1
    g = [[siemens] * n for _ in range(n)]
    source, current = [0.0] * n, [-amps] * n
    if node != "off":
        into = 1 if two and node == "down" else 0
        g[into][into] += y
        source[into] = y if node == "up" else -y
        current[into] -= y * d
    sign = "+" if high else "-"
    ends = {"up": Guard((1.0, 0.0)[:n], -1, d, f"off{sign}"), "down": Guard((0.0, 1.0) if two else (1.0,), 1, d, f"off{sign}")}
    begins = [Guard((-1.0, 0.0)[:n], 1, -d, f"up{sign}")]
    if c.topology != "half_wave":
        begins.append(Guard((0.0, -1.0) if two else (-1.0,), -1, -d, f"down{sign}"))
    guards = begins if node == "off" else [ends[node]]
    if c.load.current_a or c.load.power_w:
        way = -1.0 if high else 1.0
        guards = [*guards, Guard((way,) * n, 0, -way * c.load.knee_v, f"{node}{'-' if high else '+'}")]
    return Mode(tuple(map(tuple, g)), tuple(source), tuple(current), tuple(guards))


def _start(c: ReservoirCircuit) -> Callable[[Vector, float], str]:
    def start(x: Vector, v: float) -> str:
        sign = "+" if sum(x) >= c.load.knee_v else "-"
        if v > x[0] + c.drop_v:
            return f"up{sign}"
        if c.topology != "half_wave" and -v > x[-1] + c.drop_v:
            return f"down{sign}"
        return f"off{sign}"

    return start


def _circuit(c: ReservoirCircuit, around_v: float) -> Circuit:
    farads = (c.reservoir_f,) * (2 if c.topology == "doubler" else 1)
    return Circuit(_modes(c, around_v), farads, c.source, _start(c), c.source.peak_v + c.diode_v)


def _currents(c: ReservoirCircuit, around_v: float) -> Callable[[Segment, Vector, float], Vector]:
    """At an instant: output, the square of the current that flows, the mean square of a reservoir's current, output squared."""
    y, d = 1 / c.source_ohm, c.drop_v
    lines = {sign: c.load.line(above_knee=sign == "+", around_v=around_v) for sign in "+-"}

    def at(segment: Segment, x: Vector, v: float) -> Vector:
        up = (v - x[0] - d) * y if segment.key.startswith("up") else 0.0
        down = (-v - x[-1] - d) * y if segment.key.startswith("down") else 0.0
        output = sum(x)
        siemens, amps = lines[segment.key[-1]]
        load = siemens * output + amps
        either = max(up, down)
        into = up + down - load
        squared = ((up - load) ** 2 + (down - load) ** 2) / 2 if c.topology == "doubler" else into * into
        return (output, either * either, squared, output * output)

    return at


def settled_state(circuit: ReservoirCircuit) -> Vector:
    """The voltages of the reservoirs at a rising zero crossing of the mains, settled."""
    circuit.check()
    return _settled(circuit).x


@dataclass(frozen=True, slots=True)
class _Settled:
    """A settled supply: its state at the zero crossing, the segments of its cycle, and means over it."""

    x: Vector
    segments: list[Segment]
    means: Vector


def _settled(c: ReservoirCircuit) -> _Settled:
    peak = max(c.source.peak_v - c.drop_v, 0.0)
    n = 2 if c.topology == "doubler" else 1
    halves = c.topology != "half_wave"
    back = ((1.0,),) if n == 1 else ((0.0, 1.0), (1.0, 0.0))  # half a cycle later the two of a doubler have changed places
    guess = (peak * 0.9,) * n

    def solve(drawn: ReservoirCircuit, start: Vector, around_v: float) -> _Settled:
        x, segments = settle(_circuit(drawn, around_v), start, peak + 1e-3, back, halves=halves)
        means, _ = integrate(segments, _currents(drawn, around_v), c.source)
        return _Settled(x, segments, means)

    def plain(around_v: float) -> tuple[_Settled, float]:
        found = solve(c, guess, around_v)
        return found, math.sqrt(max(found.means[3], c.load.knee_v**2))

    def near(load: Load, found: _Settled) -> tuple[_Settled, float]:
        better = solve(replace(c, load=load), found.x, 0.0)
        return better, better.means[0]

    found = around(plain, max(peak * 0.9 * n, c.load.knee_v), fixed=not c.load.power_w)
    return polished(c.load, found, near, found.means[0])


def _output(segment: Segment) -> tuple[Vector, float, float]:
    return (1.0,) * len(segment.mode.source), 0.0, 0.0


def _diode(c: ReservoirCircuit, segment: Segment) -> tuple[Vector, float, float]:
    """The current of the diode that conducts, as a form of the voltages."""
    y, n = 1 / c.source_ohm, len(segment.mode.source)
    if segment.key.startswith("up"):
        return (-y, 0.0)[:n], y, -y * c.drop_v
    if segment.key.startswith("down"):
        return (0.0, -y) if n == 2 else (-y,), -y, -y * c.drop_v
    return (0.0,) * n, 0.0, 0.0


def steady_state(circuit: ReservoirCircuit) -> ReservoirState:
    """The periodic state of a supply on its mains.

    :param circuit: as drawn; volts rms, hertz, ohms, farads
    :returns: ReservoirState
    :raises InputError: a value out of range, naming its field, or a circuit that settles nowhere (`circuit`)
    :source: circuit equations, exact between switchings; ripple near I/(f·C), f twice the mains for full wave
    """
    circuit.check()
    found = _settled(circuit)
    segments, means = found.segments, found.means
    low, high = extremes(segments, _output)
    each = 1 if circuit.topology == "half_wave" else 2  # diodes that take turns
    return ReservoirState(
        output_v=means[0],
        ripple_v=high - low,
        valley_v=low,
        peak_diode_a=extremes(segments, lambda s: _diode(circuit, s))[1],
        rms_diode_a=math.sqrt(max(means[1] / each, 0.0)),
        capacitor_rms_a=math.sqrt(max(means[2], 0.0)),
    )


def switch_on(circuit: ReservoirCircuit) -> Surge:
    """The surge when it is switched on at the mains peak with its reservoir empty.

    :param circuit: as drawn
    :returns: Surge: highest current in amperes, I²t of the first 10 ms in A²s
    :raises InputError: a value out of range
    :source: (V̂ − Vd)/Rs at the first instant; circuit equations after it
    """
    segments = _switched_on(circuit)
    means, seconds = integrate(segments, _currents(circuit, 1.0), circuit.source)
    return Surge(extremes(segments, lambda s: _diode(circuit, s))[1], means[1] * seconds)


def output_course(circuit: ReservoirCircuit) -> Course:
    """The output of a supply over one cycle of its mains, settled, to be drawn.

    :param circuit: as drawn
    :returns: Course, seconds from a rising zero crossing, volts
    :raises InputError: as `steady_state`
    :source: circuit equations, exact between switchings
    """
    circuit.check()
    segments = _settled(circuit).segments
    found = sampled(segments, _output, circuit.source, EVENLY)
    if circuit.topology == "half_wave":
        return found
    half = found.seconds[-1]  # the other half cycle is the same again
    return Course(found.seconds + tuple(half + t for t in found.seconds[1:]), found.values + found.values[1:])


def surge_course(circuit: ReservoirCircuit) -> Course:
    """What flows in the first 10 ms after it is switched on at the mains peak, its reservoir empty, to be drawn.

    :param circuit: as drawn
    :returns: Course, seconds from switching on, amperes of the diode that conducts
    :raises InputError: a value out of range
    :source: as `switch_on`
    """
    segments = _switched_on(circuit)
    course = sampled(segments, lambda s: _diode(circuit, s), circuit.source, EARLY)
    return Course(course.seconds, tuple(abs(amps) for amps in course.values))


def _switched_on(circuit: ReservoirCircuit) -> list[Segment]:
    circuit.check()
    return stepped(
        lambda around_v: _circuit(circuit, max(around_v, circuit.load.knee_v)),
        (0.0,) * (2 if circuit.topology == "doubler" else 1),
        circuit.source.period / 4,
        SURGE_S,
        sum,
        fixed=not circuit.load.power_w,
    )
