"""Tests of the core, the API, the page and the scripts."""

import os

from hypothesis import settings

# No time limits; the same examples every time where a failure would only puzzle.
settings.register_profile("dusky_heron", deadline=None, derandomize=bool(os.environ.get("CI")))
settings.load_profile("dusky_heron")
