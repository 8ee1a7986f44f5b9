"""Prints what a simulated set is, what is wrong with it and what each meter shows where; then acts on lines from the terminal."""

import argparse
import sys

from dusky_heron.core import rig
from dusky_heron.core.errors import InputError
from dusky_heron.core.rig import aloud


def main() -> int:
    """Read the arguments, tell the set, and play until `quit` or the end of input."""
    parser = argparse.ArgumentParser(prog="scripts/rig", description="Reads a simulated set aloud, and lets one act on it.")
    parser.add_argument("set", nargs="?", choices=rig.SETS, help="which set; without it they are listed")
    parser.add_argument("--seed", type=int, default=1, help="which one of its kind: 1 unless said")
    parser.add_argument("--healthy", action="store_true", help="without any fault")
    parser.add_argument("--hidden", action="store_true", help="do not tell what is wrong with it, nor what the meters show")
    chosen = parser.parse_args()
    if chosen.set is None:
        print("\n".join(rig.SETS))
        return 0
    simulated, meters = rig.make(chosen.set, chosen.seed, healthy=chosen.healthy), rig.meters(chosen.seed)
    print("\n".join(aloud.introduce(simulated)))
    if not chosen.hidden:
        print("\n".join(["", *aloud.truth(simulated), ""]))
        for line in aloud.everywhere(rig.make(chosen.set, chosen.seed, healthy=chosen.healthy), meters):
            print(line, flush=True)
    meters = rig.meters(chosen.seed)
    play = aloud.Play(simulated, meters)
    if sys.stdin.isatty():
        print("\nhelp lists what can be done.")
    for line in sys.stdin:
        if line.strip() == "quit":
            break
        try:
            said = play.act(line)
        except InputError as error:
            said = [error.sentence]
        print("\n".join(said), flush=True)
    return 0


if __name__ == "__main__":
    try:
        raise SystemExit(main())
    except KeyboardInterrupt:  # whoever has seen enough
        raise SystemExit(130) from None
