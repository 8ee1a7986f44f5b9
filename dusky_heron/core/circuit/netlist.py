"""A circuit as a SPICE netlist that runs as it is, measuring the same figures."""

from collections.abc import Iterable

from dusky_heron.core.circuit import dropper, rectifier
from dusky_heron.core.circuit.engine import Vector
from dusky_heron.core.circuit.load import Load

CYCLES, STEPS = 40, 1000  # followed, and the most a step may be, in parts of a cycle
MODEL = ".model ideal D(IS=1e-12 N=0.01 RS=1m CJO=10p)"  # a little capacitance, or the steps of the simulator grow too small


def dropper_netlist(circuit: dropper.DropperCircuit) -> str:
    """A dropper with `.meas` lines for output, ripple, mains current and powers; it starts where it settles.

    :param circuit: as drawn
    :returns: text of a netlist; run it with `ngspice -b`
    :raises InputError: a value out of range
    :source: the same elements; a diode is an ideal one with its forward voltage in series
    """
    lines, low = _dropper(circuit, dropper.settled_state(circuit), 0)
    out = f"par('v(out)-v({low})')" if low != "0" else "v(out)"
    return _text(
        lines,
        circuit.supply_hz,
        [
            ("output_v", f"avg {out}"),
            ("ripple_v", f"pp {out}"),
            ("peak_v", f"max {out}"),
            ("input_a", "rms i(Vin)"),
            ("input_w", "avg par('v(in0)*i(Vin)')"),
            ("series_w", f"avg par('i(Vin)*i(Vin)*{circuit.series_ohm:.9g}')"),
        ],
    )


def dropper_inrush_netlist(circuit: dropper.DropperCircuit, residual_v: float = 0.0) -> str:
    """A dropper switched on at the mains peak with its rail empty, and `.meas` lines for the peak current and its I²t.

    :param circuit: as drawn
    :param residual_v: what is left on the capacitor, volts with a sign
    :returns: text of a netlist; run it with `ngspice -b`
    :raises InputError: a value out of range
    :source: the same elements
    """
    circuit.check()
    lines, _ = _dropper(circuit, (residual_v, 0.0), 90)
    return _inrush(lines, ("Vin",), dropper.INRUSH_S)


def _dropper(circuit: dropper.DropperCircuit, state: Vector, degrees: float) -> tuple[list[str], str]:
    """The elements of a dropper from a state and a phase of the mains; and the low side of its rail."""
    drop = circuit.diode_v
    lines = [
        f"* capacitive dropper, {circuit.topology}",
        _sine(circuit.source.peak_v, circuit.supply_hz, degrees),
        "Vin in0 in 0",
        f"Rs in a {circuit.series_ohm:.9g}",
        f"C1 a b {circuit.capacitance_f:.9g} IC={state[0]:.9g}",
    ]
    if circuit.bleed_ohm is not None:
        lines.append(f"Rb a b {circuit.bleed_ohm:.9g}")
    if circuit.topology == "bridge":
        lines += [*_diode("d1", "b", "out", drop), *_diode("d2", "ret", "out", drop)]
        lines += [*_diode("d3", "neg", "b", drop), *_diode("d4", "neg", "ret", drop)]
        lines += ["Rret ret 0 1e-6", "Rneg neg 0 1e9"]
        low = "neg"
    else:
        lines += [*_diode("d1", "b", "out", drop), *_diode("d2", "0", "b", drop)]
        low = "0"
    if circuit.clamp_v is not None:
        node = "b" if circuit.topology == "half_wave_shunt" else "out"
        lines += [f"Dz {node} z1 ideal", f"Vz z1 z2 {circuit.clamp_v:.9g}", f"Rz z2 {low} {circuit.clamp_ohm:.9g}"]
    lines += [f"C2 out {low} {circuit.smoothing_f:.9g} IC={state[1]:.9g}", *_load(circuit.load, "out", low), MODEL]
    return lines, low


def reservoir_netlist(circuit: rectifier.ReservoirCircuit) -> str:
    """A transformer-fed supply with `.meas` lines for output, ripple and diode current; it starts where it settles.

    :param circuit: as drawn
    :returns: text of a netlist; run it with `ngspice -b`
    :raises InputError: a value out of range
    :source: the same elements; a diode is an ideal one with its forward voltage in series
    """
    lines = _supply(circuit, rectifier.settled_state(circuit), 0)
    measures = [("output_v", "avg par('v(out)-v(low)')"), ("ripple_v", "pp par('v(out)-v(low)')"), ("peak_diode_a", "max i(Vd)")]
    return _text(lines, circuit.supply_hz, measures)


def reservoir_surge_netlist(circuit: rectifier.ReservoirCircuit) -> str:
    """A supply switched on at the mains peak with its reservoir empty, and `.meas` lines for the peak current and its I²t.

    :param circuit: as drawn
    :returns: text of a netlist; run it with `ngspice -b`
    :raises InputError: a value out of range
    :source: the same elements
    """
    circuit.check()
    currents = ("V1", "E2") if circuit.topology == "full_wave" else ("V1",)  # the halves of a centre tap take turns
    return _inrush(_supply(circuit, (0.0, 0.0), 90), currents, rectifier.SURGE_S)


def _supply(circuit: rectifier.ReservoirCircuit, state: Vector, degrees: float) -> list[str]:
    """The elements of a supply from a state and a phase of the mains."""
    drop, ohms = circuit.diode_v, circuit.source_ohm
    lines = [f"* supply, {circuit.topology}", _sine(circuit.source.peak_v, circuit.supply_hz, degrees)]
    if circuit.topology == "bridge":
        lines += [f"Rs in0 s {ohms:.9g}", *_diode("d1", "s", "top", drop), *_diode("d2", "0", "top", drop)]
        lines += [*_diode("d3", "low", "s", drop), *_diode("d4", "low", "0", drop), "Rlow low 0 1e9", "Vd top out 0"]
    elif circuit.topology == "doubler":
        lines += [f"Rs in0 s {ohms:.9g}", *_diode("d1", "s", "top", drop), *_diode("d2", "low", "s", drop), "Vd top out 0"]
    else:
        lines += [f"Rs in0 s {ohms:.9g}", *_diode("d1", "s", "top", drop), "Vd top out 0", "Vlow low 0 0"]
        if circuit.topology == "full_wave":
            lines += ["E2 in2 0 in0 0 -1", f"Rs2 in2 s2 {ohms:.9g}", *_diode("d2", "s2", "out", drop)]
    if circuit.topology == "doubler":
        lines += [f"C1 out 0 {circuit.reservoir_f:.9g} IC={state[0]:.9g}", f"C2 0 low {circuit.reservoir_f:.9g} IC={state[1]:.9g}"]
    else:
        lines.append(f"C1 out low {circuit.reservoir_f:.9g} IC={state[0]:.9g}")
    return [*lines, *_load(circuit.load, "out", "low"), MODEL]


def _sine(peak_v: float, hertz: float, degrees: float) -> str:
    return f"V1 in0 0 SIN(0 {peak_v:.9g} {hertz:.9g} 0 0 {degrees:g})"


def _diode(name: str, start: str, end: str, drop_v: float) -> list[str]:
    return [f"D{name} {start} {name}x ideal", f"V{name} {name}x {end} {drop_v:.9g}"]


def _load(load: Load, high: str, low: str) -> list[str]:
    lines = [f"Rload {high} {low} {load.resistance_ohm or 1e12:.9g}"]
    if load.current_a or load.power_w:
        below = load.current_a / load.knee_v + load.power_w / load.knee_v**2
        v, knee = f"V({high},{low})", f"{load.knee_v:.9g}"
        lines.append(
            f"Bload {high} {low} I = {v} < {knee} ? {v}*{below:.9g} : {load.current_a:.9g} + {load.power_w:.9g}/max({v},{knee})"
        )
    return lines


def _text(lines: Iterable[str], hertz: float, measures: Iterable[tuple[str, str]]) -> str:
    """The netlist with its run: many cycles, measured over the last two."""
    period = 1 / hertz
    stop = CYCLES * period
    between = f"from={stop - 2 * period:.12g} to={stop:.12g}"
    control = [
        ".options reltol=1e-4 abstol=1e-9 vntol=1e-5 method=gear",
        f".tran {period / STEPS:.9g} {stop:.12g} {max(stop - 3 * period, 0):.12g} {period / STEPS:.9g} UIC",
        *(f".meas tran {name} {what} {between}" for name, what in measures),
        ".end",
    ]
    return "\n".join([*lines, *control]) + "\n"


def _inrush(lines: Iterable[str], sources: Iterable[str], seconds: float) -> str:
    """The netlist with its run from the first instant; the highest current either way, and its square over the time."""
    total = "+".join(f"abs(i({name}))" for name in sources)
    squares = "+".join(f"i({name})*i({name})" for name in sources)
    control = [
        ".options reltol=1e-4 abstol=1e-9 vntol=1e-5 method=gear",
        f".tran {seconds / STEPS:.9g} {seconds:.9g} 0 {seconds / STEPS:.9g} UIC",
        f".meas tran peak_a max par('{total}')",
        f".meas tran i2t_a2s integ par('{squares}')",
        ".end",
    ]
    return "\n".join([*lines, *control]) + "\n"
