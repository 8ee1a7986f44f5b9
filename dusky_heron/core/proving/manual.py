"""What a technician knows of a set before it is opened: the service manual, and what stands on the plate."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from dusky_heron.core import rig
from dusky_heron.core.model import Arrangement, Basis, Bleeder, Equipment, OldPart, PartKind, Reach, Role, Surroundings
from dusky_heron.core.rig.drawing import CHASSIS
from dusky_heron.core.rig.governors import HEATERS
from dusky_heron.core.rig.simulated import SimulatedSet

STRING = Surroundings(arrangement=Arrangement.SERIES, count=2, balancing_ohm=47e3)
BANK = Surroundings(arrangement=Arrangement.PARALLEL, count=3, bleeder=Bleeder(1e6))
DRAWN: Mapping[tuple[str, str], Surroundings] = {  # circuits beyond what the role tells
    ("drive", "C1"): STRING,
    ("drive", "C3"): Surroundings(basis=Basis.DRIVE_LINK),
    ("flash", "C1"): BANK,
    ("filter_box", "CX1"): Surroundings(bleeder=Bleeder(150e3, 2)),
    ("oven", "C1"): Surroundings(bleeder=Bleeder(10e6)),
    ("lighting", "C1"): Surroundings(bleeder=Bleeder(1e6)),
    ("switcher", "CX1"): Surroundings(bleeder=Bleeder(470e3, 2)),
    ("switcher_pfc", "C3"): Surroundings(basis=Basis.RECTIFIED),
    ("switcher_pfc", "C5"): Surroundings(basis=Basis.POWER_FACTOR_CORRECTION),
    ("valve_set", "C1"): Surroundings(basis=Basis.TRANSFORMER, volts=300.0),
    ("linear", "C1"): Surroundings(basis=Basis.TRANSFORMER, volts=18.0),
    ("amplifier", "C1"): Surroundings(basis=Basis.TRANSFORMER, volts=32.0),
    ("amplifier", "C2"): Surroundings(basis=Basis.TRANSFORMER, volts=32.0),
    ("amplifier", "C5"): Surroundings(basis=Basis.BY_HAND, volts=100.0),
    ("dropper_half_wave", "C4"): Surroundings(basis=Basis.MAINS),
    ("dropper_shunt", "C4"): Surroundings(basis=Basis.MAINS),
    ("dropper_bridge", "C4"): Surroundings(basis=Basis.MAINS),
}
TOGETHER: Mapping[tuple[str, str], tuple[str, ...]] = {("drive", "C1"): ("C1", "C2"), ("flash", "C1"): ("C1", "C2", "C3")}
MADE: Mapping[str, PartKind] = {
    "electrolytic": PartKind.ELECTROLYTIC, "paper": PartKind.FILM_DC, "polyester": PartKind.FILM_DC,
    "polypropylene": PartKind.FILM_DC, "mica": PartKind.MICA, "ceramic_2": PartKind.CERAMIC,
}  # fmt: skip
LOOKED_AT = (Role.COUPLING, Role.TIMING, Role.SMOOTHING)  # where one can see what a part is made as, and it matters
KINDS: Mapping[str, str] = {"valve_set": "valve"}  # of supply, where its places do not tell
SETTLED_S, WARM_AT = 0.4, 0.6  # until a rail stands
SETTLES_S: Mapping[str, float] = {  # until heaters are warm, an NTC, a store is full, a motor turns
    "valve_set": 13.0, "switcher": 1.1, "switcher_pfc": 1.1, "drive": 1.1, "flash": 6.0, "motor": 1.2,
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Healthy:
    """What the manual gives of a set at its full supply: volts of its rail, amperes from the supply."""

    rail_v: float
    current_a: float


@dataclass(frozen=True, slots=True)
class Place:
    """A place as the technician takes it up: the capacitors in it, and what is drawn around it."""

    name: str
    role: Role
    capacitors: tuple[str, ...]
    around: Surroundings
    old: OldPart
    reaches: Reach | None


def places_of(simulated: SimulatedSet) -> tuple[Place, ...]:
    """The places of a set, those whose parts stand together as one.

    :param simulated: the set
    :returns: places in the order of its drawing
    :source: the drawing
    """
    set_id = simulated.drawing.id
    inside = {name for (owner, first), names in TOGETHER.items() if owner == set_id for name in names if name != first}
    found = []
    for name, part in simulated.capacitors.items():
        if name in inside:
            continue
        role = Role(part.role)
        made = MADE.get(part.material) if role in LOOKED_AT else None
        around = DRAWN.get((set_id, name), Surroundings())
        names = TOGETHER.get((set_id, name), (name,))
        reaches = Reach.CORE if set_id == "interference" else Reach.ACCESSIBLE if role is Role.Y else None
        found.append(Place(name, role, names, around, OldPart(made), reaches))
    return tuple(found)


def equipment_of(simulated: SimulatedSet) -> Equipment:
    """What one sees of it: its protection class, its lead, whether its chassis is live."""
    drawing = simulated.drawing
    protection = drawing.protection if drawing.protection in ("I", "II") else ""
    return Equipment(protection, two_core=drawing.protection == "0", live_chassis=drawing.live_chassis)


def supply_of(simulated: SimulatedSet) -> float:
    """What the plate says of its supply, volts; between lines where it has three."""
    return 400.0 if simulated.drawing.id == "drive" else simulated.drawing.supply_v


def supply_line(simulated: SimulatedSet) -> tuple[str, str]:
    """The pins of its plug."""
    return ("L1", "L2") if simulated.drawing.id == "drive" else ("L", "N")


@cache
def healthy(set_id: str) -> Healthy:
    """Rail and current at full supply, read once on a new one."""
    simulated = rig.make(set_id, 999, healthy=True, quick=True)
    simulated.plug()
    settle(simulated)
    return read(simulated)


def settle(simulated: SimulatedSet) -> None:
    """As long on as it takes until its rail stands: heaters warm with the square of the supply, and below 60 % stay cold."""
    share, set_id = simulated.percent / 100, simulated.drawing.id
    if set_id in SETTLES_S and (set_id != "valve_set" or share >= WARM_AT):
        simulated.wait(SETTLES_S[set_id] / (share**2 if set_id == "valve_set" else 1.0))
    simulated.wait(SETTLED_S)


def read(simulated: SimulatedSet) -> Healthy:
    """Rail and current of a set that is on, in truth."""
    rail = next(iter(simulated.drawing.rails.values()))
    supply = [name for name in (simulated.drawing.supply, HEATERS) if name in simulated.network.parts]
    flow = simulated.ahead(tuple(supply), (rail,))
    amperes = sum(flow.rms(k) * (1.0 if name == HEATERS else simulated.drawing.reflected) for k, name in enumerate(supply))
    last = len(supply)
    volts = flow.rms(last) if set(rail) & {"L", "N", "fused", "switched", "line"} else abs(flow.mean(last))
    return Healthy(volts, amperes)


def chassis_of(simulated: SimulatedSet) -> str | None:
    """Its chassis as a place to lay a lead on, where there is one."""
    return CHASSIS if CHASSIS in simulated.network.resting.nodes else None
