"""Emptying a capacitor: times, limits to empty to, and which resistor of the workshop may do it."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from dusky_heron.core.energy import PlannedCharge, touch_limit
from dusky_heron.core.errors import CAPACITANCE, RESISTANCE, TARGET_VOLTAGE, VOLTAGE, InputError
from dusky_heron.core.quantities import show
from dusky_heron.core.tables import toml_table

DEFAULT_WORKING_LIMIT_V = 50.0
METER_LIMIT_V = 5.0
HANDS_IN_V = 5.0
PULSE = toml_table("resistor_pulse")


class Construction(StrEnum):
    """How a resistor is made, which sets the pulse it stands."""

    WIREWOUND = "wirewound"
    METAL_OXIDE = "metal_oxide"
    FILM = "film"


CONSTRUCTION_TITLES: Mapping[Construction, str] = {made: PULSE[made]["title"] for made in Construction}


@dataclass(frozen=True, slots=True)
class Resistor:
    """A discharge resistor the workshop owns: ohms, tolerance as a fraction, watts, volts, joules if on its data sheet."""

    resistor_id: str
    name: str
    resistance_ohm: float
    tolerance: float
    rated_w: float
    construction: Construction
    working_v: float
    pulse_j: float | None = None


@dataclass(frozen=True, slots=True)
class DischargeStandard:
    """A standard with a discharge limit, and the equipment it applies to."""

    id: str
    applies_to: str


@dataclass(frozen=True, slots=True)
class WorkingLimit:
    """How far a circuit must be empty to be worked on, and where that figure comes from."""

    target_v: float
    source: str


@dataclass(frozen=True, slots=True)
class TargetTime:
    """The time to one target: nominal, and worst with C and R at the top of their tolerance."""

    name: str
    target_v: float
    nominal_s: float
    worst_s: float


@dataclass(frozen=True, slots=True)
class Tool:
    """One resistor judged as a discharge tool for one charge."""

    resistor: Resistor
    times: tuple[TargetTime, ...]
    peak_a: float
    energy_j: float
    pulse_limit_j: float | None
    pulse_source: str
    live_w: float
    live_seconds: float | None
    refusals: tuple[str, ...]

    @property
    def allowed(self) -> bool:
        """Whether nothing speaks against it."""
        return not self.refusals


def time_to(capacitance_f: float, resistance_ohm: float, from_v: float, to_v: float) -> float:
    """Time for a capacitor to fall through a resistor: t = R C ln(V₀ / V).

    :param capacitance_f: farads, more than 0 up to 1000
    :param resistance_ohm: ohms, more than 0 up to 1e15
    :param from_v: starting volts, 0 to 1e6
    :param to_v: target volts, more than 0 up to 1e6
    :returns: seconds; 0.0 when already at or below the target
    :raises InputError: not a number, or out of range
    :source: first-order discharge of R and C

    >>> round(time_to(1e-6, 1e6, 100, 100 / math.e), 9)
    1.0
    """
    CAPACITANCE.check("capacitance_f", capacitance_f)
    RESISTANCE.check("resistance_ohm", resistance_ohm)
    VOLTAGE.check("from_v", from_v)
    TARGET_VOLTAGE.check("to_v", to_v)
    if from_v <= to_v:
        return 0.0
    return resistance_ohm * capacitance_f * (math.log(from_v) - math.log(to_v))


def discharge_standards() -> tuple[DischargeStandard, ...]:
    """The standards whose discharge limits are known.

    :returns: id and what it applies to, in the order of the table `discharge_limits`
    """
    return tuple(DischargeStandard(row["id"], row["applies_to"]) for row in toml_table("discharge_limits")["limit"])


def working_limit(standard_id: str | None, capacitance_f: float, from_v: float) -> WorkingLimit:
    """The voltage to which a standard wants a circuit empty; 50 V where none is named.

    :param standard_id: the id of one of `discharge_standards`, or None
    :param capacitance_f: farads, for a limit by capacitance
    :param from_v: first voltage, for a limit by share of it
    :returns: the target in volts and its source
    :raises InputError: an unknown standard
    :source: the clause in the id of the row; check the edition that binds you
    """
    if standard_id is None:
        return WorkingLimit(DEFAULT_WORKING_LIMIT_V, "workshop default; check the standard that binds you")
    row = next((r for r in toml_table("discharge_limits")["limit"] if r["id"] == standard_id), None)
    if row is None:
        raise InputError("standard", "That standard is not in the limits table.")
    source = f"{row['id']}, {row['applies_to']}; check the edition that binds you"
    if row.get("es1"):
        return WorkingLimit(touch_limit(capacitance_f), source)
    if "share" in row:
        return WorkingLimit(max(row["share"] * from_v, METER_LIMIT_V), source)
    return WorkingLimit(row["target_v"], source)


def pulse_limit(resistor: Resistor, tau_s: float) -> tuple[float | None, str]:
    """The single-pulse energy a resistor stands, with its source; None where only a data sheet could tell.

    :param resistor: the tool
    :param tau_s: time constant of the discharge, seconds
    :returns: joules or None, and where the figure comes from
    :raises InputError: never
    :source: data sheet if given; else the planning figures of the table `resistor_pulse`
    """
    if resistor.pulse_j is not None:
        return resistor.pulse_j, "its data sheet"
    if tau_s < PULSE["min_tau_s"]:
        return None, "no data sheet, and the pulse is shorter than 50 ms"
    row = PULSE[resistor.construction]
    joules_per_watt = row["j_per_w"]
    if "slow_j_per_w" in row:
        share = (tau_s - row["fast_tau_s"]) / (row["slow_tau_s"] - row["fast_tau_s"])
        joules_per_watt += min(max(share, 0.0), 1.0) * (row["slow_j_per_w"] - row["j_per_w"])
    return joules_per_watt * resistor.rated_w, PULSE["source"]


def judge_tool(resistor: Resistor, charge: PlannedCharge, limit: WorkingLimit) -> Tool:
    """Judge one resistor as the tool to empty a charge: I₀ = V₀/R, P₀ = V₀²/R, and all of E goes into it.

    :param resistor: the tool
    :param charge: what is to be emptied, worst case
    :param limit: the working limit that applies
    :returns: Tool with times, shares, what happens if the circuit is live, and every reason against it
    :raises InputError: a value is out of range
    :source: first-order discharge; planning figures of the table `resistor_pulse`
    """
    volts, energy = charge.voltage.voltage_v, charge.hazard.energy_j
    tau = resistor.resistance_ohm * charge.nominal_f
    peak = volts / (resistor.resistance_ohm * (1 - resistor.tolerance))
    pulse, pulse_source = pulse_limit(resistor, tau)
    live = volts**2 / resistor.resistance_ohm
    refusals = []
    if peak > PULSE["peak_current_a"]:
        refusals.append(f"First touch draws {show(peak, 'A')}: more than {PULSE['peak_current_a']:g} A sparks.")
    if volts > resistor.working_v:
        refusals.append(f"{show(volts, 'V')} is more than the {show(resistor.working_v, 'V')} it may work at.")
    if pulse is None:
        refusals.append("Shorter than 50 ms: only a data sheet tells what pulse it stands.")
    elif energy > pulse:
        refusals.append(f"{show(energy, 'J')} at once is more than the {show(pulse, 'J')} it stands ({pulse_source}).")
    return Tool(
        resistor=resistor,
        times=_times(resistor, charge, limit),
        peak_a=peak,
        energy_j=energy,
        pulse_limit_j=pulse,
        pulse_source=pulse_source,
        live_w=live,
        live_seconds=None if live <= resistor.rated_w else (pulse or 0.0) / live,
        refusals=tuple(refusals),
    )


def _times(resistor: Resistor, charge: PlannedCharge, limit: WorkingLimit) -> tuple[TargetTime, ...]:
    volts = charge.voltage.voltage_v
    highest_ohm = resistor.resistance_ohm * (1 + resistor.tolerance)
    targets = (("working limit", limit.target_v), ("meter limit", METER_LIMIT_V), ("hands-in", HANDS_IN_V))
    return tuple(
        TargetTime(
            name,
            target,
            time_to(charge.nominal_f, resistor.resistance_ohm, volts, target),
            time_to(charge.highest_f, highest_ohm, volts, target),
        )
        for name, target in targets
    )


def rank_tools(resistors: tuple[Resistor, ...], charge: PlannedCharge, limit: WorkingLimit) -> tuple[Tool, ...]:
    """Judge every resistor: those that may do it first, fastest to hands-in first, then the refused ones.

    :param resistors: what the workshop owns
    :param charge: what is to be emptied, worst case
    :param limit: the working limit that applies
    :returns: tools in order of preference
    :raises InputError: a value is out of range
    :source: as `judge_tool`
    """
    judged = (judge_tool(resistor, charge, limit) for resistor in resistors)
    return tuple(sorted(judged, key=lambda tool: (len(tool.refusals), tool.times[-1].worst_s, tool.resistor.name)))
