"""Faults by seed: what fails in a set, how far, and how often together."""

import math
import random
from dataclasses import dataclass, replace

from dusky_heron.core.errors import InputError
from dusky_heron.core.model.terms import Sign
from dusky_heron.core.rig.capacitors import Capacitor, Section
from dusky_heron.core.rig.drawing import Drawing
from dusky_heron.core.tables import csv_table


@dataclass(frozen=True, slots=True)
class Fault:
    """One fault: the part (a section behind a point), what it is, and its size in the unit of its kind."""

    part: str
    what: str
    size: float = 1.0

    def __str__(self) -> str:
        said = {"worn": f"{self.size:.0%} left", "dried": f"{self.size:.0%} left"}.get(self.what)
        if self.what in ("shorted", "leaky") and self.size != 1.0:
            said = f"{self.size:.3g} Ω"
        elif self.what in ("esr", "unformed", "drifted"):
            said = f"× {self.size:.3g}"
        return f"{self.part} {self.what}" + (f", {said}" if said else "")


def draw_faults(set_id: str, chance: random.Random) -> tuple[tuple[Fault, ...], dict[str, Sign]]:
    """The faults of one set, and what can be seen of them, by part."""
    found: list[Fault] = []
    seen: dict[str, Sign] = {}
    for row in csv_table("rig_faults"):
        if row["set"] != set_id:
            continue
        told = {f"{fault.part} {fault.what}" for fault in found}
        likely = float(row["chance_after"] if row["after"] and row["after"] in told else row["chance"])
        roll, size, look = chance.random(), chance.random(), chance.random()
        if roll >= likely or any(fault.part == row["part"] for fault in found):
            continue
        low, high = float(row["low"] or 1), float(row["high"] or 1)
        found.append(Fault(row["part"], row["fault"], float(f"{low * math.exp(size * math.log(high / low)):.3g}")))
        if row["sign"] and look < float(row["sign_chance"]):
            seen[row["part"].split(".")[0]] = Sign(row["sign"])
    return tuple(found), seen


def apply(drawing: Drawing, fault: Fault) -> None:
    """Put a fault into a drawing; InputError for a part or a kind of fault there is not."""
    name, _, number = fault.part.partition(".")
    for k, piece in enumerate(drawing.pieces):
        if piece.name == fault.part:
            drawing.pieces[k] = piece.failed(fault.what, fault.size)
            return
    for k, part in enumerate(drawing.capacitors):
        if part.name == name:
            drawing.capacitors[k] = _failed(part, int(number or 1) - 1, fault)
            return
    raise InputError("part", f"There is no {fault.part} in this set.")


def _failed(part: Capacitor, k: int, fault: Fault) -> Capacitor:
    if fault.what in ("open", "remakes", "crackles"):
        return replace(part, joint=fault.what)
    if fault.what == "unformed":
        return replace(part, unformed=fault.size)
    if fault.what == "bleeder_open":
        return replace(part, bleeder_ohm=None)
    sections = list(part.sections)
    sections[k] = _worse(sections[k], fault)
    return replace(part, sections=tuple(sections))


def _worse(section: Section, fault: Fault) -> Section:
    if fault.what == "worn":
        return replace(section, kept=fault.size)
    if fault.what == "dried":  # what dries loses area and electrolyte together: resistance grows as its square
        return replace(section, kept=fault.size, esr=1 / fault.size**2)
    if fault.what in ("leaky", "shorted"):
        return replace(section, leak_ohm=fault.size)
    if fault.what == "esr":
        return replace(section, esr=fault.size)
    raise InputError("fault", f"A capacitor does not fail so: {fault.what}.")
