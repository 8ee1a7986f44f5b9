"""First power after a repair: steps with what to expect, the lamp in series, and what the readings say before the next step."""

import math
from collections.abc import Callable, Collection, Iterable, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from dusky_heron.core.circuit import Load
from dusky_heron.core.errors import SUPPLY_VOLTAGE, InputError, Range
from dusky_heron.core.model import Role
from dusky_heron.core.quantities import show
from dusky_heron.core.tables import toml_table

TABLE = toml_table("power_up")
KINDS, BEFORE = TABLE["kinds"], tuple(TABLE["before"])
CASES = {False: TABLE["open"], True: TABLE["closed"]}  # by whether the first test is a closed one
LAMP_WATTS = Range("Lamp", 1.0, 5000.0, "W")
FULL_CURRENT = Range("Current", 0.0, 1000.0, "A", open_low=True)
RAIL = Range("Rail", 0.0, 1e5, "V", open_low=True)
PERCENTS = Range("Step", 0.0, 120.0, "%", open_low=True)
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
    """One point of a power-up: per cent of the supply, what the rail and the current should be, and when to stop."""

    percent: float
    rail_v: float | None
    current_a: float | None
    stop_a: float | None
    dwell_s: float


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
    :param expected: rail and current at a share of the supply, from the simulated circuit; None expects in proportion
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
    steps = list(percents or (TABLE["steps"] if KINDS[kind]["ramp"] else [100.0]))
    for percent in steps:
        PERCENTS.check("steps", percent)
    if steps != sorted(set(steps)):
        raise InputError("steps", "Each step higher than the one before it.")
    if not KINDS[kind]["ramp"] and min(steps) < TABLE["steps"][-2]:
        raise InputError("steps", f"{KINDS[kind]['says']}")
    return tuple(_step(kind, percent, rail_v, current_a, expected) for percent in steps)


def _step(
    kind: str,
    percent: float,
    rail_v: float | None,
    current_a: float | None,
    expected: Callable[[float], tuple[float, float]] | None,
) -> Step:
    share = percent / 100
    rail, current = (rail_v and rail_v * share), (current_a and current_a * share)
    if expected is not None:
        rail, current = expected(share)
    elif KINDS[kind].get("heaters") and percent < TABLE["warm_at"]:
        rail = 0.0 if rail_v else None
    elif kind == "dropper" and share < 1:
        rail = None  # where it is clamped only its circuit tells
    stop = current * TABLE["stop_factor"] if current else None
    return Step(percent, rail, current, stop, TABLE["dwell_s"])


def usual_kind(roles: Collection[Role]) -> str:
    """The kind of supply that the places of a job point to, until somebody says otherwise.

    :param roles: of its places
    :returns: id of a kind; a load on the mains where no place points to a supply
    :raises InputError: never
    :source: table `power_up`
    """
    return next((kind for role, kind in TABLE["of_role"].items() if role in roles), "motor")


class PowerFinding(StrEnum):
    """What the readings of a power-up say."""

    TOO_FEW = "too_few"
    AS_EXPECTED = "as_expected"
    SHORT = "short"
    LEAKY = "leaky"
    NOTHING = "nothing"
    HIGH = "high"
    LOW = "low"
    RISING = "rising"


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
    """Judge the last reading against its step, and all of them by how current rises with voltage.

    :param plan: the steps, with what was expected
    :param log: readings in the order they were taken
    :returns: Trend; `exponent` of a straight line of log current over log voltage, None with fewer than two steps
    :raises InputError: a reading is out of range
    :source: Ohm's law: a healthy rectified load draws in proportion or less; leakage of a failing part rises faster
    """
    if not log:
        return Trend(PowerFinding.TOO_FEW, False, None, "Nothing was read yet: the first step tells most.")
    for row in log:
        PERCENTS.check("percent", row.percent)
    steps, last = tuple(plan), log[-1]

    def planned(row: Logged) -> Step:
        return min(steps, key=lambda known: abs(known.percent - row.percent))

    step = planned(last)
    conducting = [row for row in log if planned(row).rail_v != 0]  # before a valve conducts its heater is all there is
    exponent = _exponent([(row.percent, row.current_a) for row in conducting])
    at = f"At {last.percent:g} %"
    low = step.rail_v and last.rail_v is not None and last.rail_v < TABLE["low_rail"] * step.rail_v
    high = step.stop_a and last.current_a is not None and last.current_a > step.stop_a
    drawn = show(last.current_a, "A") if last.current_a is not None else ""
    expected = show(step.current_a, "A") if step.current_a else ""
    if low and high:
        return Trend(PowerFinding.SHORT, True, exponent, f"{at} {drawn} for {expected} and hardly a rail: a short. Off, and look.")
    if low and last.current_a is not None and step.current_a and last.current_a < step.current_a * TABLE["low_rail"]:
        return Trend(PowerFinding.NOTHING, True, exponent, f"{at} neither rail nor current: a fuse, a switch, an open rectifier.")
    if high:
        return Trend(PowerFinding.LEAKY, True, exponent, f"{at} {drawn} for {expected}: something draws besides the load. Off.")
    if last.later_a is not None and last.current_a and last.later_a > last.current_a * (1 + TABLE["settle"]):
        later = show(last.later_a, "A")
        return Trend(PowerFinding.RISING, True, exponent, f"{at} the current does not settle: {drawn}, then {later}. Off.")
    if exponent is not None and exponent > TABLE["steep"]:
        says = f"Current rises as voltage to the power {exponent:.1f}: faster than a healthy load. Stay here, and look."
        return Trend(PowerFinding.LEAKY, True, exponent, says)
    if low:
        return Trend(PowerFinding.NOTHING, True, exponent, f"{at} the rail is far below {show(step.rail_v or 0.0, 'V')}: look.")
    return replace(_beside(step, last, at), exponent=exponent)


def _beside(step: Step, last: Logged, at: str) -> Trend:
    """A rail beside what its step expects, to either side and where none was due; no current where some was."""
    if step.rail_v is not None and last.rail_v is not None:
        due, read = show(step.rail_v, "V"), show(last.rail_v, "V")
        reach = TABLE["rail_within"] * step.rail_v + (TABLE["rail_slack_v"] if step.rail_v else TABLE["none_due_v"])
        if last.rail_v > step.rail_v + reach:
            says = f"{at} the rail stands at {read} for {due}: too high. Off, and look at tap, regulator and load."
            return Trend(PowerFinding.HIGH, True, None, says)
        if last.rail_v < step.rail_v - reach:
            return Trend(PowerFinding.LOW, True, None, f"{at} the rail stands at {read} for {due}: look before the next step.")
    due_a = step.current_a if step.rail_v is None and step.current_a else 0.0
    if last.current_a is not None and last.current_a < TABLE["low_rail"] * due_a:
        says = f"{at} {show(last.current_a, 'A')} for {show(due_a, 'A')}: an open circuit. Off, and look."
        return Trend(PowerFinding.NOTHING, True, None, says)
    return Trend(PowerFinding.AS_EXPECTED, False, None, f"{at} as expected: the next step.")


def _exponent(points: Sequence[tuple[float, float | None]]) -> float | None:
    """Slope of log current over log voltage by least squares, over steps of different voltage."""
    logs = [(math.log(percent), math.log(current)) for percent, current in points if current and current > 0]
    if len({x for x, _ in logs}) < 2:
        return None
    mean_x, mean_y = (sum(values) / len(logs) for values in zip(*logs, strict=True))
    spread = sum((x - mean_x) ** 2 for x, _ in logs)
    return float(sum((x - mean_x) * (y - mean_y) for x, y in logs) / spread)
