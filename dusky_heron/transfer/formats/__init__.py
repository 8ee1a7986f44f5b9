"""What job.json was in each version of its format: a frozen JSON Schema each, and how a document of one becomes the next.

A schema here is never changed. Whoever changes what is kept of a job adds a version by `manage.py job_schema --freeze`, and a
file of it to the tests. What a version adds to a row is filled with nothing; where that is not what it means, an upgrader says so.
"""

import json
from collections.abc import Callable, Mapping
from functools import cache
from pathlib import Path
from typing import Any

from jsonschema import Draft202012Validator

from dusky_heron.core.errors import InputError

FORMAT = "dusky-heron-job"
VERSION = max(int(file.stem.removeprefix("job-")) for file in Path(__file__).parent.glob("job-*.json"))
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
        version = document["version"]
        document = _filled(UPGRADERS.get(version, _same)(document), schema_of(version + 1)) | {"version": version + 1}
        _hold_against_schema(document, field)
    return document


def _hold_against_schema(document: Document, field: str) -> None:
    wrong = next(iter(Draft202012Validator(schema_of(document["version"])).iter_errors(document)), None)
    if wrong is not None:
        where = "/".join(str(piece) for piece in wrong.absolute_path) or "the whole"
        raise InputError(field, f"job.json does not follow its schema: {where[:120]}, {wrong.message[:160]}.")


def _filled(document: Document, schema: Mapping[str, Any]) -> Document:
    """A document with nothing in what its rows, or the job, do not have and the next version asks for."""

    def fill(row: Document, shape: Mapping[str, Any]) -> Document:
        return {name: _nothing(one) for name, one in shape["properties"].items()} | row

    asked = schema["properties"]
    tables = {
        name: [fill(row, lists["items"]) for row in document["tables"].get(name, [])]
        for name, lists in asked["tables"]["properties"].items()
    }
    return document | {"job": fill(document["job"], asked["job"]), "tables": document["tables"] | tables}


def _nothing(shape: Mapping[str, Any]) -> Any:
    """What stands for not noted in a field of this shape; a number that has to be there has none: the schema refuses it."""
    kinds = set[str]()
    for one in shape.get("anyOf", [shape]):
        named = one.get("type", ())
        kinds |= {named} if isinstance(named, str) else set(named)
    if "null" in kinds:
        return None
    return next((empty for kind, empty in (("string", ""), ("boolean", False), ("array", [])) if kind in kinds), None)


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
}
