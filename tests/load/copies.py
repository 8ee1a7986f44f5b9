"""Many workshops, each with many jobs: copies of the demo's, by COPY, with chains and digests of their own that hold.

Every id is another one, and whatever names it names that: rows, what entries say, and what they bind.
"""

import json
import re
import uuid
from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from itertools import chain as joined
from typing import Any

from django.apps import apps
from django.db import connection, models
from psycopg.types.json import Jsonb

from dusky_heron.asfound.photos import Encoded, keep, read
from dusky_heron.record.actions.append import BEGUN, canonical, link
from dusky_heron.record.binding import bound_fields, bound_models, digest_of, row_digest, write_binds
from dusky_heron.record.models import Chain, Entry
from dusky_heron.record.queries import FIRST

BESIDE = {  # rows of a workshop that no record binds, and the way to it
    "stock.Part": "workshop_id",
    "stock.Movement": "part__workshop_id",
    "buying.Offer": "part__workshop_id",
}
READING = "assessment.Reading"
ID = re.compile(r"[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}")
NAMES = uuid.UUID(int=26)  # of the ids of copies
GIN = "words_of_entries"  # an index that is quicker made once than kept


@dataclass
class Shape:
    """A model as its rows are copied."""

    model: type[models.Model]
    fields: list["models.Field[Any, Any]"]
    bound: list[int]  # which of the fields its digest is over
    numbered: bool

    @property
    def label(self) -> str:
        """As the record names it."""
        return self.model._meta.label


@dataclass
class Made:
    """One record with the rows it tells of."""

    chain: tuple[Any, ...]
    entries: list[tuple[dict[str, Any], dict[str, dict[str, str]]]] = field(default_factory=list)
    rows: list[tuple[Shape, tuple[Any, ...]]] = field(default_factory=list)


class Copies:
    """The demo as it is read once, and what is written of it."""

    def __init__(self) -> None:
        labels = [*bound_models(), *BESIDE]
        self.shapes = [_shape(model) for model in _in_order([apps.get_model(label) for label in labels])]
        made = self._read()
        self.workshop, _ = Counter(one.chain[1] for one in made.values()).most_common(1)[0]  # the demo's
        self.made = {key: one for key, one in made.items() if one.chain[1] == self.workshop}
        self.jobs = [key for key in self.made if key != self.workshop]
        self.last = {
            shape.label: shape.model._base_manager.aggregate(last=models.Max("pk"))["last"] or 0
            for shape in self.shapes
            if shape.numbered
        }
        self.pictures = list[tuple[uuid.UUID, uuid.UUID, Encoded]]()
        self.out: dict[str, list[tuple[Any, ...]]] = defaultdict(list)

    def _read(self) -> dict[uuid.UUID, Made]:
        chains = {chain.subject_id: chain for chain in Chain.objects.all()}
        made = {key: Made((chain.id, chain.workshop_id)) for key, chain in chains.items()}
        subject = {chain.pk: key for key, chain in chains.items()}
        for entry in Entry.objects.order_by("chain_id", "sequence").iterator():
            made[subject[entry.chain_id]].entries.append((json.loads(entry.text), json.loads(entry.binds or "{}")))
        for shape in self.shapes:
            path = BESIDE.get(shape.label) or bound_models()[shape.label][1]
            names = [one.attname for one in shape.fields]
            for of, *values in shape.model._base_manager.order_by("pk").values_list(path, *names):
                made[of].rows.append((shape, tuple(values)))
        return made

    def write(self, workshops: int, jobs: int, readings: int = 0) -> None:
        """So many workshops with so many jobs each, beside the demo; each job that was measured was so many times more."""
        self.readings = readings
        with connection.cursor() as cursor:
            cursor.execute(f"DROP INDEX {GIN}")
        for number in range(1, workshops + 1):
            self._one(number, max(jobs, len(self.jobs)))
            self._flush()
        with connection.cursor() as cursor:
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")  # within a transaction they wait for its end, and so would the index
            words = next(index for index in Entry._meta.indexes if index.name == GIN)
            cursor.execute(str(words.create_sql(Entry, connection.schema_editor())))
            for label, last in self.last.items():
                table = apps.get_model(label)._meta.db_table
                cursor.execute(f"SELECT setval(pg_get_serial_sequence('{table}', 'id'), {last + 1})")
            cursor.execute("ANALYZE")

    def _one(self, number: int, jobs: int) -> None:
        """A workshop: its own rows name those of the first copy of each job."""
        names = _Names(f"{number}")
        home = self.made[self.workshop]
        for made in (home, *(self.made[key] for key in self.jobs)):
            names.take(made)
        for numbered in joined(home.rows, *(self.made[key].rows for key in self.jobs)):
            self._number(names, *numbered)
        begun = []
        for k in range(jobs):
            key = self.jobs[k % len(self.jobs)]
            mine = names
            if k >= len(self.jobs):
                mine = _Names(f"{number} {k // len(self.jobs)}", names)
                mine.take(self.made[key])
                for one in self.made[key].rows:
                    self._number(mine, *one)
                begun.append(mine.of(key))
            self._record(self.made[key], mine, {"jobs.Job": {"number": k + 1}})
        member = {"workshops.Member": {"username": f"-{number}"}, "workshops.Workshop": {"name": f" {number}"}}
        self._record(home, names, member, begun)

    def _number(self, names: "_Names", shape: Shape, values: tuple[Any, ...]) -> None:
        if shape.numbered:
            self.last[shape.label] += 1
            names.numbers[shape.label, values[0]] = self.last[shape.label]

    def _record(
        self, made: Made, names: "_Names", changed: Mapping[str, Mapping[str, Any]], begun: Iterable[uuid.UUID] = ()
    ) -> None:
        """One record of a copy: its rows, and its entries, which bind those by new digests, each hashed over the one before."""
        digests = {}
        for shape, values in made.rows:
            row = [names.value(one, value) for one, value in zip(shape.fields, values, strict=True)]
            for k, one in enumerate(shape.fields):
                if one.attname in changed.get(shape.label, {}):
                    new = changed[shape.label][one.attname]
                    row[k] = row[k] + new if isinstance(new, str) else new
            if shape.numbered:
                row[0] = names.numbers[shape.label, values[0]]
            self.out[shape.label].append(tuple(Jsonb(value) if isinstance(value, (dict, list)) else value for value in row))
            if shape.label == "asfound.Photo":
                picture, small = (read(self.workshop, values[0], small=small) for small in (False, True))
                self.pictures.append((names.of(self.workshop), row[0], Encoded(picture, small, 0, 0)))
            if shape.bound:
                over = [shape.fields[k] for k in shape.bound]
                digests[shape.label, str(row[0])] = row_digest(shape.label, over, [row[k] for k in shape.bound])
        entries = [(names.said(said), self._bound(names, binds)) for said, binds in made.entries]
        whose = {key: entries[-1][0][key] for key in ("subject", "at", "by", "by_name")}
        entries += [({**whose, "kind": BEGUN, "body": {"of": str(key)}}, dict[str, dict[str, str]]()) for key in begun]
        if READING in (shape.label for shape, _ in made.rows):
            self._measured_again(entries)
        last = {(label, key): place for place, (_, binds) in enumerate(entries) for label, keys in binds.items() for key in keys}
        chain, head = names.of(made.chain[0]), FIRST
        for place, (said, binds) in enumerate(entries):
            for label, keys in binds.items():
                keys |= {key: digests[label, key] for key in keys if last[label, key] == place and (label, key) in digests}
            kept = write_binds(binds) if binds else ""
            text = canonical({**said, "sequence": place + 1} | ({"binds": digest_of(kept)} if kept else {}))
            head = link(head, text)
            self.out["record.Entry"].append((chain, names.of(made.chain[1]), place + 1, text, head, kept))
        subject = uuid.UUID(entries[0][0]["subject"])
        self.out["record.Chain"].append((chain, names.of(made.chain[1]), subject, None, len(entries), head))

    def _measured_again(self, entries: list[tuple[dict[str, Any], dict[str, dict[str, str]]]]) -> None:
        """The last reading of a record, as often again as is asked for."""
        shape = next(one for one in self.shapes if one.label == READING)
        row = list(self.out[READING][-1])
        said = next(told for told, binds in entries if str(row[0]) in binds.get(READING, {}))
        places = [k for k, one in enumerate(shape.fields) if one.attname in ("sequence", "stands_at")]
        for _ in range(self.readings):
            self.last[READING] += 1
            row[0] = self.last[READING]
            for k in places:
                row[k] = len(entries) + 1
            self.out[READING].append(tuple(row))
            digest = row_digest(READING, [shape.fields[k] for k in shape.bound], [row[k] for k in shape.bound])
            entries.append((said, {READING: {str(row[0]): digest}}))

    def _bound(self, names: "_Names", binds: Mapping[str, Mapping[str, str]]) -> dict[str, dict[str, str]]:
        return {label: {names.key(label, key): digest for key, digest in keys.items()} for label, keys in binds.items()}

    def _flush(self) -> None:
        """All that was made of a workshop into its tables."""
        own = {
            "record.Chain": ("id", "workshop_id", "subject_id", "origin_id", "length", "head"),
            "record.Entry": ("chain_id", "workshop_id", "sequence", "text", "hash", "binds"),
        }
        columns = {shape.label: tuple(str(one.column) for one in shape.fields) for shape in self.shapes} | own
        order = ["record.Chain", "record.Entry", *(shape.label for shape in self.shapes)]
        with connection.cursor() as cursor:
            for label in order:
                table = apps.get_model(label)._meta.db_table
                with cursor.copy(f"COPY {table} ({', '.join(map(connection.ops.quote_name, columns[label]))}) FROM STDIN") as copy:
                    for row in self.out[label]:
                        copy.write_row(row)
        self.out.clear()
        for workshop_id, photo_id, encoded in self.pictures:
            keep(workshop_id, photo_id, encoded)
        self.pictures.clear()


class _Names:
    """The ids of a copy for those of the demo; what it has none for stands in the workshop's, or is what it was."""

    def __init__(self, copy: str, beside: "_Names | None" = None) -> None:
        self.copy, self.beside = copy, beside
        self.ids: dict[str, str] = {}
        self.numbers: dict[tuple[str, Any], int] = {}

    def take(self, made: Made) -> None:
        """New ids for all rows of a record, and for the record."""
        keys = [made.chain[0], *(values[0] for shape, values in made.rows if not shape.numbered)]
        self.ids |= {str(key): str(uuid.uuid5(NAMES, f"{self.copy} {key}")) for key in keys}

    def of(self, key: uuid.UUID) -> uuid.UUID:
        """The id for an id."""
        return uuid.UUID(self._named(str(key)))

    def _named(self, key: str) -> str:
        return self.ids.get(key) or (self.beside._named(key) if self.beside else key)

    def text(self, text: str) -> str:
        """Every id in a text."""
        return ID.sub(lambda found: self._named(found[0]), text)

    def said(self, said: Mapping[str, Any]) -> dict[str, Any]:
        """What an entry says, without what it binds."""
        told: dict[str, Any] = json.loads(self.text(json.dumps(said)))
        told.pop("binds", None)
        return told

    def key(self, label: str, key: str) -> str:
        """The key of a row, as a record binds it."""
        return self._named(key) if not key.isdecimal() else str(self._number(label, int(key)))

    def _number(self, label: str, key: int) -> int:
        found = self.numbers.get((label, key))
        return found if found is not None else self.beside._number(label, key) if self.beside else key

    def value(self, one: "models.Field[Any, Any]", value: Any) -> Any:
        """What stands in a field of the copy."""
        if isinstance(value, uuid.UUID):
            return self.of(value)
        if one.is_relation and isinstance(value, int):
            return self._number(one.related_model._meta.label, value)  # type: ignore[union-attr] # it is a model
        if isinstance(value, (dict, list)):
            return json.loads(self.text(json.dumps(value)))
        return self.text(value) if isinstance(value, str) else value


def _shape(model: type[models.Model]) -> Shape:
    fields: list[models.Field[Any, Any]] = list(model._meta.concrete_fields)
    fields.sort(key=lambda one: not one.primary_key)
    bound = bound_fields(model) if model._meta.label in bound_models() else []
    return Shape(model, fields, [fields.index(one) for one in bound], fields[0].get_internal_type() != "UUIDField")


def _in_order(found: list[type[models.Model]]) -> Iterator[type[models.Model]]:
    """Each after those it names."""
    left = list(found)
    while left:
        ready = [m for m in left if not any(f.related_model in left for f in m._meta.concrete_fields if f.is_relation)]
        yield from ready
        left = [model for model in left if model not in ready]


def tell() -> None:
    """How many there are, and how large they are together."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_size_pretty(pg_database_size(current_database()))")
        (size,) = cursor.fetchone()
    counted = ("workshops.Workshop", "jobs.Job", "assessment.Reading", "record.Entry", "stock.Part")
    print(
        ", ".join(
            f"{apps.get_model(label)._base_manager.count()} {apps.get_model(label)._meta.verbose_name_plural}" for label in counted
        ),
        size,
    )
