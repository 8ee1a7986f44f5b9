"""Checks before handing back: which ones a repair asks for, their limits with sources, and what readings say to them."""

import math
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from dusky_heron.core.circuit.dropper import powered_at
from dusky_heron.core.discharge.limits import PLUG_PINS, DischargeLimit
from dusky_heron.core.discharge.pins import behind_plug, on_the_pins
from dusky_heron.core.discharge.touch_current import MEDICAL
from dusky_heron.core.errors import SUPPLY_VOLTAGE, InputError, Range
from dusky_heron.core.metering.accuracy import Specification, Value, can_measure, read_value
from dusky_heron.core.metering.in_service import from_clamp
from dusky_heron.core.model import QUANTITY_UNITS, ROLES, Position, Quantity, Role
from dusky_heron.core.model.roles import roles_that
from dusky_heron.core.model.voltages import rule_voltage
from dusky_heron.core.quantities import parse_quantity, show, show_range
from dusky_heron.core.tables import toml_table

TABLE = toml_table("checks")
RAILS = roles_that(lambda row: "rail" in row.checks)
LEAD, RATIO = Range("The lead", 0.0, 10.0, "Ω"), Range("Power factor", 0.0, 1.0, "")
DENSITY = Range("Leakage of radiation", 0.0, 1e4, "W/m²")
ANSWERS = {"yes": True, "y": True, "no": False, "n": False}
MOST_LONG = 400


class Otherwise(StrEnum):
    """What a check asks for that is no quantity of a meter: an answer in words, a plain ratio, W/m² of a survey meter."""

    YES = "yes"
    FACTOR = "factor"
    RADIATION = "radiation"


class Outcome(StrEnum):
    """What a check came to."""

    PASSES = "passes"
    FAILS = "fails"
    UNCLEAR = "cannot tell"


@dataclass(frozen=True, slots=True)
class Check:
    """One check: of the equipment, or of a `place`; between `low` and `high` in SI units, either None for no such end.

    `readings` is how many are wanted; `against` names a figure to be typed beside it; `refused` says why nothing that is read here
    approves the work. `at_v` is the nominal mains, about whose tolerance the limits hold; they are scaled to the
    mains that was typed, and without it nothing passes. `supply_hz` makes amperes and volts a capacitance.
    """

    id: str
    title: str
    quantity: Quantity | Otherwise
    how: str
    source: str
    low: float | None = None
    high: float | None = None
    required: bool = True
    place: str = ""
    readings: int = 1
    against: str = ""
    refused: str = ""
    at_v: float | None = None
    supply_hz: float | None = None

    @property
    def unit(self) -> str:
        """The SI unit of what is read; nothing for a word or a ratio."""
        if isinstance(self.quantity, Quantity):
            return QUANTITY_UNITS[self.quantity]
        return "W/m²" if self.quantity is Otherwise.RADIATION else ""

    @property
    def limit(self) -> str:
        """The limit in words."""
        if self.quantity is Otherwise.YES:
            return "yes"
        if self.low is not None and self.high is not None:
            return show_range(self.low, self.high, self.unit)
        if self.high is not None:
            return f"at most {show(self.high, self.unit)}"
        return f"at least {show(self.low, self.unit)}" if self.low is not None else f"against {self.against}"


@dataclass(frozen=True, slots=True)
class Repaired:
    """Equipment after the work: its places with what is printed on the parts in them now, and which of them are new.

    `pins` and `touch` are the limits that apply to it; `rail_v` is what its rail should be, None when not known.
    """

    protection: str
    two_core: bool
    plug: bool
    places: Sequence[Position]
    changed: frozenset[str]
    pins: Sequence[DischargeLimit] = ()
    touch: Sequence[DischargeLimit] = ()
    rail_v: float | None = None


@dataclass(frozen=True, slots=True)
class Checked:
    """What a check came to, with the worst value's interval and a sentence."""

    outcome: Outcome
    value: Value | None
    sentence: str


def checks_for(work: Repaired) -> tuple[Check, ...]:
    """The checks a repair asks for before it is handed back; those of a place whose part is new are required.

    :param work: the equipment after the work
    :returns: checks, those of the whole equipment first, what it came for last
    :raises InputError: a dropper's circuit out of range
    :source: table `checks`; the standards in it

    >>> [check.id for check in checks_for(Repaired("II", False, False, (), frozenset()))]
    ['insulation']
    """
    of_places = (check for place in work.places for check in _of_place(work, place))
    return (*_of_equipment(work), *of_places, *([_row("complaint")] if work.changed else []))


def _row(key: str, *, place: str = "", **more: object) -> Check:
    row = TABLE[key]
    check = Check(
        id=f"{key}:{place}" if place else key,
        title=row["title"],
        quantity=_asked(row["quantity"]),
        how=row["how"],
        source=row.get("source", ""),
        high=row.get("at_most"),
        place=place,
        against=row.get("against", ""),
    )
    return replace(check, **more)  # type: ignore[arg-type]


def _of_equipment(work: Repaired) -> Iterator[Check]:
    if work.protection != "II" and not work.two_core:
        yield _row("earth")
    yield _row("insulation", low=TABLE["insulation"]["at_least"]["I" if work.protection == "I" else "II"])
    if any(place.role == Role.Y for place in work.places):
        yield from _touch(work)
    if work.plug:
        yield from _pins(work)
    if any(place.role in RAILS and place.name in work.changed for place in work.places):
        low, high = (
            (work.rail_v * (1 - TABLE["rail_share"]), work.rail_v * (1 + TABLE["rail_share"])) if work.rail_v else (None,) * 2
        )
        yield _row("rail", low=low, high=high, **({"against": ""} if work.rail_v else {}))
        yield _row("ripple", required=False)


def _touch(work: Repaired) -> Iterator[Check]:
    """The strictest limit that applies; medical equipment counts only where its standard was chosen."""
    medical = [row for row in work.touch if row.equipment == MEDICAL]
    rows = medical if len(medical) == len(work.touch) else [row for row in work.touch if row.equipment != MEDICAL]
    if not rows:
        return
    row = min(rows, key=lambda one: one.value or 0.0)
    changed = any(place.role == Role.Y and place.name in work.changed for place in work.places)
    refused = "Medical equipment: a changed Y part is not approved here, whatever it carries."
    yield _row(
        "touch", high=(row.value or 0.0) / 1000, source=_of(rows, row), refused=refused if medical == rows and changed else ""
    )


def _pins(work: Repaired) -> Iterator[Check]:
    """The lowest voltage that applies: what is below it sooner is below the others later."""
    across = on_the_pins(work.places)
    farads = behind_plug(across).across_f
    peak = max((rule_voltage(place.supply_v).volts for place in across if place.supply_v), default=0.0)
    rows = [row for row in work.pins if row.place == PLUG_PINS]
    if not rows or not farads:
        return
    row = min(rows, key=lambda one: (one.target_v(farads, peak), one.after_s or 0.0))
    title = f"{TABLE['pins']['title']}, at {row.after_s:g} s"
    yield _row("pins", title=title, high=row.target_v(farads, peak), source=_of(rows, row), readings=TABLE["pin_readings"])


def _of(rows: Sequence[DischargeLimit], row: DischargeLimit) -> str:
    """The source of a limit, and that it was taken as the strictest where no standard was chosen."""
    return row.source if len(rows) == 1 else f"{row.source}; the strictest of {len(rows)}: choose the standard at intake"


PLAIN = ("starts", "run_current", "start_switch", "holds", "radiation", "bleeder", "inlet")  # of a place, each a row as it stands
CHOICES = frozenset({"run_current", "bleeder", "inlet"})  # recorded, never demanded


def _of_place(work: Repaired, place: Position) -> Iterator[Check]:
    new, asked = place.name in work.changed, ROLES[place.role].checks
    if "idle" in asked and place.supply_v and place.supply_hz:
        yield from _idle(work, place, place.supply_v, place.supply_hz, required=new)
    for key in PLAIN:
        if key in asked:
            yield _row(key, place=place.name, required=new and key not in CHOICES)
    if "in_service" in asked:
        for number, section in enumerate(place.parts):
            said = f" of {place.part_names[number]}" if place.part_names[number] else ""
            row = _row(
                "in_service",
                place=place.name,
                low=section.lowest_f,
                high=section.highest_f,
                required=new,
                supply_hz=place.supply_hz,
            )
            yield replace(row, id=f"{row.id}.{number + 1}", title=f"{row.title}{said}") if said else row


def _idle(work: Repaired, place: Position, supply_v: float, supply_hz: float, *, required: bool) -> Iterator[Check]:
    """Current at idle with all that is across the line, and the power factor where the circuit is known, at both ends of both."""
    mains, around = (1 - TABLE["mains_share"], 1 + TABLE["mains_share"]), place.surroundings.dropper
    across = [other for other in work.places if other.role == Role.X]
    beside = [sum(getattr(part, end) for other in across for part in other.parts) for end in ("lowest_f", "highest_f")]
    beside = [2 * math.pi * supply_hz * farads * supply_v for farads in beside]
    if around is None or not around.states:
        alone = [2 * math.pi * supply_hz * farads * supply_v for farads in _spread(place)]
        drawn = [(own + more) * share for own, more in zip(alone, beside, strict=True) for share in mains]
        yield _row("idle", place=place.name, low=min(drawn), high=max(drawn), required=required, at_v=supply_v)
        return
    ends = [(farads, more, share) for farads, more in zip(_spread(place), beside, strict=True) for share in mains]
    states = [powered_at(around, farads, supply_v, supply_hz, share) for farads, _, share in ends]
    drawn = [
        math.hypot(state.input_a * state.power_factor, state.input_a * math.sqrt(1 - state.power_factor**2) + more * share)
        for state, (_, more, share) in zip(states, ends, strict=True)
    ]
    yield _row("idle", place=place.name, low=min(drawn), high=max(drawn), required=required, at_v=supply_v)
    factors, error = [state.power_factor for state in states], TABLE["factor_error"]
    low, high = max(min(factors) - error, 0.0), min(max(factors) + error, 1.0)
    if not across:
        yield _row("factor", place=place.name, low=low, high=high, required=False)


def _spread(place: Position) -> tuple[float, float]:
    first = place.parts[0]
    return first.lowest_f, first.highest_f


def take_check(check: Check, typed: str, meter: Specification, *, against: str = "", lead: str = "") -> Checked:
    """Judge what was typed for a check: passes, fails or cannot tell, by the interval its meter leaves.

    :param check: one of `checks_for`
    :param typed: the reading, several apart by blanks where several are wanted, or yes or no
    :param meter: what is kept of the meter
    :param against: the figure it is held against, where the check names one
    :param lead: resistance of the test lead, taken from an earth reading
    :returns: Checked
    :raises InputError: not readable (`value`, `against`, `lead`)
    :source: ISO/IEC Guide 98-3: a limit inside the interval of a reading decides nothing

    >>> check = Check("earth", "earth continuity", Quantity.RESISTANCE, "", "", high=0.1)
    >>> take_check(check, "0.05", Specification()).outcome.value
    'passes'
    """
    if check.quantity is Otherwise.YES:
        return _answered(check, typed)
    low, high = check.low, check.high
    if check.at_v:
        low, high = _at_mains(check, against)
    elif check.against and low is None and high is None:
        low, high = _against(check, against)
    values = [_read(check, piece, meter, lead, against) for piece in _pieces(check, typed)]
    worst = max(values, key=lambda value: value.high) if low is None else min(values, key=lambda value: value.low)
    said = show(worst.value, check.unit) if math.isfinite(worst.value) else typed
    held = replace(check, low=low, high=high).limit
    if check.refused:
        return Checked(Outcome.FAILS, worst, check.refused)
    if (high is not None and worst.low > high) or (low is not None and worst.high < low):
        return Checked(Outcome.FAILS, worst, f"{said}: {held} is asked for.")
    if (high is not None and worst.high > high) or (low is not None and worst.low < low):
        return Checked(Outcome.UNCLEAR, worst, f"{said}: within the meter's error of {held}. A finer meter decides.")
    if check.at_v and not against:
        return Checked(Outcome.UNCLEAR, worst, f"{said}: at which mains? Type {check.against} beside it.")
    if len(values) < check.readings:
        says = f"{len(values)} of {check.readings} readings: the phase at unplugging is random, one proves nothing."
        return Checked(Outcome.UNCLEAR, worst, says)
    return Checked(Outcome.PASSES, worst, f"{said}: {held}.")


def _asked(name: str) -> Quantity | Otherwise:
    return Otherwise(name) if name in set(Otherwise) else Quantity(name)


def _answered(check: Check, typed: str) -> Checked:
    answer = ANSWERS.get(typed.strip().lower())
    if answer is None:
        raise InputError("value", "Answer yes or no.")
    return Checked(Outcome.PASSES if answer else Outcome.FAILS, None, f"{check.title}: {'yes' if answer else 'no'}.")


def _against(check: Check, against: str) -> tuple[float | None, float | None]:
    """The ends that a typed figure sets: about a rail, at most for the others."""
    if not against:
        raise InputError("against", f"Type {check.against}.")
    limits = Range(check.title.capitalize(), 0.0, 1e6, check.unit, open_low=True)
    figure = parse_quantity(against, check.unit, limits, field="against")
    share = TABLE["rail_share"]
    return (figure * (1 - share), figure * (1 + share)) if check.id == "rail" else (None, figure)


def _at_mains(check: Check, against: str) -> tuple[float | None, float | None]:
    """Limits at the mains that was typed; at any the mains may have where it was not."""
    low, high = check.low or 0.0, check.high or 0.0
    if not against:
        return low, high
    share = parse_quantity(against, "V", SUPPLY_VOLTAGE, field="against") / (check.at_v or 1.0)
    return low * share / (1 - TABLE["mains_share"]), high * share / (1 + TABLE["mains_share"])


def _pieces(check: Check, typed: str) -> list[str]:
    if check.readings == 1:
        return [typed]
    if len(typed) > MOST_LONG:
        raise InputError("value", f"{check.readings} readings, apart by blanks.")
    return [piece for piece in re.split(r"[\s;]+", re.sub(r"(?<=\d)\s+(?=[a-zA-Z])", "", typed.strip())) if piece] or [""]


def _read(check: Check, typed: str, meter: Specification, lead: str, against: str) -> Value:
    if check.supply_hz and (against or typed.strip()[-1:] in "Aa"):
        return _in_service(typed, meter, against, check.supply_hz)
    if check.readings > 1:
        typed = typed.removeprefix("-").removeprefix("\N{MINUS SIGN}")  # of pins either may be the positive one
    if check.quantity is Otherwise.RADIATION:
        value = parse_quantity(typed, "W/m²", DENSITY)
        return Value(value, value * (1 - TABLE["survey_error"]), value * (1 + TABLE["survey_error"]))
    if isinstance(check.quantity, Otherwise):
        value, error = parse_quantity(typed, "", RATIO), TABLE["factor_error"]
        return Value(value, max(value - error, 0.0), min(value + error, 1.0))
    read = read_value(typed, check.quantity, meter)
    less = parse_quantity(lead, "Ω", LEAD, field="lead") if lead and check.id == "earth" else 0.0
    if less > read.value:
        raise InputError("lead", "The lead alone would read more than that.")
    return Value(read.value - less, max(read.low - less, 0.0), read.high - less)


def _in_service(typed: str, meter: Specification, against: str, supply_hz: float) -> Value:
    """A capacitance from the amperes through it and the volts across it."""
    amperes = read_value(typed, Quantity.CURRENT, meter)
    try:
        volts = read_value(against, Quantity.VOLTS_AC, meter)
        return from_clamp(amperes, volts, supply_hz)
    except InputError as error:
        raise InputError("value" if error.field == "value" and against else "against", error.sentence) from error


def asked_of(check: Check) -> Quantity:
    """The quantity a meter is asked for: amperes where a capacitance is read in service."""
    return Quantity.CURRENT if check.supply_hz else Quantity(check.quantity)


def measures(check: Check, meter: Specification) -> bool:
    """Whether a meter can take what a check asks for.

    :param check: one of `checks_for`
    :param meter: what is kept of the meter
    :returns: True for answers in words and what no meter is kept for
    :raises InputError: never
    :source: the ranges its maker states; an LCR bridge is no insulation tester
    """
    if isinstance(check.quantity, Otherwise):
        return True
    return can_measure(meter, asked_of(check))


def soak_left(minutes: float, passed_s: float) -> float:
    """Seconds of a soak still to run.

    :param minutes: how long it is asked for
    :param passed_s: seconds since it began
    :returns: seconds, 0 when it is over
    :raises InputError: never
    :source: arithmetic
    """
    return max(0.0, minutes * 60 - passed_s)
