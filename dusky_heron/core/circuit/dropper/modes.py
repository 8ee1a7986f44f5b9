"""A dropper as the engine knows it: which node conducts, what ends that, and what each element takes."""

import math
from collections.abc import Callable
from dataclasses import dataclass

from dusky_heron.core.circuit.engine import LEAK, Circuit, Guard, Mode, Segment, Source, Vector
from dusky_heron.core.circuit.load import Load
from dusky_heron.core.errors import InputError, Range

TOPOLOGIES = ("half_wave", "half_wave_shunt", "bridge")
FARADS = Range("Capacitance", 0.0, 1.0, "F", open_low=True)
OHMS = Range("Resistance", 0.01, 1e12, "Ω")
VOLTS = Range("Voltage", 0.0, 1e5, "V")
HERTZ = Range("Frequency", 0.0, 1e5, "Hz", open_low=True)


@dataclass(frozen=True, slots=True)
class DropperCircuit:
    """A dropper as drawn; volts rms for the supply, `None` for a bleed that is open or a clamp that is absent.

    half_wave: series R, then C with its bleed across it, reverse diode, series diode, smoothing with the zener across it.
    half_wave_shunt: the zener is the reverse diode, ahead of the series diode. bridge: smoothing with the zener across it.
    """

    topology: str
    supply_v: float
    supply_hz: float
    capacitance_f: float
    series_ohm: float
    bleed_ohm: float | None
    smoothing_f: float
    clamp_v: float | None
    clamp_ohm: float
    diode_v: float
    load: Load

    def check(self) -> None:
        """Raise InputError naming the field that is out of range."""
        if self.topology not in TOPOLOGIES:
            raise InputError("topology", f"Choose one of: {', '.join(TOPOLOGIES)}.")
        VOLTS.check("supply_v", self.supply_v)
        HERTZ.check("supply_hz", self.supply_hz)
        FARADS.check("capacitance_f", self.capacitance_f)
        OHMS.check("series_ohm", self.series_ohm)
        if self.bleed_ohm is not None:
            OHMS.check("bleed_ohm", self.bleed_ohm)
        FARADS.check("smoothing_f", self.smoothing_f)
        if self.clamp_v is not None:
            VOLTS.check("clamp_v", self.clamp_v)
        OHMS.check("clamp_ohm", self.clamp_ohm)
        VOLTS.check("diode_v", self.diode_v)
        self.load.check()

    @property
    def source(self) -> Source:
        """The mains."""
        return Source(math.sqrt(2) * self.supply_v, self.supply_hz)

    @property
    def rail_v(self) -> float | None:
        """Where the rail is clamped: behind the series diode for a shunt zener."""
        if self.clamp_v is None:
            return None
        return self.clamp_v - self.diode_v if self.topology == "half_wave_shunt" else self.clamp_v


# The node behind the capacitor: what conducts there, and the rail's side of it. A mode is named by it, by whether the clamp
# across the rail conducts, and by whether the load is above its knee.


def _modes(c: DropperCircuit, around_v: float) -> dict[str, Mode]:
    """Every mode of a dropper; capacitor voltages are (dropper, rail)."""
    modes = {}
    for node in _NODES["half_wave" if c.clamp_v is None else c.topology]:
        for clamped in (False, True) if c.clamp_v is not None and c.topology != "half_wave_shunt" else (False,):
            for high in (False, True):
                modes[_name(node, clamped, high)] = _mode(c, node, clamped, high, around_v)
    return modes


_NODES = {
    "half_wave": ("off", "forward", "reverse"),
    "half_wave_shunt": ("off", "forward", "reverse", "zener", "both"),
    "bridge": ("off", "forward", "reverse"),
}


def _name(node: str, clamped: bool, high: bool) -> str:
    return f"{node}{'z' if clamped else ''}{'+' if high else '-'}"


def _mode(c: DropperCircuit, node: str, clamped: bool, high: bool, around_v: float) -> Mode:
    y, bleed = 1 / c.series_ohm, 1 / c.bleed_ohm if c.bleed_ohm else 0.0
    siemens, amps = c.load.line(above_knee=high, around_v=around_v)
    clamp, zener = 1 / c.clamp_ohm, c.clamp_v or 0.0
    drop = c.diode_v * (2 if c.topology == "bridge" else 1)
    g = [[bleed, 0.0], [0.0, siemens]]
    source, current = [0.0, 0.0], [0.0, -amps]

    def conduct(side: float, node_v: float) -> None:
        """The node held at side·rail + node_v: current (v − vC − node)/R flows through C, and side of it into the rail."""
        g[0][0] += y
        g[0][1] += y * side
        g[1][0] += y * side
        g[1][1] += y * side * side
        source[0] += y
        source[1] += y * side
        current[0] -= y * node_v
        current[1] -= y * node_v * side

    if node == "forward" or node == "both":
        conduct(1.0, drop)
    elif node == "reverse" and c.topology == "bridge":
        conduct(-1.0, -drop)
    elif node == "reverse":
        conduct(0.0, -c.diode_v)
    elif node == "zener":
        both = 1 / (c.series_ohm + c.clamp_ohm)
        g[0][0] += both
        source[0] += both
        current[0] -= both * zener
    if node == "both":  # the zener ahead of the series diode takes (rail + diode − zener)/R of what comes through
        g[1][1] += clamp
        current[1] += clamp * (zener - drop)
    if clamped:
        g[1][1] += clamp
        current[1] += clamp * zener
    guards = [*_node_guards(c, node, clamped, high), *_rail_guards(c, node, clamped, high)]
    return Mode(tuple(map(tuple, g)), tuple(source), tuple(current), tuple(guards))


def _node_guards(c: DropperCircuit, node: str, clamped: bool, high: bool) -> list[Guard]:
    """When what conducts behind the capacitor changes; v − vC is the node's voltage while nothing conducts."""
    d, z = c.diode_v, c.clamp_v

    def to(then: str) -> str:
        return _name(then, clamped, high)

    if c.topology == "bridge":
        return {
            "off": [Guard((-1, -1), 1, -2 * d, to("forward")), Guard((1, -1), -1, -2 * d, to("reverse"))],
            "forward": [Guard((1, 1), -1, 2 * d, to("off"))],
            "reverse": [Guard((-1, 1), 1, 2 * d, to("off"))],
        }[node]
    forward, back = Guard((-1, -1), 1, -d, to("forward")), Guard((1, 1), -1, d, to("off"))
    reverse, rest = Guard((1, 0), -1, -d, to("reverse")), Guard((-1, 0), 1, d, to("off"))
    plain = {"off": [forward, reverse], "forward": [back], "reverse": [rest]}
    if c.topology == "half_wave" or z is None:
        return plain[node]
    share = c.clamp_ohm / (c.series_ohm + c.clamp_ohm)  # of v − vC − z that stands across the zener's own resistance
    over_rail = Guard((-share, -1), share, z - share * z - d, to("both"))
    return {
        **plain,
        "off": [*plain["off"], Guard((-1, 0), 1, -z, to("zener"))],
        "forward": [*plain["forward"], Guard((0, 1), 0, d - z, to("both"))],
        "zener": [Guard((1, 0), -1, z, to("off")), over_rail],
        "both": [
            Guard((0, -1), 0, z - d, to("forward")),
            # over_rail the other way round: the series diode's own share of the current falls below zero
            Guard((share, 1), -share, share * z - z + d, to("zener")),
        ],
    }[node]


def _rail_guards(c: DropperCircuit, node: str, clamped: bool, high: bool) -> list[Guard]:
    """When the clamp across the rail and the knee of the load are crossed."""
    guards = []
    if c.clamp_v is not None and c.topology != "half_wave_shunt":
        sign = -1 if clamped else 1
        guards.append(Guard((0, sign), 0, -sign * c.clamp_v, _name(node, not clamped, high)))
    if c.load.current_a or c.load.power_w:
        sign = -1 if high else 1
        guards.append(Guard((0, sign), 0, -sign * c.load.knee_v, _name(node, clamped, not high)))
    return guards


def _start(c: DropperCircuit) -> Callable[[Vector, float], str]:
    """What conducts at a state: the unique consistent mode."""
    d, z = c.diode_v, c.clamp_v

    def start(x: Vector, v: float) -> str:
        node_v, rail = v - x[0], x[1]
        clamped = z is not None and c.topology != "half_wave_shunt" and rail > z
        high = rail >= c.load.knee_v
        if c.topology == "bridge":
            node = "forward" if node_v > rail + 2 * d else "reverse" if -node_v > rail + 2 * d else "off"
            return _name(node, clamped, high)
        if node_v < -d:
            return _name("reverse", clamped, high)
        if c.topology == "half_wave" or z is None:
            return _name("forward" if node_v > rail + d else "off", clamped, high)
        held = min(node_v, z + (node_v - z) * c.clamp_ohm / (c.series_ohm + c.clamp_ohm)) if node_v > z else node_v
        if held > rail + d:
            return _name("both" if rail + d > z else "forward", False, high)
        return _name("zener" if node_v > z else "off", False, high)

    return start


def engine_circuit(c: DropperCircuit, around_v: float) -> Circuit:
    """A dropper for the engine, constant power as a resistor around a voltage."""
    scale = c.source.peak_v + (c.clamp_v or 0.0) + c.diode_v
    return Circuit(_modes(c, around_v), (c.capacitance_f, c.smoothing_f), c.source, _start(c), scale)


def held_rail_circuit(c: DropperCircuit, held_v: float) -> Circuit:
    """The capacitor alone, charged into an ideal source where the clamp is: nothing conducts until the node reaches it."""
    y, bleed = 1 / c.series_ohm, 1 / c.bleed_ohm if c.bleed_ohm else 0.0
    ends = dict(zip(("up", "down"), held_ends(c, held_v), strict=True))
    begins = (Guard((-1.0,), 1, -ends["up"], "up"), Guard((1.0,), -1, ends["down"], "down"))
    modes = {"off": Mode(((bleed,),), (0.0,), (0.0,), begins)}
    for name, end, way in (("up", ends["up"], 1.0), ("down", ends["down"], -1.0)):
        modes[name] = Mode(((bleed + y,),), (y,), (-y * end,), (Guard((way,), -way, way * end, "off"),))

    def start(x: Vector, v: float) -> str:
        node_v = v - x[0]
        return "up" if node_v > ends["up"] else "down" if node_v < ends["down"] else "off"

    return Circuit(modes, (c.capacitance_f,), c.source, start, c.source.peak_v + held_v + c.diode_v)


def held_ends(c: DropperCircuit, held_v: float) -> tuple[float, float]:
    """Where the node behind the capacitor stops, high and low, when its rail is an ideal source."""
    drop = {"half_wave": c.diode_v, "half_wave_shunt": 0.0, "bridge": 2 * c.diode_v}[c.topology]
    return held_v + drop, -(held_v + drop) if c.topology == "bridge" else -c.diode_v


def powers(c: DropperCircuit, around_v: float) -> Callable[[Segment, Vector, float], Vector]:
    """At an instant: rail, input power, input current squared, powers of series, bleed, clamp, diode and load.

    Then the clamp current, and the rail squared.
    """
    y = 1 / c.series_ohm
    leak = LEAK * c.supply_hz  # what the engine lets decay is counted where it is lost
    bleed = (1 / c.bleed_ohm if c.bleed_ohm else 0.0) + leak * c.capacitance_f
    zener, d = c.clamp_v or 0.0, c.diode_v
    drop = 2 * d if c.topology == "bridge" else d
    lines = {sign: c.load.line(above_knee=sign == "+", around_v=around_v) for sign in "+-"}

    def at(segment: Segment, x: Vector, v: float) -> Vector:
        key, rail, u = segment.key, x[1], v - x[0]
        node = key[:-1]
        series = clamp_a = clamp_w = diode_w = 0.0
        if node[-1] == "z":
            clamp_a = (rail - zener) / c.clamp_ohm
            clamp_w, node = clamp_a * rail, node[:-1]
        if node == "forward":
            series = (u - rail - drop) * y
            diode_w = series * drop
        elif node == "reverse":
            series = (u + rail + drop) * y if c.topology == "bridge" else (u + d) * y
            diode_w = -series * drop
        elif node == "zener":
            series = (u - zener) / (c.series_ohm + c.clamp_ohm)
            clamp_a, clamp_w = series, series * (zener + series * c.clamp_ohm)
        elif node == "both":
            series = (u - rail - drop) * y
            clamp_a = (rail + d - zener) / c.clamp_ohm
            clamp_w, diode_w = clamp_a * (rail + d), (series - clamp_a) * d
        siemens, amps = lines[key[-1]]
        squared = series * series
        return (
            rail, v * series, squared, squared * c.series_ohm, x[0] * x[0] * bleed, clamp_w, diode_w,
            rail * ((siemens + leak * c.smoothing_f) * rail + amps), clamp_a, rail * rail,
        )  # fmt: skip

    return at
