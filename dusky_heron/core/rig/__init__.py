"""Simulated sets, parts and meters, from physics alone: what the rules and their tests measure themselves against.

`make` gives a set with its faults by seed; `meters` and `measure` show what a meter would; all goes on in the set's own time.
docs/rig.md tells how to add a set, a part's truth, a meter.
"""

import random
from dataclasses import replace

from dusky_heron.core.rig.faults import Fault, apply, draw_faults
from dusky_heron.core.rig.labels import photographed, worn
from dusky_heron.core.rig.meter import Meter, Shown, measure, meters
from dusky_heron.core.rig.sets import MAKERS, draw
from dusky_heron.core.rig.simulated import Happened, Limiter, SimulatedSet

SETS = tuple(MAKERS)
__all__ = ["SETS", "Fault", "Happened", "Limiter", "Meter", "Shown", "SimulatedSet", "make", "measure", "meters"]


def make(
    set_id: str, seed: int, *, healthy: bool = False, wear: float = 0.0, camera: float = 0.0, quick: bool = False
) -> SimulatedSet:
    """A simulated set by seed: made as a factory would, aged, with faults.

    :param set_id: one of SETS
    :param seed: the same seed gives the same set, faults, labels and chances
    :param healthy: without any fault
    :param wear: share of the pieces of every label that are gone, 0 to 1
    :param camera: share of signs a photograph's reader mistakes, 0 to 1
    :param quick: followed in larger pieces, within 2 %
    :returns: the set, unplugged and empty, its `faults` the truth
    :raises InputError: no such set
    :source: rig_faults.csv, rig_materials.toml, rig_labels.csv
    """
    chance = random.Random(f"{set_id} {seed}")  # noqa: S311 # chance, not secrecy
    drawing = draw(set_id, chance)
    faults, seen = ((), {}) if healthy else draw_faults(set_id, chance)
    for fault in faults:
        apply(drawing, fault)
    for k, part in enumerate(drawing.capacitors):
        text = photographed(worn(part.printed, chance, wear), chance, camera) if wear or camera else part.printed
        drawing.capacitors[k] = replace(part, printed=text, seen=(seen[part.name],) if part.name in seen else ())
    return SimulatedSet(drawing, seed=chance.getrandbits(32), faults=faults, quick=quick)
