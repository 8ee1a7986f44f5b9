"""What creeps back after a short discharge: dielectric absorption, by what the part is made of."""

from dataclasses import dataclass

from dusky_heron.core.discharge.energy import stored_energy
from dusky_heron.core.discharge.falling import HANDS_IN_V
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import Role
from dusky_heron.core.model.materials import MATERIALS, Sure, made_of
from dusky_heron.core.quantities import show
from dusky_heron.core.tables import toml_table


@dataclass(frozen=True, slots=True)
class Rebound:
    """The most that may come back: volts, joules, and whether that asks for a shorting link."""

    dielectric: str
    voltage_v: float
    energy_j: float
    store_shorted: bool
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
    shorted = volts > HANDS_IN_V
    sentence = f"Up to {show(volts, 'V')} ({show(energy, 'J')}) may creep back: prove it again after a minute"
    return Rebound(
        dielectric=material.title,
        voltage_v=volts,
        energy_j=energy,
        store_shorted=shorted,
        sentence=f"{sentence}{', and keep it shorted until then and in store' if shorted else ''}.",
        source=toml_table("materials")["source"],
    )
