"""What a marking is, what it can do, how fast it empties, and which classes may take its place."""

import datetime

from dusky_heron.core.discharge import planning as core
from dusky_heron.core.discharge.limits import working_limit
from dusky_heron.core.discharge.tools import Shape, Tool, judge_tool
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import Role, told_by_place
from dusky_heron.core.selection.likely import likely_role
from dusky_heron.core.selection.safety_class import acceptable_classes
from dusky_heron.discharge.schemas import GroundOut, ReadOut
from dusky_heron.discharge.worked import shown
from dusky_heron.presented import show_marking


def read_box(text: str, role: Role | None, ground: GroundOut, today: datetime.date) -> ReadOut:
    """What a typed marking is, can do, and how fast it empties through the workshop's best resistor."""
    marking = told_by_place(read_marking(text, today=today), role)
    charge = core.plan_charge(marking)
    best = _best_single(ground, charge) if charge else None
    return ReadOut(
        marking=show_marking(marking),
        charge=shown.charge(charge) if charge else None,
        tool=shown.tool(best) if best else None,
        may_take_its_place=_stand_ins(marking),
        likely_role=likely_role(marking),
    )


def _best_single(ground: GroundOut, charge: core.PlannedCharge) -> Tool | None:
    limit = working_limit(None, charge.highest_f, charge.each_v, rows=tuple(ground.limits))
    judged = (judge_tool(Shape.SINGLE, (resistor,), charge, limit) for resistor in ground.resistors)
    return min((tool for tool in judged if tool.allowed), key=lambda tool: tool.times[-1].worst_s, default=None)


def _stand_ins(marking: Marking) -> list[str]:
    """The single classes that may take the place of a part that carries one class."""
    return list(acceptable_classes(marking.class_names[0])) if len(marking.classes) == 1 else list(marking.class_names)
