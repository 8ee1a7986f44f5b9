"""A stock list in: seen first as adds, changes and refusals, then taken as a whole, and undone as a whole."""

from collections import defaultdict
from collections.abc import Mapping
from decimal import Decimal
from typing import Any

from django.db import transaction
from django.db.models import ProtectedError
from pydantic import ValidationError

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Origin
from dusky_heron.core.quantities import show
from dusky_heron.core.selection.question import likely_kind
from dusky_heron.record.actions import action, append
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.errors import NotFound
from dusky_heron.stock.actions.parts import part_fields
from dusky_heron.stock.csvfile import Sheet, given, read_sheet
from dusky_heron.stock.models import Part, PartImport
from dusky_heron.stock.schemas import ImportOut, PartIn, RefusedRow

MOST_SHOWN = 50
SENTENCES = {"Field required": "Fill this in.", "Input should be a valid integer": "A whole number."}
KEPT = (*(field for field in PartIn.model_fields if field not in ("ripple", "dvdt")), "ripple_a", "dvdt_v_s")


def preview_import(actor: Actor, content: bytes) -> ImportOut:
    """What a file would change, row by row; nothing is written."""
    return _planned(actor, read_sheet(content))[0]


@action(Permission.DECIDE)
def take_import(actor: Actor, name: str, content: bytes) -> ImportOut:
    """Take a whole file, or nothing of it."""
    sheet = read_sheet(content)
    shown, adds, changes = _planned(actor, sheet, lock=True)
    if shown.refused:
        raise InputError("file", f"{shown.refused} rows are refused: mend them first, nothing was changed.")
    before = {str(part.id): {field: _plain(getattr(part, field)) for field in KEPT} for part, _ in changes}
    made = Part.objects.bulk_create([Part(workshop_id=actor.workshop_id, **fields) for fields in adds], batch_size=1000)
    for part, fields in changes:
        for field, value in fields.items():
            setattr(part, field, value)
        part.version += 1
    changed = sorted({field for _, fields in changes for field in fields})
    if changes:
        Part.objects.bulk_update([part for part, _ in changes], [*changed, "version"], batch_size=500)
    kept = PartImport.objects.create(
        workshop_id=actor.workshop_id, name=name[:200], added=[str(part.id) for part in made], before=before, by_name=actor.name
    )
    append(actor, actor.workshop_id, "parts imported", {"file": name, "added": len(made), "changed": len(changes)})
    return shown.model_copy(update={"id": kept.id})


@action(Permission.DECIDE)
def undo_import(actor: Actor, import_id: int) -> ImportOut:
    """Undo a whole import: what it added goes, what it changed is as it was; refused when a part has been used since."""
    kept = PartImport.objects.select_for_update().filter(id=import_id, workshop_id=actor.workshop_id, undone=False).first()
    if kept is None:
        raise NotFound
    try:
        with transaction.atomic():
            Part.objects.filter(workshop_id=actor.workshop_id, id__in=kept.added).delete()
    except ProtectedError:
        raise InputError("file", "A part of it has been chosen for a job since: change it by hand.") from None
    for part in Part.objects.select_for_update().filter(workshop_id=actor.workshop_id, id__in=kept.before):
        was = part_fields(PartIn.model_validate(_as_typed(kept.before[str(part.id)])))
        for field, value in was.items():
            setattr(part, field, value)
        part.version += 1
        part.save()
    kept.undone = True
    kept.save(update_fields=["undone"])
    append(actor, actor.workshop_id, "import undone", {"file": kept.name})
    return ImportOut(id=kept.id)


Planned = tuple[ImportOut, list[dict[str, Any]], list[tuple[Part, dict[str, Any]]]]


def _planned(actor: Actor, sheet: Sheet, *, lock: bool = False) -> Planned:
    """What a sheet adds, changes, leaves and refuses. One statement.

    A row with an id is that part; one without is the part of the same marking, kind, origin and place, or a new one. A column
    that is not in the file leaves what is there.
    """
    found = Part.objects.filter(workshop_id=actor.workshop_id)
    every = list(found.select_for_update() if lock else found)
    by_id: dict[str, Part] = {str(part.id): part for part in every}
    by_name: dict[Any, list[Part]] = defaultdict(list)
    for one in every:
        by_name[_name(vars(one))].append(one)
    adds: list[dict[str, Any]] = []
    changes: list[tuple[Part, dict[str, Any]]] = []
    refused: list[RefusedRow] = []
    seen: dict[Any, int] = {}
    same = 0
    for line, row in sheet.rows:
        try:
            part, fields = _read_row(row, by_id, by_name)
            key = part.id if part else _name(fields)
            if key in seen:
                raise InputError("marking", f"The same part as in line {seen[key]}.")
            seen[key] = line
        except InputError as error:
            refused.append(RefusedRow(line=line, column=error.field, sentence=error.sentence, marking=row.get("marking", "")))
            continue
        if part is None:
            adds.append(fields)
        elif differing := {field: value for field, value in fields.items() if getattr(part, field) != value}:
            changes.append((part, differing))
        else:
            same += 1
    shown = ImportOut(
        adds=len(adds),
        changes=len(changes),
        same=same,
        refused=len(refused),
        rows=refused[:MOST_SHOWN],
        columns=list(sheet.columns),
        unknown=list(sheet.unknown),
        added=[fields["marking"] for fields in adds[:MOST_SHOWN]],
        changed=[f"{part.marking}: {_says(part, fields)}" for part, fields in changes[:MOST_SHOWN]],
        id=None,
    )
    return shown, adds, changes


def _read_row(row: dict[str, str], by_id: dict[str, Part], by_name: Mapping[Any, list[Part]]) -> tuple[Part | None, dict[str, Any]]:
    """The part a row means, and its columns as they would be."""
    typed = given(row)
    part = None
    if row.get("id"):
        part = by_id.get(row["id"].lower())
        if part is None:
            raise InputError("id", "No part of this drawer has that id.")
    elif "kind" not in typed:
        typed["kind"] = likely_kind(read_marking(typed.get("marking", ""))).value
    alike = by_name.get(_name({"origin": Origin.NEW.value, "place": "", **typed}), [])
    if part is None and len(alike) > 1:
        raise InputError("marking", f"{len(alike)} parts of the drawer are called so: name them by the id of an export.")
    part = part or (alike[0] if alike else None)
    was = _as_typed({field: _plain(getattr(part, field)) for field in KEPT}) if part else {}
    try:
        data = PartIn.model_validate(was | typed)
    except ValidationError as error:
        first = error.errors()[0]
        column = str(first["loc"][0]) if first["loc"] else "marking"
        raise InputError(column, SENTENCES.get(first["msg"], f"{first['msg']}.".replace("..", "."))) from None
    return part, part_fields(data)


def _name(fields: Any) -> tuple[str, ...]:
    return tuple(str(fields.get(field, "")) for field in ("marking", "kind", "origin", "place"))


def _as_typed(kept: dict[str, Any]) -> dict[str, Any]:
    """Columns of a part as they would be typed."""
    ripple, dvdt = kept.get("ripple_a"), kept.get("dvdt_v_s")
    typed = {field: value for field, value in kept.items() if value is not None and field not in ("ripple_a", "dvdt_v_s")}
    return typed | ({"ripple": show(ripple, "A", digits=6)} if ripple else {}) | ({"dvdt": dvdt / 1e6} if dvdt else {})


def _plain(value: Any) -> Any:
    return str(value) if isinstance(value, Decimal) else value


def _says(part: Part, fields: dict[str, Any]) -> str:
    """What changes, in words."""
    return ", ".join(
        f"{field.replace('_', ' ')} {_plain(getattr(part, field))} to {_plain(value)}" for field, value in fields.items()
    )
