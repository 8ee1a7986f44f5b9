"""Tests of the core, the API, the page and the scripts."""

import os
from typing import Any, TypeVar

from hypothesis import settings

# No time limits; the same examples every time where a failure would only puzzle.
settings.register_profile("dusky_heron", deadline=None, derandomize=bool(os.environ.get("CI")))
settings.load_profile("dusky_heron")

T = TypeVar("T")


def some(value: T | None) -> T:
    """A value that has to be there; a test that finds none fails here."""
    assert value is not None, "nothing is there"
    return value


def loose(keywords: object) -> Any:
    """Keywords of a case in a table, whose types the table mixes."""
    return keywords
