"""Parts, what a place demands of one, and the answer of the drawer."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model.terms import Role
from dusky_heron.core.model.told import told_kind


class PartKind(StrEnum):
    """What a stock part is made as."""

    FILM_SAFETY = "film_safety"
    CERAMIC_SAFETY = "ceramic_safety"
    FILM_AC = "film_ac"
    FILM_DC = "film_dc"
    FILM_PULSE = "film_pulse"
    CERAMIC = "ceramic"
    MOTOR_RUN = "motor_run"
    MOTOR_START = "motor_start"
    ELECTROLYTIC = "electrolytic"
    PULSE_ELECTROLYTIC = "pulse_electrolytic"
    HIGH_VOLTAGE_AC = "high_voltage_ac"


KIND_TITLES: Mapping[PartKind, str] = {
    PartKind.FILM_SAFETY: "safety film",
    PartKind.CERAMIC_SAFETY: "safety ceramic",
    PartKind.FILM_AC: "AC film",
    PartKind.FILM_DC: "DC film",
    PartKind.FILM_PULSE: "pulse film",
    PartKind.CERAMIC: "ceramic",
    PartKind.MOTOR_RUN: "motor run",
    PartKind.MOTOR_START: "motor start",
    PartKind.ELECTROLYTIC: "electrolytic",
    PartKind.PULSE_ELECTROLYTIC: "pulse electrolytic",
    PartKind.HIGH_VOLTAGE_AC: "high-voltage AC",
}


# Kinds whose parts print direct volts; the others stand on alternating ones.
DIRECT_KINDS = frozenset(
    {
        PartKind.FILM_DC, PartKind.FILM_PULSE, PartKind.CERAMIC, PartKind.ELECTROLYTIC, PartKind.PULSE_ELECTROLYTIC,
    }
)  # fmt: skip


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


class LeadForm(StrEnum):
    """How a part is connected."""

    RADIAL = "radial"
    AXIAL = "axial"
    SNAP_IN = "snap_in"
    TABS = "tabs"
    SCREW = "screw"
    WIRES = "wires"


LEAD_FORM_TITLES: Mapping[LeadForm, str] = {
    LeadForm.RADIAL: "leads on one side",
    LeadForm.AXIAL: "leads at both ends",
    LeadForm.SNAP_IN: "snap-in pins",
    LeadForm.TABS: "push-on tabs",
    LeadForm.SCREW: "screw terminals",
    LeadForm.WIRES: "flying wires",
}


@dataclass(frozen=True, slots=True)
class Mounting:
    """How a place holds its part: the board's other holes, what it is connected by, a hot neighbour, damp or dust.

    `wet` is a place that is wet, dusty or medical, where distances are larger.
    """

    other_pitches_mm: tuple[float, ...] = ()
    lead_form: LeadForm | None = None
    hot_neighbour: bool = False
    wet: bool = False


@dataclass(frozen=True, slots=True)
class Part:
    """A stock item: what is printed on it, what it is made as, its size in mm and how many are there.

    Ripple current is rms at twice the mains, `dvdt_v_s` in V/s; None where the data sheet has not been read.
    """

    part_id: str
    kind: PartKind
    marking: Marking
    quantity: int = 1
    origin: Origin = Origin.NEW
    size_mm: tuple[float, float, float] | None = None
    pitch_mm: float | None = None
    humidity_grade: bool = False
    price: float | None = None
    ripple_a: float | None = None
    dvdt_v_s: float | None = None
    lead_form: LeadForm | None = None
    measured: bool = False

    def __post_init__(self) -> None:
        """Settle what the kind of part tells about its marking."""
        object.__setattr__(self, "marking", told_by_kind(self.marking, self.kind))


def told_by_kind(marking: Marking, kind: PartKind) -> Marking:
    """A marking without the readings that the kind of part rules out.

    :param marking: what is printed
    :param kind: what it is made as, as the drawer has it
    :returns: Marking
    :raises InputError: never
    :source: parts for direct volts print direct volts, the others alternating ones
    """
    direct = kind in DIRECT_KINDS
    return told_kind(marking, direct=direct, alternating=not direct, where=f"on a {KIND_TITLES[kind]} part")


@dataclass(frozen=True, slots=True)
class Need:
    """What a position demands of a replacement; volts rms, farads, mm.

    `class_volts` are the rated voltages of the old part's classes, in the order of `place_classes`; 0 where not printed.
    `circuit` is the capacitance the circuit was simulated to allow, its least and its most, with what lies beyond each; `beyond`
    is the same of limits that somebody has to decide about, such as touch current and plug pins, at the top of the tolerance.
    `sections_dc_v` are the volts of each section on DC, in the order of `sections_f`; `open_question` is what the old part's
    marking leaves open: until it is answered nothing is said to take its place.
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
    old_dc_v: float | None = None
    sections_dc_v: tuple[float, ...] = ()
    open_question: str = ""
    ripple_a: float | None = None
    dvdt_v_s: float | None = None
    circuit: tuple["CircuitLimit", ...] = ()
    beyond: tuple["CircuitLimit", ...] = ()
    mounting: Mounting = Mounting()


@dataclass(frozen=True, slots=True)
class CircuitLimit:
    """A capacitance from or up to which a circuit was simulated to work, and what happens beyond it."""

    farads: float
    beyond: str
    least: bool


@dataclass(frozen=True, slots=True)
class Policy:
    """What a workshop decides for itself, within what the rules leave open; ids of demands that were overridden.

    `salvaged_measured` takes a salvaged part with its measurements on record only; `larger` False takes none above the marked
    value; `dual` is what may take the place of a dual: "either", "dual" or "singles".
    """

    salvaged_roles: frozenset[Role] = frozenset()
    overridden: frozenset[str] = frozenset()
    source: str = "workshop policy"
    salvaged_measured: bool = False
    larger: bool = True
    dual: str = "either"


@dataclass(frozen=True, slots=True)
class Refusal:
    """Why a part may not take a place; `hard` where nobody may decide otherwise."""

    rule_id: str
    sentence: str
    source: str
    hard: bool = True


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
