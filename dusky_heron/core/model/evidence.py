"""What was measured and seen of a part."""

import math
from dataclasses import dataclass, field

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings.model import Section
from dusky_heron.core.model.terms import NOT_DECIDING, Condition, Quantity, Sign


@dataclass(frozen=True, slots=True)
class Reading:
    """One measured value with what its meter may be wrong by, in SI units; `high` is infinite for a lower bound.

    Its conditions, None where not noted: `frequency_hz`, the `volts` its meter held the part at, `seconds` after which it was
    read, and `temperature_c`. `overdue` says that its meter was past its calibration date when it was taken.
    """

    value: float
    low: float
    high: float
    condition: Condition
    section: int = 0
    meter: str = ""
    quantity: Quantity = Quantity.CAPACITANCE
    frequency_hz: float | None = None
    overdue: bool = False
    volts: float | None = None
    seconds: float | None = None
    temperature_c: float | None = None

    def within(self, error: float) -> bool:
        """Whether it may be wrong by no more than this, SI units."""
        return max(self.value - self.low, self.high - self.value) <= error * (1 + 1e-9)

    @property
    def beyond_range(self) -> bool:
        """Whether the meter showed only that it is over its range, with nothing known of where that ends."""
        return self.low == 0 and self.high == math.inf

    def __post_init__(self) -> None:
        if not 0 <= self.low <= self.value <= self.high:
            raise InputError("reading", "A reading lies between its own limits.")
        for name in ("frequency_hz", "volts", "seconds"):  # a condition that cannot be is one that is not known
            value = getattr(self, name)
            if value is not None and not 0 < value < math.inf:
                object.__setattr__(self, name, None)


@dataclass(frozen=True, slots=True)
class Evidence:
    """All that is known about the part in a position: readings, oldest first, and signs seen."""

    readings: tuple[Reading, ...] = ()
    signs: frozenset[Sign] = frozenset()
    _by_what: dict[tuple[int, Quantity], list[Reading]] = field(init=False, repr=False, compare=False, hash=False)
    _decides: dict[tuple[int, Quantity], Reading] = field(init=False, repr=False, compare=False, hash=False)

    def __post_init__(self) -> None:
        """Sort the readings by what they are of: rules ask many times."""
        by_what: dict[tuple[int, Quantity], list[Reading]] = {}
        decides = {}
        for reading in self.readings:
            key = reading.section, reading.quantity
            by_what.setdefault(key, []).append(reading)
            if reading.condition not in NOT_DECIDING:
                decides[key] = reading
        object.__setattr__(self, "_by_what", by_what)
        object.__setattr__(self, "_decides", decides)

    def of(self, section: int, quantity: Quantity) -> list[Reading]:
        """Every reading of one quantity of a section."""
        return self._by_what.get((section, quantity), [])

    def deciding(self, section: int, quantity: Quantity = Quantity.CAPACITANCE) -> Reading | None:
        """The newest reading of a section with a lead lifted or the part removed; only such a reading decides."""
        return self._decides.get((section, quantity))

    @property
    def all_deciding(self) -> tuple[Reading, ...]:
        """Every reading that decides something."""
        return tuple(self._decides.values())

    def screening(self, section: int, quantity: Quantity = Quantity.CAPACITANCE) -> Reading | None:
        """The newest reading of a section, in circuit or not."""
        taken = [r for r in self.of(section, quantity) if r.condition != Condition.NEW_PART]
        return taken[-1] if taken else None

    def new_part(self, section: int, quantity: Quantity) -> Reading | None:
        """The newest reading of a new part of the same value, to compare with."""
        taken = [r for r in self.of(section, quantity) if r.condition == Condition.NEW_PART]
        return taken[-1] if taken else None

    def by_part(self, sections: tuple[Section, ...]) -> list[tuple[int, Section]]:
        """The sections of a marking with their numbers; one section for every part of a bank that was read."""
        if len(sections) != 1:
            return list(enumerate(sections))
        return [(number, sections[0]) for number in sorted({0} | {reading.section for reading in self.readings})]
