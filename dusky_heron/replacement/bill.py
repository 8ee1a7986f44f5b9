"""A job's bill of materials as a sheet: every place, what is printed on its part, and the part chosen for it."""

from collections.abc import Mapping
from typing import Any

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import LEAD_FORM_TITLES, ROLE_TITLES
from dusky_heron.core.selection.likely import likely_role
from dusky_heron.record.typed import decimal_sign
from dusky_heron.sheets import LONGEST_CELL, plain_number

COLUMNS: Mapping[str, tuple[str, ...]] = {
    "name": ("name", "position", "reference", "ref", "designator"),
    "role": ("role", "what it does"),
    "marking": ("marking", "printed", "value", "part"),
    "length_mm": ("length_mm", "length"),
    "width_mm": ("width_mm", "width"),
    "height_mm": ("height_mm", "height"),
    "pitch_mm": ("pitch_mm", "pitch", "lead pitch"),
    "other_pitches": ("other_pitches", "other holes"),
    "lead_form": ("lead_form", "connected by"),
}
OUT = ("name", "role", "marking", "length_mm", "width_mm", "height_mm", "pitch_mm", "other_pitches", "lead_form")
CHOSEN_COLUMNS = ("quantity", "chosen", "drawer", "lot")
MOST_PLACES = 500
ROLES = {**{role.value: role.value for role in ROLE_TITLES}, **{title.lower(): role.value for role, title in ROLE_TITLES.items()}}
LEADS = {**{f.value: f.value for f in LEAD_FORM_TITLES}, **{title: f.value for f, title in LEAD_FORM_TITLES.items()}}
KNOWN = {"role": ROLES, "lead_form": LEADS}


def given(row: Mapping[str, str]) -> dict[str, Any]:
    """The cells of a row as fields of a position; raises InputError naming the column."""
    fields = {column: _field(column, cell) for column, cell in row.items() if cell}
    for column in ("name", "marking"):
        if column not in fields:
            raise InputError(column, "Fill this in.")
    marking = read_marking(fields["marking"])
    if "role" not in fields:
        pointed_to = likely_role(marking)
        if pointed_to is None:
            raise InputError("role", "What the place does is not told by its marking: name it.")
        fields["role"] = pointed_to.value
    return fields


def _field(column: str, cell: str) -> Any:
    if len(cell) > LONGEST_CELL:
        raise InputError(column, f"A cell of more than {LONGEST_CELL} characters.")
    if column.endswith("_mm"):
        return plain_number(column, cell, decimal=decimal_sign())
    if column not in KNOWN:
        return cell
    if cell.lower() not in KNOWN[column]:
        raise InputError(column, f"“{cell[:40]}” is no {column.replace('_', ' ')} known here.")
    return KNOWN[column][cell.lower()]
