"""A job that comes in as a zip: looked at whole before anything is written, and taken whole or not at all."""

import hashlib
import io
import json
import re
import uuid
import zipfile
import zlib
from dataclasses import dataclass
from datetime import date, datetime
from decimal import Decimal
from typing import Any
from uuid import UUID

from django.apps import apps
from django.core.exceptions import ValidationError
from django.db import DataError, IntegrityError, models, transaction
from django.db.models import Max, Q

from dusky_heron.asfound.photos import Encoded, as_it_came, keep
from dusky_heron.core.errors import InputError
from dusky_heron.handback.report import report_html
from dusky_heron.jobs.queries import show_job
from dusky_heron.jobs.schemas import JobOut
from dusky_heron.longwork.progress import Tell, nobody
from dusky_heron.record.actions import action, append
from dusky_heron.record.actions.append import TAKEN_IN, link
from dusky_heron.record.actor import Actor, Permission
from dusky_heron.record.models import Chain, Entry
from dusky_heron.transfer.formats import as_of_now
from dusky_heron.transfer.outward import JOB_FILE, MANIFEST, as_document, photo_name, write
from dusky_heron.transfer.tables import JOB, TABLES, WITHOUT_END, Table, job_fields, links_of, plain_fields
from dusky_heron.workshops.actions import lock_workshop

NAMES = re.compile(r"(manifest\.json|job\.json|readings\.csv|report\.pdf|photos/[0-9a-f]{64}\.jpg)")
MOST_BYTES, MOST_UNPACKED, MOST_FILES = 200_000_000, 400_000_000, 1000
DEEPEST = 60  # brackets within brackets
FIELD = "file"
FIRST = "0" * 64


@dataclass(frozen=True, slots=True)
class Arrived:
    """A file that was looked at: its document as this version has it, the digest of it as it came, its photos by digest."""

    document: dict[str, Any]
    digest: str
    photos: dict[str, Encoded]


def look_at(content: bytes, tell: Tell = nobody) -> Arrived:
    """Everything that can be said of a file without writing: raises InputError at the field `file`; `tell` hears of each photo."""
    files = _unpack(content)
    for name in (MANIFEST, JOB_FILE):
        if name not in files:
            raise InputError(FIELD, f"{name} is missing: that is not a job of ours, or it was packed anew.")
    sums = _read_json(files[MANIFEST], MANIFEST).get("sha256")
    if not isinstance(sums, dict) or set(sums) != set(files) - {MANIFEST}:
        raise InputError(FIELD, "The manifest does not list just the files there are.")
    for name, digest in sums.items():
        if hashlib.sha256(files[name]).hexdigest() != digest:
            raise InputError(FIELD, f"{name} is not what the manifest says: it was changed on the way.")
    document = _read_json(files[JOB_FILE], JOB_FILE)
    document = as_of_now(document, FIELD)
    _verify_chain(document["chain"])
    _verify_links(document["tables"])
    return Arrived(document, sums[JOB_FILE], _photos(document, files, tell))


def _unpack(content: bytes) -> dict[str, bytes]:
    if len(content) > MOST_BYTES:
        raise InputError(FIELD, f"More than {MOST_BYTES / 1e6:.0f} MB: a job is smaller.")
    files: dict[str, bytes] = {}
    left = MOST_UNPACKED
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            if len(archive.infolist()) > MOST_FILES:
                raise InputError(FIELD, f"More than {MOST_FILES} files: a job has fewer.")
            for info in archive.infolist():
                if not NAMES.fullmatch(info.filename) or info.filename in files:
                    raise InputError(FIELD, f"“{info.filename[:60]}” has no place in a job.")
                with archive.open(info) as packed:
                    files[info.filename] = packed.read(left + 1)  # what a header says of the size is not believed
                left -= len(files[info.filename])
                if left < 0:
                    raise InputError(FIELD, f"It unpacks to more than {MOST_UNPACKED / 1e6:.0f} MB.")
    except (zipfile.BadZipFile, zlib.error, OSError, RuntimeError, NotImplementedError, EOFError, ValueError) as error:
        if isinstance(error, InputError):
            raise
        raise InputError(FIELD, "That is not a zip that can be read.") from error
    return files


def _read_json(content: bytes, name: str) -> dict[str, Any]:
    def refuse(word: str) -> None:
        raise ValueError(word)

    try:
        text = content.decode()
        if "\\u0000" in text or _depth(text) > DEEPEST:
            raise ValueError
        found = json.loads(text, parse_constant=refuse)
    except (ValueError, RecursionError) as error:
        raise InputError(FIELD, f"{name} cannot be read.") from error
    if not isinstance(found, dict):
        raise InputError(FIELD, f"{name} cannot be read.")
    return found


def _depth(text: str) -> int:
    """How deep brackets go; those within strings count too, which our own texts stay well below."""
    deep = most = 0
    for mark in re.finditer(r"[\[{]|[\]}]", text):
        deep += 1 if mark[0] in "[{" else -1
        most = max(most, deep)
    return most


def _verify_chain(chain: dict[str, Any]) -> None:
    previous = FIRST
    for place, entry in enumerate(chain["entries"], start=1):
        says = f"Entry {place} of its record was altered: the chain does not hold."
        if link(previous, entry["text"]) != entry["hash"]:
            raise InputError(FIELD, says)
        try:
            said = json.loads(entry["text"])
            whole = said["sequence"] == place and said["subject"] == chain["subject"]
        except (ValueError, KeyError, TypeError, RecursionError):
            whole = False
        if not whole:
            raise InputError(FIELD, says)
        previous = entry["hash"]


def _verify_links(tables: dict[str, list[dict[str, Any]]]) -> None:
    for table in TABLES:
        for name, listed in links_of(table):
            for row in tables[table.name]:
                if row[name] is not None and row[name] >= len(tables[listed]):
                    raise InputError(FIELD, f"A row of {table.name} names one of {listed} that is not there.")


def _photos(document: dict[str, Any], files: dict[str, bytes], tell: Tell) -> dict[str, Encoded]:
    wanted = {row["digest"] for row in document["tables"]["photos"]}
    there = {name for name in files if name.startswith("photos/")}
    if there != {photo_name(digest) for digest in wanted}:
        raise InputError(FIELD, "Photos are missing, or there are some that belong to nothing.")
    found = {}
    for done, digest in enumerate(sorted(wanted)):
        tell(done, len(wanted) + 1)
        content = files[photo_name(digest)]
        if hashlib.sha256(content).hexdigest() != digest:
            raise InputError(FIELD, "A photo is not the one that was recorded.")
        try:
            found[digest] = as_it_came(content)
        except InputError as error:
            raise InputError(FIELD, f"A photo cannot be kept: {error.sentence}") from error
    return found


@action(Permission.DECIDE)
def take_in(actor: Actor, content: bytes, tell: Tell = nobody) -> JobOut:
    """Take a job in under the workshop's next number; its record goes on where it ended, the import is the workshop's own.

    Photos are looked at before the workshop is held, which others need to open jobs of their own.
    """
    arrived = look_at(content, tell)
    lock_workshop(actor)
    subject = arrived.document["chain"]["subject"]
    known = Chain.objects.filter(Q(origin_id=subject) | Q(subject_id=subject), workshop_id=actor.workshop_id).first()
    if known is not None:
        number = apps.get_model(JOB)._default_manager.get(id=known.subject_id).number
        raise InputError(FIELD, f"That job is here already, No {number}.")
    try:
        with transaction.atomic():
            job = _write(actor, arrived.document)
            same = write(as_document(actor, job.pk)) == write(arrived.document)
            report_html(actor, job.pk)  # what cannot be shown is not taken
    except (
        ValueError,
        TypeError,
        KeyError,
        LookupError,
        ArithmeticError,
        AttributeError,
        ValidationError,
        DataError,
        IntegrityError,
    ) as error:
        raise InputError(FIELD, "What is in it is not a job that can be shown: nothing was taken.") from error
    if not same:
        raise InputError(FIELD, "It would not come out again as it came in: nothing was taken.")
    for photo in apps.get_model("asfound.Photo")._default_manager.filter(job_id=job.pk):
        keep(actor.workshop_id, photo.pk, arrived.photos[photo.digest])
    body = {
        "job": job.number,
        "id": str(job.pk),
        "title": job.title,
        "entries": len(arrived.document["chain"]["entries"]),
        "head": arrived.document["chain"]["entries"][-1]["hash"],
        "job.json": arrived.digest,
    }
    append(actor, actor.workshop_id, TAKEN_IN, body)
    return show_job(job)


def _write(actor: Actor, document: dict[str, Any]) -> Any:
    model = apps.get_model(JOB)
    last = model._default_manager.filter(workshop_id=actor.workshop_id).aggregate(last=Max("number"))["last"] or 0
    job = model(workshop_id=actor.workshop_id, number=last + 1, from_file=True)
    _fill(job, job_fields(), document["job"])
    _insert(job)
    made: dict[str, list[models.Model]] = {}
    for table in TABLES:
        made[table.name] = [_make(table, job, row, made) for row in document["tables"][table.name]]
    chain = document["chain"]
    kept = Chain.objects.create(
        workshop_id=actor.workshop_id, subject_id=job.pk, origin_id=UUID(chain["subject"]), length=len(chain["entries"]),
        head=chain["entries"][-1]["hash"],
    )  # fmt: skip
    Entry.objects.bulk_create(
        Entry(chain=kept, workshop_id=kept.workshop_id, sequence=place, text=entry["text"], hash=entry["hash"])
        for place, entry in enumerate(chain["entries"], start=1)
    )
    return job


def _make(table: Table, job: models.Model, row: dict[str, Any], made: dict[str, list[models.Model]]) -> models.Model:
    thing = table.model()
    if isinstance(table.model._meta.pk, models.UUIDField):
        thing.pk = uuid.uuid4()
    _fill(thing, plain_fields(table), row)
    for name, listed in links_of(table):
        setattr(thing, name, None if row[name] is None else made[listed][row[name]])
    if table.owner == "job":
        thing.job = job  # type: ignore[attr-defined]
    _insert(thing)
    return thing


def _fill(thing: models.Model, fields: list["models.Field[Any, Any]"], row: dict[str, Any]) -> None:
    for field in fields:
        setattr(thing, field.name, _value(field, row[field.name]))
    thing.clean_fields(exclude=[f.name for f in thing._meta.concrete_fields if f not in fields or f.blank])


def _insert(thing: models.Model) -> None:
    thing.save_base(raw=True, force_insert=True)  # raw: the times it came with stand


def _value(field: "models.Field[Any, Any]", value: Any) -> Any:
    if value is None or value == WITHOUT_END:
        return float("inf") if value else None
    if isinstance(field, models.DateTimeField):
        return datetime.fromisoformat(value)
    if isinstance(field, models.DateField):
        return date.fromisoformat(value)
    return Decimal(value) if isinstance(field, models.DecimalField) else value
