"""A stock list in: seen first as adds, changes and refusals, then taken as a whole, and undone as a whole."""

import re
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any, TypeVar

from django.db import transaction
from django.db.models import ProtectedError, Q
from pydantic import ValidationError

from dusky_heron.core.errors import InputError
from dusky_heron.core.model import Origin
from dusky_heron.core.selection.question import likely_kind
from dusky_heron.longwork.progress import Tell, nobody
from dusky_heron.presented import read_kept
from dusky_heron.record.actions import action, append
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.errors import NotFound
from dusky_heron.sheets import Sheet, decimal_sign_of, read_sheet
from dusky_heron.stock.actions.movements import explain
from dusky_heron.stock.actions.parts import part_fields
from dusky_heron.stock.csvfile import COLUMNS, NUMBERS, given
from dusky_heron.stock.models import Part, PartImport, Why
from dusky_heron.stock.queries import READ_FROM, sheet_as_typed
from dusky_heron.stock.schemas import ImportOut, PartIn, RefusedRow
from dusky_heron.workshops.requests import sign_of

MOST_SHOWN, CHUNK = 50, 500
UUID_TEXT = re.compile(r"[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}")
T = TypeVar("T")
SENTENCES = {"Field required": "Fill this in.", "Input should be a valid integer": "A whole number."}
KEPT = (*(field for field in PartIn.model_fields if field not in READ_FROM), *READ_FROM.values())


def preview_import(actor: Actor, content: bytes, tell: Tell = nobody) -> ImportOut:
    """What a file would change, row by row; nothing is written. One statement for each five hundred rows."""
    sheet, counted = read_sheet(content, COLUMNS), _Counted()
    for chunk in _chunks(actor, sheet, tell):
        counted.add(chunk)
    return counted.shown(sheet)


@action(Permission.DECIDE)
def take_import(actor: Actor, name: str, content: bytes, tell: Tell = nobody) -> ImportOut:
    """Take a whole file, or nothing of it; rows are written as they are read, so that a large file needs little room."""
    sheet, counted = read_sheet(content, COLUMNS), _Counted()
    added: list[str] = []
    before: dict[str, dict[str, Any]] = {}
    for chunk in _chunks(actor, sheet, tell, lock=True):
        counted.add(chunk)
        if counted.refused:
            continue
        made = Part.objects.bulk_create([Part(workshop_id=actor.workshop_id, **fields) for fields in chunk.adds])
        explain(actor, [(part, part.quantity, Why.LISTED) for part in made], name)
        added += [str(part.id) for part in made]
        before |= {str(part.id): {field: _plain(getattr(part, field)) for field in KEPT} for part, _ in chunk.changes}
        _change(actor, chunk.changes, name)
    if counted.refused:
        raise InputError("file", f"{counted.refused} rows are refused: mend them first, nothing was changed.")
    kept = PartImport.objects.create(workshop_id=actor.workshop_id, name=name[:200], added=added, before=before, by_name=actor.name)
    append(actor, actor.workshop_id, "parts imported", {"file": name, "added": len(added), "changed": len(before)})
    return counted.shown(sheet).model_copy(update={"id": kept.id})


@action(Permission.DECIDE)
def undo_import(actor: Actor, import_id: int, tell: Tell = nobody) -> ImportOut:
    """Undo a whole import: what it added goes, what it changed is as it was; refused when a part has been used since."""
    kept = PartImport.objects.select_for_update().filter(id=import_id, workshop_id=actor.workshop_id, undone=False).first()
    if kept is None:
        raise NotFound
    mine, total = Part.objects.filter(workshop_id=actor.workshop_id), len(kept.added) + len(kept.before)
    try:
        with transaction.atomic():
            for ids in _by(CHUNK, kept.added):
                tell(0, total)
                mine.filter(id__in=ids).delete()
    except ProtectedError:
        raise InputError("file", "A part of it has been used since: change it by hand.") from None
    for ids in _by(CHUNK, list(kept.before)):
        tell(len(kept.added), total)
        parts = list(mine.select_for_update().filter(id__in=ids))
        _change(actor, [(p, part_fields(PartIn.model_validate(_as_typed(kept.before[str(p.id)])))) for p in parts], "undone")
    kept.undone = True
    kept.save(update_fields=["undone"])
    append(actor, actor.workshop_id, "import undone", {"file": kept.name})
    return ImportOut.nothing_but(id=kept.id)


def _change(actor: Actor, changes: list[tuple[Part, dict[str, Any]]], name: str) -> None:
    """Save changed columns, and explain changed quantities."""
    if not changes:
        return
    explain(actor, [(p, fields.get("quantity", p.quantity) - p.quantity, Why.LISTED) for p, fields in changes], name)
    for part, fields in changes:
        for column, value in fields.items():
            setattr(part, column, value)
        part.version += 1
    Part.objects.bulk_update([part for part, _ in changes], sorted({f for _, fields in changes for f in fields} | {"version"}))


@dataclass
class _Chunk:
    """What some rows add, change, leave and refuse."""

    adds: list[dict[str, Any]] = field(default_factory=list)
    changes: list[tuple[Part, dict[str, Any]]] = field(default_factory=list)
    refused: list[RefusedRow] = field(default_factory=list)
    same: int = 0


class _Counted:
    """The chunks of a file together: counts, and the first few of each."""

    def __init__(self) -> None:
        self.adds = self.changes = self.same = self.refused = 0
        self._rows: list[RefusedRow] = []
        self._added: list[str] = []
        self._changed: list[str] = []
        self._unsettled: list[str] = []

    def add(self, chunk: _Chunk) -> None:
        """One chunk more."""
        self.adds += len(chunk.adds)
        self.changes += len(chunk.changes)
        self.same += chunk.same
        self.refused += len(chunk.refused)
        self._rows += chunk.refused[: MOST_SHOWN - len(self._rows)]
        self._added += [fields["marking"] for fields in chunk.adds[: MOST_SHOWN - len(self._added)]]
        changed = chunk.changes[: MOST_SHOWN - len(self._changed)]
        touched = [*chunk.adds, *({"marking": part.marking} | fields for part, fields in chunk.changes)]
        open_rows = [fields["marking"] for fields in touched if fields.get("provisional")]
        self._unsettled += open_rows[: MOST_SHOWN - len(self._unsettled)]
        self._changed += [f"{part.marking}: {_says(part, fields)}" for part, fields in changed]

    def shown(self, sheet: Sheet) -> ImportOut:
        """As the API shows it."""
        return ImportOut(
            adds=self.adds,
            changes=self.changes,
            same=self.same,
            refused=self.refused,
            rows=self._rows,
            columns=list(sheet.columns),
            unknown=list(sheet.unknown),
            added=self._added,
            changed=self._changed,
            unsettled=self._unsettled,
            id=None,
        )


def _chunks(actor: Actor, sheet: Sheet, tell: Tell, *, lock: bool = False) -> Iterator[_Chunk]:
    """What a sheet adds, changes, leaves and refuses, five hundred rows at a time with one statement.

    A row with an id is that part; one without is the part of the same marking, kind, origin and place, or a new one. A column
    that is not in the file leaves what is there.
    """
    seen: dict[Any, int] = {}
    done = 0
    decimal = decimal_sign_of(sheet, NUMBERS) or sign_of(actor.workshop_id)
    for rows in _by(CHUNK, sheet.rows):
        tell(done, len(sheet.rows))
        done += len(rows)
        ids = [row["id"].lower() for _, row in rows if UUID_TEXT.fullmatch(row.get("id", "").lower())]
        named = Q(marking__in={row.get("marking", "") for _, row in rows})
        found = Part.objects.filter(named | Q(id__in=ids), workshop_id=actor.workshop_id)
        every = list(found.select_for_update() if lock else found)
        by_id: dict[str, Part] = {str(part.id): part for part in every}
        by_name: dict[Any, list[Part]] = defaultdict(list)
        for one in every:
            by_name[_name(vars(one))].append(one)
        chunk = _Chunk()
        for line, row in rows:
            try:
                part, fields = _read_row(row, decimal, by_id, by_name, seen)
                for key in {part.id if part else None, None if row.get("id") else _name(fields)} - {None}:
                    if key in seen:
                        raise InputError("marking", f"The same part as in line {seen[key]}.")
                    seen[key] = line
            except InputError as error:
                refused = RefusedRow(line=line, column=error.field, sentence=error.sentence, marking=row.get("marking", ""))
                chunk.refused.append(refused)
                continue
            if part is None:
                chunk.adds.append(fields)
            elif differing := {field: value for field, value in fields.items() if getattr(part, field) != value}:
                chunk.changes.append((part, differing))
            else:
                chunk.same += 1
        yield chunk
    tell(len(sheet.rows), len(sheet.rows))


def _by(size: int, things: Sequence[T]) -> Iterator[Sequence[T]]:
    return (things[k : k + size] for k in range(0, len(things), size))


def _read_row(
    row: dict[str, str], decimal: str, by_id: dict[str, Part], by_name: Mapping[Any, list[Part]], seen: Mapping[Any, int]
) -> tuple[Part | None, dict[str, Any]]:
    """The part a row means, and its columns as they would be; never one that an earlier row of the file added."""
    typed = given(row, decimal)
    part = None
    if row.get("id"):
        part = by_id.get(row["id"].lower())
        if part is None:
            raise InputError("id", "No part of this drawer has that id.")
    elif "kind" not in typed:
        typed["kind"] = likely_kind(read_kept(typed.get("marking", ""))).value
    name = _name({"origin": Origin.NEW.value, "place": "", **typed})
    if part is None and name in seen:
        raise InputError("marking", f"The same part as in line {seen[name]}.")
    alike = by_name.get(name, [])
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
    typed = {field: value for field, value in kept.items() if value is not None and field not in READ_FROM.values()}
    return typed | sheet_as_typed(kept)


def _plain(value: Any) -> Any:
    return str(value) if isinstance(value, Decimal) else value


def _says(part: Part, fields: dict[str, Any]) -> str:
    """What changes, in words."""
    return ", ".join(
        f"{field.replace('_', ' ')} {_plain(getattr(part, field))} to {_plain(value)}" for field, value in fields.items()
    )
