"""A relay behind a dropper: what the rail does after the command, and what is heard."""

from dataclasses import dataclass, replace
from enum import StrEnum

from dusky_heron.core.circuit.dropper.modes import OHMS, VOLTS, DropperCircuit, engine_circuit
from dusky_heron.core.circuit.dropper.states import SECONDS, settled_state
from dusky_heron.core.circuit.engine import Vector
from dusky_heron.core.circuit.load import CURRENT, Load
from dusky_heron.core.errors import Range
from dusky_heron.core.model import Relay

DEGREES = Range("Temperature", -60.0, 200.0, "°C")
SAMPLES = 10  # a cycle
OPERATE_S = 10e-3  # usual time until an armature has moved
DELAY_S = 0.1  # of standby before the command
LOOKS = 25  # cycles between two looks at whether the rail still moves
STANDS_V = 1e-4  # a rail that has moved by less since the last look stands
NEAR = 0.10  # of a voltage of the relay or controller, within which a rail is followed until it stands, however slow
LONGEST_S = 120.0


class Comes(StrEnum):
    """What a command, or a capacitance, comes to."""

    HOLDS = "holds"
    SAGS = "holds, the rail sags"
    LETS_GO = "clicks and lets go"
    CHATTERS = "chatters"
    NEVER = "never pulls in"
    DIM = "dim"
    DEAD = "dead"


class Sound(StrEnum):
    """What happens after a command, as it is heard."""

    STILL = "the controller does not run"
    COMMAND = "the command"
    AGAIN = "it gives the command again"
    PULLS_IN = "pulls in"
    LETS_GO = "lets go"
    RESETS = "the controller resets"


HOLDS, SAGS, LETS_GO, CHATTERS, NEVER, DIM, DEAD = Comes


def check_relay(relay: Relay) -> None:
    """Raise InputError naming the field that is out of range."""
    OHMS.check("coil_ohm", relay.coil_ohm)
    for field in ("pull_in_v", "hold_v", "reset_v"):
        VOLTS.check(field, getattr(relay, field))
    SECONDS.check("restart_s", relay.restart_s)
    DEGREES.check("coil_c", relay.coil_c)


@dataclass(frozen=True, slots=True)
class Heard:
    """A moment after the command, and what happens then."""

    t_s: float
    says: Sound


@dataclass(frozen=True, slots=True)
class Command:
    """The rail around a command given at zero, what happens when, and what it comes to."""

    t_s: tuple[float, ...]
    v: tuple[float, ...]
    heard: tuple[Heard, ...]
    outcome: Comes


def give_command(circuit: DropperCircuit, relay: Relay, standby_a: float, seconds: float = 1.0) -> Command:
    """The rail when the controller switches its relay on, from the periodic state of standby.

    The coil is a resistor; the armature moves when the rail has stood at its pull-in voltage for 10 ms, and falls below the hold
    voltage. Below its reset voltage the controller drops the relay and begins again.

    :param circuit: as drawn; its own load is not used
    :param relay: coil, voltages and controller
    :param standby_a: what the controller draws, amperes
    :param seconds: how long to follow it after the command, up to 60; longer until it has settled
    :returns: Command, ten samples a cycle, one after `seconds`; holds, clicks and lets go, chatters, never pulls in, or dead
    :raises InputError: a value out of range
    :source: circuit equations; copper 0.393 % a kelvin
    """
    check_relay(relay)
    SECONDS.check("seconds", seconds)
    CURRENT.check("standby_a", standby_a)
    return _followed(circuit, relay.warmed, standby_a, seconds)


@dataclass(slots=True)
class _Armature:
    """It moves when the rail has stood at its pull-in voltage for so long, and falls below the hold voltage."""

    relay: Relay
    pulled: bool = False
    since: float = 0.0  # the rail has stood at its pull-in voltage from then on

    def moves(self, t: float, rail: float) -> Sound | None:
        """What it does at a moment, if anything."""
        self.since = t if rail < self.relay.pull_in_v else self.since
        if not self.pulled and t - self.since >= OPERATE_S:
            self.pulled = True
            return Sound.PULLS_IN
        if self.pulled and rail < self.relay.hold_v:
            self.pulled = False
            return Sound.LETS_GO
        return None

    def drop(self, t: float) -> None:
        """It has no current any more."""
        self.pulled, self.since = False, t


def _followed(circuit: DropperCircuit, relay: Relay, standby_a: float, seconds: float) -> Command:
    """The rail after the command, of a relay at the temperature of its coil, until it has settled."""
    idle = replace(circuit, load=Load(current_a=standby_a))
    driven = replace(circuit, load=Load(resistance_ohm=relay.coil_ohm, current_a=standby_a))
    period = circuit.source.period
    x, t = settled_state(idle), 0.0
    times, volts = [-DELAY_S, 0.0], [x[1], x[1]]
    if x[1] < relay.reset_v:
        return Command(tuple(times), tuple(volts), (Heard(0.0, Sound.STILL),), DEAD)
    armature, on, ready = _Armature(relay), True, 0.0
    heard = [Heard(0.0, Sound.COMMAND)]
    lowest: list[float] = []  # of the rail in each cycle, to see where it goes
    while _goes_on(t, seconds, lowest, relay, heard):
        began, low = t, x[1]
        for at, state in _samples(driven if on else idle, x, t, period):
            x, t, rail = state, at, state[1]
            low = min(low, rail)
            if _shown(t, began, seconds, period):
                times.append(t)
                volts.append(rail)
            if not on:
                armature.drop(t)
                if rail < relay.reset_v:
                    ready = t + relay.restart_s
                elif t >= ready:
                    on = True
                    heard.append(Heard(t, Sound.AGAIN))
                    break
                continue
            if said := armature.moves(t, rail):
                heard.append(Heard(t, said))
            if rail < relay.reset_v:
                on, ready = False, t + relay.restart_s
                armature.drop(t)
                heard.append(Heard(t, Sound.RESETS))
                break
        lowest.append(low)
    return Command(tuple(times), tuple(volts), tuple(heard), _outcome(heard, pulled=armature.pulled))


def _shown(t: float, began: float, seconds: float, period: float) -> bool:
    """Whether a moment is kept to be shown: all while it was asked for, afterwards the last of a cycle."""
    return t <= seconds or t - began > period * (1 - 0.5 / SAMPLES)


def _goes_on(t: float, seconds: float, lowest: list[float], relay: Relay, heard: list[Heard]) -> bool:
    return t < seconds or (t < LONGEST_S and not _settled(lowest, relay, heard))


def _settled(lowest: list[float], relay: Relay, heard: list[Heard]) -> bool:
    """Whether nothing more happens: the controller has reset, or the rail stands, or ends far from any voltage that matters.

    A rail behind one time constant moves by less each time, in a fixed proportion r: what is left is the last move · r/(1 − r).
    """
    if any(moment.says is Sound.RESETS for moment in heard):
        return True
    if len(lowest) <= 2 * LOOKS:
        return False
    first, middle, last = lowest[-1 - 2 * LOOKS], lowest[-1 - LOOKS], lowest[-1]
    before, now = middle - first, last - middle
    if abs(now) < STANDS_V:
        return True
    ratio = now / before if before else 1.0
    if not 0 <= ratio < 1:
        return False
    ends = last + now * ratio / (1 - ratio)
    low, high = min(last, ends), max(last, ends)
    return not any(low * (1 - NEAR) <= edge <= high * (1 + NEAR) for edge in (relay.pull_in_v, relay.hold_v, relay.reset_v))


def _samples(circuit: DropperCircuit, x: Vector, t: float, seconds: float) -> list[tuple[float, Vector]]:
    """The state at ten moments a cycle after a time."""
    segments = engine_circuit(circuit, 0.0).run(x, t, seconds)
    step, found, index = circuit.source.period / SAMPLES, [], 0
    for k in range(1, round(seconds / step) + 1):
        at = t + k * step
        while index < len(segments) - 1 and segments[index].start + segments[index].tau < at:
            index += 1
        found.append((at, segments[index].x(at - segments[index].start)))
    return found


def _outcome(heard: list[Heard], *, pulled: bool) -> Comes:
    said = [moment.says for moment in heard]
    if Sound.PULLS_IN not in said:
        return NEVER
    if Sound.RESETS in said:
        return CHATTERS
    return HOLDS if pulled else LETS_GO
