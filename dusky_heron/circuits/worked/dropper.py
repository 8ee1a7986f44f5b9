"""Working out a dropper as typed."""

import math
import re
from dataclasses import replace

from dusky_heron.circuits.schemas import (
    CommandOut,
    DropperIn,
    DropperOut,
    HeatOut,
    LevelOut,
    MainsOut,
    MarkOut,
    MeasuredIn,
    MomentOut,
    RankedOut,
    StateOut,
    SymptomOut,
)
from dusky_heron.circuits.worked.suspects import show_suspects
from dusky_heron.core.circuit import Load
from dusky_heron.core.circuit import dropper as core
from dusky_heron.core.circuit.netlist import dropper_netlist
from dusky_heron.core.circuit.typed_loads import CURRENT, read_loads
from dusky_heron.core.errors import (
    POWER,
    RESISTANCE,
    SUPPLY_FREQUENCY,
    SUPPLY_VOLTAGE,
    VOLTAGE,
    InputError,
    Range,
)
from dusky_heron.core.model import LoadState
from dusky_heron.core.quantities import parse_quantity, show
from dusky_heron.presented import Figure

CAUTION = (
    "Everything behind a dropper is at mains potential, the low-voltage side too: isolating transformer, nothing earthed, "
    "qualified persons only."
)
PERCENT = Range("Error", 0.01, 50.0, "%")
MARGIN = 1.25  # of the largest capacitance that is drawn
POINTS = 240  # of a curve, at most
FOLLOWED_S = 1.5
POWER_FACTOR = re.compile(r"(?:pf|cos ?\u03c6)\s*(?P<factor>0?[.,]\d+|1(?:[.,]0*)?)", re.IGNORECASE)
NO_LOAD = LoadState("no load", 0.0)
UNITS = {"rail_v": ("rail", "V"), "ripple_v": ("ripple", "V"), "input_a": ("mains current", "A"), "input_w": ("power", "W")}


def dropper(data: DropperIn) -> DropperOut:
    """A dropper at its loads, from lowest to highest mains."""
    circuit, states = _read(data)
    heaviest = max(states, key=lambda state: state.current_a)
    lightest = min(states, key=lambda state: state.current_a)
    relay = next((state.relay for state in states if state.relay), None)
    low = replace(circuit, supply_v=circuit.supply_v * core.MAINS[0])
    now = core.steady_state(_feeding(circuit, heaviest))
    weakest = core.steady_state(_feeding(low, heaviest))
    band = core.symptom_sweep(circuit, states, relay)
    marked = parse_quantity(data.marked, "F", core.FARADS, field="marked") if data.marked else None
    reading = _reading(data)
    edges = [row.zones[-1].low_f for row in band]
    top = MARGIN * max([circuit.capacitance_f, *edges, marked or 0.0, reading[1] if reading else 0.0])
    heat = core.too_big(
        circuit,
        Load(current_a=lightest.current_a),
        zener_rated_w=parse_quantity(data.zener_rating, "W", POWER, field="zener_rating") if data.zener_rating else None,
        series_rated_w=parse_quantity(data.series_rating, "W", POWER, field="series_rating") if data.series_rating else None,
    )
    needed = core.largest_needed(band)
    return DropperOut(
        available=Figure.of(now.available_a or 0.0, "A"),
        available_low=Figure.of(weakest.available_a or 0.0, "A"),
        needed=Figure.of(needed, "F") if needed else None,
        zener=Figure.of(heat[0].zener_w, "W"),
        series=Figure.of(heat[0].series_w, "W"),
        current=Figure.of(now.input_a, "A"),
        power_factor=round(now.power_factor, 3),
        inrush=Figure.of(core.switch_on(circuit).peak_a, "A"),
        inrush_again=Figure.of(core.switch_on(circuit, residual_v=-circuit.source.peak_v).peak_a, "A"),
        rows=[_row(circuit, row, states, top) for row in band],
        capacitance=_mark(circuit.capacitance_f, circuit.capacitance_f, circuit.capacitance_f, top),
        marked=_mark(marked, marked, marked, top) if marked else None,
        reading=_mark((reading[0] + reading[1]) / 2, *reading, top) if reading else None,
        command=_command(low, states) if relay else None,
        heat=[_heat(row) for row in heat],
        heat_says=_heat_says(heat),
        states=[state.name for state in states],
        caution=CAUTION,
        netlist=dropper_netlist(_feeding(circuit, heaviest)),
    )


def ranked(data: MeasuredIn) -> RankedOut:
    """Which fault explains what was measured, and what it says of the capacitance."""
    circuit, states = _read(data)
    places = [*((state.name, core.state_load(state, states), False) for state in states), ("unplugged", Load(), True)]
    error = parse_quantity(data.error, "%", PERCENT, field="error") / 100
    columns = {
        "rail_v": ("rails", data.rails, "V", VOLTAGE),
        "ripple_v": ("ripples", data.ripples, "V", VOLTAGE),
        "input_a": ("currents", data.currents, "A", CURRENT),
        "input_w": ("powers", data.powers, "W", POWER),
    }
    observed = []
    for number, (_, load, unplugged) in enumerate(places):
        read = {
            name: parse_quantity(typed[number], unit, limits, field=f"{field}.{number}")
            for name, (field, typed, unit, limits) in columns.items()
            if number < len(typed) and typed[number] and _power_factor(typed[number]) is None
        }
        factor = _power_factor(data.powers[number]) if number < len(data.powers) else None
        if factor is not None:
            if "input_a" not in read:
                raise InputError(f"currents.{number}", "A power factor needs its current beside it.")
            read["input_w"] = circuit.supply_v * read["input_a"] * factor
        observed.append(core.Observed(load, unplugged=unplugged, **read))
    ranking = core.rank_faults(circuit, observed, error=error)
    return RankedOut(
        suspects=show_suspects(ranking, [name for name, _, _ in places], UNITS),
        unmarked=list(ranking.unmarked),
        capacitance=_backwards(circuit, places, observed, _reading(data), error),
        caution=CAUTION,
    )


def _power_factor(typed: str) -> float | None:
    """A power factor where one is typed instead of a power, such as `pf 0.12`."""
    match = POWER_FACTOR.fullmatch(typed.strip())
    return float(match["factor"].replace(",", ".")) if match else None


def _backwards(
    circuit: core.DropperCircuit,
    places: list[tuple[str, Load, bool]],
    observed: list[core.Observed],
    reading: tuple[float, float] | None,
    error: float,
) -> list[str]:
    """What each measured rail and current says of the capacitance, held against the meter where it has been read."""
    found = []
    for (name, load, _), seen in zip(places, observed, strict=True):
        loaded = replace(circuit, load=load)
        for says, value, infer in (
            ("rail", seen.rail_v, core.infer_capacitance),
            ("current", seen.input_a, core.infer_from_current),
        ):
            if value is None:
                continue
            try:
                inferred = infer(loaded, value, **{"error_v" if says == "rail" else "error_a": error * value})
            except InputError as unexplained:
                found.append(f"{name}, {says}: {unexplained.sentence}")
                continue
            if reading:
                found.append(f"{name}, {says}: {core.compare(inferred, *reading).sentence}")
            elif inferred.determinable and inferred.high_f:
                found.append(f"{name}, {says}: {show(inferred.low_f, 'F')} to {show(inferred.high_f, 'F')} explain it.")
            else:
                found.append(f"{name}, {says}: clamped, not determinable, at least {show(inferred.low_f, 'F')}.")
    return found


def _read(data: DropperIn) -> tuple[core.DropperCircuit, tuple[LoadState, ...]]:
    clamp = parse_quantity(data.clamp, "V", VOLTAGE, field="clamp")
    circuit = core.DropperCircuit(
        topology=str(data.topology),
        supply_v=parse_quantity(data.supply_voltage, "V", SUPPLY_VOLTAGE, field="supply_voltage"),
        supply_hz=parse_quantity(data.supply_frequency, "Hz", SUPPLY_FREQUENCY, field="supply_frequency"),
        capacitance_f=parse_quantity(data.capacitance, "F", core.FARADS, field="capacitance"),
        series_ohm=parse_quantity(data.series, "Ω", core.OHMS, field="series"),
        bleed_ohm=parse_quantity(data.bleed, "Ω", RESISTANCE, field="bleed") if data.bleed else None,
        smoothing_f=parse_quantity(data.smoothing, "F", core.FARADS, field="smoothing"),
        clamp_v=clamp,
        clamp_ohm=core.CLAMP_OHM,
        diode_v=core.DIODE_V,
        load=Load(),
    )
    return circuit, read_loads(data.loads, clamp) or (NO_LOAD,)


def _reading(data: DropperIn) -> tuple[float, float] | None:
    """The least and most a typed reading may be."""
    if not data.reading:
        return None
    value = parse_quantity(data.reading, "F", core.FARADS, field="reading")
    share = parse_quantity(data.reading_error or "1 %", "%", PERCENT, field="reading_error") / 100
    return value * (1 - share), value * (1 + share)


def _feeding(circuit: core.DropperCircuit, state: LoadState) -> core.DropperCircuit:
    return replace(circuit, load=Load(current_a=state.current_a))


def _mark(value: float, low: float, high: float, top: float) -> MarkOut:
    return MarkOut(figure=Figure.of(value, "F"), at=round(value / top, 5), low=round(low / top, 5), high=round(high / top, 5))


def _row(circuit: core.DropperCircuit, row: core.SymptomRow, states: tuple[LoadState, ...], top: float) -> MainsOut:
    zones = [
        SymptomOut(
            says=zone.says,
            start=round(zone.low_f / top, 5),
            width=round(((zone.high_f or top) - zone.low_f) / top, 5),
            edge=Figure.of(zone.high_f, "F") if zone.high_f else None,
        )
        for zone in row.zones
        if (zone.high_f or math.inf) > zone.low_f
    ]
    found = []
    for state in states:
        load = core.state_load(state, states)
        settled = core.steady_state(replace(circuit, supply_v=row.supply_v, load=load))
        found.append(StateOut(name=state.name, rail=Figure.of(settled.output_v, "V"), holds=core.holds(state, settled)))
    return MainsOut(supply=Figure.of(row.supply_v, "V"), zones=zones, states=found)


def _command(circuit: core.DropperCircuit, states: tuple[LoadState, ...]) -> CommandOut | None:
    relay = next((state.relay for state in states if state.relay), None)
    if relay is None:
        return None
    standby = min((state.current_a for state in states if state.relay is None), default=0.0)
    found = core.give_command(circuit, relay, standby, FOLLOWED_S)
    every = max(len(found.t_s) // POINTS, 1)
    warm = relay.warmed
    return CommandOut(
        supply=Figure.of(circuit.supply_v, "V"),
        outcome=found.outcome,
        seconds=[round(t, 4) for t in found.t_s[::every]],
        volts=[round(v, 3) for v in found.v[::every]],
        heard=[MomentOut(seconds=round(moment.t_s, 3), says=moment.says) for moment in found.heard],
        levels=[
            LevelOut(says="pulls in", volts=warm.pull_in_v),
            LevelOut(says="holds", volts=warm.hold_v),
            LevelOut(says="resets", volts=warm.reset_v),
        ],
    )


def _heat(row: core.Heat) -> HeatOut:
    return HeatOut(
        says=f"+{row.grown * 100:.0f} %" if row.grown else "as it is",
        capacitance=Figure.of(row.capacitance_f, "F"),
        zener=Figure.of(row.zener_w, "W"),
        series=Figure.of(row.series_w, "W"),
        current=Figure.of(row.input_a, "A"),
        zener_over=row.zener_over,
        series_over=row.series_over,
    )


def _heat_says(rows: tuple[core.Heat, ...]) -> str:
    """The first row that is over a rating, in a sentence."""
    for row in rows:
        for part, watts, share in (
            ("zener", row.zener_w, row.zener_share),
            ("series resistor", row.series_w, row.series_share),
        ):
            if share is not None and share > 1:
                rated = show(watts / share, "W")
                at = f"With {show(row.capacitance_f, 'F')}" if row.grown else "As it is"
                return f"{at} the {part} takes {show(watts, 'W')}, more than its {rated}: too big is a fault too."
    return ""
