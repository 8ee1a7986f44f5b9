"""Meters as they are: what each would show on a set, and what a charged part does to them.

A meter is laid on as what it is, an input resistance, a test source, a current; its circuit is followed, and what it measures is
reckoned as its own rule reckons. Then come its error, its range and its last digit.
"""

import math
import random
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from typing import Any

from dusky_heron.core.errors import InputError
from dusky_heron.core.rig.elements import Drive, Resistor, Source
from dusky_heron.core.rig.following import follow
from dusky_heron.core.rig.impedance import impedance
from dusky_heron.core.rig.network import Network
from dusky_heron.core.rig.propagator import Row, dot
from dusky_heron.core.rig.simulated import SimulatedSet
from dusky_heron.core.tables import toml_table

EMPTIES_OHM, EMPTIES_S = 100.0, 0.5  # a capacitance range empties what it measures first
INPUT_OHM = 10e6  # of a range that has no input resistance of its own
CHARGED_V = 2.5  # above which its display says so and it measures nothing
SWINGS = 0.02  # between half of its time and the whole: a reading that has not settled
RANGED_S = 0.2  # in which an ohmmeter tries a range
PATIENT = 20  # times the settling time of an ohmmeter, as long as one waits for a part that charges
RANGES_DOWN = 0.9  # of the range below, under which it goes down again
MOST_A = 6e-3  # that a hand meter drives through a part
LONGEST = 2.2  # times what a full range would take, before the next is tried
GUARD_OHM = 1e12  # of the input of a capacitance range
BAD_FACTOR = (3.0, 8.0)  # times its accuracy, by which one out of calibration errs
QUANTITIES = (
    "volts_dc", "volts_ac", "volts_low", "resistance", "capacitance", "capacitance_series", "capacitance_parallel", "dissipation",
    "esr", "insulation", "leakage", "current",
)  # fmt: skip
UNITS: Mapping[str, str] = {
    "volts_dc": "V", "volts_ac": "V", "volts_low": "V", "resistance": "Ω", "capacitance": "F", "capacitance_series": "F",
    "capacitance_parallel": "F", "dissipation": "", "esr": "Ω", "insulation": "Ω", "leakage": "A", "current": "A",
}  # fmt: skip
PREFIXES = ((1e9, "G"), (1e6, "M"), (1e3, "k"), (1.0, ""), (1e-3, "m"), (1e-6, "µ"), (1e-9, "n"), (1e-12, "p"))


@dataclass(frozen=True, slots=True)
class Function:
    """One thing a meter measures: its ranges as (full, step), its accuracy, and what it puts on a part."""

    quantity: str
    ranges: tuple[tuple[float, float], ...]
    percent: float
    counts: float
    settle_s: float
    ohm: float = 0.0
    test_v: float = 0.0
    test_a: float = 0.0
    low_v: float = 0.0
    high_v: float = 0.0
    amperes: float = 0.0
    hertz: tuple[float, ...] = ()
    volts: tuple[float, ...] = ()


@dataclass
class Meter:
    """A meter: `errs` is where in its accuracy it stands, -1 to 1 of per cent and counts; beyond that it is out of calibration."""

    id: str
    title: str
    functions: Mapping[str, Function]
    lead_ohm: float
    zeroed: bool
    stands_v: float
    survives_charge_v: float
    errs: tuple[float, float] = (0.0, 0.0)
    dead: set[str] = field(default_factory=set)  # functions that are gone

    @property
    def calibrated(self) -> bool:
        """Whether it measures inside its accuracy."""
        return all(abs(share) <= 1 for share in self.errs)


@dataclass(frozen=True, slots=True)
class Shown:
    """What a display says: a value, or why there is none: OL beyond its ranges, CHARGED, or a meter that died of it."""

    quantity: str
    text: str
    value: float | None = None
    full: float | None = None
    step: float | None = None
    hertz: float | None = None
    volts: float | None = None
    seconds: float = 0.0
    swings: bool = False
    died: bool = False


@cache
def kinds() -> tuple[str, ...]:
    """The meters of the table."""
    return tuple(name for name, row in toml_table("rig_meters").items() if isinstance(row, dict))


def meters(seed: int = 0, *, exact: bool = False, out: Sequence[str] = ()) -> dict[str, Meter]:
    """One meter of each kind, somewhere inside its accuracy.

    :param seed: the same seed errs the same way
    :param exact: without error, only ranges and digits
    :param out: those that are out of calibration
    :returns: meters by id
    :source: rig_meters.toml
    """
    chance = random.Random(seed)  # noqa: S311 # chance, not secrecy
    found = {}
    for name in kinds():
        row = toml_table("rig_meters")[name]
        functions = {key: _function(key, value) for key, value in row.items() if isinstance(value, dict)}
        errs = (chance.uniform(-1, 1), chance.uniform(-1, 1))
        factor = chance.uniform(*BAD_FACTOR) * (1 if errs[0] > 0 else -1)
        if name in out:
            errs = (factor, errs[1])
        found[name] = Meter(
            name, row["title"], functions, row["lead_ohm"], row["zeroed"], row["stands_v"], row["survives_charge_v"],
            (0.0, 0.0) if exact else errs,
        )  # fmt: skip
    return found


def _function(quantity: str, row: Mapping[str, Any]) -> Function:
    given: dict[str, Any] = {key: tuple(value) if isinstance(value, list) else value for key, value in row.items()}
    return Function(quantity, **given)


def measure(
    simulated: SimulatedSet,
    meter: Meter,
    quantity: str,
    a: str,
    b: str = "",
    *,
    hertz: float | None = None,
    volts: float | None = None,
    patient: bool = False,
) -> Shown:
    """What a meter shows, laid between two nodes; the set's time goes on, and what the meter put on a part stays there.

    :param simulated: the set, plugged in or not
    :param meter: one of `meters`
    :param quantity: one of QUANTITIES that it has
    :param a: where its red lead lies; for a clamp the element it is closed around
    :param b: where its black lead lies
    :param hertz: frequency of a bridge; its first unless said
    :param volts: test volts of an insulation or leakage tester; its first unless said
    :param patient: waits for an ohmmeter until it stands, up to a minute
    :returns: what it shows
    :raises InputError: a meter without that quantity, frequency or test voltage, or a node that is not there
    :source: the definition of each: timed charge C = I·Δt/ΔV; Z at f; R = R_ref·U/(U₀ − U); R = U/I after a time
    """
    function = meter.functions.get(quantity)
    if function is None:
        raise InputError("quantity", f"The {meter.title} does not measure {quantity}.")
    at_hertz = _offered("hertz", hertz, function.hertz)
    at_volts = _offered("volts", volts, function.volts)
    if quantity in meter.dead:
        return Shown(quantity, "dead")
    if quantity == "current":
        return _shown(meter, function, simulated.cycle((a,))[0])
    simulated.check_nodes(a, b)
    simulated.probed(a, b)
    there = _highest(simulated, a, b, function.ohm or INPUT_OHM)
    if there > (meter.stands_v if function.ohm and not function.volts else meter.survives_charge_v):
        meter.dead.add(quantity)
        return Shown(quantity, "dead", died=True)
    if quantity.startswith("volts"):
        return _volts(simulated, meter, function, a, b)
    if simulated.on or (there > CHARGED_V and function.hertz):
        return Shown(quantity, "CHARGED")
    if quantity == "capacitance":
        return _timed(simulated, meter, function, a, b)
    if quantity == "resistance":
        return _ohms(simulated, meter, function, a, b, patient=patient)
    if quantity in ("insulation", "leakage"):
        return _driven(simulated, meter, function, a, b, at_volts or 0.0)
    return _bridge(simulated, meter, function, a, b, at_hertz or 0.0)


def _offered(name: str, value: float | None, offered: Sequence[float]) -> float | None:
    """A setting a meter has; its first where none is asked for."""
    if value is None:
        return offered[0] if offered else None
    if value not in offered:
        raise InputError(name, f"It has no such setting: {value:g}.")
    return value


def _laid(simulated: SimulatedSet, a: str, b: str, ohm: float) -> float:
    """Volts between two nodes in the first instant an input lies across them: little, behind a joint that is broken."""
    return simulated.volts(a, b) * ohm / (ohm + simulated.network.behind(a, b))


def _highest(simulated: SimulatedSet, a: str, b: str, ohm: float) -> float:
    """The highest volts at an input laid between two nodes, over a cycle where a sine drives."""
    if not simulated.network.alternating:
        return abs(_laid(simulated, a, b, ohm))
    flow = simulated.ahead(between=((a, b),))
    return flow.peak(0)


def _shown(meter: Meter, function: Function, true: float, **conditions: Any) -> Shown:
    """A true value with the meter's error, on the first range that holds it, to its last digit."""
    if not math.isfinite(true):
        return Shown(function.quantity, "OL", **conditions)
    value = true * (1 + meter.errs[0] * function.percent / 100)
    for full, step in function.ranges:
        read = round((value + meter.errs[1] * function.counts * step) / step) * step
        if abs(read) <= full:
            if read < 0 and not function.quantity.startswith("volts_dc"):
                read = 0.0
            text = engineering(read, step, UNITS[function.quantity])
            return Shown(function.quantity, text, read, full, step, **conditions)
    return Shown(function.quantity, "OL", **conditions)


def engineering(value: float, step: float, unit: str) -> str:
    """A value to its last digit with a prefix: 681.2 nF."""
    size = max(abs(value), step * 10)
    scale, prefix = next(((s, p) for s, p in PREFIXES if size >= s), PREFIXES[-1])
    digits = max(0, -math.floor(math.log10(step / scale) + 1e-9))
    return (
        f"{value / scale:.{digits}f} {prefix}{unit}".rstrip()
        if unit
        else f"{value:.{max(0, -math.floor(math.log10(step) + 1e-9))}f}"
    )


def _volts(simulated: SimulatedSet, meter: Meter, function: Function, a: str, b: str) -> Shown:
    simulated.attached["meter"] = Resistor(a, b, function.ohm)
    simulated.wait(function.settle_s)
    if simulated.network.alternating:
        flow = simulated.ahead(between=((a, b),))
        mean = flow.mean(0)
        true = mean if function.quantity == "volts_dc" else math.sqrt(max(flow.rms(0) ** 2 - mean**2, 0.0))
        if function.quantity == "volts_low":
            true = flow.rms(0)
    else:
        true = simulated.volts(a, b) if function.quantity != "volts_ac" else 0.0
    simulated.detach("meter")
    return _shown(meter, function, true, seconds=function.settle_s)


def _ohms(simulated: SimulatedSet, meter: Meter, function: Function, a: str, b: str, *, patient: bool) -> Shown:
    """A source behind a reference of the range: R = R_ref·U/(U₀ − U); ranges are tried upwards, then settled, up or down."""
    fulls = [full for full, _ in function.ranges]
    last, k = len(fulls) - 1, 0
    while k < last and _reads(simulated, meter, function, fulls[k], a, b, RANGED_S) > fulls[k]:
        k += 1
    half = whole = math.inf
    seconds = 0.0
    for _ in range(PATIENT if patient else len(fulls)):
        half, whole = (_reads(simulated, meter, function, fulls[k], a, b, function.settle_s / 2) for _ in range(2))
        seconds += function.settle_s
        if whole > fulls[k] and k < last:
            k += 1
        elif k and 0 <= whole < RANGES_DOWN * fulls[k - 1]:
            k -= 1
        elif not patient or not _swings(half, whole, fulls[0]):
            break
    simulated.detach("meter")
    swings = _swings(half, whole, fulls[0])
    return _shown(meter, function, whole, seconds=seconds, swings=swings)


def _swings(half: float, whole: float, least: float) -> bool:
    return abs(whole - half) > SWINGS * max(abs(whole), least / 100)


def _reads(simulated: SimulatedSet, meter: Meter, function: Function, full: float, a: str, b: str, seconds: float) -> float:
    """Ohms as its divider tells them after a time, with its leads unless they were zeroed."""
    simulated.attached["meter"] = Source(a, b, full / 2 + meter.lead_ohm, dc_v=function.test_v)
    simulated.wait(seconds)
    u = simulated.volts(a, b)
    i = (function.test_v - u) / (full / 2 + meter.lead_ohm)
    return u / i + (0.0 if meter.zeroed else meter.lead_ohm) if i > 0 else math.inf


def _timed(simulated: SimulatedSet, meter: Meter, function: Function, a: str, b: str) -> Shown:
    """C = I·Δt/(U₂ − U₁) while a constant current charges it, from where it was emptied to; the current grows with the range."""
    spent = 0.0
    for k, (full, _) in enumerate(function.ranges):
        current = min(function.test_a * full / function.ranges[0][0], MOST_A)
        longest = LONGEST * full * function.high_v / current
        simulated.attached["meter"] = Resistor(a, b, EMPTIES_OHM)
        simulated.wait(EMPTIES_S)
        simulated.detach("meter")
        there = _laid(simulated, a, b, INPUT_OHM)
        begun = max(there, function.low_v)
        if abs(there) > function.high_v / 2:
            return Shown(function.quantity, "CHARGED")
        trial = simulated.aside()
        trial.put("meter", Drive(a, b, current))
        trial.put("guard", Resistor(a, b, GUARD_OHM))
        low, first = _until(trial, a, b, begun, longest)
        high, second = _until(trial, a, b, function.high_v, longest - low)
        simulated.adopt(trial, "meter", "guard")
        spent += EMPTIES_S + low + high
        if first and second and second > 0:
            true = current * high / (function.high_v - begun)
            if true <= full or k == len(function.ranges) - 1:
                return _shown(meter, function, true, seconds=spent)
    return Shown(function.quantity, "OL", seconds=spent)


def _until(network: Network, a: str, b: str, level: float, longest: float) -> tuple[float, bool]:
    """How long until the volts between two nodes reach a level; whether they did."""

    def reached(mode: Any) -> Row:
        row: Row = mode.across(a, b)
        row[mode.layout.one] -= level
        return row

    before = network.second
    flow = follow(network, longest, stop=reached)
    return network.second - before, flow.seconds < longest * (1 - 1e-9)


def _driven(simulated: SimulatedSet, meter: Meter, function: Function, a: str, b: str, volts: float) -> Shown:
    """A test voltage behind the tester's resistance, read after its time; what is charged stays charged."""
    ohm = function.ohm or volts / function.amperes
    currents = []
    for _ in range(2):
        simulated.attached["meter"] = Source(a, b, ohm, dc_v=volts)
        simulated.wait(function.settle_s / 2)
        currents.append((volts - simulated.volts(a, b)) / ohm)
    simulated.detach("meter")
    across, through = volts - currents[1] * ohm, max(currents[1], 0.0)
    true = through if function.quantity == "leakage" else across / through if through > 0 else math.inf
    swings = abs(currents[1] - currents[0]) > SWINGS * max(abs(currents[1]), 1e-9)
    return _shown(meter, function, true, volts=volts, seconds=function.settle_s, swings=swings)


def _bridge(simulated: SimulatedSet, meter: Meter, function: Function, a: str, b: str, hertz: float) -> Shown:
    """Z at a frequency, as series or parallel capacitance, D or ESR."""
    z = impedance(simulated.network.parts, a, b, hertz) + (0 if meter.zeroed else meter.lead_ohm)
    omega = 2 * math.pi * hertz
    reactance = -z.imag
    if function.quantity == "esr":
        true = z.real
    elif reactance <= 0:
        true = math.inf  # it shows an inductance
    elif function.quantity == "dissipation":
        true = z.real / reactance
    else:
        true = 1 / (omega * reactance)
        if function.quantity == "capacitance_parallel":
            true /= 1 + (z.real / reactance) ** 2
    simulated.wait(function.settle_s)
    return _shown(meter, function, true, hertz=hertz, seconds=function.settle_s)


def glance(simulated: SimulatedSet, meter: Meter, common: str = "") -> dict[str, Shown]:
    """What a DC voltmeter shows at every terminal in the first instant, its black lead on one of them.

    :param simulated: the set, unplugged
    :param meter: one that measures volts_dc
    :param common: where the black lead is; the first terminal unless said
    :returns: by terminal
    :raises InputError: a meter without volts_dc
    :source: the divider of its input and what is behind the terminals while every capacitor holds its volts
    """
    function = meter.functions.get("volts_dc")
    if function is None:
        raise InputError("quantity", f"The {meter.title} does not measure volts_dc.")
    nodes = simulated.drawing.nodes()
    black = common or nodes[0]
    layout = simulated.network.resting
    mode = layout.mode(simulated.network.conducting & frozenset(layout.diodes))
    z = layout.vector(simulated.network.held, simulated.second)
    found = {}
    for node in nodes:
        if node != black:
            behind = simulated.network.behind(node, black)
            found[node] = _shown(meter, function, dot(mode.across(node, black), z) * function.ohm / (function.ohm + behind))
    return found
