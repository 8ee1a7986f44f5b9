"""A ranking of faults, as it is shown."""

from collections.abc import Mapping, Sequence

from dusky_heron.circuits.schemas import SuspectOut
from dusky_heron.core.circuit.ranking import Ranking
from dusky_heron.core.quantities import show

MOST = 6


def show_suspects(ranking: Ranking, states: Sequence[str], units: Mapping[str, tuple[str, str]]) -> list[SuspectOut]:
    """The likeliest suspects, each with the reading it explains least; figures by name with what they are and their unit."""
    found = []
    for suspect in ranking.suspects[:MOST]:
        state, name, value = suspect.least
        says, unit = units[name]
        at = f" in {states[state]}" if states[state] else ""
        found.append(
            SuspectOut(
                titles=list(suspect.titles),
                shows=list(suspect.shows),
                misfit=round(suspect.misfit, 2),
                fit=round(1 / (1 + suspect.misfit), 3),
                explains=suspect.explains,
                least=f"{says}{at} would be {show(value, unit)}",
            )
        )
    return found
