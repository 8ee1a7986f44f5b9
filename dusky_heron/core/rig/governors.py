"""What turns, warms, switches and regulates: each goes by volts it watches, and changes the circuit."""

import cmath
import math
from collections.abc import Mapping
from dataclasses import dataclass

from dusky_heron.core.rig.drawing import Window
from dusky_heron.core.rig.elements import Coil, Diode, Element, Resistor, Source
from dusky_heron.core.rig.impedance import impedance
from dusky_heron.core.rig.pieces import GONE_OHM, Piece

AWAKE_S = 60.0  # for which a discharge circuit lives on what is left
IDLE_OHM = 470e3  # of a converter that stands still: its start-up resistor
PAIR = tuple[str, str]
HEATERS, NOMINAL_V = "heaters", 230.0
MAIN, AUXILIARY = "main winding", "auxiliary winding"


@dataclass
class Converter:
    """Takes a constant power from its input and holds its output, from a starting voltage down to a stopping one.

    Its input is the resistance V²/P at the mean of the last window. A load that pulls the output under half stops it: it starts
    again at the next window, as supplies do that hiccup.
    """

    name: str
    input: PAIR
    output: PAIR
    watt: float
    starts_v: float
    stops_v: float
    out_v: float
    out_ohm: float = 0.05
    running: bool = False
    input_v: float = 0.0

    @property
    def watches(self) -> tuple[PAIR, ...]:
        """Input and output."""
        return (self.input, self.output)

    def after(self, window: Window) -> None:
        """Start, stop, and follow the input."""
        self.input_v = window.means[self.input]
        if self.running and window.seconds > 0.005 and window.means[self.output] < self.out_v / 2:
            self.running = False
        else:
            self.running = window.on and self.input_v > (self.stops_v if self.running else self.starts_v)

    def elements(self, pieces: Mapping[str, Piece]) -> dict[str, Element]:
        """A load on its input, a source at its output; a diode keeps the output from feeding back."""
        ohm = coarse(max(self.input_v, self.stops_v) ** 2 / self.watt) if self.running else IDLE_OHM
        within = f"{self.name}.s"
        return {
            f"{self.name}.in": Resistor(*self.input, ohm),
            f"{self.name}.emf": Source(within, self.output[1], 0.01, dc_v=self.out_v + 0.5 if self.running else 0.0),
            f"{self.name}.rectifier": Diode(within, self.output[0], 0.5, self.out_ohm),
        }


@dataclass
class Regulator:
    """A linear regulator: its output is the less of its setting and its input less the dropout; it draws what the load does."""

    name: str
    input: PAIR
    output: PAIR
    set_v: float
    dropout_v: float
    load_ohm: float
    input_v: float = 0.0

    @property
    def watches(self) -> tuple[PAIR, ...]:
        """Its input."""
        return (self.input,)

    def after(self, window: Window) -> None:
        """Follow the input."""
        self.input_v = window.means[self.input]

    def elements(self, pieces: Mapping[str, Piece]) -> dict[str, Element]:
        """The load's current out of the input; the output behind a diode."""
        fault = pieces[self.name].fault
        regulated = min(self.set_v, max(self.input_v - self.dropout_v, 0.0))
        level = {"open": 0.0, "shorted": max(self.input_v - 0.1, 0.0)}.get(fault, regulated)
        ohm = coarse(self.input_v * self.load_ohm / level) if level > 0.1 else GONE_OHM
        within = f"{self.name}.s"
        return {
            f"{self.name}.in": Resistor(*self.input, ohm),
            f"{self.name}.emf": Source(within, self.output[1], 0.1, dc_v=coarse(level + 0.1)),
            f"{self.name}.pass": Diode(within, self.output[0], 0.1, 0.1),
            f"{self.name}.load": Resistor(*self.output, self.load_ohm),
        }


@dataclass
class Heater:
    """A valve conducts once its heater has been on for so long; cold again after being off as long.

    Heaters take `amperes` at full supply and the power V^1.6 at less: their resistance grows as V^0.4, for they are hotter then.
    """

    valves: tuple[str, ...]
    warms_s: float
    fed: PAIR
    amperes: float
    warm_s: float = 0.0
    percent: float = 100.0

    @property
    def watches(self) -> tuple[PAIR, ...]:
        """Nothing: it goes by time and by the supply."""
        return ()

    def after(self, window: Window) -> None:
        """Warm with the square of the supply, cool without it."""
        self.warm_s += window.seconds * ((window.percent / 100) ** 2 if window.on else -1.0)
        self.warm_s = min(max(self.warm_s, 0.0), self.warms_s * 1.5)
        self.percent = window.percent or self.percent

    def elements(self, pieces: Mapping[str, Piece]) -> dict[str, Element]:
        """The heaters, and each plate conducting, or as good as absent."""
        heaters = Resistor(*self.fed, NOMINAL_V / self.amperes * (self.percent / 100) ** 0.4)
        if self.warm_s >= self.warms_s:
            return {HEATERS: heaters}
        cold = [pieces[name] for name in self.valves if pieces[name].fault != "shorted"]
        return {HEATERS: heaters, **{valve.name: Resistor(valve.a, valve.b, GONE_OHM) for valve in cold}}


@dataclass
class Warming:
    """An NTC: cold at first, at a share of its resistance once current has run through it for a second."""

    piece: str
    share: float = 0.15
    warm_s: float = 0.0

    @property
    def watches(self) -> tuple[PAIR, ...]:
        """Nothing: it goes by time."""
        return ()

    def after(self, window: Window) -> None:
        """Warm while on, cool within a minute."""
        self.warm_s = min(self.warm_s + window.seconds, 60.0) if window.on else max(self.warm_s - window.seconds, 0.0)

    def elements(self, pieces: Mapping[str, Piece]) -> dict[str, Element]:
        """Hot or cold."""
        piece = pieces[self.piece]
        if piece.fault or self.warm_s < 1.0:
            return {}
        return {piece.name: Resistor(piece.a, piece.b, piece.value * self.share)}


@dataclass
class Relay:
    """A coil that pulls in above one voltage and lets go below another, and the contact it moves."""

    coil: PAIR
    contact: str
    pulls_v: float
    holds_v: float
    pulled: bool = False

    @property
    def watches(self) -> tuple[PAIR, ...]:
        """Its coil."""
        return (self.coil,)

    def after(self, window: Window) -> None:
        """Pull in or let go."""
        self.pulled = window.means[self.coil] > (self.holds_v if self.pulled else self.pulls_v)

    def elements(self, pieces: Mapping[str, Piece]) -> dict[str, Element]:
        """The contact, closed or open; a welded one is closed whatever the coil does."""
        contact = pieces[self.contact]
        return {} if self.pulled else opened(contact)


@dataclass
class Discharger:
    """An automatic discharge circuit: a resistor across the line within a tenth of a second after the mains has gone."""

    piece: str
    within_s: float = 0.1
    off_s: float = 1e9

    @property
    def watches(self) -> tuple[PAIR, ...]:
        """Nothing: it senses the mains."""
        return ()

    def after(self, window: Window) -> None:
        """Count since the mains has gone."""
        self.off_s = 0.0 if window.on else self.off_s + window.seconds

    def elements(self, pieces: Mapping[str, Piece]) -> dict[str, Element]:
        """Open while the mains is there, and for those who measure it long after: it has no supply of its own then."""
        piece = pieces[self.piece]
        engaged = not piece.fault and self.within_s <= self.off_s < AWAKE_S
        return {piece.name: Resistor(piece.a, piece.b, piece.value)} if engaged else {}


@dataclass
class Motor:
    """A single-phase motor: main winding across the line, auxiliary behind its capacitors.

    Standing, its windings are little more than their resistance and leakage; turning, the voltage they induce makes them look
    larger. It starts where the product of both currents and the sine between them reaches its load; it coasts after the plug is
    out, and what it still induces decays.
    """

    line: PAIR
    auxiliary: PAIR
    as_turning: tuple[float, float, float, float]  # ohms and henries of main, then auxiliary
    needs: float  # A²: the least I_m·I_a·sin φ that turns it
    starts_s: float = 0.4
    coasts_s: float = 2.0
    hertz: float = 50.0
    coast_v: float = 40.0
    turning: bool = False
    tried_s: float = 0.0
    off_s: float = 1e9

    @property
    def watches(self) -> tuple[PAIR, ...]:
        """The line."""
        return (self.line,)

    def torque(self, volts: float, parts: Mapping[str, Element]) -> float:
        """I_m·I_a·sin φ standing, A², at a voltage: the auxiliary's path is all between the lines but mains and main winding."""
        path = {name: part for name, part in parts.items() if name not in (MAIN, "mains", "induced")}
        main = volts / impedance({MAIN: parts[MAIN]}, *self.line, self.hertz)
        auxiliary = volts / impedance(path, *self.line, self.hertz)
        return abs(main) * abs(auxiliary) * math.sin(cmath.phase(auxiliary) - cmath.phase(main))

    def after(self, window: Window) -> None:
        """Start, run, coast."""
        if not window.on:
            self.off_s += window.seconds
            self.turning = self.turning and self.off_s < self.coasts_s
            self.tried_s = 0.0
            return
        self.off_s = 0.0
        if not self.turning and self.torque(window.rms[self.line], window.parts) >= self.needs:
            self.tried_s += window.seconds
            self.turning = self.tried_s >= self.starts_s

    def elements(self, pieces: Mapping[str, Piece]) -> dict[str, Element]:
        """Both windings as they stand or turn, and what a coasting one induces."""
        found: dict[str, Element] = {}
        for name, pair, (ohm, henry) in ((MAIN, self.line, self.as_turning[:2]), (AUXILIARY, self.auxiliary, self.as_turning[2:])):
            if self.turning and not pieces[name].fault:
                found[name] = Coil(*pair, henry, ohm)
        if self.turning and 0 < self.off_s < self.coasts_s:
            level = self.coast_v * math.sqrt(2) * math.exp(-2 * self.off_s / self.coasts_s)
            found["induced"] = Source(*self.line, 200.0, level, self.hertz)
        return found


@dataclass
class StartSwitch:
    """Opens at three quarters of speed, closes at rest."""

    motor: Motor
    piece: str

    @property
    def watches(self) -> tuple[PAIR, ...]:
        """Nothing: it goes by speed."""
        return ()

    def after(self, window: Window) -> None:
        """Nothing to keep."""

    def elements(self, pieces: Mapping[str, Piece]) -> dict[str, Element]:
        """Closed while the motor stands."""
        return opened(pieces[self.piece]) if self.motor.turning else {}


def coarse(value: float) -> float:
    """A value to three figures, so that a circuit that hardly changes stays the one it was."""
    return float(f"{value:.3g}")


def opened(contact: Piece) -> dict[str, Element]:
    """A contact that should be open now: one that has welded is not."""
    return {} if contact.fault else {contact.name: Resistor(contact.a, contact.b, GONE_OHM)}
