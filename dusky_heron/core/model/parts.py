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
    MICA = "mica"
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
    PartKind.MICA: "mica",
    PartKind.MOTOR_RUN: "motor run",
    PartKind.MOTOR_START: "motor start",
    PartKind.ELECTROLYTIC: "electrolytic",
    PartKind.PULSE_ELECTROLYTIC: "pulse electrolytic",
    PartKind.HIGH_VOLTAGE_AC: "high-voltage AC",
}


# Kinds whose parts print direct volts; the others stand on alternating ones.
DIRECT_KINDS = frozenset(
    {
        PartKind.FILM_DC, PartKind.FILM_PULSE, PartKind.CERAMIC, PartKind.MICA, PartKind.ELECTROLYTIC, PartKind.PULSE_ELECTROLYTIC,
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

    Ripple current is rms at twice the mains, `dvdt_v_s` in V/s, peak current in A, ESR in ohms at 100 Hz; None where the data sheet
    has not been read. `made` is when: a year and its share, 2024.5.
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
    peak_a: float | None = None
    esr_ohm: float | None = None
    made: float | None = None

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


class Family(StrEnum):
    """What a part is made of, as far as it matters to what may stand for it."""

    FILM = "film"
    CERAMIC_1 = "class 1 ceramic"
    CERAMIC_2 = "class 2 ceramic"
    MICA = "mica"
    ELECTROLYTIC = "electrolytic"


@dataclass(frozen=True, slots=True)
class AsItIs:
    """A part as it is made, old or offered: `family` and `polar` None where that is not known.

    `service` is what it prints to be made for (run, start, continuous, intermittent), "" where it prints nothing; ohms of a
    resistor in series with it and of one across it, None where there is none. Of an old part also what its data sheet or the
    circuit says: ripple (A rms), ESR (ohms), dv/dt (V/s), peak current (A).
    """

    family: Family | None = None
    polar: bool | None = None
    service: str = ""
    series_ohm: float | None = None
    bleeder_ohm: float | None = None
    ripple_a: float | None = None
    esr_ohm: float | None = None
    dvdt_v_s: float | None = None
    peak_a: float | None = None


@dataclass(frozen=True, slots=True)
class Floor:
    """The volts a part must have of one kind: those of its circuit, below which nothing goes, and those of the old part.

    Below the old part's, but not below the circuit's, only with a reason on record. `least` is a circuit of which no more is known
    than that it is not lower: the old part's volts bind as well.
    """

    alternating: bool
    circuit_v: float | None = None
    old_v: float | None = None
    rests_on: str = ""
    least: bool = False

    @property
    def hard_v(self) -> float | None:
        """Below this nobody may go; None where neither circuit nor old part are known."""
        firm = self.circuit_v is not None and not self.least
        known = [v for v in (self.circuit_v, None if firm else self.old_v) if v is not None]
        return max(known) if known and (firm or self.old_v is not None) else None


@dataclass(frozen=True, slots=True)
class ClassNeed:
    """A class a section must have, and the old part's rated volts of it, None where none are printed."""

    name: str
    old_v: float | None = None


@dataclass(frozen=True, slots=True)
class Need:
    """What a position demands of a replacement; volts rms, farads, mm.

    `sections_f` are least, marked and most of each section; in the same order `sections_classes`, the classes it must have, and
    `sections_dc_v`, its own volts on DC (empty where they do not differ). `old` is the part in the place as it is, `spread` its
    tolerance. `circuit` is the capacitance the circuit was simulated to allow, its least and its most, with what lies beyond each;
    `touch` the most that may lead to the chassis, at the top of its tolerance, `touch_computed` where the standard is known;
    `beyond` limits that somebody has to decide about.
    `open_question` is what the old part's marking leaves open, `asks_class` what is to be known before a lower class is taken:
    until they are answered nothing is said to take its place.
    """

    role: Role
    sections_f: tuple[tuple[float, float, float], ...]
    floors: tuple[Floor, ...]
    supply_v: float | None
    old: AsItIs = AsItIs()
    sections_classes: tuple[tuple[ClassNeed, ...], ...] = ()
    sections_dc_v: tuple[float, ...] = ()
    spread: tuple[tuple[float, float], ...] = ()
    duty: tuple[tuple[str, float], ...] = ()
    protection: str | None = None
    fault_current_a: float | None = None
    upper_c: float | None = None
    space_mm: tuple[float, float, float] | None = None
    pitch_mm: float | None = None
    open_question: str = ""
    asks_class: str = ""
    live_chassis: bool = False
    alternating: bool = False
    circuit: tuple["CircuitLimit", ...] = ()
    touch: "CircuitLimit | None" = None
    touch_computed: bool = False
    beyond: tuple["CircuitLimit", ...] = ()
    mounting: Mounting = Mounting()

    @property
    def place_classes(self) -> tuple[str, ...]:
        """The classes asked for, each once."""
        return tuple(dict.fromkeys(one.name for section in self.sections_classes for one in section))

    @property
    def marked_f(self) -> float:
        """The marked value of all sections."""
        return sum(marked for _, marked, _ in self.sections_f)

    def floor(self, *, alternating: bool) -> Floor | None:
        """The volts of one kind, None where the place asks for none of that kind."""
        return next((floor for floor in self.floors if floor.alternating == alternating), None)


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
class Point:
    """What a part loses in one respect, and in words how it stands there; a `fine` one decides only between equal scores."""

    about: str
    points: float
    says: str
    fine: bool = False


@dataclass(frozen=True, slots=True)
class Candidate:
    """A part that may take a place: lower score first; what speaks for and against, what it takes, what to decide.

    `to_sign` are those of the conditions that somebody has to sign before it is taken.
    """

    part: Part
    score: float
    reasons: tuple[str, ...]
    adaptations: tuple[str, ...] = ()
    conditions: tuple[str, ...] = ()
    to_sign: tuple[str, ...] = ()
    points: tuple[Point, ...] = ()


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
