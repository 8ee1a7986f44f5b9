"""Choosing from a drawer for places of simulated equipment: what is taken is fit by what it is, and what is fit is found.

What a part is stands in its facts, from which its label is printed; whether it is fit is told here from IEC 60384-14, IEC 60252-1
and the windows of the trade by those facts alone, never by reading a label.
"""

import math
import random
import re
import unittest
from dataclasses import dataclass

from dusky_heron.core import rig
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Basis, Equipment, OldPart, Part, PartKind, Position, Role, Surroundings
from dusky_heron.core.rig.capacitors import Capacitor
from dusky_heron.core.selection import need_of, rank
from tests import drawn_by

K = PartKind
TAKES = {
    "X1": {"X1", "Y1"}, "X2": {"X2", "X1", "Y2", "Y1"}, "X3": {"X3", "X2", "X1", "Y2", "Y1"}, "Y1": {"Y1"}, "Y2": {"Y2", "Y1"},
}  # fmt: skip
WINDOW = {
    Role.X: (-0.1, 0.5), Role.Y: (-0.5, 0.0), Role.DROPPER: (-0.1, 0.1), Role.MOTOR_RUN: (-0.05, 0.05),
    Role.RESERVOIR: (-0.1, 0.5),
    Role.SMPS_BULK: (-0.1, 0.3), Role.DC_LINK: (-0.1, 0.3), Role.ENERGY_STORE: (-0.05, 0.05), Role.MAGNETRON: (-0.05, 0.05),
    Role.COUPLING: (-0.2, 0.5), Role.TIMING: (-0.05, 0.05), Role.SMOOTHING: (-0.1, 1.0), Role.SNUBBER: (-0.05, 0.05),
    Role.POWER_FACTOR: (-0.05, 0.05),
}  # fmt: skip
MADE = {
    Role.X: {K.FILM_SAFETY, K.CERAMIC_SAFETY}, Role.Y: {K.FILM_SAFETY, K.CERAMIC_SAFETY}, Role.DROPPER: {K.FILM_SAFETY},
    Role.MOTOR_RUN: {K.MOTOR_RUN}, Role.RESERVOIR: {K.ELECTROLYTIC, K.FILM_DC}, Role.SMPS_BULK: {K.ELECTROLYTIC, K.FILM_DC},
    Role.DC_LINK: {K.ELECTROLYTIC, K.FILM_DC}, Role.ENERGY_STORE: {K.PULSE_ELECTROLYTIC, K.FILM_PULSE},
    Role.MAGNETRON: {K.HIGH_VOLTAGE_AC},
    Role.COUPLING: {K.FILM_DC, K.FILM_PULSE}, Role.TIMING: {K.FILM_DC, K.FILM_PULSE}, Role.SMOOTHING: {K.ELECTROLYTIC, K.FILM_DC},
    Role.SNUBBER: {K.FILM_PULSE}, Role.POWER_FACTOR: {K.FILM_AC, K.MOTOR_RUN},
}  # fmt: skip
ON_AC = {Role.X, Role.Y, Role.DROPPER, Role.MOTOR_RUN, Role.MAGNETRON, Role.POWER_FACTOR}
EXACT = {Role.MOTOR_RUN, Role.TIMING}
KEPT_AS = {"electrolytic": K.ELECTROLYTIC, "paper": K.FILM_DC, "polyester": K.FILM_DC, "polypropylene": K.FILM_DC, "mica": K.MICA}


@dataclass(frozen=True)
class Facts:
    """What a part in the drawer is."""

    kind: PartKind
    farads: float
    volts: int
    ac: bool
    name: str
    tolerance: int
    short: bool
    size: tuple[float, float, float]

    def label(self) -> str:
        value = f"{self.farads * 1e6:.5g} µF" if self.farads >= 1e-6 else f"{self.farads * 1e9:.5g} nF"
        volts, service = f"{self.volts} {'V~' if self.ac else 'VDC'}", "START" if self.short else ""
        return " ".join(word for word in (value, f"±{self.tolerance} %", self.name, volts, "125 °C", service) if word)


def drawn(luck: random.Random, farads: float, volts: float) -> Facts:
    """One of a drawer, near in value to a place or not."""
    kind = luck.choice(list(K))
    ac = kind not in (K.FILM_DC, K.FILM_PULSE, K.CERAMIC, K.MICA, K.ELECTROLYTIC, K.PULSE_ELECTROLYTIC)
    safety = kind in (K.FILM_SAFETY, K.CERAMIC_SAFETY)
    value = float(f"{farads * luck.choice((0.47, 0.8, 0.94, 1, 1, 1, 1.04, 1.2, 1.6, 3.3)):.3g}")
    rated = int(volts * luck.choice((0.5, 0.9, 1, 1, 1.1, 1.5, 2)))
    return Facts(
        kind, value, rated, ac, luck.choice(("X1", "X2", "X3", "Y1", "Y2")) if safety else "", luck.choice((2, 5, 10, 20)),
        luck.random() < 0.2 and kind is K.MOTOR_RUN, luck.choice(((10, 8, 15), (30, 30, 60), (90, 90, 150))),
    )  # fmt: skip


def is_fit(old: Capacitor, classes: set[str], supply: float, earthed: bool, space: tuple[float, ...], one: Facts) -> bool:
    """By the facts alone."""
    role = Role(old.role)
    low, high = WINDOW[role]
    made = set(MADE[role])
    if role in (Role.COUPLING, Role.TIMING):
        made |= {K.MICA} | ({K.ELECTROLYTIC} if old.material == "electrolytic" else set())
    if role is Role.SNUBBER and old.ac:
        made.add(K.FILM_SAFETY)
    if role in (Role.RESERVOIR, Role.SMPS_BULK, Role.DC_LINK, Role.SMOOTHING) and old.material != "electrolytic":
        made.discard(K.ELECTROLYTIC)
    touch_a = 2 * math.pi * 50 * 1.1 * supply * one.farads * (1 + one.tolerance / 100)
    if role is Role.Y and touch_a > (3.5e-3 if earthed else 0.5e-3):
        return False
    wanted = classes or ({"X2"} if role is Role.X else {"Y2" if earthed else "Y1"} if role is Role.Y else set())
    alternating = role in ON_AC or (role is Role.SNUBBER and old.ac)
    volts = max(old.rated_v if old.ac == alternating else 0.0, supply if alternating and role is not Role.MAGNETRON else 0.0)
    return (
        one.kind in made
        and all(one.name in TAKES[name] for name in wanted)
        and one.ac == alternating
        and one.volts >= volts
        and low - 1e-9 <= one.farads / old.sections[0].marked_f - 1 <= high + 1e-9
        and not one.short
        and all(a <= b for a, b in zip(sorted(one.size[:2]), sorted(space[:2]), strict=True))
        and one.size[2] <= space[2]
    )


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
                if role not in WINDOW or len(old.sections) > 1:
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
                fit = [is_fit(old, classes, drawing.supply_v, earthed, space, one) for one in drawer]
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
