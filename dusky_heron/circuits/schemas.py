"""The benches, from outside: values as typed go in, figures come out."""

from typing import Literal

from dusky_heron.core.ageing.reforming import FormingWord
from dusky_heron.core.circuit.dropper.command import Comes
from dusky_heron.core.model import Topology
from dusky_heron.presented import Answer, Figure, Schema
from dusky_heron.record.schemas import Note, Typed


class DropperIn(Schema):
    """A dropper as drawn, values as typed; what it feeds, a line for each state; what is marked, read and rated where known."""

    topology: Topology = Topology.BRIDGE
    supply_voltage: Typed = "230 V"
    supply_frequency: Typed = "50 Hz"
    capacitance: Typed = "680 nF"
    series: Typed = "100 Ω"
    bleed: Typed = "470 kΩ"
    smoothing: Typed = "470 µF"
    clamp: Typed = "24 V"
    loads: Note = ""
    zener_rating: Typed = ""
    series_rating: Typed = ""
    marked: Typed = ""
    reading: Typed = ""
    reading_error: Typed = ""


class MarkOut(Answer):
    """A capacitance on the band, as a share of its length."""

    figure: Figure
    at: float
    low: float
    high: float


class StateOut(Answer):
    """One load state at one mains voltage."""

    name: str
    rail: Figure
    holds: bool


class SymptomOut(Answer):
    """A stretch of capacitance and what is seen there, as shares of the band; `edge` is its upper end."""

    says: str
    start: float
    width: float
    edge: Figure | None


class MainsOut(Answer):
    """What is seen at one mains voltage."""

    supply: Figure
    zones: list[SymptomOut]
    states: list[StateOut]


class MomentOut(Answer):
    """What happens when after the command."""

    seconds: float
    says: str


class CommandOut(Answer):
    """The rail after the command at the lowest mains, and what it comes to."""

    supply: Figure
    outcome: Comes
    seconds: list[float]
    volts: list[float]
    heard: list[MomentOut]
    levels: list["LevelOut"]


class LevelOut(Answer):
    """A voltage of the relay or its controller."""

    says: str
    volts: float


class HeatOut(Answer):
    """What warms with a capacitance grown by a share; over: more than it is rated for, neither where that is not known."""

    says: str
    capacitance: Figure
    zener: Figure
    series: Figure
    current: Figure
    zener_over: bool | None
    series_over: bool | None


class DropperOut(Answer):
    """What a dropper gives and loses; the rows by mains voltage, lowest first."""

    available: Figure
    available_low: Figure
    needed: Figure | None
    zener: Figure
    series: Figure
    current: Figure
    power_factor: float
    inrush: Figure
    inrush_again: Figure
    rows: list[MainsOut]
    capacitance: MarkOut
    marked: MarkOut | None
    reading: MarkOut | None
    command: CommandOut | None
    heat: list[HeatOut]
    heat_says: str
    states: list[str]
    caution: str
    netlist: str


class DropperStart(Answer):
    """The bench with the values of a position in it; `crosses` says when a falling part no longer holds every load."""

    given: DropperIn
    read: Figure | None
    marked: Figure
    crosses: str


class MeasuredIn(DropperIn):
    """What was measured on a dropper, for each of its states in order and last with the load unplugged; empty for what was not."""

    rails: list[Typed] = []
    ripples: list[Typed] = []
    currents: list[Typed] = []
    powers: list[Typed] = []
    error: Typed = "2 %"


class SuspectOut(Answer):
    """Faults that explain what was measured equally well: misfit in errors of a reading, `fit` 1 where there is none.

    `explains` says whether they do, `least` what they explain least.
    """

    titles: list[str]
    shows: list[str]
    misfit: float
    fit: float
    explains: bool
    least: str


class RankedOut(Answer):
    """Suspects, the likeliest first; what leaves no mark on the readings; and what they say of the capacitance."""

    suspects: list[SuspectOut]
    unmarked: list[str]
    capacitance: list[str]
    caution: str


class SupplyIn(Schema):
    """A transformer-fed supply as typed; of a centre tap volts and winding of each half. What was measured where it was."""

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
    bleeder: Typed = ""
    measured_output: Typed = ""
    measured_ripple: Typed = ""
    measured_frequency: Typed = ""


class SupplyFigures(Answer):
    """A supply with one reservoir, and what its rectifier stands."""

    reservoir: Figure
    output: Figure
    ripple: Figure
    peak_diode: Figure
    rms_diode: Figure
    capacitor: Figure
    surge: Figure
    surge_heat: Figure
    bleeder: Figure | None
    held: list["HeldOut"]


class HeldOut(Answer):
    """One limit of the rectifier; neither yes nor no where it is not known."""

    sentence: str
    holds: bool | None


class RectifierOption(Answer):
    """A rectifier whose usual limits are kept."""

    id: str
    title: str


class GrowthOut(Answer):
    """What growing the reservoir does: ripple and heat of the surge for each capacitance."""

    microfarads: list[float]
    ripple: list[float]
    heat: list[float]
    largest: float | None


class SupplyOut(Answer):
    """A supply as it is and, where one is typed, with the grown reservoir; suspects where something was measured."""

    source: Figure
    now: SupplyFigures
    grown: SupplyFigures | None
    growth: GrowthOut
    suspects: list[SuspectOut]
    rectifiers: list[RectifierOption]
    limits_source: str
    netlist: str


class BulkIn(Schema):
    """The bulk of a switching supply as typed."""

    topology: Literal["bridge", "doubler"] = "bridge"
    supply_voltage: Typed = "230 V"
    supply_frequency: Typed = "50 Hz"
    bulk: Typed = "82 µF"
    power: Typed = "45 W"
    efficiency: Typed = "80 %"
    least: Typed = "200 V"
    ntc_cold: Typed = "5 Ω"
    ntc_hot: Typed = "0.5 Ω"


class CourseOut(Answer):
    """A course to be drawn: seconds, and the value at each."""

    seconds: list[float]
    values: list[float]


class BulkOut(Answer):
    """What a bulk does at lowest mains and full power."""

    valley: Figure
    ripple: Figure
    runs: bool
    hold_up: Figure
    outlasts_cycle: bool
    ripple_current: Figure
    inrush: Figure
    inrush_hot: Figure
    needed: Figure | None
    least: Figure
    rail: CourseOut
    surge: CourseOut
    surge_hot: CourseOut
    says: str


class StringShareIn(Schema):
    """A series string as typed: a line for each capacitor, its capacitance and its leakage."""

    capacitors: Note = "1500 µF 1 mA\n1500 µF 0.4 mA"
    balance: Typed = "47 kΩ"
    voltage: Typed = "565 V"
    rating: Typed = "400 V"


class SectionShareOut(Answer):
    """One capacitor of a string."""

    first: Figure
    settled: Figure
    loss: Figure
    over: bool


class StringShareOut(Answer):
    """How a string shares its voltage."""

    sections: list[SectionShareOut]
    worst: Figure
    rated: Figure
    most: Figure | None
    discharge: Figure
    says: str
    source: str


class FormingIn(Schema):
    """An electrolytic to be re-formed, and the log of a step as typed: minutes and volts, a line for each reading."""

    capacitance: Typed = "32 µF"
    rating: Typed = "500 V"
    resistor: Typed = ""
    source: Typed = ""
    log: Note = ""
    warm: bool = False


class FormingStepOut(Answer):
    """One step of a plan."""

    source: Figure
    leakage: Figure
    across: Figure
    time: Figure


class FormingOut(Answer):
    """The plan, and what the log of a step says: its source now, where the capacitor must stand before the next, what was read."""

    resistor: Figure
    short: Figure
    first: Figure
    steps: list[FormingStepOut]
    total: Figure
    source: Figure
    stands: Figure
    log: CourseOut
    leakage: Figure | None
    word: FormingWord
    says: str
    caution: str


class WalkIn(Schema):
    """A fault walk: what the supply shows, what is known of its parts, and readings by check as typed."""

    symptom: Typed = "fuse_blown"
    part_ntc: Typed = ""
    part_bleed: Typed = ""
    part_choke: Typed = ""
    part_bulk: Typed = ""
    fuse: Typed = ""
    ntc: Typed = ""
    mov: Typed = ""
    x: Typed = ""
    choke: Typed = ""
    bridge: Typed = ""
    switch: Typed = ""
    bulk: Typed = ""
    bulk_leak: Typed = ""
    rail: Typed = ""


class CheckOut(Answer):
    """One check of a walk."""

    id: str
    title: str
    how: str
    expected: str
    found: str
    sentence: str


class WalkReadingIn(Schema):
    """One reading of a job's walk: what the supply shows, what is known of its parts, the check and what it reads."""

    symptom: Typed
    part_ntc: Typed = ""
    part_bleed: Typed = ""
    part_choke: Typed = ""
    part_bulk: Typed = ""
    check_id: Typed
    value: Typed


class WalkOption(Answer):
    """Something a supply may show."""

    id: str
    title: str


class WalkOut(Answer):
    """A walk so far."""

    symptoms: list[WalkOption]
    suggests: str
    checks: list[CheckOut]
    next_id: str | None
    suspects: list[str]
    left: list[str]
    says: str
    caution: str


class JobWalkOut(Answer):
    """The walk of a job as it stands on the record: as it would be typed again, what it says, and whether anything was read."""

    typed: WalkIn
    walk: WalkOut
    begun: bool


class BenchesOut(Answer):
    """The benches a position asks for, filled with what is known of it; None for those it does not."""

    dropper: bool
    supply: SupplyIn | None
    bulk: BulkIn | None
    string: StringShareIn | None
    forming: FormingIn | None
