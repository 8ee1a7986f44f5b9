"""What is so, whatever anybody says: a bad part, a fit one, a hand on a voltage, a fault that power shows.

Told from what a part is, by the standards and the windows of the trade, and never by reading a label or asking a rule.
"""

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from dusky_heron.core.model import PartKind, Role
from dusky_heron.core.proving.manual import Healthy
from dusky_heron.core.rig.capacitors import Capacitor, Section
from dusky_heron.core.rig.elements import Resistor
from dusky_heron.core.rig.following import follow
from dusky_heron.core.rig.network import Network
from dusky_heron.core.rig.propagator import dot
from dusky_heron.core.rig.simulated import BODY_OHM, SimulatedSet

K = PartKind
FELT_S = 10e-6
HANDS_V = 50.0  # DC, what hands may come near: IEC 60479-1 and the trade's own limit
LOSES: Mapping[Role, float] = {  # share of its marked value that a part may lose: IEC 60384-14, IEC 60252-1, trade practice
    Role.MOTOR_RUN: 0.05, Role.ENERGY_STORE: 0.10, Role.MAGNETRON: 0.10, Role.TIMING: 0.10, Role.DROPPER: 0.20,
    Role.POWER_FACTOR: 0.10, Role.MOTOR_START: 0.09, Role.SNUBBER: 0.10,
}  # fmt: skip
USUAL_LOSS = 0.20
ONCE, TWICE = 0.02, 0.04  # of its value: twice what the hand meter may be wrong by
HEATS_W = 0.2  # twice the tenth of a watt at which a leak heats a part
LEAKS_A, TIMES = 3e-3, 4.0  # A for each √(F·V): 3·√(µF·V) µA, IEC 60384-4; twice that is still good, and twice for the meter
LEAST_OHM: Mapping[Role, float] = {Role.COUPLING: 5e6, Role.TIMING: 1e6}  # half of what makes a stage drift, grid leak 470 kΩ
SOUND_OHM = 1e9
TAKES = {
    "X1": {"X1", "Y1"}, "X2": {"X2", "X1", "Y2", "Y1"}, "X3": {"X3", "X2", "X1", "Y2", "Y1"}, "Y1": {"Y1"}, "Y2": {"Y2", "Y1"},
}  # fmt: skip
WINDOW: Mapping[Role, tuple[float, float]] = {
    Role.X: (-0.1, 0.5), Role.Y: (-0.5, 0.0), Role.DROPPER: (-0.1, 0.1), Role.MOTOR_RUN: (-0.05, 0.05),
    Role.MOTOR_START: (-0.09, 0.09), Role.RESERVOIR: (-0.1, 0.5), Role.SMPS_BULK: (-0.1, 0.3), Role.DC_LINK: (-0.1, 0.3),
    Role.ENERGY_STORE: (-0.05, 0.05), Role.MAGNETRON: (-0.05, 0.05), Role.COUPLING: (-0.2, 0.5), Role.TIMING: (-0.05, 0.05),
    Role.SMOOTHING: (-0.1, 1.0), Role.SNUBBER: (-0.05, 0.05), Role.POWER_FACTOR: (-0.05, 0.05),
}  # fmt: skip
KINDS: Mapping[Role, frozenset[PartKind]] = {
    Role.X: frozenset({K.FILM_SAFETY, K.CERAMIC_SAFETY}), Role.Y: frozenset({K.FILM_SAFETY, K.CERAMIC_SAFETY}),
    Role.DROPPER: frozenset({K.FILM_SAFETY}), Role.MOTOR_RUN: frozenset({K.MOTOR_RUN}),
    Role.MOTOR_START: frozenset({K.MOTOR_START, K.MOTOR_RUN}), Role.RESERVOIR: frozenset({K.ELECTROLYTIC, K.FILM_DC}),
    Role.SMPS_BULK: frozenset({K.ELECTROLYTIC, K.FILM_DC}), Role.DC_LINK: frozenset({K.ELECTROLYTIC, K.FILM_DC}),
    Role.ENERGY_STORE: frozenset({K.PULSE_ELECTROLYTIC, K.FILM_PULSE}), Role.MAGNETRON: frozenset({K.HIGH_VOLTAGE_AC}),
    Role.COUPLING: frozenset({K.FILM_DC, K.FILM_PULSE}), Role.TIMING: frozenset({K.FILM_DC, K.FILM_PULSE}),
    Role.SMOOTHING: frozenset({K.ELECTROLYTIC, K.FILM_DC}), Role.SNUBBER: frozenset({K.FILM_PULSE}),
    Role.POWER_FACTOR: frozenset({K.FILM_AC, K.MOTOR_RUN}),
}  # fmt: skip
ON_AC = {Role.X, Role.Y, Role.DROPPER, Role.MOTOR_RUN, Role.MOTOR_START, Role.MAGNETRON, Role.POWER_FACTOR}
SHOWS = 0.30  # beside what the manual gives, at which rail or current shows a fault: twice the 15 % that are as expected
SLACK_V, SLACK_A = 4.0, 0.02


class State(StrEnum):
    """What a part is: sound, bad, between the two, or bad only now and then."""

    SOUND = "sound"
    BETWEEN = "between"
    BAD = "bad"
    INTERMITTENT = "intermittent"


@dataclass(frozen=True)
class Facts:
    """What a part in the drawer or the shop is."""

    kind: PartKind
    farads: float
    volts: float
    ac: bool
    name: str = ""
    tolerance: int = 10
    short: bool = False
    size: tuple[float, float, float] = (10.0, 8.0, 15.0)

    def label(self) -> str:
        """What its maker prints on it."""
        value = f"{self.farads * 1e6:.5g} µF" if self.farads >= 1e-6 else f"{self.farads * 1e9:.5g} nF"
        volts, service = f"{self.volts:g} {'V~' if self.ac else 'VDC'}", "START" if self.short else ""
        return " ".join(word for word in (value, f"±{self.tolerance} %", self.name, volts, "125 °C", service) if word)


def state_of(part: Capacitor) -> State:
    """Whether a part is sound or bad, with margins of twice a meter's error either way; between them nobody is blamed."""
    if part.role in (Role.X, Role.Y) and not classes_of(part):
        return State.BETWEEN  # no class where one is asked for: rightly replaced, whatever it measures
    if part.joint == "open":
        return State.BAD
    if part.joint != "sound":
        return State.INTERMITTENT
    worst = [_section_state(part, section, k) for k, section in enumerate(part.sections)]
    return State.BAD if State.BAD in worst else State.BETWEEN if State.BETWEEN in worst else State.SOUND


def _section_state(part: Capacitor, section: Section, k: int) -> State:
    role = Role(part.role)
    loss = LOSES.get(role, USUAL_LOSS)
    share = part.farads(k) / section.marked_f
    worn = section.kept < 1.0
    if worn and share < 1 - loss - TWICE:
        return State.BAD
    if section.leak_ohm < _bad_ohm(part, section):
        return State.BAD
    if section.esr > 4.0:
        return State.BAD
    healthy = section.leak_ohm >= SOUND_OHM and section.esr <= 1.2 and part.unformed <= 1.5 and not worn
    within = min(part.tolerance - ONCE, loss) if part.tolerance > ONCE else 0.0
    return State.SOUND if healthy and -within < share - 1 < part.tolerance - ONCE else State.BETWEEN


def _bad_ohm(part: Capacitor, section: Section) -> float:
    """Ohms beside a section below which it is bad, whatever its role decides by."""
    volts = part.rated_v
    if part.material == "electrolytic" and not part.ac:
        return volts / (TIMES * LEAKS_A * math.sqrt(section.marked_f * volts))
    role = Role(part.role)
    heats = (230.0 if part.ac and volts < 1000 else volts) ** 2 / HEATS_W
    return max(heats if part.ac else 1e3, LEAST_OHM.get(role, 1e3))


def is_fit(old: Capacitor, classes: set[str], supply: float, *, earthed: bool, space: tuple[float, ...], one: Facts) -> bool:
    """Whether a part may take the place of another, by what both are: IEC 60384-14, IEC 60252-1, the windows of the trade.

    :param old: the part in the place as it was made
    :param classes: safety classes the place asks for
    :param supply: V rms
    :param earthed: whether the equipment is of protection class I
    :param space: millimetres
    :param one: the part offered
    :returns: bool
    :source: the clauses named in the tables here
    """
    role = Role(old.role)
    low, high = WINDOW[role]
    made = set(KINDS[role])
    if old.material == "ceramic_2":
        made |= {K.CERAMIC, K.MICA}  # mica drifts, loses and leaks less than any class 2 ceramic
    if role in (Role.COUPLING, Role.TIMING):
        made |= {K.MICA} | ({K.ELECTROLYTIC} if old.material == "electrolytic" else set())
    if role is Role.SNUBBER and old.ac:
        made.add(K.FILM_SAFETY)
    if role in (Role.RESERVOIR, Role.SMPS_BULK, Role.DC_LINK, Role.SMOOTHING) and old.material != "electrolytic":
        made.discard(K.ELECTROLYTIC)
    touch_a = 2 * math.pi * 50 * 1.1 * supply * one.farads * (1 + one.tolerance / 100)
    if role is Role.Y and touch_a > (3.5e-3 if earthed else 0.5e-3):
        return False
    wanted = classes or ({"X2"} if role is Role.X else {"Y2" if earthed else "Y1"} if role is Role.Y else set())
    alternating = role in ON_AC or (role is Role.SNUBBER and old.ac)
    volts = max(old.rated_v if old.ac == alternating else 0.0, supply if alternating and role is not Role.MAGNETRON else 0.0)
    return (
        one.kind in made
        and all(one.name in TAKES[name] for name in wanted)
        and one.ac == alternating
        and one.volts >= volts
        and low - 1e-9 <= one.farads / old.sections[0].marked_f - 1 <= high + 1e-9
        and (not one.short or role is Role.MOTOR_START)
        and all(a <= b for a, b in zip(sorted(one.size[:2]), sorted(space[:2]), strict=True))
        and one.size[2] <= space[2]
    )


def classes_of(part: Capacitor) -> set[str]:
    """The safety classes a factory printed on a part of a place that has them."""
    return set(re.findall(r"[XY][1-4]", part.printed)) if Role(part.role) in (Role.X, Role.Y, Role.DROPPER) else set()


def on_hands(simulated: SimulatedSet, pairs: list[tuple[str, str]]) -> float:
    """The most volts a hand would feel on any of some pairs of nodes: across a body of 1 kΩ, after ten microseconds.

    What is gone by then was less than 10 nF, below the touch limit at any mains (IEC 62368-1, table 5), or coupled in.
    """
    worst = 0.0
    for a, b in pairs:
        if abs(simulated.volts(a, b)) > HANDS_V:
            copy = simulated.aside()
            copy.put("body", Resistor(a, b, BODY_OHM))
            follow(copy, FELT_S)
            worst = max(worst, across(copy, a, b))
    return worst


def across(network: Network, a: str, b: str) -> float:
    """Volts between two nodes of a network at rest at this instant, without their sign."""
    layout = network.resting
    row = layout.mode(network.conducting & frozenset(layout.diodes)).across(a, b)
    return abs(dot(row, layout.vector(network.held, network.second)))


def power_shows(expected: Healthy, read: Healthy, *, rail: bool) -> bool:
    """Whether rail or current are so far beside the manual that a fault shows, at full supply."""
    off = abs(read.current_a - expected.current_a) > SHOWS * expected.current_a + SLACK_A
    return off or (rail and abs(read.rail_v - expected.rail_v) > SHOWS * expected.rail_v + SLACK_V)
