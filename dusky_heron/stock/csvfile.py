"""The columns of a stock list."""

from collections.abc import Mapping
from typing import Any

from dusky_heron.core.errors import InputError
from dusky_heron.core.model import KIND_TITLES, LEAD_FORM_TITLES, ORIGIN_TITLES
from dusky_heron.sheets import LONGEST_CELL, plain_number

COLUMNS: Mapping[str, tuple[str, ...]] = {
    "id": ("id",),
    "marking": ("marking", "printed", "part", "type"),
    "kind": ("kind", "made as"),
    "origin": ("origin", "comes from"),
    "quantity": ("quantity", "qty", "how many", "stock", "count"),
    "place": ("place", "drawer", "bin", "location"),
    "lot": ("lot", "batch"),
    "date_code": ("date_code", "date code", "dated"),
    "lead_form": ("lead_form", "lead form", "leads", "terminals"),
    "measured": ("measured", "measurements"),
    "length_mm": ("length_mm", "length", "l", "length mm", "diameter", "ø"),
    "width_mm": ("width_mm", "width", "w", "width mm"),
    "height_mm": ("height_mm", "height", "h", "height mm"),
    "pitch_mm": ("pitch_mm", "pitch", "lead pitch", "rm", "pitch mm"),
    "humidity_grade": ("humidity_grade", "humidity", "85/85"),
    "ripple": ("ripple", "ripple current"),
    "dvdt": ("dvdt", "dv/dt"),
    "peak": ("peak", "peak current"),
    "esr": ("esr",),
    "price": ("price", "cost"),
}
NUMBERS = frozenset({"quantity", "length_mm", "width_mm", "height_mm", "pitch_mm", "dvdt", "price"})
YES = frozenset({"yes", "y", "true", "1", "x", "ja", "oui"})
KINDS = {**{kind.value: kind.value for kind in KIND_TITLES}, **{title: kind.value for kind, title in KIND_TITLES.items()}}
LEADS = {**{f.value: f.value for f in LEAD_FORM_TITLES}, **{title: f.value for f, title in LEAD_FORM_TITLES.items()}}
ORIGINS = {**{o.value: o.value for o in ORIGIN_TITLES}, **{title: o.value for o, title in ORIGIN_TITLES.items()}}

CHOSEN = {"kind": KINDS, "origin": ORIGINS, "lead_form": LEADS}


def given(row: Mapping[str, str], decimal: str = "") -> dict[str, Any]:
    """The cells of a row as fields of a part, with the decimal sign of the file; raises InputError naming the column."""
    fields: dict[str, Any] = {}
    for name, cell in row.items():
        if name == "id" or not cell:
            continue
        if len(cell) > LONGEST_CELL:
            raise InputError(name, f"A cell of more than {LONGEST_CELL} characters.")
        if name in NUMBERS:
            fields[name] = plain_number(name, cell, whole=name == "quantity", decimal=decimal)
        elif name == "humidity_grade":
            fields[name] = cell.lower() in YES
        elif name in CHOSEN:
            known = CHOSEN[name]
            if cell.lower() not in known:
                raise InputError(name, f"“{cell[:40]}” is no {name.replace('_', ' ')} known here.")
            fields[name] = known[cell.lower()]
        else:
            fields[name] = cell
    return fields
