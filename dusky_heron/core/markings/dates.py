"""Date codes: every plausible date, likeliest first."""

import datetime

from dusky_heron.core.markings.model import DateCandidate

OLDEST_YEAR = 1950


def four_figures(code: str, today: datetime.date | None) -> tuple[DateCandidate, ...]:
    """The dates a four-figure code may mean: year and week in either order, this century and the last.

    :param code: four digits
    :param today: dates after it are left out; None leaves none out
    """
    first, second = int(code[:2]), int(code[2:])
    orders = ((first, second, "year then week"), (second, first, "week then year"))
    found = []
    for century in (2000, 1900):
        for yy, week, order in orders:
            year = century + yy
            if 1 <= week <= 53 and year >= OLDEST_YEAR and not _in_future(year, week, today):
                found.append(DateCandidate(year, week, None, f"{code} as {order}"))
    return tuple(found)


def _in_future(year: int, week: int, today: datetime.date | None) -> bool:
    if today is None:
        return False
    now = today.isocalendar()
    return (year, week) > (now.year, now.week)
