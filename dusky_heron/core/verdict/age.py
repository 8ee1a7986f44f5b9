"""Loss with age of film parts: how fast, and when it crosses the limit on a straight line."""

import datetime
from collections.abc import Iterator

from dusky_heron.core.markings.model import DateCandidate
from dusky_heron.core.model import Finding, Role, Word
from dusky_heron.core.quantities import show
from dusky_heron.core.verdict.capacitance import window_of
from dusky_heron.core.verdict.registry import Case, Rule

ROLES = frozenset({Role.X, Role.Y, Role.DROPPER, Role.MOTOR_RUN, Role.MAGNETRON, Role.COUPLING, Role.TIMING, Role.SNUBBER})
YEAR_DAYS = 365.25


def made_on(date: DateCandidate) -> datetime.date:
    """The middle of the week, or the first day of the month, a date code means."""
    if date.week:
        return datetime.date.fromisocalendar(date.year, min(date.week, 52), 4)
    return datetime.date(date.year, date.month or 1, 1)


def _loss(rule: Rule, case: Case) -> Iterator[Finding]:
    made = next((day for d in case.position.marking.dates if (day := made_on(d)) < case.today), None)
    if made is None:
        return
    years = (case.today - made).days / YEAR_DAYS
    for number, section in enumerate(case.position.marking.sections):
        reading = case.evidence.deciding(number)
        limit = window_of(case.position.role, section, case).watch_low_f
        if reading is None or years < case.limits["age.least"].value or not limit < reading.value < section.capacitance_f:
            continue
        lost = section.capacitance_f - reading.value
        left = (reading.value - limit) / (lost / years)
        soon = left < case.limits["age.soon"].value
        crossing = case.today.year + round(left) if left < 100 else None
        when = f"crosses {show(limit, 'F')} about {crossing}" if crossing else f"does not reach {show(limit, 'F')} in its life"
        yield rule.says(
            Word.WATCH if soon else Word.KEEP,
            f"It lost {lost / section.capacitance_f * 100:.2g} % in {years:.2g} years; on a straight line it {when}.",
            reading=f"{show(reading.value, 'F')}, made {made.year}",
            limit=f"watched when less than {case.limits['age.soon'].value:g} years are left",
        )


RULES = (Rule("age.loss", "Loss with age, on a straight line", "marked value, reading and date code", ROLES, _loss),)
