"""What is kept of a job, table by table, and the JSON Schema of the file it makes; one list for going out and coming in."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from django.apps import apps
from django.db import models

from dusky_heron.transfer.formats import FORMAT, VERSION

MOST_ROWS = 100_000
MOST_TEXT = 1_000_000  # letters of one entry or note
WITHOUT_END = "inf"  # the upper end of a reading beyond its range, which JSON has no number for


@dataclass(frozen=True, slots=True)
class Table:
    """Rows of a model: `owner` is the field that leads towards the job, `links` are others that name rows of the same job."""

    name: str
    label: str
    owner: str = "job"
    links: tuple[str, ...] = ()

    @property
    def model(self) -> type[models.Model]:
        """The model itself."""
        return apps.get_model(self.label)


TABLES = (
    Table("positions", "jobs.Position"),
    Table("handed_over", "jobs.HandOver"),
    Table("charge_notes", "discharge.ChargeNote", "position"),
    Table("falls", "discharge.Fall", "note"),
    Table("fall_samples", "discharge.FallSample", "fall"),
    Table("found_lines", "asfound.FoundLine", links=("position",)),
    Table("photos", "asfound.Photo"),
    Table("points", "asfound.Point", "photo", ("position", "line")),
    Table("readings", "assessment.Reading", "position"),
    Table("signs", "assessment.SeenSign", "position"),
    Table("verdicts", "assessment.RecordedVerdict", "position"),
    Table("batch_decisions", "assessment.BatchDecision", "position"),
    Table("walk_readings", "circuits.WalkReading"),
    Table("choices", "replacement.Choice", "position"),
    Table("overrides", "replacement.Override", "position"),
    Table("ticks", "fitting.FitTick", "choice"),
    Table("fitted", "fitting.Fitted", "choice"),
    Table("beside", "fitting.BesideWork"),
    Table("power_plans", "bringup.PowerPlan"),
    Table("power_steps", "bringup.PowerStep"),
    Table("checks", "handback.CheckResult"),
    Table("soaks", "handback.Soak"),
    Table("deviations", "handback.Deviation"),
    Table("quotes", "handback.Quote"),
    Table("returns", "handback.Return"),
    Table("proposals", "proposals.Proposal", links=("position",)),
)
JOB = "jobs.Job"
NOT_OF_JOB = frozenset({"id", "workshop", "number", "from_file", "accepted"})  # these are the workshop's
NOT_OF_ROW = frozenset({"turn", "by_id"})  # of this server's clock and members: no proof stands by another's
ROWS_OF = {table.label: table.name for table in TABLES}


def job_fields() -> list["models.Field[Any, Any]"]:
    """What of the job itself travels."""
    return [field for field in apps.get_model(JOB)._meta.concrete_fields if field.name not in NOT_OF_JOB]


def plain_fields(table: Table) -> list["models.Field[Any, Any]"]:
    """The fields of a row that are no key, lead nowhere, and are not this server's own."""
    fields = table.model._meta.concrete_fields
    return [f for f in fields if not f.is_relation and not f.primary_key and f.name not in NOT_OF_ROW]


def links_of(table: Table) -> Iterator[tuple[str, str]]:
    """The fields of a row that name another row, and the list it is in; what leads to the job itself is left out."""
    for name in (table.owner, *table.links):
        related: Any = table.model._meta.get_field(name).related_model
        if related._meta.label != JOB:
            yield name, ROWS_OF[related._meta.label]


def job_schema(version: int = VERSION) -> dict[str, Any]:
    """JSON Schema (draft 2020-12) of job.json as the tables are now; what `formats` has of this version is this, frozen."""
    tables = {table.name: {"type": "array", "maxItems": MOST_ROWS, "items": _row_schema(table)} for table in TABLES}
    job = {field.name: _field_schema(field) for field in job_fields()}
    entry = {"text": {"type": "string", "maxLength": MOST_TEXT}, "hash": {"type": "string", "pattern": "^[0-9a-f]{64}$"}}
    chain = {
        "subject": {"type": "string", "format": "uuid", "pattern": "^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$"},
        "entries": {"type": "array", "minItems": 1, "maxItems": MOST_ROWS, "items": _object(entry)},
    }
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "A job of Dusky Heron",
        "description": "Rows name one another by their place in their list, from 0. Values in SI units. Each hash is SHA-256 over "
        "the hash before it, a line feed and the text of its entry; before the first stand 64 zeros.",
        **_object(
            {
                "format": {"const": FORMAT},
                "version": {"const": version},
                "job": _object(job),
                "tables": _object(tables),
                "chain": _object(chain),
            }
        ),
    }


def _object(properties: dict[str, Any]) -> dict[str, Any]:
    return {"type": "object", "properties": properties, "required": sorted(properties), "additionalProperties": False}


def _row_schema(table: Table) -> dict[str, Any]:
    rows = {field.name: _field_schema(field) for field in plain_fields(table)}
    for name, listed in links_of(table):
        may_be_none = table.model._meta.get_field(name).null
        kinds = ["integer", "null"] if may_be_none else ["integer"]
        rows[name] = {"type": kinds, "minimum": 0, "description": f"row of {listed}"}
    return _object(rows)


def _field_schema(field: "models.Field[Any, Any]") -> dict[str, Any]:
    shape = getattr(field.model, "SHAPES", {}).get(field.name)
    if shape:
        return dict(shape)
    kinds: dict[type[Any], dict[str, Any]] = {
        models.BooleanField: {"type": "boolean"},
        models.IntegerField: {"type": "integer", "minimum": -2_147_483_648, "maximum": 2_147_483_647},
        models.FloatField: {"type": "number"},
        models.DateTimeField: {"type": "string", "format": "date-time"},
        models.DateField: {"type": "string", "format": "date"},
        models.DecimalField: {"type": "string", "pattern": r"^-?\d{1,9}(\.\d{1,3})?$"},
        models.JSONField: {"type": ["array", "object"]},
        models.TextField: {"type": "string", "maxLength": MOST_TEXT},
        models.CharField: {"type": "string", "maxLength": field.max_length},
    }
    found = next(dict(schema) for kind, schema in kinds.items() if isinstance(field, kind))
    if field.choices:
        found["enum"] = [key for key, _ in field.flatchoices] + ([""] if field.blank else [])
    if field.name == "high":
        return {"anyOf": [found, {"const": WITHOUT_END}]}
    if field.null:
        found = {"anyOf": [found, {"type": "null"}]}
    return found
