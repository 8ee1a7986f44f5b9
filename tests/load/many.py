"""A database of many workshops, see `tests.load.copies`: made anew, and left to be measured on."""

import argparse
import time

from tests.stage import ROOT, Stage

NAME = "dusky_grown"


def main() -> int:
    """Make the database anew, with the demo and its copies in it; say how large it is and how long it took."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--workshops", type=int, default=200)
    parser.add_argument("--jobs", type=int, default=250, help="in each; at least those of the demo")
    parser.add_argument("--readings", type=int, default=30, help="of each job that was measured, besides the demo's own")
    parser.add_argument("--reads", action="store_true", help="make none; tell how long each read of the page takes on it")
    asked = parser.parse_args()
    stage = Stage(NAME, 8792)
    stage.environment["MEDIA_ROOT"] = str(ROOT / ".run" / NAME)
    if asked.reads:
        print(stage.manage("shell", "-v", "0", "-c", "from tests.load.reads import tell; tell()"), end="")
        return 0
    stage.make("--past")
    begun = time.monotonic()
    told = f"{asked.workshops}, {asked.jobs}, {asked.readings}"
    stage.manage("shell", "-v", "0", "-c", f"from tests.load.copies import Copies; Copies().write({told})")
    took = time.monotonic() - begun
    print(stage.manage("shell", "-v", "0", "-c", "from tests.load.copies import tell; tell()"), end="")
    print(f"{took:.0f} s in database {NAME}")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
