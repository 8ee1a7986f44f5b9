"""Date codes: every plausible date, likeliest first."""

import datetime

from dusky_heron.core.markings.model import DateCandidate
from dusky_heron.core.markings.pieces import END, one

OLDEST_YEAR = 1950
LATEST_YEAR, DECADES = 2029, 3  # a code of one year figure is offered for this many decades back
YEAR_LETTERS = "ABCDEFHJKLMNPRSTUVWX"  # A is 2010, and again every twenty years (IEC 60062)
MONTHS = "123456789OND"
# Four figures with the next ones glued to them; which of both they are is asked.
TORN = one("torn_date", r"[0-9]{4}(?=[0-9]*[.,]?[0-9])", lambda match: match[0], "0123456789", needs="[0-9]{5}|[0-9]{4}[.,][0-9]")
CYCLES = (2010, 1990, 1970)
# Standing alone: never out of letters that belong to a word.
PAIR = one(
    "date_pair",
    rf"(?<![^\W_])(?!X[1-4]|[PS][0-3]|ED\s?[=:]?\s?[0-9])[{YEAR_LETTERS}][{MONTHS}]{END}",
    lambda match: match[0],
    YEAR_LETTERS,
)


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


def figures(code: str, today: datetime.date | None) -> tuple[DateCandidate, ...]:
    """The dates a code of three or four figures may mean.

    :param code: three digits (last figure of the year, then the week) or four
    :param today: dates after it are left out; None leaves none out
    """
    return four_figures(code, today) if len(code) == 4 else three_figures(code, today)


def date_code(code: str, today: datetime.date | None) -> tuple[DateCandidate, ...]:
    """The dates a code by itself may mean, likeliest first.

    :param code: three or four figures, or a year letter and a month sign
    :param today: dates after it are left out; None leaves none out
    :returns: dates; none for what is no date code
    :raises InputError: never
    :source: IEC 60062
    """
    code = code.strip().upper()
    if code.isascii() and code.isdigit() and len(code) in (3, 4):
        return figures(code, today)
    return letter_pair(code, today) if len(code) == 2 and code[0] in YEAR_LETTERS and code[1] in MONTHS else ()


def three_figures(code: str, today: datetime.date | None) -> tuple[DateCandidate, ...]:
    """The dates a code of the last figure of the year and the week may mean, latest first.

    :param code: three digits
    :param today: dates after it are left out; None leaves none out
    """
    week = int(code[1:])
    if not 1 <= week <= 53:
        return ()
    latest = today.year if today else LATEST_YEAR
    years = [year for year in range(latest, OLDEST_YEAR - 1, -1) if year % 10 == int(code[0])]
    found = [DateCandidate(year, week, None, f"{code} as last figure of the year, then week") for year in years]
    return tuple(date for date in found if not _in_future(date.year, week, today))[:DECADES]


def _in_future(year: int, week: int, today: datetime.date | None) -> bool:
    if today is None:
        return False
    now = today.isocalendar()
    return (year, week) > (now.year, now.week)


def letter_pair(code: str, today: datetime.date | None) -> tuple[DateCandidate, ...]:
    """The months a year letter and a month sign may mean, latest first.

    :param code: a year letter and 1 to 9, O, N or D
    :param today: dates after it are left out; None leaves none out
    :source: IEC 60062, twenty-year cycle
    """
    month = MONTHS.index(code[1]) + 1
    years = [start + YEAR_LETTERS.index(code[0]) for start in CYCLES]
    return tuple(
        DateCandidate(year, None, month, f"{code} as year letter and month")
        for year in years
        if today is None or (year, month) <= (today.year, today.month)
    )
