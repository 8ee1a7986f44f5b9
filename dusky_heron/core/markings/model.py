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
class Tolerance:
    """Signed fractions of the value: -0.10 and 0.10 for ±10 %."""

    minus: float
    plus: float


@dataclass(frozen=True, slots=True)
class Section:
    """One capacitance of a part; farads, volts. The limits come from the tolerance or the printed range, None where not printed.

    `rated_dc_v` and `rated_ac_v` are its own, or the one printed for all; `assumed` is the tolerance to plan with
    where none is printed.
    """

    capacitance_f: float
    low_f: float | None = None
    high_f: float | None = None
    classes: tuple[SafetyClass, ...] = ()
    rated_dc_v: float | None = None
    rated_ac_v: float | None = None
    symbol: str = ""
    assumed: Tolerance = Tolerance(0.0, 0.0)

    @property
    def lowest_f(self) -> float:
        """The bottom of its tolerance, printed or assumed."""
        return self.low_f if self.low_f is not None else self.capacitance_f * (1 + self.assumed.minus)

    @property
    def highest_f(self) -> float:
        """The top of its tolerance, printed or assumed: the value to plan with."""
        return self.high_f if self.high_f is not None else self.capacitance_f * (1 + self.assumed.plus)

    @property
    def is_x(self) -> bool:
        """Whether an X class is printed for it."""
        return any(not c.name.is_y for c in self.classes)

    @property
    def is_y(self) -> bool:
        """Whether a Y class is printed for it."""
        return any(c.name.is_y for c in self.classes)


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
    """What a motor part promises: (operating class, V rms) pairs, protection class, fault current (A), and its service.

    `service` is what it is made for where that is printed: run, start, continuous or intermittent.
    """

    pairs: tuple[tuple[str, float], ...] = ()
    protection_class: str | None = None
    fault_current_a: float | None = None
    service: str = ""


class State(StrEnum):
    """What became of a piece of the text."""

    READ = "read"
    KNOWN = "known"
    UNREAD = "unread"
    BETWEEN = "between"


@dataclass(frozen=True, slots=True)
class Token:
    """A piece of the typed text and what it became; `decides` where an unread one could change value, volts or class."""

    text: str
    meaning: str
    state: State = State.READ
    decides: bool = False


class Option(str):
    """One answer to what the marking leaves open: the whole text typed so that it says just that; `says` is it in words."""

    __slots__ = ("says",)
    says: str

    def __new__(cls, says: str, text: str) -> "Option":
        """An answer in words, and as a whole text."""
        answer = super().__new__(cls, text)
        answer.says = says
        return answer

    @property
    def text(self) -> str:
        """The whole text, to be read instead of what was typed."""
        return str(self)


@dataclass(frozen=True, slots=True)
class Doubt:
    """Something that is not certain: about what (capacitance, voltage, class, tolerance, unread), the question, its answers."""

    about: str
    asks: str
    options: tuple[Option, ...]


@dataclass(frozen=True, slots=True)
class Marking:
    """Everything understood from the text on a capacitor.

    `pieces` are the whole of the text, in order. `alternatives` are the other plausible readings, likeliest first; `doubts` ask
    what tells them from this one, and what an unread figure is. `typed` are the whole texts that say just this reading, by what
    they answer; an `unanswered` reading is that of somebody who was not told, and no answer.
    """

    text: str
    sections: tuple[Section, ...]
    tolerance: Tolerance | None
    rated_ac_v: float | None
    rated_dc_v: float | None
    ac_ratings: tuple[float, ...]
    surge_v: float | None
    classes: tuple[SafetyClass, ...]
    climate: Climate | None
    dates: tuple[DateCandidate, ...]
    duty: Duty | None
    printed_range: bool
    series_ohm: float | None
    bleeder_ohm: float | None
    pieces: tuple[Token, ...]
    assumptions: tuple[str, ...]
    typed: tuple[tuple[str, str], ...] = ()
    unanswered: bool = False
    alternatives: tuple["Marking", ...] = ()
    doubts: tuple[Doubt, ...] = ()

    def __post_init__(self) -> None:
        """Refuse a reading that has lost a character of the text."""
        if "".join(piece.text for piece in self.pieces) != self.text:
            raise AssertionError(f"pieces of {self.text!r} are not the whole of it")

    @property
    def provisional(self) -> bool:
        """Whether something that could change value, volts or class was not understood or can be read in two ways."""
        return bool(self.doubts)

    @property
    def plausible(self) -> tuple["Marking", ...]:
        """Every plausible reading, likeliest first; the one there is where nothing is in doubt."""
        return (self, *self.alternatives)

    @property
    def tokens(self) -> tuple[Token, ...]:
        """The pieces that were understood or are known text, without the spaces between."""
        return tuple(piece for piece in self.pieces if piece.state is not State.UNREAD and piece.text.strip())

    @property
    def unread(self) -> str:
        """What was not understood."""
        return " ".join(piece.text for piece in self.pieces if piece.state is State.UNREAD)

    @property
    def capacitance_f(self) -> float:
        """Sum of all sections, nominal."""
        return sum(section.capacitance_f for section in self.sections)

    @property
    def highest_f(self) -> float:
        """Sum of all sections at the top of their tolerance, printed or assumed: the value to plan energy with."""
        return sum(section.highest_f for section in self.sections)

    @property
    def lowest_f(self) -> float:
        """Sum of all sections at the bottom of their tolerance, printed or assumed."""
        return sum(section.lowest_f for section in self.sections)

    @property
    def class_names(self) -> tuple[ClassName, ...]:
        """The printed safety classes by name."""
        return tuple(c.name for c in self.classes)

    @property
    def is_y(self) -> bool:
        """Whether a Y class is printed on it, with an X class beside it or not."""
        return any(name.is_y for name in self.class_names)
