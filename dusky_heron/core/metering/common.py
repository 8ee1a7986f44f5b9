"""Which terminal of a part with several sections is common."""

import itertools
from collections.abc import Mapping
from dataclasses import dataclass

from dusky_heron.core.errors import CAPACITANCE, InputError, Range

RELATIVE_ERROR = Range("Relative error", 0.0, 0.5, "")
MOST_TERMINALS = 8


@dataclass(frozen=True, slots=True)
class CommonTerminal:
    """Which terminal is common, None when it cannot be told; the sections by their other terminal; whether readings agree.

    An open section is left out of `sections`.
    """

    common: str | None
    sections: dict[str, float]
    agrees: bool


def find_common(readings: Mapping[tuple[str, str], float | None], *, relative_error: float = 0.05) -> CommonTerminal:
    """The common terminal of a part with several sections, from readings between pairs of its terminals.

    From the common terminal each section reads by itself; between two others the two are in series, C₁C₂/(C₁+C₂).
    A terminal is common when every reading agrees with that; with two that could be, none is named.

    :param readings: farads by pair of terminals, None when the pair reads open
    :param relative_error: what each reading may be wrong by, 0 to 0.5
    :returns: CommonTerminal
    :raises InputError: no pairs, a pair twice or of one terminal, more than eight terminals, or a value out of range
    :source: capacitances in series

    >>> find_common({("a", "b"): 30e-6, ("a", "c"): 5e-6, ("b", "c"): 4.3e-6}).common
    'a'
    """
    RELATIVE_ERROR.check("relative_error", relative_error)
    known = _pairs(readings)
    terminals = sorted({terminal for pair in known for terminal in pair})
    if len(terminals) > MOST_TERMINALS:
        raise InputError("readings", f"A part has at most {MOST_TERMINALS} terminals.")
    possible = {}
    for terminal in terminals:
        sections = _sections_from(terminal, terminals, known, relative_error)
        if sections is not None and _explains(sections, known, relative_error):
            possible[terminal] = {name: value for name, value in sections.items() if value is not None}
    if len(possible) != 1:
        return CommonTerminal(None, {}, bool(possible))
    common, found = possible.popitem()
    return CommonTerminal(common, found, agrees=True)


def _pairs(readings: Mapping[tuple[str, str], float | None]) -> dict[frozenset[str], float | None]:
    known: dict[frozenset[str], float | None] = {}
    for (one, other), value in readings.items():
        pair = frozenset((one, other))
        if len(pair) != 2 or pair in known:
            raise InputError("readings", "Each reading is between two terminals, and each pair is read once.")
        known[pair] = None if value is None else CAPACITANCE.check("readings", value)
    if not known:
        raise InputError("readings", "Measure at least two pairs of terminals.")
    return known


def _sections_from(
    common: str, terminals: list[str], known: dict[frozenset[str], float | None], error: float
) -> dict[str, float | None] | None:
    """The section of each other terminal if this one were common; None when that is impossible.

    A section that was not read by itself is worked out from the series with one that was: C = C₁ r / (C₁ − r).
    """
    others = [terminal for terminal in terminals if terminal != common]
    sections = {other: known[pair] for other in others if (pair := frozenset((common, other))) in known}
    for missing in (other for other in others if other not in sections):
        for beside, value in tuple(sections.items()):
            series = known.get(frozenset((missing, beside)))
            if series is None or value is None:
                continue
            if value - series <= error * (value + series):
                return None  # two in series are less than either
            sections[missing] = value * series / (value - series)
            break
    return sections


def _explains(sections: dict[str, float | None], known: dict[frozenset[str], float | None], error: float) -> bool:
    for one, other in itertools.combinations(sections, 2):
        if (pair := frozenset((one, other))) not in known:
            continue
        first, second, read = sections[one], sections[other], known[pair]
        if first is None or second is None:
            if read is not None:
                return False
            continue
        if read is None:
            return False
        series = first * second / (first + second)
        if abs(series - read) > error * (series + read):
            return False
    return True
