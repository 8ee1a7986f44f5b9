"""Run by `test_roles` in a copy of the core that has one role more: what is in force for it."""

import datetime
import sys

from dusky_heron.core.discharge.planning import plan_charge
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Condition, Evidence, Part, PartKind, Position, Reading, Role
from dusky_heron.core.returning.checks import Repaired, checks_for
from dusky_heron.core.selection import need_of, rank
from dusky_heron.core.verdict import judge

role = Role("lamp_start")
place = Position("C1", role, read_marking("16 µF ±5 % 450 V~"), 230, 50)
lost = Reading(14e-6, 13.9e-6, 14.1e-6, Condition.LIFTED)
offered = Part("p", PartKind.FILM_DC, read_marking("16 µF 450 VDC"))
charge = plan_charge(place.marking, role=role, supply_v=230)
checks = {check.id for check in checks_for(Repaired("I", False, False, (place,), frozenset({"C1"})))}
found = (
    judge(place, Evidence((lost,)), today=datetime.date(2026, 6, 1)).word,
    "refused" if rank(need_of(place), [offered]).rejected else "taken",
    "planned" if charge and charge.each_v > 230 else "not planned",
    "checked" if {"starts:C1", "in_service:C1"} <= checks else "not checked",
)
sys.stdout.write(" ".join(found))
