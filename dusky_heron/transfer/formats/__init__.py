"""What job.json was in each version of its format: a frozen JSON Schema each, and how a document of one becomes the next.

A schema here is never changed. Whoever changes what is kept of a job adds a version: its schema (`manage.py job_schema`), the
upgrader from the version before, and a file of it to the tests.
"""

import json
from collections.abc import Callable, Mapping
from functools import cache
from pathlib import Path
from typing import Any

from jsonschema import Draft202012Validator

from dusky_heron.core.errors import InputError

FORMAT, VERSION = "dusky-heron-job", 4
Document = dict[str, Any]


@cache
def schema_of(version: int) -> Mapping[str, Any]:
    """The frozen schema of a version."""
    text = (Path(__file__).parent / f"job-{version}.json").read_text(encoding="utf-8")
    schema: Mapping[str, Any] = json.loads(text)
    return schema


def as_of_now(document: Document, field: str) -> Document:
    """A document of any version as one of this one, each step held against its schema. Raises InputError at the field."""
    version = document.get("version")
    if document.get("format") != FORMAT or not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise InputError(field, "job.json does not say of which version it is: that is not a job of ours.")
    if version > VERSION:
        raise InputError(field, f"It was written by a newer Dusky Heron: version {version}, this one reads up to {VERSION}.")
    _hold_against_schema(document, field)
    while document["version"] < VERSION:
        document = UPGRADERS[document["version"]](document) | {"version": document["version"] + 1}
        _hold_against_schema(document, field)
    return document


def _hold_against_schema(document: Document, field: str) -> None:
    wrong = next(iter(Draft202012Validator(schema_of(document["version"])).iter_errors(document)), None)
    if wrong is not None:
        where = "/".join(str(piece) for piece in wrong.absolute_path) or "the whole"
        raise InputError(field, f"job.json does not follow its schema: {where[:120]}, {wrong.message[:160]}.")


def _each(document: Document, **change: Callable[[Document], Document]) -> Document:
    """A document whose rows of some tables are changed."""
    tables = {name: [change.get(name, _same)(row) for row in rows] for name, rows in document["tables"].items()}
    return document | {"tables": tables}


def _same(row: Document) -> Document:
    return row


def _without_turn(document: Document) -> Document:
    """Turns were counts of another server's clock. Readings had no test volts nor times, power-ups no findings."""
    tables = {
        name: [{key: value for key, value in row.items() if key != "turn"} for row in rows]
        for name, rows in document["tables"].items()
    } | {"walk_readings": []}
    return _each(
        document | {"tables": tables},
        readings=lambda row: row | {"volts": None, "seconds": None},
        power_steps=lambda row: row | {"finding": ""},
    )


def _ways(document: Document) -> Document:
    """A choice was one part; a place said nothing of what it is made as; a note of a charge nothing of its point."""
    made = {"made_as": "", "reaches": "", "ripple_a": None, "esr_ohm": None, "dvdt_v_s": None, "peak_a": None}
    document = document | {"tables": document["tables"] | {"beside": []}}
    return _each(
        document,
        positions=lambda row: row | made,
        charge_notes=lambda row: row | {"worst_tau_s": None, "point": None, "place": ""},
        choices=_one_part,
    )


def _one_part(row: Document) -> Document:
    kept = {key: value for key, value in row.items() if key not in ("place", "lot", "date_code")}
    part = {"part_id": None, "price": "", **{key: row[key] for key in ("marking", "place", "lot", "date_code")}}
    return kept | {"way": "single", "parts": [part], "resistor": "", "reason": "", "signed": [], "specification": []}


UPGRADERS: Mapping[int, Callable[[Document], Document]] = {
    1: _without_turn,
    2: _ways,
    3: lambda document: document,  # four is three: charge notes gained their fields before the number was counted on
}
