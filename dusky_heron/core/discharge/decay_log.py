"""A log of time and volts as typed or pasted, one reading a line, in one format from the first line to the last."""

import re
from collections.abc import Sequence

from dusky_heron.core.discharge.decay import MOST_SAMPLES
from dusky_heron.core.errors import InputError
from dusky_heron.core.figures import SAME_LENGTH, sign_told, the_number

NUMBER = r"[-+]?(?:[0-9]{1,3}(?:[ '][0-9]{3})+(?:[.,][0-9]+)?|[0-9]+(?:[.,][0-9]+)*[.,]?|[.,][0-9]+)(?:[eE][-+]?[0-9]+)?"
PLAIN = r"[-+]?(?:[0-9]+(?:[.][0-9]*)?|[.][0-9]+)(?:[eE][-+]?[0-9]+)?"
TIME = r"(?:(?:(?P<h>\d{1,2}):)?(?P<m>\d{1,2}):(?P<s>\d{2}(?:[.,]\d+)?)|(?P<t>{number})\s*(?P<unit>ms|s|sec|min)?)"
VOLTS = r"(?P<v>{number})\s*(?P<scale>mV|kV|V)?"
SHAPES = tuple(  # semicolon or tab; comma between decimal points; blanks
    re.compile(rf"{TIME.replace('{number}', n)}{between}{VOLTS.replace('{number}', n)}")
    for between, n in ((r"\s*[;\t]\s*", NUMBER), (r"\s*,\s*", PLAIN), (r"\s+", NUMBER.replace("[ ']", "[']")))
)
LONGEST_LINE = 80  # characters
SECONDS = {"ms": 1e-3, "min": 60.0}
SCALES = {"mV": 1e-3, "kV": 1e3}


def read_log(text: str, *, decimal: str = "") -> list[tuple[float, float]]:
    r"""Read lines of time and volts, such as `5, 212`, `0:05;212,4` or `5 s 0.21 kV`; a line of headings is skipped.

    A log is in one format: a decimal sign that one line tells counts for all of them.

    :param text: lines; between time and volts a comma, semicolon, tab or blank; time in s, ms, min
        or as minutes:seconds, with hours before them or not
    :param decimal: the decimal sign in use where the log itself does not tell, "." or ","; "" when it is not said
    :returns: (seconds, volts) in the order of the lines
    :raises InputError: nothing to read, a line that cannot be read, a number with two readings, or too many lines (field
        `rows`); the line is named
    :source: none

    >>> read_log("t, V\n0, 358\n2,5; 210,4\n0:05 120 V")
    [(0.0, 358.0), (2.5, 210.4), (5.0, 120.0)]
    >>> read_log("0;1,200\n0,5;1,100")
    [(0.0, 1.2), (0.5, 1.1)]
    """
    lines = [(number, line.strip()) for number, line in enumerate(text.splitlines(), start=1) if line.strip()]
    if len(lines) > MOST_SAMPLES:
        raise InputError("rows", f"That is more than {MOST_SAMPLES} lines.")
    matched: list[tuple[int, re.Match[str]]] = []
    for place, (number, line) in enumerate(lines):
        match = _match(line.replace("\t", ";").translate(SAME_LENGTH))
        if match:
            matched.append((number, match))
        elif place or any(c.isdigit() for c in line):
            raise InputError("rows", f"Line {number}: cannot read “{line[:40]}”. Time and volts, such as 5, 212.")
    if not matched:
        raise InputError("rows", "Type time and volts, such as 5, 212.")
    sign = _decimal_sign([match for _, match in matched]) or decimal
    return [
        (_seconds(match, number, sign), _number(match["v"], number, sign) * SCALES.get(match["scale"] or "", 1.0))
        for number, match in matched
    ]


def _match(line: str) -> re.Match[str] | None:
    if len(line) > LONGEST_LINE:
        return None
    return next((match for shape in SHAPES if (match := shape.fullmatch(line))), None)


def _decimal_sign(matches: Sequence[re.Match[str]]) -> str:
    """The decimal sign that the numbers of a log tell together; "" where they tell none, or one this and another that."""
    figures = (re.split("[eE]", match[name].lstrip("-+"))[0] for match in matches for name in ("s", "t", "v") if match[name])
    signs = {sign_told(one.rstrip(".,")) for one in figures} - {""}
    return signs.pop() if len(signs) == 1 else ""


def _number(text: str, line: int, decimal: str) -> float:
    sign = text[:1] if text[:1] in "-+" else ""
    figures, _, power = re.sub("[eE]", "e", text[len(sign) :]).partition("e")
    number = the_number(figures.rstrip(".,"), "rows", f"Line {line}", decimal=decimal)
    return float(f"{sign}{number}e{power or 0}")


def _seconds(match: re.Match[str], line: int, decimal: str) -> float:
    if match["t"]:
        return _number(match["t"], line, decimal) * SECONDS.get(match["unit"] or "", 1.0)
    return int(match["h"] or 0) * 3600 + int(match["m"]) * 60 + _number(match["s"], line, decimal)
