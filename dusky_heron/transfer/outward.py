"""A job as one zip: job.json, its readings as CSV, its photos, its report, and a manifest with the hash of each file."""

import hashlib
import io
import json
import math
import zipfile
from typing import Any
from uuid import UUID

from django.db import models
from django.utils import timezone

from dusky_heron.asfound.photos import read
from dusky_heron.handback.report import report_pdf
from dusky_heron.jobs.queries import find_job
from dusky_heron.longwork.progress import Tell, nobody
from dusky_heron.record.actor import Actor
from dusky_heron.record.models import Chain
from dusky_heron.sheets import write_sheet
from dusky_heron.transfer.formats import FORMAT, VERSION
from dusky_heron.transfer.tables import TABLES, WITHOUT_END, Table, job_fields, links_of, plain_fields

READINGS = ("position", "quantity", "section", "typed", "value", "low", "high", "condition", "meter", "at", "by", "struck")
JOB_FILE, MANIFEST, READINGS_FILE, REPORT_FILE = "job.json", "manifest.json", "readings.csv", "report.pdf"
LONG_AGO = (1980, 1, 1, 0, 0, 0)  # the same job makes the same file, whenever it is asked for


def as_zip(actor: Actor, job_id: UUID, tell: Tell = nobody) -> bytes:
    """A job of the actor's workshop as one file; `tell` hears of every picture in its report, and may stop it."""
    document = as_document(actor, job_id)
    files = {JOB_FILE: write(document), READINGS_FILE: _readings(document), REPORT_FILE: report_pdf(actor, job_id, tell)}
    photos = _rows(_table("photos"), job_id)
    for row in photos:
        files[photo_name(row.digest)] = read(actor.workshop_id, row.pk, small=False)
    sums = {name: hashlib.sha256(content).hexdigest() for name, content in files.items()}
    files[MANIFEST] = write({"format": FORMAT, "version": VERSION, "sha256": sums})
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        for name in sorted(files):
            archive.writestr(zipfile.ZipInfo(name, LONG_AGO), files[name], zipfile.ZIP_DEFLATED)
    return packed.getvalue()


def photo_name(digest: str) -> str:
    """Where a photo lies in the zip."""
    return f"photos/{digest}.jpg"


def write(document: dict[str, Any]) -> bytes:
    """A document as text, the same for the same content."""
    return json.dumps(document, sort_keys=True, indent=1, ensure_ascii=False, allow_nan=False).encode()


def as_document(actor: Actor, job_id: UUID) -> dict[str, Any]:
    """What job.json holds. A statement a table, whatever the number of rows."""
    job = find_job(actor, job_id)
    places: dict[str, dict[Any, int]] = {}
    tables = {}
    for table in TABLES:
        rows = _rows(table, job_id)
        places[table.name] = {row.pk: place for place, row in enumerate(rows)}
        tables[table.name] = [_row(table, row, places) for row in rows]
    chain = Chain.objects.prefetch_related("entries").get(subject_id=job_id, workshop_id=actor.workshop_id)
    return {
        "format": FORMAT,
        "version": VERSION,
        "job": {field.name: plain(getattr(job, field.name)) for field in job_fields()},
        "tables": tables,
        "chain": {
            "subject": chain.named,
            "entries": [{"text": entry.text, "hash": entry.hash} for entry in chain.entries.all()],
        },
    }


def _table(name: str) -> Table:
    return next(table for table in TABLES if table.name == name)


def _rows(table: Table, job_id: UUID) -> list[Any]:
    """The rows of a table that belong to a job, in their own order."""
    path, model = table.owner, table.model
    while model._meta.get_field(path.split("__")[-1]).related_model._meta.label != "jobs.Job":  # type: ignore[union-attr]
        owner = next(t for t in TABLES if t.model is model._meta.get_field(path.split("__")[-1]).related_model)
        path, model = f"{path}__{owner.owner}", owner.model
    return list(table.model._default_manager.filter(**{f"{path}_id": job_id}))


def _row(table: Table, row: models.Model, places: dict[str, dict[Any, int]]) -> dict[str, Any]:
    found = {field.name: plain(_without_drawer(getattr(row, field.name))) for field in plain_fields(table)}
    for name, listed in links_of(table):
        key = getattr(row, f"{name}_id")
        found[name] = None if key is None else places[listed][key]
    return found


def _without_drawer(value: Any) -> Any:
    """Parts of a list without their ids, which name them in this drawer alone."""
    named = isinstance(value, list) and all(isinstance(one, dict) and "part_id" in one for one in value)
    return [one | {"part_id": None} for one in value] if named else value


def plain(value: Any) -> Any:
    """A value as JSON has it."""
    if isinstance(value, float) and math.isinf(value):
        return WITHOUT_END
    if isinstance(value, str):
        return str(value)  # a word of an enumeration as its text
    if value is None or isinstance(value, (bool, int, float, list, dict)):
        return value
    return value.astimezone(timezone.get_fixed_timezone(0)).isoformat() if hasattr(value, "astimezone") else str(value)


def _readings(document: dict[str, Any]) -> bytes:
    """The readings as a spreadsheet reads them."""
    names = [row["name"] for row in document["tables"]["positions"]]
    rows = (
        (
            names[r["position"]], r["quantity"], r["section"], r["typed"], r["value"], r["low"], r["high"], r["condition"],
            r["meter_name"], r["at"], r["by_name"], "" if r["struck"] is None else "struck",
        )
        for r in document["tables"]["readings"]
    )  # fmt: skip
    return ("\ufeff" + write_sheet(READINGS, rows)).encode()
