"""One run by its seed, on any set, by any technician."""

from collections.abc import Iterator

from dusky_heron.core.errors import InputError
from dusky_heron.core.proving.counting import Run
from dusky_heron.core.proving.slips import Human
from dusky_heron.core.proving.technician import Technician
from dusky_heron.core.rig import SETS

TECHNICIANS: dict[str, type[Technician]] = {"obedient": Technician, "human": Human}


def prove(set_id: str, seed: int, technician: str = "obedient") -> Run:
    """One job from the label to the hand-back, counted.

    :param set_id: one of `rig.SETS`
    :param seed: the same seed is the same set, faults, meters, drawer, luck and slips
    :param technician: one of TECHNICIANS
    :returns: the run with its story
    :raises InputError: no such set or technician
    :source: `counting.Run` defines what is counted
    """
    if set_id not in SETS:
        raise InputError("set", f"There is no set {set_id}; there are {', '.join(SETS)}.")
    if technician not in TECHNICIANS:
        raise InputError("technician", f"There is no technician {technician}; there are {', '.join(TECHNICIANS)}.")
    return TECHNICIANS[technician](set_id, seed).work()


def jobs(seed: int, runs: int, set_id: str | None = None) -> Iterator[tuple[str, int]]:
    """Which set and which seed each run has: the sets in turn, the seeds counted from one far from those of other seeds.

    :param seed: of the whole
    :param runs: how many
    :param set_id: one set alone
    :returns: set and seed of each run
    :source: none
    """
    for k in range(runs):
        yield set_id or SETS[k % len(SETS)], seed * 1_000_000 + k
