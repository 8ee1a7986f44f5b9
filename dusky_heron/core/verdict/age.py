"""Loss with age of film parts: how fast, and when it crosses the limit on a straight line."""

import datetime
from collections.abc import Iterator

from dusky_heron.core.ageing.life import electrolytic_life, years_left
from dusky_heron.core.markings.model import DateCandidate
from dusky_heron.core.model import Finding, Position, Word
from dusky_heron.core.model.roles import ServiceDuty, roles_that
from dusky_heron.core.quantities import show
from dusky_heron.core.verdict.capacitance import window_of
from dusky_heron.core.verdict.registry import Case, Rule

ELECTROLYTIC = roles_that(lambda row: row.electrolytic and row.duty == ServiceDuty.CONTINUOUS)
FILM = roles_that(lambda row: not row.electrolytic)
YEAR_DAYS = 365.25


def made_on(date: DateCandidate) -> datetime.date:
    """The middle of the week, or the first day of the month, a date code means."""
    if date.week:
        return datetime.date.fromisocalendar(date.year, min(date.week, 52), 4)
    return datetime.date(date.year, date.month or 1, 1)


def made(position: Position, today: datetime.date) -> datetime.date | None:
    """The likeliest day a part was made by its date code; never one to come."""
    return next((day for d in position.marking.dates if (day := made_on(d)) < today), None)


def age_years(position: Position, today: datetime.date) -> float | None:
    """Years since a part was made; None without a date code.

    :param position: the place with its part's marking
    :param today: the day of the judgement
    :returns: years
    :raises InputError: never
    :source: the date code
    """
    day = made(position, today)
    return (today - day).days / YEAR_DAYS if day else None


def life_used(position: Position, today: datetime.date) -> float | None:
    """The share of its life a part has used: hours run over the life at its temperature; None when either is not known.

    :param position: the place with its part's marking and circuit
    :param today: the day of the judgement
    :returns: share, above 1 when it has outlived it
    :raises InputError: never
    :source: L = L0 · 2^((T0 − T)/10), hours a day since the date code
    """
    life, years = position.surroundings.life, age_years(position, today)
    if life is None or years is None:
        return None
    return years * YEAR_DAYS * life.hours_a_day / electrolytic_life(life.rated_h, life.rated_c, life.runs_c)


def _loss(rule: Rule, case: Case) -> Iterator[Finding]:
    day, years = made(case.position, case.today), age_years(case.position, case.today)
    if day is None or years is None:
        return
    for number, section in enumerate(case.position.parts):
        reading = case.evidence.deciding(number)
        limit = window_of(case.position.role, section, case).watch_low_f
        if reading is None or years < case.limits["age.least"].value or not limit < reading.value < section.capacitance_f:
            continue
        lost = section.capacitance_f - reading.value
        left = years_left(section.capacitance_f, reading.value, years, limit)
        soon = left < case.limits["age.soon"].value
        crossing = case.today.year + round(left) if left < 100 else None
        when = f"crosses {show(limit, 'F')} about {crossing}" if crossing else f"does not reach {show(limit, 'F')} in its life"
        yield rule.says(
            Word.WATCH if soon else Word.KEEP,
            f"It lost {lost / section.capacitance_f * 100:.2g} % in {years:.2g} years; on a straight line it {when}.",
            reading=f"{show(reading.value, 'F')}, made {day.year}",
            limit=f"watched when less than {case.limits['age.soon'].value:g} years are left",
        )


def _hours(hours: float) -> str:
    return f"{hours:,.0f} h".replace(",", "\u00a0")


def _life(rule: Rule, case: Case) -> Iterator[Finding]:
    life, day, used = case.position.surroundings.life, made(case.position, case.today), life_used(case.position, case.today)
    if life is None or day is None or used is None:
        return
    hours = electrolytic_life(life.rated_h, life.rated_c, life.runs_c)
    ends = case.today.year + round((1 - used) * hours / (life.hours_a_day * YEAR_DAYS))
    when = f"; used up about {ends}" if case.today.year <= ends < case.today.year + 50 else ""
    soon = used >= case.limits["life.soon"].value
    yield rule.says(
        Word.WATCH if soon else Word.KEEP,
        f"It has used {used * 100:.0f} % of its life{when}.",
        reading=f"{_hours(used * hours)} since {day.year}, {life.hours_a_day:g} h a day",
        limit=f"{_hours(hours)} at {life.runs_c:g} °C, watched from {case.limits['life.soon'].value * 100:g} %",
    )


RULES = (
    Rule("age.loss", "Loss with age, on a straight line", "marked value, reading and date code", FILM, _loss),
    Rule("age.life", "Hours used against the life at its temperature", "L = L0 · 2^((T0 − T)/10)", ELECTROLYTIC, _life),
)
