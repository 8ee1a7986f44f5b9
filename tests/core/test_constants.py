"""Figures twice: what each module of the core holds once and for all, written down a second time beside it.

Why a figure is what it is stands beside it in its module. Whoever changes one on purpose writes these anew with
`python -m tests.core.test_constants`, and says in the commit why.
"""

import csv
import dataclasses
import enum
import importlib
import inspect
import re
import unittest
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from tests.core.plainly_said import digest, said
from tests.core.test_public_functions import modules

KEPT = Path(__file__).parent / "constants.csv"
LONGEST = 160  # written out; what is longer by digest
NO_FIGURE = re.compile(r"<function|<built-in|0x[0-9a-f]{6}|^<module|typing\.")


def plain(value: Any) -> str:
    """As text, patterns by what they match."""
    return f"pattern {value.pattern} {value.flags}" if isinstance(value, re.Pattern) else said(value)


def figures_of(name: str) -> Iterator[tuple[str, str]]:
    """The constants of a module, what its data classes and functions take by default, and the members of its enumerations."""
    module = importlib.import_module(name)
    own = set(re.findall(r"^(\w+)(?::[^=\n]+)? = ", inspect.getsource(module), re.MULTILINE))
    own |= {
        word for line in re.findall(r"^([A-Z_0-9, ]+) = ", inspect.getsource(module), re.MULTILINE) for word in line.split(", ")
    }
    for key, value in vars(module).items():
        if inspect.isclass(value):
            if value.__module__ != name:
                continue
            if issubclass(value, enum.Enum):
                yield key, said([f"{one.name}={one.value}" for one in value])
            elif dataclasses.is_dataclass(value):
                yield (
                    key,
                    said({one.name: one.default for one in dataclasses.fields(value) if one.default is not dataclasses.MISSING}),
                )
        elif inspect.isfunction(value):
            if value.__module__ == name:
                named = inspect.signature(value).parameters.values()
                yield key, said({one.name: one.default for one in named if one.default is not inspect.Parameter.empty})
        elif key in own:
            yield key, plain(value)


def rows() -> list[tuple[str, str, str]]:
    """Module, name and value, those that hold nothing left out; what is long by digest."""
    found = []
    for name in modules():
        for key, text in figures_of(name):
            if text not in ("{}", "[]", "''") and not NO_FIGURE.search(text):
                found.append(
                    (name.removeprefix("dusky_heron.core."), key, text if len(text) <= LONGEST else f"digest {digest([text])}")
                )
    return found


class Twice(unittest.TestCase):
    """One test for each module that holds any."""

    def of_module(self, module: str) -> None:
        with KEPT.open(encoding="utf-8", newline="") as file:
            kept = {row["name"]: row["value"] for row in csv.DictReader(file, delimiter="|") if row["module"] == module}
        self.assertEqual({key: value for one, key, value in ROWS if one == module}, kept)

    def test_every_module_is_there(self) -> None:
        with KEPT.open(encoding="utf-8", newline="") as file:
            self.assertEqual({row["module"] for row in csv.DictReader(file, delimiter="|")}, {one for one, _, _ in ROWS})


ROWS = rows()
for _module in sorted({one for one, _, _ in ROWS}):
    setattr(Twice, f"test_{_module.replace('.', '_')}", lambda self, module=_module: self.of_module(module))


if __name__ == "__main__":
    with KEPT.open("w", encoding="utf-8", newline="") as kept_file:
        writer = csv.writer(kept_file, delimiter="|", lineterminator="\n")
        writer.writerow(("module", "name", "value"))
        writer.writerows(ROWS)
