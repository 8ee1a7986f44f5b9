"""Reading what may hold charge and how to empty it; each function says how many statements it takes."""

from dusky_heron.discharge.queries.falls import design, fall, show_fall
from dusky_heron.discharge.queries.line import (
    EMPTIED,
    Charge,
    Noted,
    charge_line,
    charge_noted_since,
    gravest,
    harm_of,
    may_hurt,
    may_kill,
    noted,
    show_charge,
)
from dusky_heron.discharge.queries.pins import plug_pins
from dusky_heron.discharge.queries.plan import Planned, ground, other_tools, plan, planned, to_prove

__all__ = [
    "EMPTIED",
    "Charge",
    "Noted",
    "Planned",
    "charge_line",
    "charge_noted_since",
    "design",
    "fall",
    "gravest",
    "ground",
    "harm_of",
    "may_hurt",
    "may_kill",
    "noted",
    "other_tools",
    "plan",
    "planned",
    "plug_pins",
    "show_charge",
    "show_fall",
    "to_prove",
]  # fmt: skip
