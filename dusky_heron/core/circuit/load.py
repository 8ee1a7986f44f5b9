"""What a supply feeds: resistance, constant current and constant power together."""

from dataclasses import dataclass

from dusky_heron.core.errors import RESISTANCE, Range

CURRENT = Range("Load current", 0.0, 1e6, "A")
POWER = Range("Load power", 0.0, 1e9, "W")
KNEE = Range("Knee", 0.0, 1e6, "V", open_low=True)


@dataclass(frozen=True, slots=True)
class Load:
    """What is given adds up; below `knee_v` constant current and constant power become resistances."""

    resistance_ohm: float | None = None
    current_a: float = 0.0
    power_w: float = 0.0
    knee_v: float = 1.0

    def check(self) -> None:
        """Raise InputError for a value out of range; the field is `load`."""
        if self.resistance_ohm is not None:
            RESISTANCE.check("load", self.resistance_ohm)
        CURRENT.check("load", self.current_a)
        POWER.check("load", self.power_w)
        KNEE.check("load", self.knee_v)

    def current_at(self, volts: float) -> float:
        """What it draws at a voltage, amperes."""
        resistive = volts / self.resistance_ohm if self.resistance_ohm else 0.0
        if volts < self.knee_v:
            return resistive + volts * (self.current_a / self.knee_v + self.power_w / self.knee_v**2)
        return resistive + self.current_a + self.power_w / volts

    def line(self, *, above_knee: bool, around_v: float) -> tuple[float, float]:
        """As a conductance and a current: constant power as the resistor that takes it around a voltage (rms)."""
        siemens = 1 / self.resistance_ohm if self.resistance_ohm else 0.0
        if not above_knee:
            return siemens + self.current_a / self.knee_v + self.power_w / self.knee_v**2, 0.0
        return siemens + self.power_w / max(around_v, self.knee_v) ** 2, self.current_a

    def tangent(self, around_v: float) -> "Load":
        """The same load with its constant power as the tangent around a voltage, which follows a ripple better."""
        return TangentLoad(self.resistance_ohm, self.current_a, self.power_w, self.knee_v, around_v)


@dataclass(frozen=True, slots=True)
class TangentLoad(Load):
    """A load whose constant power is a tangent: right near its voltage, and only there."""

    tangent_v: float = 1.0

    def line(self, *, above_knee: bool, around_v: float) -> tuple[float, float]:
        """As a conductance, less that of the tangent, and a current."""
        if not above_knee:
            return Load.line(self, above_knee=False, around_v=around_v)
        siemens = 1 / self.resistance_ohm if self.resistance_ohm else 0.0
        return siemens - self.power_w / self.tangent_v**2, self.current_a + 2 * self.power_w / self.tangent_v
