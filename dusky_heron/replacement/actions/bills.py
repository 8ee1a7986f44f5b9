"""A bill of materials in: seen first, then taken as a whole."""

from typing import Any
from uuid import UUID

from pydantic import ValidationError

from dusky_heron.core.errors import InputError
from dusky_heron.jobs.actions import add_position, edit_position
from dusky_heron.jobs.queries import job_places
from dusky_heron.jobs.schemas import PositionEdit, PositionIn, PositionOut
from dusky_heron.record.actions import action
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.replacement.bill import COLUMNS, MOST_PLACES, given
from dusky_heron.replacement.schemas import BillOut, BillRow
from dusky_heron.sheets import Sheet, read_sheet

Planned = tuple[BillOut, list[PositionIn], list[tuple[UUID, PositionEdit]]]


def preview_bill(actor: Actor, job_id: UUID, content: bytes) -> BillOut:
    """What a bill of materials would add to a job and change in it; nothing is written. Two statements."""
    return _planned(actor, job_id, read_sheet(content, COLUMNS))[0]


@action(Permission.WORK)
def take_bill(actor: Actor, job_id: UUID, content: bytes) -> BillOut:
    """Take a whole bill of materials, or nothing of it."""
    shown, adds, changes = _planned(actor, job_id, read_sheet(content, COLUMNS))
    if shown.refused:
        raise InputError("file", f"{len(shown.refused)} rows are refused: mend them first, nothing was changed.")
    for data in adds:
        add_position(actor, job_id, data)
    for position_id, edit in changes:
        edit_position(actor, position_id, edit)
    return shown


def _planned(actor: Actor, job_id: UUID, sheet: Sheet) -> Planned:
    there = {place.name.lower(): place for place in job_places(actor, job_id)}
    if len(sheet.rows) > MOST_PLACES:
        raise InputError("file", f"More than {MOST_PLACES} places: a job holds no more.")
    adds: list[PositionIn] = []
    changes: list[tuple[UUID, PositionEdit]] = []
    refused: list[BillRow] = []
    seen: dict[str, int] = {}
    same = 0
    for line, row in sheet.rows:
        try:
            fields = given(row)
            name = fields["name"].lower()
            if name in seen:
                raise InputError("name", f"The same place as in line {seen[name]}.")
            seen[name] = line
            was = there.get(name)
            data = _read(was, fields)
        except InputError as error:
            refused.append(BillRow(line=line, column=error.field, sentence=error.sentence, name=row.get("name", "")))
            continue
        if was is None:
            adds.append(data)
        elif data.model_dump() != PositionIn.model_validate(was.model_dump(include=set(PositionIn.model_fields))).model_dump():
            changes.append((was.id, PositionEdit(**data.model_dump(), version=was.version)))
        else:
            same += 1
    shown = BillOut(
        adds=[f"{data.name}: {data.marking}" for data in adds],
        changes=[f"{edit.name}: {edit.marking}" for _, edit in changes],
        same=same,
        refused=refused,
        unknown=list(sheet.unknown),
    )
    return shown, adds, changes


def _read(was: PositionOut | None, fields: dict[str, Any]) -> PositionIn:
    """A row over what is there: a column that is not in the file leaves it."""
    before = was.model_dump(include=set(PositionIn.model_fields)) if was else {}
    try:
        return PositionIn.model_validate(before | fields)
    except ValidationError as error:
        first = error.errors()[0]
        raise InputError(str(first["loc"][0]), f"{first['msg'].removeprefix('Value error, ')}.".replace("..", ".")) from None
