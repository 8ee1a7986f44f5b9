"""Whether a part fits the place, and what it takes."""

import math

from dusky_heron.core.model import Need, Part

PITCHES_MM = (5.0, 7.5, 10.0, 15.0, 22.5, 27.5, 37.5)


def too_big(need: Need, part: Part) -> str | None:
    """A sentence when the body is larger than the space, turned to its best; None when it fits or a size is not known."""
    if need.space_mm is None or part.size_mm is None:
        return None
    length, width, height = part.size_mm
    space_length, space_width, space_height = need.space_mm
    body, space = sorted((length, width)), sorted((space_length, space_width))
    if body[0] <= space[0] and body[1] <= space[1] and height <= space_height:
        return None
    return (
        f"{length:g} × {width:g} × {height:g} mm is larger than the space {space_length:g} × {space_width:g} × {space_height:g} mm."
    )


def pitch_steps(need: Need, part: Part) -> int | None:
    """How many steps of lead pitch lie between place and part; None when either is not known."""
    if need.pitch_mm is None or part.pitch_mm is None:
        return None
    low, high = sorted((need.pitch_mm, part.pitch_mm))
    between = sum(1 for pitch in PITCHES_MM if low < pitch <= high)
    return max(between, 0 if low == high else 1)


def pitches_within(pitch_mm: float) -> tuple[float, float]:
    """The least and most pitch that lies within one step of another."""
    below = [pitch for pitch in PITCHES_MM if pitch < pitch_mm]
    above = [pitch for pitch in PITCHES_MM if pitch > pitch_mm]
    low = below[-1] if below and pitch_mm in PITCHES_MM else (below[-2] if len(below) > 1 else 0.0)
    return low, math.nextafter(above[1], 0.0) if len(above) > 1 else math.inf


def pitch_too_far(need: Need, part: Part) -> str | None:
    """A sentence when the leads would have to be bent by more than one step."""
    steps = pitch_steps(need, part)
    if steps is None or steps <= 1:
        return None
    return f"Pitch {part.pitch_mm:g} mm for {need.pitch_mm:g} mm: more than one step to bend."


def adaptations(need: Need, part: Part) -> tuple[str, ...]:
    """What it takes to make the part fit."""
    if pitch_steps(need, part) == 1:
        return (f"Bend leads from {part.pitch_mm:g} to {need.pitch_mm:g} mm.",)
    return ()
