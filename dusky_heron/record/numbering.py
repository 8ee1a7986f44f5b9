"""For migrations: rows from before they knew their entry are given the number of the entry that made them."""

import json
from collections import defaultdict
from collections.abc import Callable, Iterable
from typing import Any


def number(
    app: str, model: str, job: str, kinds: Iterable[str], *, oldest_first: str = "id", rows_of: str = ""
) -> Callable[[Any, Any], None]:
    """A step of a migration: the n-th row of a job is of the n-th entry of those kinds, as both were written one by one.

    `job` is the path to the job; `rows_of` names a list in the entry's body of which each made a row.
    """
    wanted = frozenset(kinds)

    def run(apps: Any, _: Any) -> None:
        places: dict[Any, list[int]] = defaultdict(list)
        entries = apps.get_model("record", "Entry").objects.order_by("chain_id", "sequence")
        for subject, sequence, text in entries.values_list("chain__subject_id", "sequence", "text").iterator():
            said = json.loads(text)
            if said["kind"] in wanted:
                places[subject] += [sequence] * (len(said["body"].get(rows_of, ())) if rows_of else 1)
        rows = apps.get_model(app, model).objects
        numbered = [field for field in ("sequence", "stands_at") if field in {f.name for f in rows.model._meta.fields}]
        for subject, sequences in places.items():
            made = rows.filter(**{f"{job}_id": subject}).order_by(oldest_first)
            for row, sequence in zip(made, sequences, strict=False):
                rows.filter(pk=row.pk).update(**dict.fromkeys(numbered, sequence))

    return run
