"""The figures of a number, however a hand or a printer set them: the one place that knows points, commas and groups."""

import re
from collections.abc import Callable, Sequence

from dusky_heron.core.errors import InputError

Tell = Callable[[float], bool]
# One character for one, so that a place in the typed text is kept: every space, minus and point of the world's keyboards.
SAME_LENGTH = str.maketrans(
    {"µ": "u", "μ": "u", "\t": " ", "\n": " ", "\r": " ", "×": "x", "∼": "~", "˜": "~", "≃": "~", "〜": "~", "～": "~",
     "\u2126": "Ω", "º": "°", "\u2103": "°", "˚": "°", "＋": "+", "．": ".", "，": ",", "٫": ".", "⎓": "=", "⏤": "=", "⩵": "="}
    | dict.fromkeys("\u00a0\u202f\u2009\u2007\u2008\u2002\u2003\u3000", " ")
    | dict.fromkeys("−–—\u2010\u2011\u2012\ufe63\uff0d\u207b", "-")
    | {chr(0xFF10 + digit): str(digit) for digit in range(10)}
)  # fmt: skip
SPACED = r"(?<![0-9XYxy])(?<![0-9][.,])[0-9]{1,3}(?: [0-9]{3})+(?![0-9])"  # behind no figure and no class
SIMPLE = r"(?:[0-9]+(?:[.,][0-9]+)*|[.,][0-9]+)"
ONE_MARK = re.compile(r"(?<![0-9.,])[1-9][0-9]{0,2}([.,])[0-9]{3}(?![0-9.,])")
GROUPED = re.compile(r"[1-9][0-9]{0,2}(?P<mark>[., '])[0-9]{3}(?:(?P=mark)[0-9]{3})*")


def readings(figures: str) -> tuple[str, ...]:
    """Every number that figures may stand for, with a decimal point; none when they are no number.

    One comma or point before exactly three figures groups or divides; two groups, a space and an apostrophe only group; a
    zero first only divides; of two different marks the last divides.

    :param figures: digits with points, commas, spaces or apostrophes between them
    :returns: decimal numbers as text, the decimal reading first; two where a separator may be either
    :source: ISO 80000-1 (7.3): comma or point divides, a small space groups; printed practice groups by both

    >>> readings("10,000"), readings("1 000"), readings("0,047"), readings("1.234,5")
    (('10.000', '10000'), ('1000',), ('0.047',), ('1234.5',))
    """
    marks = [mark for mark in figures if not mark.isdigit()]
    if not marks:
        return (figures,)
    whole, last, part = figures.rpartition(marks[-1])
    grouped = bool(GROUPED.fullmatch(figures))
    if len(marks) == 1 and last in ".,":
        decimal = f"{whole or 0}.{part}"
        return (decimal, whole + part) if grouped else (decimal,)
    if grouped:
        return ("".join(filter(str.isdigit, figures)),)
    if last in ".," and len(set(marks[:-1])) == 1 and marks[0] != last and (GROUPED.fullmatch(whole)):
        return ("".join(filter(str.isdigit, whole)) + f".{part}",)
    return ()


def settled(figures: str, *, decimal: str = "", tells: Sequence[Tell] = ()) -> tuple[str, ...]:
    """The numbers that typed figures may stand for, after everything that tells.

    The decimal sign that is used here tells: the other sign groups. Without it a point divides, as instruments print it, and a
    comma before exactly three figures is open. Then what else is known tells, in its order: a range, a planned value, what a
    meter can show.

    :param figures: as `readings`
    :param decimal: the decimal sign in use, "." or ","; "" when it is not said
    :param tells: each whether a number can be what was meant
    :returns: one number, or two where both stay plausible; none for what is no number
    :source: as `readings`

    >>> settled("1,200"), settled("1,200", decimal=","), settled("1,200", decimal="."), settled("1.200")
    (('1.200', '1200'), ('1.200',), ('1200',), ('1.200',))
    """
    found = readings(figures)
    if len(found) < 2:
        return found
    mark = next(character for character in figures if not character.isdigit())
    if mark == decimal or (mark == "." and not decimal):
        return found[:1]
    if decimal:
        return found[1:]
    for can_be in tells:
        fitting = tuple(number for number in found if can_be(float(number)))
        if len(fitting) == 1:
            return fitting
    return found


def the_number(figures: str, field: str, noun: str, *, decimal: str = "", tells: Sequence[Tell] = ()) -> str:
    """The one number that typed figures stand for.

    :param figures: digits with points, commas, spaces or apostrophes between them
    :param field: where it was typed
    :param noun: what it is
    :param decimal: the decimal sign in use, "" when it is not said
    :param tells: each whether a number can be what was meant
    :returns: a decimal number as text
    :raises InputError: no number, or two that stay plausible: the sentence asks which
    :source: as `settled`
    """
    found = settled(figures, decimal=decimal, tells=tells)
    if not found:
        raise InputError(field, f"{noun}: cannot read “{figures[:40]}”.")
    if len(found) > 1:
        small, large = (f"{float(number):.10g}" for number in found)
        raise InputError(field, f"{noun}: is “{figures[:40]}” {small} or {large}? Type it as {small}0 or {large}.")
    return found[0]


def sign_told(figures: str) -> str:
    """The decimal sign that a number tells which can be read one way only; "" where it has none, or tells nothing.

    :param figures: as `readings`
    :returns: ".", "," or ""
    :source: as `readings`

    >>> sign_told("212,4"), sign_told("1,200"), sign_told("1,200.5"), sign_told("212")
    (',', '', '.', '')
    """
    found = readings(figures) if figures else ()
    if len(found) != 1 or "." not in found[0]:
        return ""
    return next((mark for mark in reversed(figures) if mark in ".,"), "")


def told(text: str, decimal: str) -> str:
    """Text whose numbers with one separator before three figures are typed so that a known decimal sign tells them.

    :param text: as typed
    :param decimal: the decimal sign in use, "." or ","; "" leaves everything
    :returns: the text
    :source: as `readings`

    >>> told("1,200 V", "."), told("1,200 V", ","), told("1.200 V", ",")
    ('1200 V', '1.200 V', '1200 V')
    """
    if not decimal:
        return text

    def plainly(match: re.Match[str]) -> str:
        found = readings(match[0])
        if len(found) < 2:
            return match[0]
        return found[0] if match[1] == decimal else found[1]

    return ONE_MARK.sub(plainly, text)


def unmistakable(value: float) -> str:
    """A number typed so that no separator leaves two readings: `1200`, `1.20`, `1.2340`.

    :param value: any
    :returns: digits with a point where there is a part, and never exactly three figures behind it but for a zero before it
    :source: as `readings`
    """
    text = f"{value:.10g}"
    if "e" in text:
        text = f"{value:.15f}".rstrip("0").rstrip(".")
    whole, point, part = text.partition(".")
    return f"{whole}.{part}0" if point and len(part) == 3 and whole != "0" else text
