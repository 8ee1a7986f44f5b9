"""What binds a row to the record: the entry of its writing holds a digest of it, so that a row changed from outside is found.

Bound is every model that says by `BINDS` which field leads to the subject of its record, a job or a workshop. A row that is
written again is bound again by the entry of that writing; the last one counts.
"""

import datetime
import hashlib
import json
import math
from collections.abc import Iterable, Mapping
from functools import cache
from typing import Any
from uuid import UUID

from django.apps import apps
from django.db import models

from dusky_heron.record.models import Entered

SIGNS = 24  # of a digest: 96 bits, which nobody meets twice by chance or by trying
Binds = dict[str, dict[str, str]]  # by model and key: the digest


@cache
def bound_models() -> Mapping[str, tuple[type[models.Model], str]]:
    """Models whose rows are bound, by their label, and the lookup that leads to the subject of their record. No statement."""
    return {model._meta.label: (model, path) for model in apps.get_models() if (path := path_of(model))}


def path_of(model: type[models.Model]) -> str:
    """The lookup from a row to the subject of its record; "" for a model whose rows are not bound."""
    own: str = getattr(model, "BINDS", "")
    return own or (f"{model.JOB}_id" if issubclass(model, Entered) else "")


def digests(label: str, **where: Any) -> dict[str, tuple[UUID, str]]:
    """Subject and digest of the rows of a bound model, by key. One statement."""
    model, path = bound_models()[label]
    fields = bound_fields(model)
    rows = model._base_manager.filter(**where).values_list("pk", path, *(field.attname for field in fields))
    return {str(pk): (subject, row_digest(label, fields, values)) for pk, subject, *values in rows.iterator()}


def bound_fields(model: type[models.Model]) -> list["models.Field[Any, Any]"]:
    """What of a row is bound: all of it, but for what may change without an entry."""
    loose: frozenset[str] = getattr(model, "LOOSE", frozenset())
    return [field for field in model._meta.concrete_fields if field.attname not in loose]


def row_digest(label: str, fields: Iterable["models.Field[Any, Any]"], values: Iterable[Any]) -> str:
    """Over what stands in the fields; what is empty or usual is left out, so that a field added later changes none."""
    said = {
        field.attname: _plain(value) for field, value in zip(fields, values, strict=True) if value != _usual(field) and value != ""
    }
    text = json.dumps([label, said], sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    return hashlib.sha256(text.encode()).hexdigest()[:SIGNS]


def _usual(field: "models.Field[Any, Any]") -> Any:
    return field.default if field.has_default() and not callable(field.default) else None


def _plain(value: Any) -> Any:
    if isinstance(value, datetime.datetime):
        return value.astimezone(datetime.UTC).isoformat()
    if isinstance(value, float) and not math.isfinite(value):
        return repr(value)
    return value if isinstance(value, (bool, int, float, str, list, dict)) else str(value)


def write_binds(binds: Binds) -> str:
    """The text of what an entry binds: its digest stands in the entry."""
    return json.dumps(binds, sort_keys=True, separators=(",", ":"))


def digest_of(text: str) -> str:
    """The digest of such a text."""
    return hashlib.sha256(text.encode()).hexdigest()


def differences(wrote_by: Mapping[UUID, Mapping[tuple[str, str], tuple[str, str]]]) -> dict[UUID, list[str]]:
    """How the rows of each subject differ from what its entries wrote, in sentences. A statement a bound model.

    :param wrote_by: by subject, then by model and key, the digest that was written last, and what wrote it
    """
    found: dict[UUID, list[str]] = {subject_id: [] for subject_id in wrote_by}
    seen = set[tuple[UUID, str, str]]()
    for label, (model, path) in bound_models().items():
        name = str(model._meta.verbose_name)
        for key, (subject_id, digest) in digests(label, **{f"{path}__in": list(wrote_by)}).items():
            seen.add((subject_id, label, key))
            said = wrote_by[subject_id].get((label, key))
            if said is None:
                found[subject_id].append(f"There is a {name} that no entry wrote: {key}.")
            elif said[0] != digest:
                found[subject_id].append(f"A {name} is not what {said[1]} wrote: {key}.")
    for subject_id, wrote in wrote_by.items():
        for (label, key), (_, place) in wrote.items():
            if (subject_id, label, key) not in seen:
                gone = f"A {bound_models()[label][0]._meta.verbose_name} that {place} wrote is gone: {key}."
                found[subject_id].append(gone)
    return found
