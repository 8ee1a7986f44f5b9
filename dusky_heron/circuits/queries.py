"""Working out a dropper as typed, and filling the bench from a position."""

import math
from dataclasses import replace
from uuid import UUID

from dusky_heron.assessment.queries import evidence
from dusky_heron.circuits.schemas import (
    DropperIn,
    DropperOut,
    DropperStart,
    HeldOut,
    MainsOut,
    MarkOut,
    RectifierOption,
    StateOut,
    SupplyFigures,
    SupplyIn,
    SupplyOut,
    SymptomOut,
)
from dusky_heron.core.circuit import Load, growing, rectifier
from dusky_heron.core.circuit import dropper as core
from dusky_heron.core.circuit.netlist import dropper_netlist, reservoir_netlist
from dusky_heron.core.circuit.symptoms import MAINS, SymptomRow, symptom_band
from dusky_heron.core.errors import CAPACITANCE, RESISTANCE, SUPPLY_FREQUENCY, SUPPLY_VOLTAGE, VOLTAGE, Range
from dusky_heron.core.model import LoadState
from dusky_heron.core.quantities import parse_quantity, show
from dusky_heron.core.verdict.dropper_balance import read_loads
from dusky_heron.jobs.queries import core_position
from dusky_heron.presented import Figure
from dusky_heron.record.actor import Actor

CLAMP_OHM, DIODE_V = 5.0, 0.7  # usual slope of a zener, and drop of a silicon diode
CAUTION = (
    "Everything behind a dropper is at mains potential, the low-voltage side too: isolating transformer, nothing earthed, "
    "qualified persons only."
)
LOAD = Range("Load", 0.0, 1e4, "A")
MARGIN = 1.25  # of the largest capacitance that is drawn


def dropper(data: DropperIn) -> DropperOut:
    """A dropper at its loads, from lowest to highest mains. No statement."""
    circuit, states = _read(data)
    heaviest = max(states, key=lambda state: state.current_a)
    lightest = min(states, key=lambda state: state.current_a)
    low, high = (replace(circuit, supply_v=circuit.supply_v * share) for share in (MAINS[0], MAINS[-1]))
    now = core.steady_state(_feeding(circuit, heaviest))
    hottest = core.steady_state(_feeding(high, lightest))
    weakest = core.steady_state(_feeding(low, heaviest))
    band = symptom_band(circuit, states)
    top = MARGIN * max([circuit.capacitance_f, *(row.zones[-1].low_f for row in band)])
    peak = circuit.source.peak_v
    at = round(circuit.capacitance_f / top, 5)
    return DropperOut(
        available=Figure.of(now.available_a or 0.0, "A"),
        available_low=Figure.of(weakest.available_a or 0.0, "A"),
        zener=Figure.of(hottest.clamp_w, "W"),
        series=Figure.of(hottest.series_w, "W"),
        current=Figure.of(now.input_a, "A"),
        power_factor=round(now.power_factor, 3),
        inrush=Figure.of(core.switch_on(circuit).peak_a, "A"),
        inrush_again=Figure.of(core.switch_on(circuit, residual_v=-peak).peak_a, "A"),
        rows=[_row(circuit, row, states, top) for row in band],
        capacitance=MarkOut(figure=Figure.of(circuit.capacitance_f, "F"), at=at, low=at, high=at),
        caution=CAUTION,
        netlist=dropper_netlist(_feeding(circuit, heaviest)),
    )


def start(actor: Actor, position_id: UUID) -> DropperStart:
    """The bench as a position's values fill it: its reading where it has one. Three statements."""
    _, position, job = core_position(actor, position_id)
    around, bleeder = position.surroundings.dropper, position.surroundings.bleeder
    reading = evidence(position_id).deciding(0)
    read = reading.value if reading and not reading.beyond_range and reading.value > 0 else None
    marked = position.marking.capacitance_f
    given = DropperIn(
        supply_voltage=job.supply_voltage,
        supply_frequency=job.supply_frequency,
        capacitance=show(read or marked, "F", digits=6),
        bleed=show(bleeder.marked_ohm, "Ω", digits=6) if bleeder and not bleeder.open else "",
    )
    if around:
        loads = "\n".join(f"{state.name} {show(state.current_a, 'A', digits=6)}" for state in around.states)
        given = given.model_copy(update={"topology": around.topology, "clamp": show(around.clamp_v, "V"), "loads": loads})
    return DropperStart(given=given, read=Figure.of(read, "F") if read else None, marked=Figure.of(marked, "F"))


def _read(data: DropperIn) -> tuple[core.DropperCircuit, tuple[LoadState, ...]]:
    circuit = core.DropperCircuit(
        topology=str(data.topology),
        supply_v=parse_quantity(data.supply_voltage, "V", SUPPLY_VOLTAGE, field="supply_voltage"),
        supply_hz=parse_quantity(data.supply_frequency, "Hz", SUPPLY_FREQUENCY, field="supply_frequency"),
        capacitance_f=parse_quantity(data.capacitance, "F", CAPACITANCE, field="capacitance"),
        series_ohm=parse_quantity(data.series, "Ω", core.OHMS, field="series"),
        bleed_ohm=parse_quantity(data.bleed, "Ω", RESISTANCE, field="bleed") if data.bleed else None,
        smoothing_f=parse_quantity(data.smoothing, "F", CAPACITANCE, field="smoothing"),
        clamp_v=parse_quantity(data.clamp, "V", VOLTAGE, field="clamp"),
        clamp_ohm=CLAMP_OHM,
        diode_v=DIODE_V,
        load=Load(),
    )
    return circuit, read_loads(data.loads) or (LoadState("no load", 0.0),)


def _feeding(circuit: core.DropperCircuit, state: LoadState) -> core.DropperCircuit:
    return replace(circuit, load=Load(current_a=state.current_a))


def _row(circuit: core.DropperCircuit, row: SymptomRow, states: tuple[LoadState, ...], top: float) -> MainsOut:
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
        settled = core.steady_state(_feeding(replace(circuit, supply_v=row.supply_v), state))
        found.append(StateOut(name=state.name, rail=Figure.of(settled.output_v, "V"), holds=settled.in_regulation))
    return MainsOut(supply=Figure.of(row.supply_v, "V"), zones=zones, states=found)


def supply(data: SupplyIn) -> SupplyOut:
    """A transformer-fed supply, as it is and with the grown reservoir. No statement."""
    kept = growing.find_rectifier(data.rectifier)
    secondary = parse_quantity(data.secondary, "V", SUPPLY_VOLTAGE, field="secondary")
    mains = parse_quantity(data.mains, "V", SUPPLY_VOLTAGE, field="mains")
    windings = (
        parse_quantity(data.secondary_winding, "Ω", rectifier.OHMS, field="secondary_winding"),
        parse_quantity(data.primary_winding, "Ω", rectifier.OHMS, field="primary_winding"),
    )
    now = rectifier.ReservoirCircuit(
        topology=data.topology,
        secondary_v=secondary,
        supply_hz=parse_quantity(data.supply_frequency, "Hz", SUPPLY_FREQUENCY, field="supply_frequency"),
        source_ohm=growing.source_resistance(*windings, secondary / mains),
        reservoir_f=parse_quantity(data.reservoir, "F", CAPACITANCE, field="reservoir"),
        diode_v=parse_quantity(data.drop, "V", VOLTAGE, field="drop"),
        load=Load(current_a=parse_quantity(data.load, "A", LOAD, field="load")),
    )
    grown = None
    if data.grown:
        grown = replace(now, reservoir_f=parse_quantity(data.grown, "F", CAPACITANCE, field="grown"))
    return SupplyOut(
        source=Figure.of(now.source_ohm, "Ω"),
        now=_figures(now, kept),
        grown=_figures(grown, kept) if grown else None,
        rectifiers=[RectifierOption(id=r.id, title=r.title) for r in growing.rectifiers().values()],
        limits_source=growing.SOURCE,
        netlist=reservoir_netlist(now),
    )


def _figures(circuit: rectifier.ReservoirCircuit, kept: growing.Rectifier) -> SupplyFigures:
    found, surge = rectifier.steady_state(circuit), rectifier.switch_on(circuit)
    return SupplyFigures(
        reservoir=Figure.of(circuit.reservoir_f, "F"),
        output=Figure.of(found.output_v, "V"),
        ripple=Figure.of(found.ripple_v, "V"),
        peak_diode=Figure.of(found.peak_diode_a, "A"),
        rms_diode=Figure.of(found.rms_diode_a, "A"),
        capacitor=Figure.of(found.capacitor_rms_a, "A"),
        surge=Figure.of(surge.peak_a, "A"),
        surge_heat=Figure.of(surge.i2t_a2s, "A²s"),
        held=[HeldOut.from_row(h) for h in growing.held_against(circuit, kept)],
    )
