"""Tables as data: each file states a unit per column and a source; this is their one loader."""

import csv
import tomllib
from functools import cache
from importlib.resources import files
from typing import Any


@cache
def toml_table(name: str) -> dict[str, Any]:
    """The TOML table `name`, read once."""
    return tomllib.loads(files(__package__).joinpath(f"{name}.toml").read_text(encoding="utf-8"))


@cache
def csv_table(name: str) -> tuple[dict[str, str], ...]:
    """The rows of the CSV table `name`, read once; lines that begin with # carry source and remarks."""
    text = files(__package__).joinpath(f"{name}.csv").read_text(encoding="utf-8")
    lines = [line for line in text.splitlines() if line and not line.startswith("#")]
    return tuple(csv.DictReader(lines))
