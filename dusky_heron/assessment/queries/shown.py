"""Evidence and verdicts as the API shows them."""

import dataclasses
import math

from dusky_heron.assessment.models import Reading
from dusky_heron.assessment.queries.known import Known
from dusky_heron.assessment.schemas import (
    AskOut,
    AssessmentOut,
    BarOut,
    ChangeOut,
    FindingOut,
    ReadingOut,
    RecordedOut,
    SeenOut,
    VerdictOut,
    WayOut,
    ZoneOut,
)
from dusky_heron.core import model as core
from dusky_heron.core.quantities import show, show_range, show_time
from dusky_heron.core.verdict.capacitance import zones
from dusky_heron.core.verdict.difference import differences
from dusky_heron.core.verdict.two_core import ways
from dusky_heron.presented import Figure


def show_known(known: Known) -> AssessmentOut:
    """Everything known about the part in a position."""
    offered = known.differs and known.recorded is not None
    return AssessmentOut(
        part_names=list(known.position.part_names),
        readings=[show_reading(r) for r in known.readings],
        signs=[SeenOut.from_row(s) for s in known.signs],
        bars=[show_bar(known, number) for number in range(len(known.position.parts))],
        verdict=show_verdict(known.verdict),
        recorded=RecordedOut.from_row(known.recorded) if known.recorded else None,
        differs=known.differs,
        changes=[ChangeOut.from_row(c) for c in differences(known.before, known.reasons)] if offered else [],
        ways=_ways(known),
    )


def _ways(known: Known) -> list[WayOut]:
    if known.position.role != core.Role.Y:
        return []
    return [WayOut.from_row(way) for way in ways(known.position.equipment, known.judging.schools["two_core"])]


def show_bar(known: Known, number: int) -> BarOut:
    """A section drawn on what its capacitance may be."""
    found = zones(known.position, number, known.evidence, limits=known.judging.limits)
    start, end = found[0].low_f, found[-1].high_f
    marked, reading = known.position.parts[number].capacitance_f, known.evidence.screening(number)
    if reading and reading.beyond_range:
        reading = None

    def share(farads: float) -> float:
        return round(min(max((farads - start) / (end - start), 0.0), 1.0), 5)

    return BarOut(
        section=number,
        zones=[
            ZoneOut(
                word=zone.word,
                says=zone.says,
                start=share(zone.low_f),
                width=share(zone.high_f) - share(zone.low_f),
                edge=Figure.of(zone.high_f, "F"),
            )
            for zone in found
        ],
        marked=share(marked),
        marked_value=Figure.of(marked, "F"),
        reading=Figure.of(reading.value, "F") if reading else None,
        at=share(reading.value) if reading else None,
        low=share(reading.low) if reading else None,
        high=share(reading.high) if reading else None,
    )


def show_verdict(verdict: core.Verdict) -> VerdictOut:
    """A verdict with its reasons, worst first."""
    fields = FindingOut.model_fields
    return VerdictOut(
        word=verdict.word,
        asks_for_another_part=verdict.word in core.TO_REPLACE,
        reasons=[FindingOut(**{k: v for k, v in dataclasses.asdict(f).items() if k in fields}) for f in verdict.reasons],
        next_measurement=_ask(verdict.next_measurement) if verdict.next_measurement else None,
        rules_version=verdict.rules_version,
    )


def _ask(ask: core.Measurement) -> AskOut:
    hertz = show(ask.frequency_hz, "Hz") if ask.frequency_hz else ""
    volts = f"{ask.volts:.4g} V" if ask.volts else ""
    return AskOut(
        sentence=ask.sentence, quantity=ask.quantity, condition=ask.condition, section=ask.section, frequency=hertz, volts=volts
    )


def show_reading(reading: Reading) -> ReadingOut:
    """A reading with its interval; a bound is shown as one, and one beyond its range as it was typed."""
    unit = core.QUANTITY_UNITS[core.Quantity(reading.quantity)]
    beyond = reading.low == 0 and math.isinf(reading.high)
    figure = Figure.of(reading.value, unit)
    if bound := _bound(reading):
        figure = figure.model_copy(update={"number": f"{bound} {figure.number}"})
    return ReadingOut(
        section=reading.section,
        quantity=core.Quantity(reading.quantity),
        what=_say_quantity(reading),
        value=figure.model_copy(update={"number": reading.typed, "unit": ""}) if beyond else figure,
        interval=interval(reading),
        typed=reading.typed,
        at_volts=_at_volts(reading),
        temperature=f"{reading.temperature_c:g} °C" if reading.temperature_c is not None else "",
        condition=core.Condition(reading.condition),
        how=core.CONDITION_TITLES[core.Condition(reading.condition)],
        meter_name=reading.meter_name,
        overdue=reading.overdue,
        at=reading.when,
        by_name=reading.by_name,
        sequence=reading.sequence,
        struck=reading.struck is not None,
    )


def _bound(reading: Reading) -> str:
    """The sign before the figure of a reading that only says how much at least, or at most."""
    if math.isinf(reading.high):
        return ">"
    return "<" if reading.typed.lstrip().startswith("<") else ""


def interval(reading: Reading) -> str:
    """What a reading may stand for, in words."""
    unit = core.QUANTITY_UNITS[core.Quantity(reading.quantity)]
    if math.isinf(reading.high):
        return f"at least {show(reading.low, unit)}" if reading.low else "beyond the range of the meter"
    return show_range(reading.low, reading.high, unit)


def _at_volts(reading: Reading) -> str:
    """The volts a reading was taken at, and after how long: `500 V after 1 min`."""
    volts = show(reading.volts, "V") if reading.volts else ""
    return " ".join(filter(None, (volts, f"after {show_time(reading.seconds)}" if reading.seconds else "")))


def _say_quantity(reading: Reading) -> str:
    at = f" at {show(reading.frequency_hz, 'Hz')}" if reading.frequency_hz else ""
    return core.QUANTITY_TITLES[core.Quantity(reading.quantity)] + at
