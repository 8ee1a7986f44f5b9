"""Tests of the core, the API, the page and the scripts."""

import os
import random
from typing import Any, TypeVar

from hypothesis import core, settings

# What is drawn is the same from run to run; `scripts/test --wider N` gives a seed, and all is drawn anew from it.
SEED = int(os.environ.get("DRAWN_FROM", "0"))
settings.register_profile("the same", deadline=None, derandomize=True, database=None)
settings.register_profile("wider", deadline=None, derandomize=False, database=None, print_blob=True)
settings.load_profile("wider" if SEED else "the same")
core.global_force_seed = SEED or None  # type: ignore[assignment] # its own default is the None that its type says


def drawn_by(number: int) -> random.Random:
    """A generator of its own for each place that draws: its number, and the seed of a wider run."""
    return random.Random(number + SEED)


T = TypeVar("T")


def some(value: T | None) -> T:
    """A value that has to be there; a test that finds none fails here."""
    assert value is not None, "nothing is there"
    return value


def loose(keywords: object) -> Any:
    """Keywords of a case in a table, whose types the table mixes."""
    return keywords
