"""What warms in a dropper, and what a capacitance that is too big does: zener, series resistor and mains current."""

from collections.abc import Iterable
from dataclasses import dataclass, replace

from dusky_heron.core.circuit.dropper.modes import DropperCircuit
from dusky_heron.core.circuit.dropper.states import steady_state
from dusky_heron.core.circuit.dropper.symptoms import MAINS
from dusky_heron.core.circuit.load import Load

GROWN = (0.0, 0.2, 0.5, 1.0)  # as a share of the capacitance


@dataclass(frozen=True, slots=True)
class Heat:
    """A dropper with its capacitance grown by a share: watts in zener and series resistor, and mains current.

    `zener_share` and `series_share` are of their ratings, None where that is not known.
    """

    grown: float
    capacitance_f: float
    zener_w: float
    series_w: float
    input_a: float
    zener_share: float | None
    series_share: float | None

    @property
    def zener_over(self) -> bool | None:
        """Whether the zener takes more than it is rated for; None where that is not known."""
        return None if self.zener_share is None else self.zener_share > 1

    @property
    def series_over(self) -> bool | None:
        """Whether the series resistor takes more than it is rated for; None where that is not known."""
        return None if self.series_share is None else self.series_share > 1


def too_big(
    circuit: DropperCircuit,
    lightest: Load,
    *,
    zener_rated_w: float | None = None,
    series_rated_w: float | None = None,
    grown: Iterable[float] = GROWN,
) -> tuple[Heat, ...]:
    """A dropper at its hottest, lightest load and highest mains, as it is and with a larger capacitance.

    :param circuit: as drawn, its supply at nominal; its own load is not used
    :param lightest: the load that leaves the zener most
    :param zener_rated_w: what the zener stands where it sits, watts
    :param series_rated_w: what the series resistor stands, watts
    :param grown: by which shares the capacitance grows
    :returns: a row for each share
    :raises InputError: a value out of range
    :source: circuit equations; zener power near Vz(I − I_load), resistor I_rms²·R; highest mains +10 %
    """
    rows = []
    for share in grown:
        farads = circuit.capacitance_f * (1 + share)
        found = steady_state(replace(circuit, supply_v=circuit.supply_v * MAINS[-1], capacitance_f=farads, load=lightest))
        rows.append(
            Heat(
                share,
                farads,
                found.clamp_w,
                found.series_w,
                found.input_a,
                found.clamp_w / zener_rated_w if zener_rated_w else None,
                found.series_w / series_rated_w if series_rated_w else None,
            )
        )
    return tuple(rows)
