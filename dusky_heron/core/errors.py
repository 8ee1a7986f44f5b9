"""The one error of the core, and the ranges within which it computes."""

import math
from dataclasses import dataclass


class InputError(ValueError):
    """A value that cannot be used: which field, and a sentence a technician understands."""

    def __init__(self, field: str, sentence: str) -> None:
        super().__init__(f"{field}: {sentence}")
        self.field = field
        self.sentence = sentence


NOTHING = 1e-30  # of any unit here: below it a figure is none, and its square would be lost in what a float can hold


@dataclass(frozen=True, slots=True)
class Range:
    """The values a quantity may take, in SI units; `open_low` leaves the lower end itself out."""

    noun: str
    low: float
    high: float
    unit: str
    open_low: bool = False

    def check(self, field: str, value: float) -> float:
        """Return value when it is a number inside the range, else raise InputError naming the field."""
        if isinstance(value, bool) or not isinstance(value, (int, float)) or not math.isfinite(value):
            raise InputError(field, f"{self.noun} must be a plain number.")
        if value < self.low or (self.open_low and value - self.low < NOTHING):
            least = "more than" if self.open_low else "at least"
            raise InputError(field, f"{self.noun} must be {least} {self.low:g} {self.unit}.")
        if value > self.high:
            raise InputError(field, f"{self.noun} must be at most {self.high:g} {self.unit}.")
        return float(value)


CAPACITANCE = Range("Capacitance", 0.0, 1000.0, "F", open_low=True)
VOLTAGE = Range("Voltage", 0.0, 1e6, "V")
RATED_VOLTAGE = Range("Rated voltage", 0.0, 1e6, "V", open_low=True)
TARGET_VOLTAGE = Range("Target voltage", 0.0, 1e6, "V", open_low=True)
CURRENT = Range("Current", 0.0, 1e6, "A", open_low=True)
RESISTANCE = Range("Resistance", 0.0, 1e15, "Ω", open_low=True)
POWER = Range("Power", 0.0, 1e6, "W", open_low=True)
SUPPLY_VOLTAGE = Range("Supply voltage", 0.0, 1000.0, "V", open_low=True)
SUPPLY_FREQUENCY = Range("Supply frequency", 0.0, 1000.0, "Hz", open_low=True)
