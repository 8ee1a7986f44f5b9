"""The hazards of this work: what guards against each, what provokes it, which tests hold it; and the page made from them."""

import importlib
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from dusky_heron.core.rig import SETS
from dusky_heron.core.tables import toml_table

HEAD = """# Hazards

What can hurt in this work, how it comes about, and what stands against it. Made from `core/tables/hazards.toml` by
`scripts/proving --hazards`; a row whose guard, provoking set or test is not there fails a test
(`tests/core/test_proving_ground.py`), and each guard switched off shows in the counts of the proving ground
(`docs/proving.md`). Local codes and licensed practice decide over everything here.
"""


@dataclass(frozen=True, slots=True)
class Hazard:
    """One hazard: guards are names in the core, sets those of the rig, tests modules or classes."""

    id: str
    title: str
    comes: str
    guards: tuple[str, ...]
    sets: tuple[str, ...]
    tests: tuple[str, ...]


def hazards() -> tuple[Hazard, ...]:
    """The table `hazards`."""
    rows: dict[str, dict[str, Any]] = toml_table("hazards")
    return tuple(
        Hazard(key, row["title"], row["comes"], tuple(row["guards"]), tuple(row["sets"]), tuple(row["tests"]))
        for key, row in rows.items()
    )


def found(name: str) -> object | None:
    """What a dotted name stands for, a module or something in one; None where there is nothing."""
    module, _, attribute = name.rpartition(".")
    for path, rest in ((name, ""), (module, attribute)):
        try:
            thing = importlib.import_module(path)
        except ImportError:
            continue
        return getattr(thing, rest, None) if rest else thing
    return None


def lacking(hazard: Hazard) -> Iterator[str]:
    """What a hazard lacks: a guard, a set or a test that is there.

    :param hazard: one of `hazards`
    :returns: sentences; none where nothing is lacking
    :raises InputError: never
    :source: none
    """
    for what, names in (("guard", hazard.guards), ("test", hazard.tests)):
        if not names:
            yield f"{hazard.id} has no {what}."
        yield from (f"{hazard.id}: there is no {what} {name}." for name in names if found(name) is None)
    if not hazard.sets:
        yield f"{hazard.id}: no set provokes it."
    yield from (f"{hazard.id}: there is no set {name}." for name in hazard.sets if name not in SETS)


def page() -> str:
    """The hazards as a page."""
    lines = [HEAD]
    for hazard in hazards():
        lines += [
            f"## {hazard.title}",
            "",
            hazard.comes,
            "",
            f"- Guarded by {_listed(hazard.guards)}",
            f"- Provoked by {', '.join(hazard.sets)}",
            f"- Held by {_listed(hazard.tests)}",
            "",
        ]
    return "\n".join(lines)


def _listed(names: tuple[str, ...]) -> str:
    return ", ".join(f"`{name.removeprefix('dusky_heron.')}`" for name in names)
