"""A place in a circuit, and what is around it."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum

from dusky_heron.core.markings.model import Marking, Section
from dusky_heron.core.model.parts import Mounting, PartKind
from dusky_heron.core.model.terms import Arrangement, Basis, Role, Topology
from dusky_heron.core.model.told import told_by_place


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


COPPER_PER_K, REFERENCE_C = 0.00393, 20.0


@dataclass(frozen=True, slots=True)
class Relay:
    """A relay or valve, its coil and voltages at 20 °C, and the controller that drives it.

    Below `reset_v` the controller browns out: it drops the relay, and gives the command again `restart_s` after it is back.
    """

    coil_ohm: float
    pull_in_v: float
    hold_v: float
    reset_v: float
    restart_s: float = 0.3
    coil_c: float = REFERENCE_C

    @property
    def warmed(self) -> "Relay":
        """The same relay with its values at the temperature of its coil: it takes the same current, so a higher voltage."""
        ratio = 1 + COPPER_PER_K * (self.coil_c - REFERENCE_C)
        return replace(
            self, coil_ohm=self.coil_ohm * ratio, pull_in_v=self.pull_in_v * ratio, hold_v=self.hold_v * ratio, coil_c=REFERENCE_C
        )


@dataclass(frozen=True, slots=True)
class LoadState:
    """One state of what a supply feeds, and the current it draws, amperes; the relay where its coil is known.

    `needed_f` is the capacitance that gives this current at the lowest mains, where it has been simulated.
    """

    name: str
    current_a: float
    relay: Relay | None = None
    needed_f: float | None = None


@dataclass(frozen=True, slots=True)
class Dropper:
    """What lies behind a dropper: rectifier, the clamp in volts, its load states, series resistor and zener rating where known.

    `largest_f` is the capacitance at which the zener reaches its rating, where it has been simulated.
    """

    topology: Topology
    clamp_v: float
    states: tuple[LoadState, ...]
    series_ohm: float | None = None
    zener_w: float | None = None
    largest_f: float | None = None


@dataclass(frozen=True, slots=True)
class ServiceLife:
    """The life a data sheet states, hours at degrees, and what a part has run at: degrees, hours a day."""

    rated_h: float
    rated_c: float
    runs_c: float
    hours_a_day: float


@dataclass(frozen=True, slots=True)
class Equipment:
    """What a place is part of: protection class "I", "II" or "" when not known, its lead, and whether its chassis is live.

    `live_chassis` is a chassis that is itself connected to a mains conductor.
    """

    protection: str = ""
    two_core: bool = False
    live_chassis: bool = False

    @property
    def earthed_as(self) -> str:
        """The protection class its touch current is judged by: without an earth in its lead that of class II, whatever it was."""
        return "II" if self.two_core else self.protection


@dataclass(frozen=True, slots=True)
class OldPart:
    """What is known of the part in a place beyond its marking: what it is made as, and what data sheet or circuit say it carries.

    Ripple in A rms, ESR in ohms, dv/dt in V/s, peak current in A; None where not known.
    """

    kind: PartKind | None = None
    ripple_a: float | None = None
    esr_ohm: float | None = None
    dvdt_v_s: float | None = None
    peak_a: float | None = None


class Reach(StrEnum):
    """What a Y part leads to."""

    ACCESSIBLE = "accessible"
    SECONDARY = "secondary"
    CORE = "core"


REACH_TITLES: Mapping[Reach, str] = {
    Reach.ACCESSIBLE: "metal one can touch",
    Reach.SECONDARY: "an isolated secondary",
    Reach.CORE: "a core nobody can touch",
}


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
    dropper: Dropper | None = None
    life: ServiceLife | None = None


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
    equipment: Equipment = Equipment()
    mounting: Mounting = field(default_factory=Mounting)
    old: OldPart = OldPart()
    reaches: Reach | None = None

    def __post_init__(self) -> None:
        """Settle what the place tells about the marking."""
        object.__setattr__(self, "marking", told_by_place(self.marking, self.role, self.surroundings.basis))

    @property
    def parts(self) -> tuple[Section, ...]:
        """What is measured and judged by itself: the sections of a part, or every part of a bank or a string."""
        sections = self.marking.sections
        return sections * self.surroundings.count if len(sections) == 1 else sections

    @property
    def part_names(self) -> tuple[str, ...]:
        """What each of them is called: `section 2`, `part 3`; nothing for one alone."""
        kind = "section" if len(self.marking.sections) > 1 else "part"
        return tuple(f"{kind} {k}" for k in range(1, len(self.parts) + 1)) if len(self.parts) > 1 else ("",)

    def its(self, noun: str, number: int) -> str:
        """A noun of one of its parts as a subject: `Its ESR`, or `The ESR of part 2` where there are several."""
        name = self.part_names[number]
        return f"The {noun} of {name}" if name else f"Its {noun}"
