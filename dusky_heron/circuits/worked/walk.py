"""The fault walk as typed."""

from dusky_heron.circuits.schemas import CheckOut, WalkIn, WalkOption, WalkOut
from dusky_heron.core.circuit.supply_walk import WalkParts, walk_supply, walk_symptoms
from dusky_heron.core.errors import CAPACITANCE, RESISTANCE
from dusky_heron.core.quantities import parse_quantity

CAUTION = "Unplugged, the bulk discharged and proved empty before a meter touches anything."
PARTS = ("part_ntc", "part_bleed", "part_choke", "part_bulk")


def walk(data: WalkIn) -> WalkOut:
    """A walk so far: the next check, suspects, and what is left."""
    readings = data.model_dump(exclude={"symptom", *PARTS})
    ohms = {
        name: parse_quantity(typed, "Ω", RESISTANCE, field=name) if (typed := getattr(data, name)) else None for name in PARTS[:3]
    }
    bulk = parse_quantity(data.part_bulk, "F", CAPACITANCE, field="part_bulk") if data.part_bulk else None
    found = walk_supply(data.symptom, WalkParts(ohms["part_ntc"], ohms["part_bleed"], ohms["part_choke"], bulk), readings)
    return WalkOut(
        symptoms=[WalkOption(id=key, title=title) for key, title in walk_symptoms().items()],
        suggests=found.suggests,
        checks=[CheckOut.from_row(check) for check in found.checks],
        next_id=found.next_id,
        suspects=list(found.suspects),
        left=list(found.left),
        says=found.says,
        caution=CAUTION,
    )
