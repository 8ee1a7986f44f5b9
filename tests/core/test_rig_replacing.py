"""Choosing from a drawer for places of simulated equipment: what is taken is fit by what it is, and what is fit is found.

What a part is stands in its facts, from which its label is printed; whether it is fit is told here from IEC 60384-14, IEC 60252-1
and the windows of the trade by those facts alone, never by reading a label.
"""

import random
import re
import unittest

from dusky_heron.core import rig
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Basis, Equipment, OldPart, Part, PartKind, Position, Role, Surroundings
from dusky_heron.core.proving.truth import Facts, is_fit
from dusky_heron.core.selection import need_of, rank
from tests import drawn_by

EXACT = {Role.MOTOR_RUN, Role.TIMING}
KEPT_AS = {
    "electrolytic": PartKind.ELECTROLYTIC,
    "paper": PartKind.FILM_DC,
    "polyester": PartKind.FILM_DC,
    "polypropylene": PartKind.FILM_DC,
    "mica": PartKind.MICA,
}


def drawn(luck: random.Random, farads: float, volts: float) -> Facts:
    """One of a drawer, near in value to a place or not."""
    kind = luck.choice(list(PartKind))
    ac = kind not in (
        PartKind.FILM_DC,
        PartKind.FILM_PULSE,
        PartKind.CERAMIC,
        PartKind.MICA,
        PartKind.ELECTROLYTIC,
        PartKind.PULSE_ELECTROLYTIC,
    )
    safety = kind in (PartKind.FILM_SAFETY, PartKind.CERAMIC_SAFETY)
    value = float(f"{farads * luck.choice((0.47, 0.8, 0.94, 1, 1, 1, 1.04, 1.2, 1.6, 3.3)):.3g}")
    rated = int(volts * luck.choice((0.5, 0.9, 1, 1, 1.1, 1.5, 2)))
    return Facts(
        kind, value, rated, ac, luck.choice(("X1", "X2", "X3", "Y1", "Y2")) if safety else "", luck.choice((2, 5, 10, 20)),
        luck.random() < 0.2 and kind is PartKind.MOTOR_RUN, luck.choice(((10, 8, 15), (30, 30, 60), (90, 90, 150))),
    )  # fmt: skip


def survey(first: int, last: int) -> tuple[int, int, list[str]]:
    """Places seen, places with a fit part in the drawer, and what went wrong."""
    seen = there = 0
    wrong: list[str] = []
    for seed in range(first, last):
        luck = drawn_by(seed)
        for set_id in rig.SETS:
            simulated = rig.make(set_id, seed)
            drawing = simulated.drawing
            for name, old in simulated.capacitors.items():
                role, marking = Role(old.role), read_marking(old.printed)
                if role is Role.MOTOR_START or len(old.sections) > 1:
                    continue
                space = luck.choice(((30.0, 30.0, 60.0), (95.0, 95.0, 160.0)))
                around = Surroundings(basis=Basis.MAINS) if role is Role.SNUBBER and old.ac else Surroundings()
                position = Position(
                    name, role, marking, drawing.supply_v, 50.0, space_mm=space, surroundings=around,
                    equipment=Equipment({"I": "I", "II": "II"}.get(drawing.protection, "0")),
                    old=OldPart(KEPT_AS.get(old.material) if role in (Role.COUPLING, Role.TIMING, Role.SMOOTHING) else None),
                )  # fmt: skip
                if position.marking.provisional or (role is Role.MOTOR_RUN and marking.duty and marking.duty.pairs):
                    continue  # a question is asked first; operating classes have cases of their own
                drawer = [drawn(luck, old.sections[0].marked_f, old.rated_v) for _ in range(400)]
                parts = [
                    Part(f"{k}", one.kind, read_marking(one.label()), size_mm=one.size, dvdt_v_s=1e9, peak_a=99, ripple_a=9)
                    for k, one in enumerate(drawer)
                ]
                seen += 1
                classes = {c for c in re.findall(r"[XY][1-4]", old.printed) if role in (Role.X, Role.Y, Role.DROPPER)}
                earthed = drawing.protection == "I"
                said = f"{set_id} {seed} {name} {role} “{old.printed}” {old.material} {old.rated_v}"
                fit = [is_fit(old, classes, drawing.supply_v, earthed=earthed, space=space, one=one) for one in drawer]
                accepted = rank(need_of(position), parts).accepted
                wrong += [f"unfit: {drawer[int(row.part.part_id)].label()} {row.part.kind} for {said}" for row in accepted
                          if not fit[int(row.part.part_id)]]  # fmt: skip
                exact = [k for k, one in enumerate(drawer) if fit[k] and (role not in EXACT or one.tolerance <= 5)]
                there += bool(exact)
                if exact and not accepted:
                    wrong.append(f"missed: {drawer[exact[0]].label()} {drawer[exact[0]].kind} for {said}")
    return seen, there, wrong


class FromADrawer(unittest.TestCase):
    """Over every set, with four hundred parts each."""

    def test_nothing_unfit_is_taken_and_what_is_fit_is_found(self) -> None:
        seen, there, wrong = survey(0, 2)
        self.assertGreater(seen, 30)
        self.assertEqual([one for one in wrong if one.startswith("unfit")], [])
        self.assertLessEqual(len([one for one in wrong if one.startswith("missed")]), 0.02 * there)
