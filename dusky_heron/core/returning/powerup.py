"""First power after a repair: steps with what to expect, the lamp in series, and what the readings say before the next step."""

import math
from collections.abc import Callable, Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any

from dusky_heron.core.circuit import Load
from dusky_heron.core.errors import SUPPLY_VOLTAGE, InputError, Range
from dusky_heron.core.model import ROLES, Role
from dusky_heron.core.quantities import show
from dusky_heron.core.tables import toml_table

TABLE = toml_table("power_up")
KINDS, BEFORE = TABLE["kinds"], tuple(TABLE["before"])
CASES = {False: TABLE["open"], True: TABLE["closed"]}  # by whether the first test is a closed one
LAMP_WATTS = Range("Lamp", 1.0, 5000.0, "W")
FULL_CURRENT = Range("Current", 0.0, 1000.0, "A", open_low=True)
RAIL = Range("Rail", 0.0, 1e5, "V", open_low=True)
PERCENTS = Range("Step", 0.0, 120.0, "%", open_low=True)
DROPS = 5.0  # times the drops of rectifiers, a rail below which current tells nothing of how it rises
PARTS = 4000  # of the supply, looked through for an operating point


@dataclass(frozen=True, slots=True)
class Lamp:
    """A filament lamp: rated watts at rated volts."""

    rated_w: float
    rated_v: float

    def current(self, volts: float) -> float:
        """Amperes at so many volts across it: I = I_n (V/V_n)^0.55, never below a cold filament's resistance."""
        rated_a, cold = self.rated_w / self.rated_v, float(TABLE["lamp"]["cold"])
        law = rated_a * (volts / self.rated_v) ** float(TABLE["lamp"]["exponent"]) if volts > 0 else 0.0
        return min(law, volts * cold * self.rated_w / self.rated_v**2)


@dataclass(frozen=True, slots=True)
class LampPoint:
    """A lamp in series with a load on a supply: volts on each, amperes, the lamp's share of its rated power, how it glows."""

    lamp_v: float
    load_v: float
    current_a: float
    share: float
    glow: str


def lamp_point(lamp: Lamp, supply_v: float, load: Load | None) -> LampPoint:
    """Where a lamp and a load settle when both are switched on from nothing; a short for None.

    The load begins at nothing, so that of several points it stays at the lowest: what takes constant power may hang there.

    :param lamp: the limiter
    :param supply_v: V rms
    :param load: what it feeds, taken as in phase; None for a dead short
    :returns: LampPoint
    :raises InputError: a value is out of range
    :source: tungsten law of the table `power_up`; Kirchhoff

    >>> round(lamp_point(Lamp(100.0, 230.0), 230.0, None).current_a, 3)
    0.435
    """
    SUPPLY_VOLTAGE.check("supply_v", supply_v)
    LAMP_WATTS.check("rated_w", lamp.rated_w)
    volts = 0.0
    if load is not None:
        load.check()
        volts = _first_root(lambda v: lamp.current(supply_v - v) - load.current_at(v), supply_v)
    across = supply_v - volts
    amperes = lamp.current(across)
    share = across * amperes / lamp.rated_w
    glow = next(says for up_to, says in TABLE["lamp"]["glow"] if share <= up_to or up_to == TABLE["lamp"]["glow"][-1][0])
    return LampPoint(across, volts, amperes, share, glow)


def _first_root(falls: Callable[[float], float], high: float) -> float:
    """The lowest voltage at which a difference that begins above zero first reaches it."""
    low = 0.0
    for k in range(1, PARTS + 1):
        at = high * k / PARTS
        if falls(at) <= 0:
            for _ in range(60):
                middle = (low + at) / 2
                low, at = (middle, at) if falls(middle) > 0 else (low, middle)
            return (low + at) / 2
        low = at
    return high


@dataclass(frozen=True, slots=True)
class LampChoice:
    """A lamp for a load: with it healthy, and with it shorted."""

    lamp: Lamp
    healthy: LampPoint
    shorted: LampPoint


def choose_lamp(supply_v: float, standby_w: float) -> LampChoice | None:
    """The smallest lamp that takes less than a tenth of the supply from a healthy load, and so limits a short most.

    :param supply_v: V rms
    :param standby_w: what the healthy load takes at full voltage, watts
    :returns: LampChoice; None where no usual lamp is large enough: a variac then
    :raises InputError: a value is out of range
    :source: table `power_up`
    """
    FULL_CURRENT.check("standby_w", standby_w / SUPPLY_VOLTAGE.check("supply_v", supply_v))
    load = Load(resistance_ohm=supply_v**2 / standby_w)
    for watts in TABLE["lamp"]["watts"]:
        lamp = Lamp(watts, supply_v)
        healthy = lamp_point(lamp, supply_v, load)
        if healthy.lamp_v < TABLE["standby_drop"] * supply_v:
            return LampChoice(lamp, healthy, lamp_point(lamp, supply_v, None))
    return None


@dataclass(frozen=True, slots=True)
class Step:
    """One point of a power-up: per cent of the supply, what the rail and the current should be, and when to stop.

    `least_a` is the least current that is as expected; `draws` whether none at all is an open circuit; `conducts` False before a
    valve does, while loads of a dropper come in one by one, and at few volts. `full_a` is what a store draws that is full.
    """

    percent: float
    rail_v: float | None
    current_a: float | None
    stop_a: float | None
    dwell_s: float
    least_a: float = 0.0
    draws: bool = False
    conducts: bool = True
    full_a: float | None = None


def power_up_plan(
    kind: str,
    *,
    rail_v: float | None,
    current_a: float | None,
    percents: Sequence[float] | None = None,
    expected: Callable[[float], tuple[float, float]] | None = None,
) -> tuple[Step, ...]:
    """The steps of a first power-up, with what to expect at each.

    :param kind: one of the kinds of the table `power_up`
    :param rail_v: rail at full voltage, None when not known
    :param current_a: current from the supply at full voltage, None when not known
    :param percents: steps in per cent; None takes the usual ones, and one step where a ramp does harm
    :param expected: rail and current at a share of the supply, from the simulated circuit; None expects in proportion, of heaters
        0.6 of the current from the first step as V^0.6
    :returns: steps, ascending
    :raises InputError: an unknown kind (`kind`), steps out of order or range (`steps`), a value out of range
    :source: table `power_up`

    >>> [step.rail_v for step in power_up_plan("linear", rail_v=40.0, current_a=None)][:3]
    [4.0, 10.0, 20.0]
    """
    if kind not in KINDS:
        raise InputError("kind", f"Choose one of: {', '.join(row['title'] for row in KINDS.values())}.")
    if rail_v is not None:
        RAIL.check("rail", rail_v)
    if current_a is not None:
        FULL_CURRENT.check("current", current_a)
    row = KINDS[kind]
    steps = list(percents or row.get("percents") or (TABLE["steps"] if row["ramp"] else [100.0]))
    for percent in steps:
        PERCENTS.check("steps", percent)
    if steps != sorted(set(steps)):
        raise InputError("steps", "Each step higher than the one before it.")
    if not row["ramp"] and min(steps) < TABLE["steps"][-2]:
        raise InputError("steps", f"{row['says']}")
    return tuple(_step(row, percent, rail_v, current_a, expected) for percent in steps)


def _step(
    row: Mapping[str, Any],
    percent: float,
    rail_v: float | None,
    current_a: float | None,
    expected: Callable[[float], tuple[float, float]] | None,
) -> Step:
    share, conducts = percent / 100, not (row.get("heaters") and percent < TABLE["warm_at"])
    rail, current = (rail_v and rail_v * share), (current_a and current_a * share)
    if expected is not None:
        rail, current = expected(share)
    elif row.get("heaters"):
        part, power = TABLE["heaters"]
        rail = rail if conducts else rail_v and 0.0
        current = current_a and current_a * (part * share**power + (1 - part) * share * conducts)
    elif row.get("clamped") and share < 1:
        rail = None  # where it is clamped only its circuit tells
    full = current if row.get("charges") else None
    if row.get("charges"):
        current = None  # it falls while the store fills
    if not row.get("rail", True):
        rail = None
    conducts = conducts and not (row.get("clamped") and expected is None and share < 1)
    conducts = conducts and not row.get("charges") and not (rail and rail < DROPS * TABLE["rail_slack_v"])
    least = _least(current, rail, share, known=expected is not None, clamped=bool(row.get("clamped")))
    stop = current * TABLE["stop_factor"] if current else None
    return Step(percent, rail, current, stop, row.get("dwell_s", TABLE["dwell_s"]), least, bool(row.get("draws")), conducts, full)


def _least(current: float | None, rail: float | None, share: float, *, known: bool, clamped: bool) -> float:
    """The least current that is as expected: rectifiers, relays and clamps need some volts before they draw in proportion."""
    if not current:
        return 0.0
    within = current * (1.0 - float(TABLE["current_within"]))
    if clamped and not known and share < 1:
        within = current * float(TABLE["low_rail"])
    if rail:
        within *= max(1 - float(TABLE["rail_slack_v"]) / rail, 0.0)
    return max(within - float(TABLE["current_slack_a"]), 0.0)


def usual_kind(roles: Collection[Role]) -> str:
    """The kind of supply that the places of a job point to, until somebody says otherwise.

    :param roles: of its places
    :returns: id of a kind; a load on the mains where no place points to a supply
    :raises InputError: never
    :source: table `power_up`
    """
    return next((kind for kind in KINDS if kind in {ROLES[role].power for role in roles}), "motor")


class PowerFinding(StrEnum):
    """What the readings of a power-up say."""

    TOO_FEW = "too_few"
    AS_EXPECTED = "as_expected"
    SHORT = "short"
    LEAKY = "leaky"
    NOTHING = "nothing"
    HIGH = "high"
    LOW = "low"
    MORE = "more"
    LESS = "less"
    RISING = "rising"


EXPLAINABLE = frozenset(
    {PowerFinding.LOW, PowerFinding.MORE, PowerFinding.LESS, PowerFinding.TOO_FEW}
)  # what a word of why may pass


@dataclass(frozen=True, slots=True)
class Logged:
    """What was read at a step: rail and current, and the current a little later where it was read twice."""

    percent: float
    rail_v: float | None
    current_a: float | None
    later_a: float | None = None


@dataclass(frozen=True, slots=True)
class Trend:
    """What a log says before the next step: whether to stop, how steeply current rises over voltage, in one sentence."""

    finding: PowerFinding
    stop: bool
    exponent: float | None
    sentence: str


def read_trend(plan: Iterable[Step], log: Sequence[Logged]) -> Trend:
    """Judge the last reading against its step, to either side, and all of them by how current rises with voltage.

    :param plan: the steps, with what was expected
    :param log: readings in the order they were taken
    :returns: Trend; anything but as expected stops, and the next step asks for a word of why; `exponent` of a straight line of log
        current over log voltage, None with fewer than two steps
    :raises InputError: a reading is out of range
    :source: Ohm's law: a healthy rectified load draws in proportion or less; leakage of a failing part rises faster
    """
    if not log:
        return Trend(PowerFinding.TOO_FEW, False, None, "Nothing was read yet: the first step tells most.")
    for row in log:
        PERCENTS.check("percent", row.percent)
        for field in ("rail_v", "current_a", "later_a"):
            if not math.isfinite(getattr(row, field) or 0.0):
                raise InputError(field, "A reading is a number.")
    steps, last = tuple(plan), log[-1]

    def planned(row: Logged) -> Step:
        return min(steps, key=lambda known: abs(known.percent - row.percent))

    conducting = [row for row in log if planned(row).conducts]  # before a valve conducts its heater is all there is
    exponent = _exponent([(row.percent, row.current_a) for row in conducting])
    step = planned(last)
    due = {"rail": (step.rail_v, last.rail_v), "current": (step.current_a, last.current_a)}
    if any(want is not None for want, _ in due.values()) and all(want is None or read is None for want, read in due.values()):
        says = f"At {last.percent:g} % nothing that was due was read: read it before the next step."
        return Trend(PowerFinding.TOO_FEW, True, exponent, says)
    found = _current_and_rail(planned(last), last) or _rising(planned(last), last, exponent) or _beside(planned(last), last)
    return replace(found, exponent=exponent)


def _current_and_rail(step: Step, last: Logged) -> Trend | None:
    """What rail and current tell together: a short, nothing at all, something that draws besides."""
    at, drawn = f"At {last.percent:g} %", show(last.current_a, "A") if last.current_a is not None else ""
    due = show(step.current_a, "A") if step.current_a else ""
    low = step.rail_v and last.rail_v is not None and last.rail_v < TABLE["low_rail"] * step.rail_v - TABLE["rail_slack_v"]
    high = step.stop_a and last.current_a is not None and last.current_a > step.stop_a + TABLE["current_slack_a"]
    if low and high:
        return Trend(PowerFinding.SHORT, True, None, f"{at} {drawn} for {due} and hardly a rail: a short. Off, and look.")
    if last.current_a is not None and last.current_a <= TABLE["low_rail"] * step.least_a and (low or step.rail_v is None):
        return Trend(PowerFinding.NOTHING, True, None, f"{at} neither rail nor current: a fuse, a switch, an open circuit.")
    if step.draws and last.current_a is not None and last.current_a <= TABLE["current_slack_a"]:
        return Trend(PowerFinding.NOTHING, True, None, f"{at} no current at all: an open circuit. Off, and look.")
    if high:
        return Trend(PowerFinding.LEAKY, True, None, f"{at} {drawn} for {due}: something draws besides the load. Off.")
    return None


def _rising(step: Step, last: Logged, exponent: float | None) -> Trend | None:
    """A current that does not settle, or rises faster than the voltage and beyond what is expected: a relay may pull in."""
    slack = TABLE["current_slack_a"]
    if last.later_a is not None and last.current_a and last.later_a > last.current_a * (1 + TABLE["settle"]) + slack:
        says = (
            f"At {last.percent:g} % the current does not settle: {show(last.current_a, 'A')}, then {show(last.later_a, 'A')}. Off."
        )
        return Trend(PowerFinding.RISING, True, None, says)
    above = not step.current_a or (last.current_a or 0.0) > _most(step.current_a)
    if exponent is not None and exponent > TABLE["steep"] and above:
        says = f"Current rises as voltage to the power {exponent:.1f}: faster than a healthy load. Stay here, and look."
        return Trend(PowerFinding.LEAKY, True, None, says)
    return None


def _most(current: float) -> float:
    """The most current that is as expected."""
    return current * (1 + float(TABLE["current_within"])) + float(TABLE["current_slack_a"])


def _beside(step: Step, last: Logged) -> Trend:
    """A rail or a current beside what its step expects, to either side, also where no rail was due."""
    at = f"At {last.percent:g} %"
    if step.rail_v is not None and last.rail_v is not None:
        due, read = show(step.rail_v, "V"), show(last.rail_v, "V")
        reach = TABLE["rail_within"] * step.rail_v + (TABLE["rail_slack_v"] if step.rail_v else TABLE["none_due_v"])
        if last.rail_v > step.rail_v + reach:
            says = f"{at} the rail stands at {read} for {due}: too high. Off, and look at tap, regulator and load."
            return Trend(PowerFinding.HIGH, True, None, says)
        if last.rail_v < step.rail_v - reach:
            return Trend(PowerFinding.LOW, True, None, f"{at} the rail stands at {read} for {due}: look before the next step.")
    if step.current_a and last.current_a is not None:
        due, read = show(step.current_a, "A"), show(last.current_a, "A")
        if last.current_a > _most(step.current_a):
            return Trend(PowerFinding.MORE, True, None, f"{at} {read} for {due}: more than expected: look before the next step.")
        if last.current_a < step.least_a:
            return Trend(PowerFinding.LESS, True, None, f"{at} {read} for {due}: less than expected: look before the next step.")
    if step.full_a and last.current_a is not None and last.current_a > _most(step.full_a):
        due, read = show(step.full_a, "A"), show(last.current_a, "A")
        says = f"{at} {read} for {due} of a full store: it still fills, or something leaks. Read it again when it stands."
        return Trend(PowerFinding.MORE, True, None, says)
    return Trend(PowerFinding.AS_EXPECTED, False, None, f"{at} as expected: the next step.")


def _exponent(points: Sequence[tuple[float, float | None]]) -> float | None:
    """Slope of log current over log voltage by least squares, over steps of different voltage."""
    logs = [(math.log(percent), math.log(current)) for percent, current in points if current and current > 0]
    if len({x for x, _ in logs}) < 2:
        return None
    mean_x, mean_y = (sum(values) / len(logs) for values in zip(*logs, strict=True))
    spread = sum((x - mean_x) ** 2 for x, _ in logs)
    return float(sum((x - mean_x) * (y - mean_y) for x, y in logs) / spread)
