"""Stored energy and how to empty it, from outside."""

from datetime import datetime
from uuid import UUID

from dusky_heron.core.model import Role
from dusky_heron.discharge.models import ChargeState
from dusky_heron.presented import Figure, MarkingOut, Schema


class ChargeOut(Schema):
    """The worst a part can hold; `planned_as` when another reading of the marking holds more than the likeliest."""

    energy: Figure
    planned_as: str
    voltage: Figure
    basis: str
    band: str
    band_sentence: str
    grave: bool
    touch_limit: Figure
    explanation: str
    source: str
    cautions: list[str]


class TargetOut(Schema):
    """The time to one target, nominal and worst case."""

    name: str
    target: Figure
    nominal: Figure
    worst: Figure


class ToolOut(Schema):
    """One resistor judged as the tool for this charge."""

    resistor_id: UUID
    name: str
    resistance: Figure
    times: list[TargetOut]
    peak: Figure
    energy: Figure
    pulse_limit: Figure | None
    pulse_source: str
    live_power: Figure
    live_time: Figure | None
    refusals: list[str]


class PlanOut(Schema):
    """How to empty a position; without a voltage to plan with there is only the sentence that asks for it."""

    charge: ChargeOut | None
    missing: str
    working_limit: Figure | None
    working_limit_source: str
    tools: list[ToolOut]


class ReadOut(Schema):
    """The answer of the reading box."""

    marking: MarkingOut
    charge: ChargeOut | None
    tool: ToolOut | None
    may_take_its_place: list[str]
    likely_role: Role | None


class ChargeIn(Schema):
    """What is known now; emptying names the resistor."""

    state: ChargeState
    resistor_id: UUID | None = None


class ChargeItem(Schema):
    """One position on the charge line."""

    position_id: UUID
    name: str
    state: ChargeState
    caution: str
    tool: str
    at: datetime | None
    by_name: str
