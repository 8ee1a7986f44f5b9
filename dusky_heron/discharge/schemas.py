"""Stored energy, how to empty it, and the proof of it, from outside."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field, StringConstraints

from dusky_heron.core.discharge.decay import FallFinding
from dusky_heron.core.discharge.limits import DischargeLimit
from dusky_heron.core.discharge.tools import Resistor, Shape
from dusky_heron.core.model import Role
from dusky_heron.discharge.states import ChargeState
from dusky_heron.presented import Answer, Figure, MarkingOut, Schema
from dusky_heron.record.schemas import Line, Typed


class EnergyMarkOut(Answer):
    """Where an energy stands on a scale of its logarithm, 0 to 1; where touch limit, injury and death begin."""

    at: float
    touch: float
    injury: float
    lethal: float


class ChargeOut(Answer):
    """The worst a position can hold; `planned_as` when another reading of the marking holds more than the likeliest."""

    energy: Figure
    mark: EnergyMarkOut
    planned_as: str
    capacitance: Figure
    voltage: Figure
    charge: Figure
    rests_on: str
    band: str
    band_sentence: str
    grave: bool
    touch_limit: Figure
    es2_limit: Figure
    explanation: str
    source: str
    cautions: list[str]


class TargetOut(Answer):
    """The time to one target, nominal and worst case."""

    name: str
    target: Figure
    nominal: Figure
    worst: Figure


class ToGoOut(Answer):
    """The time left to one target of a fall that is watched; `worst` none where a floor cannot be told from noise: not known."""

    name: str
    target: Figure
    nominal: Figure
    worst: Figure | None


class ShareOut(Answer):
    """What one resistor of a tool bears at worst."""

    name: str
    voltage: Figure
    energy: Figure
    pulse_limit: Figure | None
    pulse_source: str


class ToolOut(Answer):
    """Resistors judged as the tool for this charge."""

    shape: Shape
    resistor_ids: list[UUID]
    name: str
    resistance: Figure
    shares: list[ShareOut]
    times: list[TargetOut]
    peak: Figure
    energy: Figure
    live_power: Figure
    live_time: Figure | None
    refusals: list[str]


class StringOut(Answer):
    """A series string: shares, and what a short from end to end leaves."""

    each: Figure
    worst: Figure
    residue: Figure
    residue_energy: Figure
    sentence: str
    grave: bool


class ReboundOut(Answer):
    """What may creep back."""

    dielectric: str
    voltage: Figure
    energy: Figure
    store_shorted: bool
    sentence: str
    source: str


class BledOut(Answer):
    """The fall through the fitted bleeder in one state."""

    state: str
    resistance: Figure | None
    times: list[TargetOut]


class LimitCheckOut(Answer):
    """One limit held against what is left."""

    id: str
    said: str
    meets: bool
    sentence: str
    planned: Figure
    source: str


class BleederOut(Answer):
    """Bleeders: every state, how they share, and each limit that applies."""

    warning: str
    states: list[BledOut]
    split: str
    checks: list[LimitCheckOut]
    counted: str


class OtherToolOut(Answer):
    """Another way to empty it."""

    name: str
    sentence: str
    why: str
    advised_against: bool


class MeterAllowed(Answer):
    """A meter, and why it may not prove this charge gone.

    `after_probe` is why not even once a probe was laid on first; `nothing` how *below its last digit* is typed.
    """

    id: UUID
    name: str
    probe: bool
    refusals: list[str]
    after_probe: list[str]
    nothing: str
    display_counts: int
    input_ohm: float


class ProofAsked(Answer):
    """What a proof of this position takes; `hidden` when it can never be proved from outside.

    `open_question` while its marking leaves open what it may hold. `two_stages` where a probe comes first; `creeps_back` where the
    proof of an open part lasts seconds and asks for the link, or how long it had stood open.
    """

    pairs: list[str]
    meters: list[MeterAllowed]
    hidden: str
    open_question: str
    target: Figure
    two_stages: bool
    creeps_back: str


class PlanOut(Answer):
    """How to empty a position; without a voltage to plan with there is only the sentence that asks for it."""

    charge: ChargeOut | None
    missing: str
    each: ChargeOut | None = None
    points: list[str] = []
    string: StringOut | None = None
    recharged: str = ""
    planned_with: str = ""
    working_limit: Figure | None = None
    working_limit_source: str = ""
    tools: list[ToolOut] = []
    best: ToolOut | None = None
    rebound: ReboundOut | None = None
    bleeder: BleederOut | None = None
    limits: list[str] = []
    other_tools: list[OtherToolOut] = []
    proof: ProofAsked | None = None
    beyond: str = ""
    reaches_pins: bool = False


class GroundOut(Answer):
    """What a workshop works with where no server answers: how it types, its limits, its resistors, and by which rules it judges."""

    decimal_sign: str
    limits: list[DischargeLimit]
    resistors: list[Resistor]
    rules: str


class ReadOut(Answer):
    """The answer of the reading box."""

    marking: MarkingOut
    charge: ChargeOut | None
    tool: ToolOut | None
    may_take_its_place: list[str]
    likely_role: Role | None


OtherWay = Literal["", "fitted bleeder", "lamp", "load left on"]
NotedState = Literal[ChargeState.ENERGISED, ChargeState.EMPTYING, ChargeState.KEPT_SHORTED, ChargeState.LINK_OFF]


class ChargeIn(Schema):
    """What is known now; emptying names its resistors and how they are connected, or another way.

    `point` is which of the points the tool is laid across, from 0; `ac_before` what AC showed there first. `place` is where a link
    is; `link_off` says that it was taken off before power came on.
    """

    state: NotedState
    shape: Shape = Shape.SINGLE
    resistor_ids: Annotated[list[UUID], Field(max_length=4)] = []
    other_way: OtherWay = ""
    point: Annotated[int, Field(ge=0, le=50)] | None = None
    ac_before: Typed = ""
    place: Line = ""
    link_off: bool = False


class ChargeItem(Answer):
    """One position on the charge line; `energy` is the worst it can hold, none where nothing tells."""

    position_id: UUID
    name: str
    state: ChargeState
    caution: str
    sentence: str
    energy: Figure | None
    mark: EnergyMarkOut | None
    band: str
    band_sentence: str
    tool: str
    place: str
    at: datetime | None
    lapses_at: datetime | None
    by_name: str
    sequence: int


MOST_PAIRS = 200  # a bank of twelve duals has 72
Rows = Annotated[str, StringConstraints(max_length=200_000)]


class FallIn(Schema):
    """Readings of a fall, one a line, and the meter they were taken with.

    `as_typed` when a start far under what was planned is right as it is.
    """

    rows: Rows
    meter_id: UUID
    as_typed: bool = False


class PointOut(Answer):
    """A logged voltage."""

    seconds: float
    volts: float
    sequence: int


class CurveOut(Answer):
    """The fitted curve with its 95 % band."""

    seconds: list[float]
    volts: list[float]
    low: list[float]
    high: list[float]


class TargetLine(Answer):
    """A target as a line across the plot."""

    name: str
    volts: float


class FallGround(Answer):
    """What a fall is held against: what empties it, what it was planned with, and the meter, once one was laid on."""

    display_counts: int | None
    meter_ohm: float | None
    tau_s: float | None
    tool_ohm: float | None
    nominal_f: float
    planned_v: float
    absorption: float
    targets: list[TargetLine]


class FallOut(Answer):
    """A watched fall: the readings, what they say, and how long it still takes."""

    ground: FallGround
    meter_name: str
    samples: list[PointOut]
    finding: FallFinding
    danger: bool
    stopped_at: float | None
    sentence: str
    tau: Figure | None
    tau_range: str
    floor: Figure | None
    implied: list[str]
    to_go: list[ToGoOut]
    counted_from: datetime | None
    curve: CurveOut | None


class FallHere(Schema):
    """A fall as it was seen last, with logs typed since, the meter they were read with, and when the last was taken."""

    fall: FallOut
    rows: list[Rows]
    meter_name: str
    display_counts: Annotated[int, Field(ge=100, le=10_000_000)]
    meter_ohm: float
    counted_from: datetime


class PairIn(Schema):
    """What a pair showed, as typed; `low` is AC at low impedance, where the first showed a few volts."""

    dc: Typed
    ac: Typed
    low: Typed = ""


class ProofIn(Schema):
    """A live–dead–live sequence: the known source, every pair on DC and AC, the known source again.

    `known_before` and `known_after` are on DC, with `_ac` on AC. Above 1 kV `probe_id` and `probe_readings` come first, then the
    short through the tool (`shorted`). `link` is where a link was left on; `stood_open` that nothing shorted it since it was
    unshorted or proved last.
    """

    meter_id: UUID
    known_before: Typed
    known_before_ac: Typed = ""
    readings: Annotated[list[PairIn], Field(max_length=MOST_PAIRS)]
    known_after: Typed
    known_after_ac: Typed = ""
    probe_id: UUID | None = None
    probe_readings: Annotated[list[Typed], Field(max_length=MOST_PAIRS)] = []
    shorted: bool = False
    link: Line = ""
    stood_open: bool = False


class PlaceProof(Schema):
    """What was read at one place of several."""

    position_id: UUID
    readings: Annotated[list[PairIn], Field(max_length=MOST_PAIRS)]
    probe_readings: Annotated[list[Typed], Field(max_length=MOST_PAIRS)] = []
    shorted: bool = False
    link: Line = ""
    stood_open: bool = False


class ProofsIn(Schema):
    """Several places proved in one go: one meter on one known source, then the pairs of each, then the known source again."""

    meter_id: UUID
    known_before: Typed
    known_before_ac: Typed
    known_after: Typed
    known_after_ac: Typed
    probe_id: UUID | None = None
    places: Annotated[list[PlaceProof], Field(min_length=1, max_length=60)]


class ToProve(Answer):
    """A place that has no proof, and what one takes."""

    position_id: UUID
    name: str
    state: ChargeState
    proof: ProofAsked


class LeftOut(Answer):
    """A voltage that is left, at the field it was typed into."""

    field: str
    sentence: str


class ProofOut(Answer):
    """What the sequence came to: the position on the charge line, and every voltage that is left."""

    item: ChargeItem
    left: list[LeftOut]


class ProofsOut(Answer):
    """What each of several sequences came to, in their order."""

    places: list[ProofOut]


class DesignOut(Answer):
    """A bleeder that meets a limit."""

    limit: str
    resistors: str
    each: Figure
    count: int
    total: Figure
    loss: Figure
    each_rated: Figure
    time: Figure
    sentence: str
    source: str


class PinOut(Answer):
    """Voltage between the plug pins after a time."""

    after: Figure
    rated: Figure
    planned: Figure


class PinsOut(Answer):
    """Plug pins after unplugging, held against every limit that applies; `missing` says what is needed first."""

    missing: str
    capacitance: Figure | None = None
    counted: str = ""
    behind: str = ""
    no_rule: str = ""
    voltages: list[PinOut] = []
    checks: list[LimitCheckOut] = []
