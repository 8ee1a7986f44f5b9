"""Whether a part fits the place, and what it takes: body, holes, leads, a hot neighbour, and the distances kept."""

import math
from collections.abc import Iterator

from dusky_heron.core.model import LEAD_FORM_TITLES, ROLES, LeadForm, Need, Part, Role
from dusky_heron.core.tables import toml_table

TABLE = toml_table("fitting")
PITCHES_MM = tuple(TABLE["pitches_mm"])
SPACE, PITCH = "fit.space", "fit.pitch"  # the demands an explicit choice sets aside
SAME_MM = 0.3  # of a pitch


def too_big(need: Need, part: Part) -> str | None:
    """A sentence when the body is larger than the space, turned to its best; None when it fits or a size is not known."""
    if need.space_mm is None or part.size_mm is None or over_by(need, part) <= 0:
        return None
    length, width, height = part.size_mm
    space_length, space_width, space_height = need.space_mm
    return (
        f"{length:g} × {width:g} × {height:g} mm is larger than the space {space_length:g} × {space_width:g} × {space_height:g} mm."
    )


def over_by(need: Need, part: Part) -> float:
    """By how many mm the body, turned to its best, is larger than the space in its worst direction; negative: room left."""
    if need.space_mm is None or part.size_mm is None:
        return -math.inf
    body, space = sorted(part.size_mm[:2]), sorted(need.space_mm[:2])
    return max(body[0] - space[0], body[1] - space[1], part.size_mm[2] - need.space_mm[2])


def holes(need: Need) -> tuple[float, ...]:
    """The pitches there are holes for: the old part's first."""
    return (need.pitch_mm, *need.mounting.other_pitches_mm) if need.pitch_mm is not None else ()


def pitch_steps(need: Need, part: Part) -> int | None:
    """How many steps of lead pitch lie between the nearest holes and the part; None when either is not known."""
    if not holes(need) or part.pitch_mm is None:
        return None
    return min(_steps(pitch, part.pitch_mm) for pitch in holes(need))


def _steps(place_mm: float, part_mm: float) -> int:
    low, high = sorted((place_mm, part_mm))
    between = sum(1 for pitch in PITCHES_MM if low < pitch <= high)
    return max(between, 0 if low == high else 1)


def pitches_within(pitch_mm: float) -> tuple[float, float]:
    """The least and most pitch that lies within one step of another."""
    below = [pitch for pitch in PITCHES_MM if pitch < pitch_mm]
    above = [pitch for pitch in PITCHES_MM if pitch > pitch_mm]
    low = below[-1] if below and pitch_mm in PITCHES_MM else (below[-2] if len(below) > 1 else 0.0)
    return low, math.nextafter(above[1], 0.0) if len(above) > 1 else math.inf


def in_holes(need: Need, form: LeadForm | None) -> bool:
    """Whether terminals of a form go into the holes of a place, or onto its bars: only then their distance matters.

    Leads and pins go into holes, and screws onto bars; tabs and wires reach anywhere, and so does what is wired to another form.
    """
    return (form or need.mounting.lead_form or LeadForm.RADIAL) in TABLE["terminals"][need.mounting.lead_form or "not_noted"]


def leads_bound(need: Need) -> bool:
    """Whether any terminals are bound by the distance of a place's holes."""
    return any(in_holes(need, form) for form in LeadForm)


def pitch_too_far(need: Need, part: Part) -> str | None:
    """A sentence when leads would have to be bent by more than a step, or rigid terminals are not where the holes are."""
    if part.pitch_mm == need.pitch_mm:
        return None
    steps = pitch_steps(need, part)
    if steps is None or part.pitch_mm is None or not in_holes(need, part.lead_form):
        return None
    wanted = " or ".join(f"{pitch:g}" for pitch in holes(need))
    form = part.lead_form or need.mounting.lead_form or LeadForm.RADIAL
    if form in TABLE["rigid"]:
        off = min(abs(part.pitch_mm - pitch) for pitch in holes(need))
        if off <= TABLE["rigid"][form]:
            return None
        return f"{LEAD_FORM_TITLES[form].capitalize()} {part.pitch_mm:g} mm apart for {wanted} mm: they do not bend."
    return f"Pitch {part.pitch_mm:g} mm for {wanted} mm: more than one step to bend." if steps > 1 else None


def choice(rule_id: str) -> tuple[str, str] | None:
    """The explicit choice that sets a demand of fit aside: its title, and what it asks for.

    :param rule_id: id of the demand
    :returns: title and sentence; None for a demand that is set aside by a reason alone
    :raises InputError: never
    :source: table `fitting`
    """
    row = TABLE["choice"].get(rule_id)
    return (row["title"], row["asks"]) if row else None


def adaptations(need: Need, part: Part) -> tuple[str, ...]:
    """What it takes to make the part fit, and the distances to keep where anything is adapted."""
    found = tuple(_adaptations(need, part))
    return (*found, clearance(need)) if found else ()


def _adaptations(need: Need, part: Part) -> Iterator[str]:
    steps = pitch_steps(need, part) if in_holes(need, part.lead_form) else None
    if pitch_too_far(need, part):
        yield TABLE["choice"][PITCH]["asks"]
    elif steps == 1:
        nearest = min(holes(need), key=lambda pitch: abs(pitch - (part.pitch_mm or 0.0)))
        yield f"Bend leads from {part.pitch_mm:g} to {nearest:g} mm."
    elif steps == 0 and part.pitch_mm != need.pitch_mm:
        yield f"In the board's other holes, {part.pitch_mm:g} mm apart."
    over = over_by(need, part)
    if over > 0:
        yield f"{over:g} mm too large. {TABLE['choice'][SPACE]['asks']}"
    if need.mounting.lead_form and part.lead_form and part.lead_form != need.mounting.lead_form:
        yield TABLE["leads"][need.mounting.lead_form][part.lead_form]
    if ROLES[need.role].clamped and need.space_mm and part.size_mm and _narrower(need.space_mm, part.size_mm) >= TABLE["loose_mm"]:
        yield "Narrower than the old can: strap it, so that it does not move in its clamp."
    if need.mounting.hot_neighbour:
        room = -over if math.isfinite(over) else None
        tight = ": turn or raise it, there is no room beside it" if room is not None and room < TABLE["hot_mm"] else ""
        yield f"Keep it {TABLE['hot_mm']:g} mm from the part that runs hot{tight}."


def _narrower(space: tuple[float, float, float], body: tuple[float, float, float]) -> float:
    return min(space[:2]) - max(body[:2])


def clearance(need: Need) -> str:
    """The distance to keep between bare leads and what else carries another voltage, as a planning figure."""
    kind = "reinforced" if need.role is Role.Y else "basic"
    where = "wet" if need.mounting.wet else "clean"
    says = "wet, dusty or medical" if need.mounting.wet else "clean and dry"
    return f"Keep {TABLE['clearance'][where][kind]:g} mm to bare leads ({kind}, 250 V, {says}: planning figure)."
