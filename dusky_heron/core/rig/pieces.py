"""The other parts that fail, and what they are to a circuit."""

from dataclasses import dataclass, replace
from enum import StrEnum

from dusky_heron.core.errors import InputError
from dusky_heron.core.rig.elements import Coil, Diode, Element, Resistor

GONE_OHM = 1e10  # of what is open: the board beside it
WELD_OHM = 0.02
SHORTED_OHM = 0.1  # of a semiconductor burnt through
TURNS_LEFT, TURNS_OHM = 0.15, 30.0  # of a choke with shorted turns: its inductance, and the loss of the short beside it
ZENER_FORWARD_V = 0.7


class PieceKind(StrEnum):
    """What a part that is no capacitor does."""

    RESISTOR = "resistor"
    FUSE = "fuse"
    NTC = "ntc"
    DIODE = "diode"
    VALVE = "valve"  # one plate of a rectifier valve: conducts once its heater is warm
    ZENER = "zener"  # a its cathode
    COIL = "coil"  # of a relay or valve
    CHOKE = "choke"
    SWITCH = "switch"
    WINDING = "winding"
    REGULATOR = "regulator"  # its governor tells what it does
    DISCHARGER = "discharger"  # an automatic one: a resistor while the mains is away, by its governor


FAULTS: dict[PieceKind, tuple[str, ...]] = {
    PieceKind.RESISTOR: ("open", "drifted"),
    PieceKind.FUSE: ("open",),
    PieceKind.NTC: ("open", "drifted"),
    PieceKind.DIODE: ("open", "shorted", "leaky"),
    PieceKind.VALVE: ("open", "shorted", "drifted"),
    PieceKind.ZENER: ("open", "shorted", "drifted"),
    PieceKind.COIL: ("open", "drifted"),
    PieceKind.CHOKE: ("open", "shorted"),
    PieceKind.SWITCH: ("open", "shorted"),
    PieceKind.WINDING: ("open", "shorted"),
    PieceKind.REGULATOR: ("open", "shorted"),
    PieceKind.DISCHARGER: ("open",),
}


@dataclass(frozen=True, slots=True)
class Piece:
    """A part between two nodes.

    `value` is ohms of what resists, volts of drop of a diode, of breakdown of a zener, henries of a choke.

    `ohm` is its resistance beside that. `stands_i2t` melts it (A²s), `stands_j` is the pulse it survives (J).
    """

    name: str
    kind: PieceKind
    a: str
    b: str
    value: float
    ohm: float = 0.1
    closed: bool = True  # of a switch
    fault: str = ""
    at: float = 1.0  # times its value when drifted, ohms when leaky
    stands_i2t: float | None = None
    stands_j: float | None = None

    def failed(self, fault: str, at: float = 1.0) -> "Piece":
        """The same with a fault."""
        if fault not in FAULTS[self.kind]:
            raise InputError("fault", f"A {self.kind} does not fail so: {fault}.")
        return replace(self, fault=fault, at=at)

    def elements(self) -> dict[str, Element]:
        """What it is to a circuit now."""
        kind, a, b, name = self.kind, self.a, self.b, self.name
        if kind in (PieceKind.REGULATOR, PieceKind.DISCHARGER):
            return {}
        value = self.value * (self.at if self.fault == "drifted" else 1.0)
        if self.fault == "open" or (kind is PieceKind.SWITCH and not self.closed and self.fault != "shorted"):
            return {name: Resistor(a, b, GONE_OHM)}
        if kind in (PieceKind.DIODE, PieceKind.ZENER, PieceKind.VALVE):
            return self._junctions(value)
        if kind in (PieceKind.CHOKE, PieceKind.WINDING):
            if self.fault == "shorted":
                return {name: Coil(a, b, value * TURNS_LEFT, self.ohm, TURNS_OHM)}
            return {name: Coil(a, b, value, self.ohm)}
        if kind is PieceKind.SWITCH:
            return {name: Resistor(a, b, WELD_OHM if self.fault == "shorted" else value)}
        return {name: Resistor(a, b, value)}

    def _junctions(self, value: float) -> dict[str, Element]:
        """What conducts one way, or breaks down."""
        a, b, name = self.a, self.b, self.name
        if self.fault == "shorted":
            return {name: Resistor(a, b, SHORTED_OHM)}
        if self.kind is PieceKind.VALVE:
            return {name: Diode(a, b, self.value, self.ohm * self.at)}
        found: dict[str, Element] = {name: Diode(a, b, value, self.ohm)}
        if self.kind is PieceKind.ZENER:
            found[f"{name}.forward"] = Diode(b, a, ZENER_FORWARD_V, self.ohm)
        if self.fault == "leaky":
            found[f"{name}.leak"] = Resistor(a, b, self.at)
        return found
