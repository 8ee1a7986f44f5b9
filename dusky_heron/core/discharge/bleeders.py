"""Bleeders: what they do as marked, as measured and open, how they share, and one made for a limit."""

import math
import re
from collections.abc import Iterable
from dataclasses import dataclass

from dusky_heron.core.discharge.falling import TargetTime, target_times, time_to, voltage_after
from dusky_heron.core.discharge.limits import DischargeLimit, WorkingLimit
from dusky_heron.core.discharge.planning import PlannedCharge
from dusky_heron.core.errors import CAPACITANCE, RESISTANCE, TARGET_VOLTAGE, VOLTAGE, InputError
from dusky_heron.core.model import Bleeder
from dusky_heron.core.model.materials import MATERIALS
from dusky_heron.core.quantities import parse_quantity, show
from dusky_heron.core.tables import toml_table

SIZES = toml_table("resistor_sizes")
TOLERANCE = 0.05  # of a fitted resistor whose tolerance is not known
E24 = (10, 11, 12, 13, 15, 16, 18, 20, 22, 24, 27, 30, 33, 36, 39, 43, 47, 51, 56, 62, 68, 75, 82, 91)  # IEC 60063
POWER_MARGIN = 2.0  # a resistor that is always hot is chosen for twice its loss
MOST_IN_SERIES = 20
SURVIVES_SHORT_FROM = 2  # resistors in series: one alone leaves nothing to bear the voltage


@dataclass(frozen=True, slots=True)
class Bled:
    """The fall through a bleeder in one state; `worst` of an open one is the slowest leakage of its dielectric."""

    state: str
    resistance_ohm: float | None
    times: tuple[TargetTime, ...]


@dataclass(frozen=True, slots=True)
class Split:
    """Voltages on the resistors of a bleeder: sharing, and with one of them failed short."""

    count: int
    each_v: float
    one_short_v: float | None
    working_v: float | None
    sentence: str


@dataclass(frozen=True, slots=True)
class Designed:
    """A bleeder that meets a limit: equal E24 resistors in series, its loss, and the time it takes at worst."""

    most_ohm: float
    each_ohm: float
    count: int
    loss_w: float
    each_rated_w: float
    seconds: float


@dataclass(frozen=True, slots=True)
class LimitCheck:
    """One limit held against what is left after its time."""

    row: DischargeLimit
    target_v: float
    left_v: float
    planned_v: float
    meets: bool
    sentence: str


def read_bleeder(text: str) -> tuple[float, int]:
    """Read resistors in series as typed: `150k`, `2 x 150k`.

    :param text: one value, or a number of equal ones
    :returns: ohms of each, and how many
    :raises InputError: no resistance, or more in series than one builds (field `bleeder`)
    :source: IEC 60062 for the letter in the place of the point

    >>> read_bleeder("2 x 150k")
    (150000.0, 2)
    """
    match = re.fullmatch(r"(?:(?P<count>\d{1,3})\s*[x×]\s*)?(?P<each>.*)", text.strip())
    each = parse_quantity(match["each"] if match else text, "Ω", RESISTANCE, field="bleeder")
    count = int(match["count"]) if match and match["count"] else 1
    if not 1 <= count <= MOST_IN_SERIES:
        raise InputError("bleeder", f"A bleeder is 1 to {MOST_IN_SERIES} resistors in series.")
    return each, count


def bled(charge: PlannedCharge, limit: WorkingLimit, bleeder: Bleeder | None, dielectric: str) -> tuple[Bled, ...]:
    """The fall of a charge through its bleeder as marked, as measured, and open. It is never trusted.

    :param charge: what is to be emptied
    :param limit: the working limit that applies
    :param bleeder: what is fitted, None for nothing
    :param dielectric: a key of the table `materials`, for the leakage that is left when the bleeder is open
    :returns: the states, open last
    :raises InputError: a value is out of range
    :source: first-order discharge; R·C of the table `materials`
    """
    states = []
    if bleeder:
        states.append(("as marked", bleeder.marked_ohm))
        if bleeder.measured_ohm and not bleeder.open:
            states.append(("as measured", bleeder.measured_ohm))
    found = [Bled(name, ohm, target_times(charge, limit, ohm, ohm * (1 + TOLERANCE))) for name, ohm in states]
    material = MATERIALS[dielectric]
    leaking = [
        TargetTime(
            time.name,
            time.target_v,
            *(time_to(charge.nominal_f, rc / charge.nominal_f, charge.each_v, time.target_v) for rc in material.rc_s),
        )
        for time in target_times(charge, limit, 1.0, 1.0)
    ]
    return (*found, Bled("open: only leakage", None, tuple(leaking)))


def counted_resistance(fitted: Bleeder | None) -> tuple[float | None, str]:
    """The resistance a bleeder counts with against limits: measured before marked, and never when it is open.

    :param fitted: the bleeder, None when nothing is fitted
    :returns: ohms, None where only leakage is left, and how it was counted in words
    :raises InputError: never
    :source: a bleeder is never trusted by its mark alone: +5 %
    """
    if fitted is None:
        return None, "nothing is fitted"
    if fitted.open:
        return None, "measured open"
    if fitted.measured_ohm:
        return fitted.measured_ohm, f"as measured, {show(fitted.measured_ohm, 'Ω')}"
    return fitted.marked_ohm * (1 + TOLERANCE), f"as marked, {show(fitted.marked_ohm, 'Ω')} +5 %, not measured"


def split(bleeder: Bleeder, voltage_v: float) -> Split:
    """How the resistors of a bleeder share a voltage, and what the others bear when one fails short.

    :param bleeder: equal resistors in series
    :param voltage_v: across all of them, 0 to 1e6
    :returns: Split with a sentence
    :raises InputError: the voltage is out of range
    :source: voltage divides as resistance, worst within ±5 %; working voltages of the table `resistor_sizes`
    """
    volts, count = VOLTAGE.check("voltage_v", voltage_v), bleeder.count
    each = volts * (1 + TOLERANCE) / ((1 + TOLERANCE) + (count - 1) * (1 - TOLERANCE))
    short = volts / (count - 1) if count >= SURVIVES_SHORT_FROM else None
    working = bleeder.working_v
    if working and each > working:
        sentence = f"{show(each, 'V')} on each is more than the {show(working, 'V')} it may work at."
    elif working and short and short > working:
        sentence = f"One failing short puts {show(short, 'V')} on the rest, more than {show(working, 'V')}: they follow."
    elif short:
        sentence = f"One failing short leaves {show(short, 'V')} on each of the rest."
    else:
        sentence = f"One resistor bears all {show(each, 'V')}."
    return Split(count, each, short, working, f"{sentence} One open: nothing is discharged.")


def design_bleeder(row: DischargeLimit, capacitance_f: float, from_v: float, continuous_v: float, working_v: float) -> Designed:
    """The bleeder that meets a limit at worst: R ≤ t / (C ln(V₀ / V)), from E24, enough in series for its working voltage.

    :param row: the limit to meet, with volts and a time
    :param capacitance_f: farads at the top of the tolerance, more than 0 up to 1000
    :param from_v: first voltage, 0 to 1e6
    :param continuous_v: volts (rms or DC) across it while energised, for its loss V²/R
    :param working_v: volts one resistor may work at
    :returns: Designed; the largest E24 value that meets the limit with every resistor at +5 %
    :raises InputError: the limit has no time, or asks for nothing, or cannot be met by a chain of resistors
    :source: first-order discharge; IEC 60063 (E24)
    """
    CAPACITANCE.check("capacitance_f", capacitance_f)
    TARGET_VOLTAGE.check("working_v", working_v)
    target = row.target_v(capacitance_f, VOLTAGE.check("from_v", from_v))
    if row.after_s is None or target >= from_v:
        raise InputError("limit", "This limit asks nothing of a bleeder here.")
    most = row.after_s / (capacitance_f * math.log(from_v / target))
    count = 1
    while split(Bleeder(1.0, count), from_v).each_v > working_v:
        count += 1
        if count > MOST_IN_SERIES:
            raise InputError("working_v", f"That takes more than {MOST_IN_SERIES} resistors in series: choose a larger size.")
    each = e24_below(most / (count * (1 + TOLERANCE)))
    total = each * count
    loss = continuous_v**2 / (total * (1 - TOLERANCE))
    seconds = time_to(capacitance_f, total * (1 + TOLERANCE), from_v, target)
    return Designed(most, each, count, loss, POWER_MARGIN * loss / count, seconds)


def e24_below(ohm: float) -> float:
    """The largest value of the E24 series that is not above a resistance.

    :param ohm: more than 0
    :returns: ohms
    :raises InputError: not a positive number
    :source: IEC 60063
    """
    if not (math.isfinite(ohm) and ohm > 0):
        raise InputError("ohm", "A resistance must be more than 0 Ω.")
    decade = 10.0 ** math.floor(math.log10(ohm))
    steps = [digits * decade / 10 for digits in E24]
    return float(f"{max((s for s in steps if s <= ohm * (1 + 1e-9)), default=decade):.3g}")


def check_limits(
    rows: Iterable[DischargeLimit],
    capacitance_f: float,
    resistance_ohm: float,
    rated_v: float,
    planned_v: float,
) -> tuple[LimitCheck, ...]:
    """Hold what is left through a resistance against limits, each after its own time: judged at rated voltage.

    :param rows: limits with a time
    :param capacitance_f: farads at the top of the tolerance
    :param resistance_ohm: ohms at the top of the tolerance, or the leakage when the bleeder is open
    :param rated_v: first voltage at rated supply, which a standard judges by
    :param planned_v: first voltage to plan with, shown beside
    :returns: one LimitCheck a row; a charge that is allowed instead of the volts counts
    :raises InputError: a value is out of range
    :source: first-order discharge; the clause in the id of each row
    """
    checks = []
    for row in rows:
        if row.after_s is None:
            continue
        target = row.target_v(capacitance_f, rated_v)
        left = voltage_after(capacitance_f, resistance_ohm, rated_v, row.after_s)
        planned = voltage_after(capacitance_f, resistance_ohm, planned_v, row.after_s)
        by_charge = row.charge_c is not None and capacitance_f * left <= row.charge_c
        meets = left <= target or by_charge
        charge = f", {show(capacitance_f * left, 'C')} by charge" if by_charge and left > target else ""
        verb = "meets" if meets else "fails"
        checks.append(LimitCheck(row, target, left, planned, meets, f"{show(left, 'V')} left{charge}: {verb} {show(target, 'V')}."))
    return tuple(checks)
