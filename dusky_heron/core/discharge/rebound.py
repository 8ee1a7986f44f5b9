"""What creeps back after a short discharge: dielectric absorption, by what the part is made of."""

from dataclasses import dataclass

from dusky_heron.core.discharge.energy import stored_energy
from dusky_heron.core.discharge.falling import HANDS_IN_V
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import Role
from dusky_heron.core.quantities import show
from dusky_heron.core.tables import toml_table

DIELECTRICS = toml_table("dielectrics")
ELECTROLYTIC_ROLES = frozenset({Role.RESERVOIR, Role.SMPS_BULK, Role.DC_LINK, Role.ENERGY_STORE, Role.SMOOTHING, Role.MOTOR_START})
WORDS = {
    "polarised": "electrolytic", "polyester film": "polyester", "polypropylene film": "polypropylene", "paper": "paper",
    "metallised paper": "paper", "oil": "paper", "mica": "mica", "ceramic": "ceramic",
}  # fmt: skip
CERAMIC_BELOW_F = 20e-9  # F: a Y part below this is most likely a class 2 ceramic


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
    :returns: a key of the table `dielectrics`
    :raises InputError: never
    :source: usual constructions of the roles
    """
    said = {token.meaning for token in marking.tokens}
    for word, dielectric in WORDS.items():
        if word in said:
            return dielectric
    if role in ELECTROLYTIC_ROLES or marking.printed_range:
        return "electrolytic"
    if role == Role.MAGNETRON:
        return "paper"
    if marking.is_y and marking.capacitance_f <= CERAMIC_BELOW_F:
        return "ceramic"
    if marking.classes or marking.rated_ac_v or role in (Role.DROPPER, Role.SNUBBER, Role.MOTOR_RUN, Role.POWER_FACTOR):
        return "polypropylene"
    return "electrolytic" if marking.capacitance_f >= 1e-6 else "polyester"


def expected_rebound(dielectric: str, capacitance_f: float, from_v: float) -> Rebound:
    """The voltage that may creep back after a short discharge: V₀ × dielectric absorption, at the top of its range.

    :param dielectric: a key of the table `dielectrics`
    :param capacitance_f: farads, more than 0 up to 1000
    :param from_v: the voltage it held, 0 to 1e6
    :returns: Rebound; to be stored shorted when it exceeds the hands-in target
    :raises InputError: a value is out of range
    :source: IEC 60384-1 method, order of magnitude by dielectric

    >>> round(expected_rebound("electrolytic", 3600e-6, 360).voltage_v, 3)
    54.0
    """
    row = DIELECTRICS[dielectric]
    volts = row["absorption_high"] * from_v
    energy = stored_energy(capacitance_f, volts)
    shorted = volts > HANDS_IN_V
    sentence = f"Up to {show(volts, 'V')} ({show(energy, 'J')}) may creep back: prove it again after a minute"
    return Rebound(
        dielectric=row["title"],
        voltage_v=volts,
        energy_j=energy,
        store_shorted=shorted,
        sentence=f"{sentence}{', and keep it shorted until then and in store' if shorted else ''}.",
        source=DIELECTRICS["source"],
    )
