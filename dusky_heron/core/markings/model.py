"""What a marking says: the result types of reading."""

import calendar
from dataclasses import dataclass
from enum import StrEnum


class ClassName(StrEnum):
    """A safety class (IEC 60384-14): X stands across the line, Y from the line to what may be touched."""

    X1 = "X1"
    X2 = "X2"
    X3 = "X3"
    Y1 = "Y1"
    Y2 = "Y2"
    Y3 = "Y3"
    Y4 = "Y4"

    @property
    def is_y(self) -> bool:
        """Whether a failure of it could expose somebody."""
        return self in Y_CLASSES


Y_CLASSES = frozenset({ClassName.Y1, ClassName.Y2, ClassName.Y3, ClassName.Y4})


@dataclass(frozen=True, slots=True)
class SafetyClass:
    """A printed safety class and the rated AC voltage that belongs to it (V rms)."""

    name: ClassName
    rated_ac_v: float | None = None


@dataclass(frozen=True, slots=True)
class Section:
    """One capacitance of a part; farads. The limits come from the tolerance or the printed range."""

    capacitance_f: float
    low_f: float | None = None
    high_f: float | None = None
    classes: tuple[SafetyClass, ...] = ()

    @property
    def is_x(self) -> bool:
        """Whether an X class is printed for it."""
        return any(not c.name.is_y for c in self.classes)

    @property
    def is_y(self) -> bool:
        """Whether a Y class is printed for it."""
        return any(c.name.is_y for c in self.classes)


@dataclass(frozen=True, slots=True)
class Tolerance:
    """Signed fractions of the value: -0.10 and 0.10 for ±10 %."""

    minus: float
    plus: float


@dataclass(frozen=True, slots=True)
class Climate:
    """Lower (None: not printed) and upper category temperature (°C) and days of damp heat (IEC 60068-1)."""

    lower_c: float | None
    upper_c: float
    damp_heat_days: int | None = None


@dataclass(frozen=True, slots=True)
class DateCandidate:
    """One plausible date of manufacture and why."""

    year: int
    week: int | None
    month: int | None
    why: str

    @property
    def said(self) -> str:
        """The date as a technician says it."""
        return f"week {self.week} of {self.year}" if self.week else f"{calendar.month_name[self.month or 0]} {self.year}"


@dataclass(frozen=True, slots=True)
class Duty:
    """What a motor part promises: (operating class, V rms) pairs, protection class, fault current (A)."""

    pairs: tuple[tuple[str, float], ...] = ()
    protection_class: str | None = None
    fault_current_a: float | None = None


@dataclass(frozen=True, slots=True)
class Token:
    """A piece of the typed text and what it became."""

    text: str
    meaning: str


@dataclass(frozen=True, slots=True)
class Option:
    """One answer to what the marking leaves open: in words, and the whole text typed so that it says just that."""

    says: str
    text: str


@dataclass(frozen=True, slots=True)
class Marking:
    """Everything understood from the text on a capacitor."""

    text: str
    sections: tuple[Section, ...]
    tolerance: Tolerance | None
    rated_ac_v: float | None
    rated_dc_v: float | None
    ac_ratings: tuple[float, ...]
    classes: tuple[SafetyClass, ...]
    climate: Climate | None
    dates: tuple[DateCandidate, ...]
    duty: Duty | None
    printed_range: bool
    series_ohm: float | None
    tokens: tuple[Token, ...]
    assumptions: tuple[str, ...]
    unread: str
    alternatives: tuple["Marking", ...] = ()
    options: tuple[Option, ...] = ()

    @property
    def capacitance_f(self) -> float:
        """Sum of all sections, nominal."""
        return sum(section.capacitance_f for section in self.sections)

    @property
    def highest_f(self) -> float:
        """Sum of all sections at the top of their tolerance: the value to plan energy with."""
        return sum(section.high_f or section.capacitance_f for section in self.sections)

    @property
    def class_names(self) -> tuple[ClassName, ...]:
        """The printed safety classes by name."""
        return tuple(c.name for c in self.classes)

    @property
    def is_y(self) -> bool:
        """Whether a Y class is printed on it, with an X class beside it or not."""
        return any(name.is_y for name in self.class_names)
