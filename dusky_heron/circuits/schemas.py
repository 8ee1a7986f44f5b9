"""The dropper bench, from outside."""

from typing import Literal

from dusky_heron.core.model import Topology
from dusky_heron.presented import Figure, Schema
from dusky_heron.record.schemas import Note, Typed


class DropperIn(Schema):
    """A dropper as drawn, values as typed; what it feeds, a line for each state."""

    topology: Topology = Topology.BRIDGE
    supply_voltage: Typed = "230 V"
    supply_frequency: Typed = "50 Hz"
    capacitance: Typed = "680 nF"
    series: Typed = "100 Ω"
    bleed: Typed = "470 kΩ"
    smoothing: Typed = "470 µF"
    clamp: Typed = "24 V"
    loads: Note = ""


class MarkOut(Schema):
    """A capacitance on the band, as a share of its length."""

    figure: Figure
    at: float
    low: float
    high: float


class StateOut(Schema):
    """One load state at one mains voltage."""

    name: str
    rail: Figure
    holds: bool


class SymptomOut(Schema):
    """A stretch of capacitance and what is seen there, as shares of the band; `edge` is its upper end."""

    says: str
    start: float
    width: float
    edge: Figure | None


class MainsOut(Schema):
    """What is seen at one mains voltage."""

    supply: Figure
    zones: list[SymptomOut]
    states: list[StateOut]


class DropperOut(Schema):
    """What a dropper gives and loses; the rows by mains voltage, lowest first."""

    available: Figure
    available_low: Figure
    zener: Figure
    series: Figure
    current: Figure
    power_factor: float
    inrush: Figure
    inrush_again: Figure
    rows: list[MainsOut]
    capacitance: MarkOut
    caution: str
    netlist: str


class DropperStart(Schema):
    """The bench with the values of a position in it."""

    given: DropperIn
    read: Figure | None
    marked: Figure


class SupplyIn(Schema):
    """A transformer-fed supply as typed; of a centre tap volts and winding of each half."""

    topology: Literal["full_wave", "half_wave", "bridge", "doubler"] = "full_wave"
    rectifier: Typed = "other"
    mains: Typed = "230 V"
    supply_frequency: Typed = "50 Hz"
    secondary: Typed = "300 V"
    secondary_winding: Typed = "85 Ω"
    primary_winding: Typed = "20 Ω"
    drop: Typed = "20 V"
    reservoir: Typed = "32 µF"
    grown: Typed = ""
    load: Typed = "75 mA"


class SupplyFigures(Schema):
    """A supply with one reservoir, and what its rectifier stands."""

    reservoir: Figure
    output: Figure
    ripple: Figure
    peak_diode: Figure
    rms_diode: Figure
    capacitor: Figure
    surge: Figure
    surge_heat: Figure
    held: list["HeldOut"]


class HeldOut(Schema):
    """One limit of the rectifier; neither yes nor no where it is not known."""

    sentence: str
    holds: bool | None


class RectifierOption(Schema):
    """A rectifier whose usual limits are kept."""

    id: str
    title: str


class SupplyOut(Schema):
    """A supply as it is and, where one is typed, with the grown reservoir."""

    source: Figure
    now: SupplyFigures
    grown: SupplyFigures | None
    rectifiers: list[RectifierOption]
    limits_source: str
    netlist: str
