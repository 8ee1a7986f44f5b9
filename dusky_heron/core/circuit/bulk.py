"""The bulk capacitor of a switching supply: valley, hold-up, ripple current, inrush against its NTC, and how much it needs."""

import math
from dataclasses import dataclass, replace

from dusky_heron.core.circuit.load import POWER, Load
from dusky_heron.core.circuit.rectifier import (
    OHMS,
    VOLTS,
    ReservoirCircuit,
    output_course,
    steady_state,
    surge_course,
    switch_on,
)
from dusky_heron.core.circuit.steady import Course
from dusky_heron.core.errors import InputError, Range

LOWEST, HIGHEST = 0.9, 1.1  # of nominal mains
LINE_OHM = 0.3  # usual resistance of the supply to a socket, filter included
DIODE_V = 0.9  # a mains bridge at its peaks
SHARE = Range("Efficiency", 0.05, 1.0, "", open_low=False)
LEAST_F, MOST_F, CLOSE = 1e-7, 1.0, 1e-3


@dataclass(frozen=True, slots=True)
class BulkSupply:
    """The mains side of a switching supply, volts rms; what it gives, and the least its converter runs on.

    `ntc_cold_ohm` and `ntc_hot_ohm`: 0 where there is none. doubler: two bulks of this capacitance in series.
    """

    topology: str
    supply_v: float
    supply_hz: float
    bulk_f: float
    output_w: float
    efficiency: float
    least_v: float
    ntc_cold_ohm: float = 0.0
    ntc_hot_ohm: float = 0.0

    def check(self) -> None:
        """Raise InputError naming the field that is out of range."""
        if self.topology not in ("bridge", "doubler"):
            raise InputError("topology", "Choose one of: bridge, doubler.")
        POWER.check("output_w", self.output_w)
        SHARE.check("efficiency", self.efficiency)
        VOLTS.check("least_v", self.least_v)
        for field in ("ntc_cold_ohm", "ntc_hot_ohm"):
            if not 0 <= getattr(self, field) <= OHMS.high:
                raise InputError(field, "The resistance of the NTC must be 0 or more.")
        self.at(1.0, self.ntc_hot_ohm).check()

    @property
    def input_w(self) -> float:
        """What the converter takes from the bulk."""
        return self.output_w / self.efficiency

    def at(self, mains: float, ntc_ohm: float) -> ReservoirCircuit:
        """The supply as a rectifier at a share of its mains."""
        load = Load(power_w=self.input_w, knee_v=max(self.least_v / 2, 1.0))
        ohms = LINE_OHM + ntc_ohm
        return ReservoirCircuit(self.topology, self.supply_v * mains, self.supply_hz, ohms, self.bulk_f, DIODE_V, load)


@dataclass(frozen=True, slots=True)
class BulkState:
    """A bulk at full power: valley and ripple at lowest mains, what its converter has left, ripple current, inrush.

    `hold_up_s` is how long it runs on from the valley without mains; `needed_f` the least capacitance that keeps the valley,
    None where none does. Ripple current of the mains alone, rms: that of the converter comes on top.
    """

    valley_v: float
    ripple_v: float
    runs: bool
    hold_up_s: float
    outlasts_cycle: bool
    ripple_a: float
    inrush_a: float
    inrush_hot_a: float
    needed_f: float | None


def bulk_state(supply: BulkSupply) -> BulkState:
    """What a bulk does at lowest mains and full power, and at switch-on at highest mains.

    :param supply: as drawn, mains at nominal
    :returns: BulkState
    :raises InputError: a value out of range, naming its field
    :source: circuit equations with constant power; hold-up t = C(V² − V_least²)/(2P); inrush with the NTC cold, and hot
    """
    supply.check()
    found = steady_state(supply.at(LOWEST, supply.ntc_hot_ohm))
    both = supply.bulk_f / (2 if supply.topology == "doubler" else 1)
    spare = max(found.valley_v**2 - supply.least_v**2, 0.0)
    hold_up = both * spare / (2 * supply.input_w) if supply.input_w else math.inf
    return BulkState(
        valley_v=found.valley_v,
        ripple_v=found.ripple_v,
        runs=found.valley_v >= supply.least_v,
        hold_up_s=hold_up,
        outlasts_cycle=hold_up >= 1 / supply.supply_hz,
        ripple_a=found.capacitor_rms_a,
        inrush_a=switch_on(supply.at(HIGHEST, supply.ntc_cold_ohm)).peak_a,
        inrush_hot_a=switch_on(supply.at(HIGHEST, supply.ntc_hot_ohm)).peak_a,
        needed_f=needed_bulk(supply),
    )


def needed_bulk(supply: BulkSupply) -> float | None:
    """The least capacitance whose valley keeps the converter running at lowest mains and full power.

    :param supply: as drawn; its bulk is not used
    :returns: farads; None where none does
    :raises InputError: a value out of range, naming its field
    :source: bisection on the periodic state
    """
    supply.check()

    def runs(log_farads: float) -> bool:
        tried = replace(supply, bulk_f=math.exp(log_farads))
        return steady_state(tried.at(LOWEST, supply.ntc_hot_ohm)).valley_v >= supply.least_v

    low, high = math.log(LEAST_F), math.log(MOST_F)
    if not runs(high):
        return None
    while high - low > CLOSE:
        middle = (low + high) / 2
        low, high = (low, middle) if runs(middle) else (middle, high)
    return math.exp(high)


@dataclass(frozen=True, slots=True)
class BulkCourses:
    """A bulk to be drawn: its voltage over a cycle at lowest mains and full power, and the surge, NTC cold and hot."""

    rail: Course
    surge: Course
    surge_hot: Course


def bulk_courses(supply: BulkSupply) -> BulkCourses:
    """What `bulk_state` tells in figures, to be drawn.

    :param supply: as drawn, mains at nominal
    :returns: BulkCourses: volts over one cycle of the mains, amperes in the first 10 ms
    :raises InputError: a value out of range, naming its field
    :source: as `bulk_state`
    """
    supply.check()
    return BulkCourses(
        rail=output_course(supply.at(LOWEST, supply.ntc_hot_ohm)),
        surge=surge_course(supply.at(HIGHEST, supply.ntc_cold_ohm)),
        surge_hot=surge_course(supply.at(HIGHEST, supply.ntc_hot_ohm)),
    )
