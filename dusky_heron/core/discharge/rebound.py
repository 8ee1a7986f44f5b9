"""What creeps back after a short discharge: dielectric absorption, by what the part is made of, and how long a proof holds."""

import math
from dataclasses import dataclass

from dusky_heron.core.discharge.energy import classify, stored_energy
from dusky_heron.core.discharge.falling import HANDS_IN_V
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import Role
from dusky_heron.core.model.materials import MATERIALS, Sure, made_of
from dusky_heron.core.quantities import show
from dusky_heron.core.tables import toml_table

PROOF_S = 30 * 60.0  # the workshop's default: no proof of an unshorted part holds longer
LEAST_PROOF_S = 60.0  # s: a proof that holds for less is of no use to hands, and the link goes on instead
FASTEST_S, SLOWEST_S = 1.0, 1000.0  # s, time constants of absorption: what is quicker is back before a meter is on
UNLOADED_S = 100.0  # C × the meter's resistance: with less, a meter drains what it should watch creeping back


@dataclass(frozen=True, slots=True)
class Rebound:
    """The most that may come back: volts, joules, and whether that asks for a shorting link.

    `harmless` is a part that is below its touch limit even when it is full: what creeps back of it is no reason for a link.
    """

    dielectric: str
    voltage_v: float
    energy_j: float
    store_shorted: bool
    harmless: bool
    sentence: str
    source: str


def dielectric_of(marking: Marking, role: Role | None) -> str:
    """What a part is most likely made of; where two are plausible, the one that creeps back more.

    :param marking: what is printed; words such as MKP or electrolytic decide
    :param role: what it does, None when not known
    :returns: a key of the table `materials`
    :raises InputError: never
    :source: usual constructions of the roles
    """
    made = made_of(marking, role)
    if made.known_from == Sure.USUAL:
        return made.likeliest.key
    return max(made.plausible, key=lambda material: material.absorption).key


def expected_rebound(dielectric: str, capacitance_f: float, from_v: float) -> Rebound:
    """The voltage that may creep back after a short discharge: V₀ × dielectric absorption, at the top of its range.

    :param dielectric: a key of the table `materials`
    :param capacitance_f: farads, more than 0 up to 1000
    :param from_v: the voltage it held, 0 to 1e6
    :returns: Rebound; to be stored shorted when it exceeds the hands-in target
    :raises InputError: a value is out of range
    :source: IEC 60384-1 method, order of magnitude by dielectric

    >>> round(expected_rebound("electrolytic", 3600e-6, 360).voltage_v, 3)
    54.0
    """
    material = MATERIALS[dielectric]
    volts = material.absorption[1] * from_v
    energy = stored_energy(capacitance_f, volts)
    harmless = classify(capacitance_f, from_v).band == "below_touch"
    shorted = volts > HANDS_IN_V and not harmless
    sentence = f"Up to {show(volts, 'V')} ({show(energy, 'J')}) may creep back while it stands open"
    return Rebound(
        dielectric=material.title,
        voltage_v=volts,
        energy_j=energy,
        store_shorted=shorted,
        harmless=harmless,
        sentence=f"{sentence}{': keep it shorted while hands are in, and in store' if shorted else ''}.",
        source=toml_table("materials")["source"],
    )


def crept_back(rebound_v: float, shorted_s: float, open_s: float) -> float:
    """The most that can have come back: a part kept shorted, then open for a time, however its absorption is spread.

    Absorption is a sum of branches, each a share of the rebound with a time constant τ: v = Σ share × e^(−s/τ) × (1 − e^(−t/τ)).
    No spread gives more than the whole in the worst τ, where e^(−t/τ) = s/(s + t); τ from 1 s to 1000 s.

    :param rebound_v: all that may creep back, volts
    :param shorted_s: how long it was kept shorted, seconds, at least 0
    :param open_s: how long it then stood open, seconds, at least 0
    :returns: volts
    :raises InputError: never
    :source: linear dielectric response (Kohlrausch, Curie and von Schweidler) as branches of R and C; maximum over τ

    >>> round(crept_back(54.0, 60, 60), 1)
    13.5
    """
    if open_s <= 0:
        return 0.0
    rate = math.log((shorted_s + open_s) / shorted_s) / open_s if shorted_s > 0 else 1 / FASTEST_S
    rate = min(max(rate, 1 / SLOWEST_S), 1 / FASTEST_S)
    return rebound_v * math.exp(-shorted_s * rate) * -math.expm1(-open_s * rate)


def proof_holds(rebound_v: float, high_v: float, *, shorted_s: float = 0.0, open_s: float = 0.0) -> float:
    """How long a proof of an unshorted part holds: never longer than what creeps back stays under the hands-in target.

    The longer of two bounds, at most half an hour. What can have come back since (`crept_back`), on top of what was read. And of a
    part that had stood open: it rises ever more slowly, so it never outruns the line from nothing through what was read.

    :param rebound_v: all that may creep back, volts
    :param high_v: the most that the readings of the proof may be, volts
    :param shorted_s: how long the part was kept shorted before, seconds; nothing where that is not known
    :param open_s: how long it had stood open when it was read, seconds; nothing where that is not known
    :returns: seconds; less than a minute asks for the link
    :raises InputError: never
    :source: dielectric absorption as in `crept_back`; half an hour is the workshop's default

    >>> proof_holds(0.6, 0.3), round(proof_holds(54, 0.3), 2), round(proof_holds(54, 0.3, open_s=60))
    (1800.0, 0.09, 940)
    """
    room = HANDS_IN_V - high_v
    if room <= 0:
        return 0.0
    by_line = open_s * room / high_v if high_v > 0 else 0.0
    return min(PROOF_S, max(by_line, _until(rebound_v, shorted_s, room)))


def _until(rebound_v: float, shorted_s: float, room_v: float) -> float:
    """Seconds until what creeps back may use up a room, by halving; the half hour where it does not."""
    if crept_back(rebound_v, shorted_s, PROOF_S) < room_v:
        return PROOF_S
    short, long = 0.0, PROOF_S
    for _ in range(40):
        middle = (short + long) / 2
        short, long = (middle, long) if crept_back(rebound_v, shorted_s, middle) < room_v else (short, middle)
    return short
