"""The fixed words of the job: roles, verdicts, quantities, conditions, signs, and what feeds a place."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum


class Role(StrEnum):
    """What a capacitor does in its circuit."""

    X = "x"
    Y = "y"
    DROPPER = "dropper"
    MOTOR_RUN = "motor_run"
    MOTOR_START = "motor_start"
    RESERVOIR = "reservoir"
    SMPS_BULK = "smps_bulk"
    DC_LINK = "dc_link"
    ENERGY_STORE = "energy_store"
    MAGNETRON = "magnetron"
    COUPLING = "coupling"
    TIMING = "timing"
    SMOOTHING = "smoothing"
    SNUBBER = "snubber"
    POWER_FACTOR = "power_factor"


class Word(StrEnum):
    """A verdict, from best to worst: the worst finding decides."""

    KEEP = "keep"
    WATCH = "watch"
    UNKNOWN = "unknown"
    REPLACE = "replace"
    CONDEMN = "condemn"


TO_REPLACE = frozenset({Word.REPLACE, Word.CONDEMN})  # verdicts that ask for another part

SEVERITY = {word: rank for rank, word in enumerate(Word)}


class Condition(StrEnum):
    """How a part was connected while it was measured."""

    IN_CIRCUIT = "in_circuit"
    LIFTED = "lifted"
    REMOVED = "removed"
    NEW_PART = "new_part"
    IN_SERVICE = "in_service"


CONDITION_TITLES: Mapping[Condition, str] = {
    Condition.LIFTED: "one lead lifted",
    Condition.REMOVED: "removed",
    Condition.IN_CIRCUIT: "in circuit",
    Condition.NEW_PART: "a new part of the same value",
    Condition.IN_SERVICE: "in service, live",
}

NOT_DECIDING = frozenset({Condition.IN_CIRCUIT, Condition.NEW_PART, Condition.IN_SERVICE})


class Quantity(StrEnum):
    """What is measured of a part."""

    CAPACITANCE = "capacitance"
    DISSIPATION = "dissipation"
    ESR = "esr"
    INSULATION = "insulation"
    LEAKAGE = "leakage"
    RESISTANCE = "resistance"
    VOLTS_DC = "volts_dc"
    VOLTS_AC = "volts_ac"
    RIPPLE = "ripple"
    CURRENT = "current"


@dataclass(frozen=True, slots=True)
class Measured:
    """A quantity as it is called, its unit in SI, the most that can be typed of it, and how a reading is typed from a meter."""

    title: str
    unit: str
    most: float
    example: str


QUANTITIES: Mapping[Quantity, Measured] = {  # `most` is beyond what any instrument shows: only what is absurd is refused
    Quantity.CAPACITANCE: Measured("capacitance", "F", 10.0, "12.9u"),
    Quantity.DISSIPATION: Measured("D", "", 1e4, "0.02"),
    Quantity.ESR: Measured("ESR", "Ω", 1e9, "0.35 Ω"),
    Quantity.INSULATION: Measured("insulation", "Ω", 1e15, ">60M"),
    Quantity.LEAKAGE: Measured("leakage", "A", 10.0, "220u"),
    Quantity.RESISTANCE: Measured("resistance", "Ω", 1e15, "150k"),
    Quantity.VOLTS_DC: Measured("DC volts", "V", 1e6, "24.1"),
    Quantity.VOLTS_AC: Measured("AC volts", "V", 1e6, "231"),
    Quantity.RIPPLE: Measured("ripple", "V", 1e5, "0.8"),
    Quantity.CURRENT: Measured("current in service", "A", 1e4, "1.9 A"),
}
QUANTITY_TITLES: Mapping[Quantity, str] = {quantity: one.title for quantity, one in QUANTITIES.items()}
QUANTITY_UNITS: Mapping[Quantity, str] = {quantity: one.unit for quantity, one in QUANTITIES.items()}


class Sign(StrEnum):
    """Something seen on a part or beside it."""

    BULGED = "bulged"
    VENT_OPEN = "vent_open"
    LEAKING = "leaking"
    BURNT = "burnt"
    HOLED = "holed"
    CRACKED = "cracked"
    OIL_FILM = "oil_film"
    CORRODED = "corroded"
    SOLDER_BLOB = "solder_blob"
    OLD_LEFT_CONNECTED = "old_left_connected"
    LOOSE_JOINT = "loose_joint"
    HOT_NEIGHBOUR = "hot_neighbour"
    VALUE_CHANGED = "value_changed"
    OLD_LEFT_IN_PLACE = "old_left_in_place"


SIGN_TITLES: Mapping[Sign, str] = {
    Sign.BULGED: "can bulged",
    Sign.VENT_OPEN: "vent open",
    Sign.LEAKING: "electrolyte or wax out",
    Sign.BURNT: "burnt",
    Sign.HOLED: "hole or crater",
    Sign.CRACKED: "resin crazed or cracked",
    Sign.OIL_FILM: "oil film",
    Sign.CORRODED: "green corrosion",
    Sign.SOLDER_BLOB: "solder on its insulation",
    Sign.OLD_LEFT_CONNECTED: "old part left connected",
    Sign.LOOSE_JOINT: "loose or dry joint",
    Sign.HOT_NEIGHBOUR: "resistor beside it discoloured",
    Sign.VALUE_CHANGED: "earlier repair, other value",
    Sign.OLD_LEFT_IN_PLACE: "old part cut out, left in place",
}


class Basis(StrEnum):
    """What feeds a position, which sets the highest voltage that can be left on it."""

    MAINS = "mains"
    RECTIFIED = "rectified"
    DOUBLER = "doubler"
    THREE_PHASE_BRIDGE = "three_phase_bridge"
    TRANSFORMER = "transformer"
    MOTOR = "motor"
    MAGNETRON = "magnetron"
    POWER_FACTOR_CORRECTION = "power_factor_correction"
    DRIVE_LINK = "drive_link"
    BY_HAND = "by_hand"
    UNKNOWN = "unknown"


BASIS_TITLES: Mapping[Basis, str] = {
    Basis.MAINS: "straight across the mains",
    Basis.RECTIFIED: "after a bridge or half-wave rectifier on the mains",
    Basis.DOUBLER: "after a mains voltage doubler",
    Basis.THREE_PHASE_BRIDGE: "after a three-phase bridge",
    Basis.TRANSFORMER: "fed by a transformer's secondary",
    Basis.MOTOR: "on a motor's auxiliary winding",
    Basis.MAGNETRON: "magnetron supply",
    Basis.POWER_FACTOR_CORRECTION: "behind active power-factor correction",
    Basis.DRIVE_LINK: "DC link of a drive",
    Basis.BY_HAND: "a voltage known otherwise",
    Basis.UNKNOWN: "not known",
}

DIRECT_BASES = frozenset(
    {Basis.RECTIFIED, Basis.DOUBLER, Basis.THREE_PHASE_BRIDGE, Basis.POWER_FACTOR_CORRECTION, Basis.DRIVE_LINK}
)
ALTERNATING_BASES = frozenset({Basis.MAINS, Basis.MOTOR, Basis.MAGNETRON})


class Arrangement(StrEnum):
    """How the capacitors of one position are connected."""

    SINGLE = "single"
    PARALLEL = "parallel"
    SERIES = "series"


ARRANGEMENT_TITLES: Mapping[Arrangement, str] = {
    Arrangement.SINGLE: "one part",
    Arrangement.PARALLEL: "parallel bank",
    Arrangement.SERIES: "series string",
}


class Topology(StrEnum):
    """How a dropper is rectified and clamped."""

    BRIDGE = "bridge"
    HALF_WAVE = "half_wave"
    HALF_WAVE_SHUNT = "half_wave_shunt"


TOPOLOGY_TITLES: Mapping[Topology, str] = {
    Topology.BRIDGE: "bridge",
    Topology.HALF_WAVE: "half wave with a reverse diode",
    Topology.HALF_WAVE_SHUNT: "half wave, the zener is the reverse diode",
}
