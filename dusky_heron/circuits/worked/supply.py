"""Working out supplies as typed: transformer-fed, the bulk of a switching one, and capacitors in series."""

import re
from dataclasses import replace

from dusky_heron.circuits.schemas import (
    BulkIn,
    BulkOut,
    CourseOut,
    GrowthOut,
    HeldOut,
    RectifierOption,
    SectionShareOut,
    StringShareIn,
    StringShareOut,
    SupplyFigures,
    SupplyIn,
    SupplyOut,
    SuspectOut,
)
from dusky_heron.circuits.worked.suspects import show_suspects
from dusky_heron.core.circuit import Load, growing, hum, rectifier
from dusky_heron.core.circuit import bulk as core_bulk
from dusky_heron.core.circuit.netlist import reservoir_netlist
from dusky_heron.core.discharge.series_string import LEAKAGE, TIMES_SPREAD, share_string
from dusky_heron.core.errors import POWER, RATED_VOLTAGE, RESISTANCE, SUPPLY_FREQUENCY, SUPPLY_VOLTAGE, VOLTAGE, InputError, Range
from dusky_heron.core.quantities import parse_quantity, show
from dusky_heron.presented import Figure

LOAD = Range("Load", 0.0, 1e4, "A")
PERCENT = Range("Efficiency", 5.0, 100.0, "%")
NTC = Range("NTC", 0.0, 1e6, "Ω")
MOST_SECTIONS = 12
SECTION = re.compile(r"(?P<farads>\d+(?:[.,]\d+)?\s*[pnuµm]?F?)[\s,;]+(?P<leak>\d+(?:[.,]\d+)?\s*[nuµm]?A?)", re.IGNORECASE)
UNITS = {"output_v": ("output", "V"), "ripple_v": ("ripple", "V"), "ripple_hz": ("ripple frequency", "Hz")}


def supply(data: SupplyIn) -> SupplyOut:
    """A transformer-fed supply, as it is and with the grown reservoir."""
    kept = growing.find_rectifier(data.rectifier)
    secondary = parse_quantity(data.secondary, "V", SUPPLY_VOLTAGE, field="secondary")
    mains = parse_quantity(data.mains, "V", SUPPLY_VOLTAGE, field="mains")
    windings = (
        parse_quantity(data.secondary_winding, "Ω", rectifier.OHMS, field="secondary_winding"),
        parse_quantity(data.primary_winding, "Ω", rectifier.OHMS, field="primary_winding"),
    )
    bleeder = parse_quantity(data.bleeder, "Ω", rectifier.OHMS, field="bleeder") if data.bleeder else None
    now = rectifier.ReservoirCircuit(
        topology=data.topology,
        secondary_v=secondary,
        supply_hz=parse_quantity(data.supply_frequency, "Hz", SUPPLY_FREQUENCY, field="supply_frequency"),
        source_ohm=growing.source_resistance(*windings, secondary / mains),
        reservoir_f=parse_quantity(data.reservoir, "F", rectifier.FARADS, field="reservoir"),
        diode_v=parse_quantity(data.drop, "V", VOLTAGE, field="drop"),
        load=Load(resistance_ohm=bleeder, current_a=parse_quantity(data.load, "A", LOAD, field="load")),
    )
    grown = None
    if data.grown:
        grown = replace(now, reservoir_f=parse_quantity(data.grown, "F", rectifier.FARADS, field="grown"))
    curve = growing.growth(now, max(now.reservoir_f, grown.reservoir_f if grown else 0.0, kept.largest_f or 0.0))
    return SupplyOut(
        source=Figure.of(now.source_ohm, "Ω"),
        now=_figures(now, kept),
        grown=_figures(grown, kept) if grown else None,
        growth=GrowthOut(
            microfarads=[round(point.reservoir_f * 1e6, 3) for point in curve],
            ripple=[round(point.ripple_v, 3) for point in curve],
            heat=[point.surge_a2s for point in curve],
            largest=round(kept.largest_f * 1e6, 3) if kept.largest_f else None,
        ),
        suspects=_suspects(data, now),
        rectifiers=[RectifierOption(id=r.id, title=r.title) for r in growing.rectifiers().values()],
        limits_source=growing.SOURCE,
        netlist=reservoir_netlist(now),
    )


def _suspects(data: SupplyIn, circuit: rectifier.ReservoirCircuit) -> list[SuspectOut]:
    """What explains the readings across the reservoir, where any are typed."""
    heard = hum.Heard(
        parse_quantity(data.measured_output, "V", VOLTAGE, field="measured_output") if data.measured_output else None,
        parse_quantity(data.measured_ripple, "V", VOLTAGE, field="measured_ripple") if data.measured_ripple else None,
        parse_quantity(data.measured_frequency, "Hz", SUPPLY_FREQUENCY, field="measured_frequency")
        if data.measured_frequency
        else None,
    )
    if heard == hum.Heard():
        return []
    return show_suspects(hum.rank_hum(circuit, heard), [""], UNITS)


def _figures(circuit: rectifier.ReservoirCircuit, kept: growing.Rectifier) -> SupplyFigures:
    found, surge = rectifier.steady_state(circuit), rectifier.switch_on(circuit)
    ohms = circuit.load.resistance_ohm
    return SupplyFigures(
        reservoir=Figure.of(circuit.reservoir_f, "F"),
        output=Figure.of(found.output_v, "V"),
        ripple=Figure.of(found.ripple_v, "V"),
        peak_diode=Figure.of(found.peak_diode_a, "A"),
        rms_diode=Figure.of(found.rms_diode_a, "A"),
        capacitor=Figure.of(found.capacitor_rms_a, "A"),
        surge=Figure.of(surge.peak_a, "A"),
        surge_heat=Figure.of(surge.i2t_a2s, "A²s"),
        bleeder=Figure.of(found.output_v**2 / ohms, "W") if ohms else None,
        held=[HeldOut.from_row(h) for h in growing.held_against(circuit, kept)],
    )


def bulk(data: BulkIn) -> BulkOut:
    """The bulk of a switching supply at lowest mains and full power."""
    circuit = core_bulk.BulkSupply(
        topology=data.topology,
        supply_v=parse_quantity(data.supply_voltage, "V", SUPPLY_VOLTAGE, field="supply_voltage"),
        supply_hz=parse_quantity(data.supply_frequency, "Hz", SUPPLY_FREQUENCY, field="supply_frequency"),
        bulk_f=parse_quantity(data.bulk, "F", rectifier.FARADS, field="bulk"),
        output_w=parse_quantity(data.power, "W", POWER, field="power"),
        efficiency=parse_quantity(data.efficiency, "%", PERCENT, field="efficiency") / 100,
        least_v=parse_quantity(data.least, "V", VOLTAGE, field="least"),
        ntc_cold_ohm=parse_quantity(data.ntc_cold, "Ω", NTC, field="ntc_cold") if data.ntc_cold else 0.0,
        ntc_hot_ohm=parse_quantity(data.ntc_hot, "Ω", NTC, field="ntc_hot") if data.ntc_hot else 0.0,
    )
    found, courses = core_bulk.bulk_state(circuit), core_bulk.bulk_courses(circuit)
    least, valley = show(circuit.least_v, "V"), show(found.valley_v, "V")
    says = f"At lowest mains and full power its valleys reach {valley}, above the {least} the converter runs on."
    if not found.runs:
        says = f"At lowest mains and full power its valleys fall to {valley}, below the {least} the converter runs on: it restarts."
    elif not found.outlasts_cycle:
        says += " It does not outlast a lost cycle."
    return BulkOut(
        valley=Figure.of(found.valley_v, "V"),
        ripple=Figure.of(found.ripple_v, "V"),
        runs=found.runs,
        hold_up=Figure.of_time(found.hold_up_s),
        outlasts_cycle=found.outlasts_cycle,
        ripple_current=Figure.of(found.ripple_a, "A"),
        inrush=Figure.of(found.inrush_a, "A"),
        inrush_hot=Figure.of(found.inrush_hot_a, "A"),
        needed=Figure.of(found.needed_f, "F") if found.needed_f else None,
        least=Figure.of(circuit.least_v, "V"),
        rail=CourseOut.from_row(courses.rail),
        surge=CourseOut.from_row(courses.surge),
        surge_hot=CourseOut.from_row(courses.surge_hot),
        says=says,
    )


def string(data: StringShareIn) -> StringShareOut:
    """Capacitors in series, a line for each."""
    farads, leaks = [], []
    for line in filter(None, (line.strip() for line in data.capacitors.splitlines())):
        match = SECTION.fullmatch(line)
        if match is None:
            raise InputError("capacitors", f"“{line[:40]}”: type capacitance and leakage, such as 1500 µF 1 mA.")
        farads.append(parse_quantity(match["farads"], "F", rectifier.FARADS, field="capacitors"))
        leaks.append(parse_quantity(match["leak"], "A", LEAKAGE, field="capacitors"))
    if not 2 <= len(farads) <= MOST_SECTIONS:
        raise InputError("capacitors", f"Two to {MOST_SECTIONS} capacitors, a line for each.")
    volts = parse_quantity(data.voltage, "V", VOLTAGE, field="voltage")
    rated = parse_quantity(data.rating, "V", RATED_VOLTAGE, field="rating")
    found = share_string(farads, leaks, parse_quantity(data.balance, "Ω", RESISTANCE, field="balance"), volts)
    over = found.over(rated)
    says = f"The worst stands at {show(found.worst_v, 'V')} of its {show(rated, 'V')}."
    if any(over):
        says = f"One stands at {show(found.worst_v, 'V')}, more than its {show(rated, 'V')}: smaller balancing resistors, or a set."
    return StringShareOut(
        sections=[
            SectionShareOut(
                first=Figure.of(first, "V"),
                settled=Figure.of(settled, "V"),
                loss=Figure.of(loss, "W"),
                over=too_much,
            )
            for first, settled, loss, too_much in zip(found.first_v, found.settled_v, found.loss_w, over, strict=True)
        ],
        worst=Figure.of(found.worst_v, "V"),
        rated=Figure.of(rated, "V"),
        most=Figure.of(found.most_ohm, "Ω") if found.most_ohm else None,
        discharge=Figure.of_time(found.discharge_s),
        says=says,
        source=f"balancing current {TIMES_SPREAD} times the spread of leakage, usual practice",
    )
