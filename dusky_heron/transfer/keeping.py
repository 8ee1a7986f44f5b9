"""What a device keeps to go on with where no server answers: the rows of a job, and of what its workshop works with.

No password, no second factor, no secret address is among them, and no other workshop's row.
"""

import math
from collections.abc import Iterator
from typing import Any
from uuid import UUID

from django.apps import apps
from django.core import serializers
from django.db.models import Q, QuerySet
from django.utils import timezone

from dusky_heron.core.verdict import RULES_VERSION
from dusky_heron.jobs.queries import find_job, heads_on_the_bench
from dusky_heron.record.actor import Actor
from dusky_heron.record.models import Chain, Clock, Entry
from dusky_heron.transfer.schemas import JobKept, WorkshopKept
from dusky_heron.transfer.tables import JOB, ROWS_OF, TABLES, WITHOUT_END, Table

OF_WORKSHOP = (
    "workshops.Member",
    "workshops.ChangedLimit",
    "workshops.Terms",
    "workshops.ChosenSchool",
    "instruments.Meter",
    "instruments.DischargeResistor",
)
WANT, ORDERED, PART, SUPPLIER = "buying.Want", "buying.Ordered", "stock.Part", "buying.Supplier"
AT_HOME = {"workshops.Member": {"password", "last_login"}, "record.Entry": {"binds"}}  # fields that stay on the server


def workshop_kept(actor: Actor) -> WorkshopKept:
    """The rows a workshop works with, and which jobs it has in hand, each with the head of its record. Twelve statements."""
    found: list[QuerySet[Any]] = [apps.get_model("workshops.Workshop").objects.filter(id=actor.workshop_id)]
    found += [apps.get_model(label).objects.filter(workshop_id=actor.workshop_id) for label in OF_WORKSHOP]
    found += [Chain.objects.filter(subject_id=actor.workshop_id), Clock.objects.all()]
    jobs = {str(job): heads.own or "" for job, heads in heads_on_the_bench(actor).items()}
    zone = timezone.get_default_timezone_name()
    return WorkshopKept(rules=RULES_VERSION, at=timezone.now(), time_zone=zone, rows=list(_plain(found)), jobs=jobs)


def job_kept(actor: Actor, job_id: UUID) -> JobKept:
    """The rows of one job. Raises NotFound. One statement for each table."""
    job = find_job(actor, job_id)
    chain = Chain.objects.filter(subject_id=job.id)
    found: list[QuerySet[Any]] = [apps.get_model(JOB).objects.filter(id=job.id), chain, Entry.objects.filter(chain__in=chain)]
    found += [table.model._default_manager.filter(**{_path(table): job.id}) for table in TABLES]
    found += _bought(job.id)
    held = chain.first()
    return JobKept(rows=list(_plain(found)), entries=held.length if held else 0, head=held.head if held else "")


def _bought(job_id: UUID) -> list[QuerySet[Any]]:
    """What a job waits for: wanted and ordered, which parts those are, and of whom."""
    want, ordered, part, supplier = (apps.get_model(label).objects for label in (WANT, ORDERED, PART, SUPPLIER))
    wants, orders = want.filter(position__job=job_id), ordered.filter(want__position__job=job_id)
    parts = Q(id__in=wants.values("part")) | Q(id__in=orders.values("part"))
    return [wants, orders, part.filter(parts), supplier.filter(id__in=orders.values("supplier"))]


def _path(table: Table) -> str:
    """The fields that lead from a row to its job."""
    related: Any = table.model._meta.get_field(table.owner).related_model
    if related._meta.label == JOB:
        return table.owner
    above = next(one for one in TABLES if one.name == ROWS_OF[related._meta.label])
    return f"{table.owner}__{_path(above)}"


def _plain(found: list[QuerySet[Any]]) -> Iterator[dict[str, Any]]:
    """Rows as plain values; an end that is open has no number in JSON."""
    for rows in found:
        home = AT_HOME.get(rows.model._meta.label, set())
        fields = [field.name for field in rows.model._meta.concrete_fields if field.name not in home]
        for row in serializers.serialize("python", rows, fields=fields):
            endless = {name: WITHOUT_END for name, value in row["fields"].items() if value == math.inf}
            yield row | {"fields": row["fields"] | endless}
