"""A log of time and volts as typed or pasted, one reading a line."""

import re

from dusky_heron.core.discharge.decay import MOST_SAMPLES
from dusky_heron.core.errors import InputError

NUMBER = r"[-+−]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][-+]?\d+)?"
PLAIN = NUMBER.replace("[.,]", "[.]")
TIME = r"(?:(?:(?P<h>\d{1,2}):)?(?P<m>\d{1,2}):(?P<s>\d{2}(?:[.,]\d+)?)|(?P<t>{number})\s*(?P<unit>ms|s|sec|min)?)"
VOLTS = r"(?P<v>{number})\s*(?P<scale>mV|kV|V)?"
SHAPES = tuple(  # semicolon or tab; comma between decimal points; blanks
    re.compile(rf"{TIME.replace('{number}', n)}{between}{VOLTS.replace('{number}', n)}")
    for between, n in ((r"\s*[;\t]\s*", NUMBER), (r"\s*,\s*", PLAIN), (r"\s+", NUMBER))
)
LONGEST_LINE = 80  # characters
SECONDS = {"ms": 1e-3, "min": 60.0}
SCALES = {"mV": 1e-3, "kV": 1e3}


def read_log(text: str) -> list[tuple[float, float]]:
    r"""Read lines of time and volts, such as `5, 212`, `0:05;212,4` or `5 s 0.21 kV`; a line of headings is skipped.

    :param text: lines; between time and volts a comma, semicolon, tab or blank; time in s, ms, min
        or as minutes:seconds, with hours before them or not
    :returns: (seconds, volts) in the order of the lines
    :raises InputError: nothing to read, a line that cannot be read, or too many (field `rows`); the line is named
    :source: none

    >>> read_log("t, V\n0, 358\n2,5; 210,4\n0:05 120 V")
    [(0.0, 358.0), (2.5, 210.4), (5.0, 120.0)]
    """
    lines = [(number, line.strip()) for number, line in enumerate(text.splitlines(), start=1) if line.strip()]
    if len(lines) > MOST_SAMPLES:
        raise InputError("rows", f"That is more than {MOST_SAMPLES} lines.")
    found = []
    for place, (number, line) in enumerate(lines):
        match = _match(line.replace("\u00a0", " "))
        if match:
            found.append((_seconds(match), _number(match["v"]) * SCALES.get(match["scale"] or "", 1.0)))
        elif place or any(c.isdigit() for c in line):
            raise InputError("rows", f"Line {number}: cannot read “{line[:40]}”. Time and volts, such as 5, 212.")
    if not found:
        raise InputError("rows", "Type time and volts, such as 5, 212.")
    return found


def _match(line: str) -> re.Match[str] | None:
    if len(line) > LONGEST_LINE:
        return None
    return next((match for shape in SHAPES if (match := shape.fullmatch(line))), None)


def _number(text: str) -> float:
    return float(text.replace(",", ".").replace("−", "-"))


def _seconds(match: re.Match[str]) -> float:
    if match["t"]:
        return _number(match["t"]) * SECONDS.get(match["unit"] or "", 1.0)
    return int(match["h"] or 0) * 3600 + int(match["m"]) * 60 + _number(match["s"])
