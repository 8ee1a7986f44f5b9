"""The sets there are: each a function from a chance (what a factory made of it) to a drawing without faults."""

import random
from collections.abc import Callable, Mapping

from dusky_heron.core.errors import InputError
from dusky_heron.core.rig.drawing import Drawing
from dusky_heron.core.rig.sets import droppers, line, machines, supplies

MAKERS: Mapping[str, Callable[[random.Random], Drawing]] = {
    "motor": machines.motor,
    "dropper_half_wave": droppers.half_wave,
    "dropper_shunt": droppers.shunt,
    "dropper_bridge": droppers.full_bridge,
    "switcher": supplies.switcher,
    "switcher_pfc": supplies.switcher_pfc,
    "valve_set": supplies.valve_set,
    "linear": supplies.linear,
    "flash": machines.flash,
    "oven": machines.oven,
    "drive": machines.drive,
    "amplifier": supplies.amplifier,
    "filter_box": line.filter_box,
    "lighting": line.lighting,
    "interference": line.interference,
}


def draw(set_id: str, chance: random.Random) -> Drawing:
    """A set as it left its factory; InputError for one there is not."""
    if set_id not in MAKERS:
        raise InputError("set", f"There is no set {set_id}; there are {', '.join(MAKERS)}.")
    return MAKERS[set_id](chance)
