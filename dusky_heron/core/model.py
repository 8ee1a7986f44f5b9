"""The nouns the rest of the core shares."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings.model import Marking


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


ROLE_TITLES: Mapping[Role, str] = {
    Role.X: "X, across the line",
    Role.Y: "Y, line to chassis",
    Role.DROPPER: "dropper",
    Role.MOTOR_RUN: "motor run",
    Role.MOTOR_START: "motor start",
    Role.RESERVOIR: "reservoir",
    Role.SMPS_BULK: "SMPS bulk",
    Role.DC_LINK: "DC link",
    Role.ENERGY_STORE: "energy store",
    Role.MAGNETRON: "magnetron",
    Role.COUPLING: "coupling",
    Role.TIMING: "timing",
    Role.SMOOTHING: "smoothing",
    Role.SNUBBER: "snubber",
    Role.POWER_FACTOR: "power factor",
}


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


CONDITION_TITLES: Mapping[Condition, str] = {
    Condition.LIFTED: "one lead lifted",
    Condition.REMOVED: "removed",
    Condition.IN_CIRCUIT: "in circuit",
    Condition.NEW_PART: "a new part of the same value",
}
NOT_DECIDING = frozenset({Condition.IN_CIRCUIT, Condition.NEW_PART})


class Quantity(StrEnum):
    """What is measured of a part."""

    CAPACITANCE = "capacitance"
    ESR = "esr"
    INSULATION = "insulation"
    LEAKAGE = "leakage"


QUANTITY_TITLES: Mapping[Quantity, str] = {
    Quantity.CAPACITANCE: "capacitance",
    Quantity.ESR: "ESR",
    Quantity.INSULATION: "insulation",
    Quantity.LEAKAGE: "leakage",
}
QUANTITY_UNITS: Mapping[Quantity, str] = {
    Quantity.CAPACITANCE: "F",
    Quantity.ESR: "Ω",
    Quantity.INSULATION: "Ω",
    Quantity.LEAKAGE: "A",
}


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


@dataclass(frozen=True, slots=True)
class Reading:
    """One measured value with what its meter may be wrong by, in SI units; `high` is infinite for a lower bound."""

    value: float
    low: float
    high: float
    condition: Condition
    section: int = 0
    meter: str = ""
    quantity: Quantity = Quantity.CAPACITANCE
    frequency_hz: float | None = None

    def __post_init__(self) -> None:
        if not 0 <= self.low <= self.value <= self.high:
            raise InputError("reading", "A reading lies between its own limits.")


@dataclass(frozen=True, slots=True)
class Evidence:
    """All that is known about the part in a position: readings, oldest first, and signs seen."""

    readings: tuple[Reading, ...] = ()
    signs: frozenset[Sign] = frozenset()

    def of(self, section: int, quantity: Quantity) -> list[Reading]:
        """Every reading of one quantity of a section."""
        return [r for r in self.readings if r.section == section and r.quantity == quantity]

    def deciding(self, section: int, quantity: Quantity = Quantity.CAPACITANCE) -> Reading | None:
        """The newest reading of a section with a lead lifted or the part removed; only such a reading decides."""
        lifted = [r for r in self.of(section, quantity) if r.condition not in NOT_DECIDING]
        return lifted[-1] if lifted else None

    def screening(self, section: int, quantity: Quantity = Quantity.CAPACITANCE) -> Reading | None:
        """The newest reading of a section, in circuit or not."""
        taken = [r for r in self.of(section, quantity) if r.condition != Condition.NEW_PART]
        return taken[-1] if taken else None

    def new_part(self, section: int, quantity: Quantity) -> Reading | None:
        """The newest reading of a new part of the same value, to compare with."""
        taken = [r for r in self.of(section, quantity) if r.condition == Condition.NEW_PART]
        return taken[-1] if taken else None


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
ROLE_BASIS: Mapping[Role, Basis] = {
    Role.X: Basis.MAINS,
    Role.Y: Basis.MAINS,
    Role.DROPPER: Basis.MAINS,
    Role.MOTOR_RUN: Basis.MOTOR,
    Role.MOTOR_START: Basis.MOTOR,
    Role.POWER_FACTOR: Basis.MAINS,
    Role.SMPS_BULK: Basis.RECTIFIED,
    Role.DC_LINK: Basis.DRIVE_LINK,
    Role.MAGNETRON: Basis.MAGNETRON,
}


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


@dataclass(frozen=True, slots=True)
class Bleeder:
    """The resistors fitted to empty a part: equal ones in series, volts each may work at, and what they measure together."""

    each_ohm: float
    count: int = 1
    working_v: float | None = None
    measured_ohm: float | None = None
    open: bool = False

    @property
    def marked_ohm(self) -> float:
        """All of them in series, as marked."""
        return self.each_ohm * self.count


@dataclass(frozen=True, slots=True)
class Surroundings:
    """What is known of the circuit around a position; `basis` None takes the one usual for the role.

    `volts` is the secondary (rms) of a transformer or the voltage known otherwise; `confirmed` says that a technician
    has checked the circuit, so that the rated voltage no longer raises the estimate.
    """

    basis: Basis | None = None
    volts: float | None = None
    confirmed: bool = False
    arrangement: Arrangement = Arrangement.SINGLE
    count: int = 1
    balancing_ohm: float | None = None
    bleeder: Bleeder | None = None


@dataclass(frozen=True, slots=True)
class Position:
    """One place in a circuit that holds a capacitor."""

    name: str
    role: Role
    marking: Marking
    supply_v: float | None = None
    supply_hz: float | None = None
    place_classes: tuple[str, ...] = ()
    space_mm: tuple[float, float, float] | None = None
    pitch_mm: float | None = None
    surroundings: Surroundings = Surroundings()


@dataclass(frozen=True, slots=True)
class Limit:
    """One number a rule judges by (a fraction of the marked value), with where it comes from."""

    id: str
    value: float
    title: str
    source: str


@dataclass(frozen=True, slots=True)
class Measurement:
    """The one measurement that would settle a finding."""

    quantity: Quantity
    condition: Condition
    section: int
    sentence: str


@dataclass(frozen=True, slots=True)
class Finding:
    """What one rule says: its word, the sentence, and the reading, limit and source behind it."""

    rule_id: str
    word: Word
    sentence: str
    reading: str
    limit: str
    source: str
    settled_by: Measurement | None = None


@dataclass(frozen=True, slots=True)
class Verdict:
    """The word for a position, its reasons worst first, and what to measure next when it cannot be told yet."""

    word: Word
    reasons: tuple[Finding, ...]
    next_measurement: Measurement | None
    rules_version: str


class PartKind(StrEnum):
    """What a stock part is made as."""

    FILM_SAFETY = "film_safety"
    CERAMIC_SAFETY = "ceramic_safety"
    FILM_DC = "film_dc"
    MOTOR_RUN = "motor_run"
    MOTOR_START = "motor_start"
    ELECTROLYTIC = "electrolytic"


KIND_TITLES: Mapping[PartKind, str] = {
    PartKind.FILM_SAFETY: "safety film",
    PartKind.CERAMIC_SAFETY: "safety ceramic",
    PartKind.FILM_DC: "DC film",
    PartKind.MOTOR_RUN: "motor run",
    PartKind.MOTOR_START: "motor start",
    PartKind.ELECTROLYTIC: "electrolytic",
}


class Origin(StrEnum):
    """Where a part comes from."""

    NEW = "new"
    OLD_STOCK = "old_stock"
    SALVAGED = "salvaged"


ORIGIN_TITLES: Mapping[Origin, str] = {
    Origin.NEW: "new",
    Origin.OLD_STOCK: "old stock, unused",
    Origin.SALVAGED: "salvaged",
}


@dataclass(frozen=True, slots=True)
class Part:
    """A stock item: what is printed on it, what it is made as, its size in mm and how many are there."""

    part_id: str
    kind: PartKind
    marking: Marking
    quantity: int = 1
    origin: Origin = Origin.NEW
    size_mm: tuple[float, float, float] | None = None
    pitch_mm: float | None = None
    humidity_grade: bool = False
    price: float | None = None


@dataclass(frozen=True, slots=True)
class Need:
    """What a position demands of a replacement; volts rms, farads, mm.

    `class_volts` are the rated voltages of the old part's classes, in the order of `place_classes`; 0 where not printed.
    """

    role: Role
    sections_f: tuple[tuple[float, float, float], ...]
    old_ac_ratings: tuple[float, ...]
    supply_v: float | None
    place_classes: tuple[str, ...] = ()
    class_volts: tuple[float, ...] = ()
    duty: tuple[tuple[str, float], ...] = ()
    protection: str | None = None
    fault_current_a: float | None = None
    upper_c: float | None = None
    space_mm: tuple[float, float, float] | None = None
    pitch_mm: float | None = None


@dataclass(frozen=True, slots=True)
class Policy:
    """What a workshop decides for itself, within what the rules leave open."""

    salvaged_roles: frozenset[Role] = frozenset()
    source: str = "workshop policy"


@dataclass(frozen=True, slots=True)
class Refusal:
    """Why a part may not take a place."""

    rule_id: str
    sentence: str
    source: str


@dataclass(frozen=True, slots=True)
class Candidate:
    """A part that may take a place: lower score first; what speaks for and against, what it takes, what to decide."""

    part: Part
    score: float
    reasons: tuple[str, ...]
    adaptations: tuple[str, ...] = ()
    conditions: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Rejected:
    """A part that may not take a place, with every rule that refuses it."""

    part: Part
    reasons: tuple[Refusal, ...]


@dataclass(frozen=True, slots=True)
class Selection:
    """The answer of the drawer: accepted parts best first, rejected parts nearest miss first."""

    accepted: tuple[Candidate, ...] = field(default=())
    rejected: tuple[Rejected, ...] = field(default=())
