"""What the place tells: readings of a marking that cannot be in the place it is in are no question any more."""

from collections.abc import Callable
from dataclasses import replace

from dusky_heron.core.markings.doubts import beside
from dusky_heron.core.markings.model import Marking


def settled(marking: Marking, fits: Callable[[Marking], bool], because: str) -> Marking:
    """A marking without the readings that its place rules out; unchanged where all or none fit.

    :param marking: what is printed
    :param fits: whether a reading can be in the place
    :param because: what the place tells, said as an assumption
    :returns: Marking, with the doubts that are left
    :raises InputError: never
    :source: a part stands in a place that it was made for

    >>> from dusky_heron.core.markings import read_marking
    >>> film = read_marking("0.1 µF 630 V")
    >>> settled(film, lambda one: one.rated_dc_v is not None, "A place on DC.").rated_dc_v
    630.0
    """
    kept = [one for one in marking.plausible if fits(one)]
    if not kept or len(kept) == len(marking.plausible):
        return marking
    return beside(
        [replace(kept[0], assumptions=(*kept[0].assumptions, because)), *(replace(one, alternatives=()) for one in kept[1:])]
    )
