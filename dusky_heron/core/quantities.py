"""Engineering values as technicians write them: read and print."""

import re

from dusky_heron.core.errors import InputError, Range
from dusky_heron.core.figures import SAME_LENGTH, Tell, the_number

POWERS = {"f": -15, "p": -12, "n": -9, "u": -6, "m": -3, "": 0, "k": 3, "K": 3, "M": 6, "G": 9, "T": 12}
UNIT_WORDS = {
    "F": "f|farad|farads",
    "V": "v|volt|volts|vac|vdc|v~",
    "Ω": "ω|ohm|ohms|r",
    "W": "w|watt|watts",
    "A": "a|amp|amps",
    "J": "j|joule|joules",
    "Hz": "hz",
    "s": "s|sec|second|seconds",
    "mm": "mm",
    "%": "%|percent",
}
NUMBER = re.compile(
    r"(?P<sign>[-+]?)\s?(?P<figures>[0-9]{1,3}(?:[ '][0-9]{3})+(?:[.,][0-9]+)?|[0-9]+(?:[.,][0-9]+)*|[.,][0-9]+)[.,]?"
    r"(?:[eE](?P<exp>[-+]?[0-9]{1,3}))?\s*(?P<rest>[^0-9.,\s]*)"
)
POINT_LETTER = re.compile(r"(?P<whole>\d*)(?P<scale>[pnumkKMGRr])(?P<part>\d+)(?P<rest>[^\d]*)")
PREFIXES = {
    "F": ((1e-6, "µ"), (1e-9, "n"), (1e-12, "p")),
    "s": ((1.0, ""), (1e-3, "m"), (1e-6, "µ")),
    "V": ((1e3, "k"), (1.0, ""), (1e-3, "m")),
    "mm": ((1.0, ""),),
    "%": ((1.0, ""),),
    "": ((1.0, ""),),
    "*": ((1e9, "G"), (1e6, "M"), (1e3, "k"), (1.0, ""), (1e-3, "m"), (1e-6, "µ"), (1e-9, "n")),
}
FAR_OFF = 30.0  # times what is expected: beyond it a reading with another decimal sign is the likelier one
MICROFARAD = {"mfd", "MF", "MFD", "uF", "UF", "uf"}


def parse_quantity(
    text: str,
    unit: str,
    limits: Range,
    *,
    field: str = "value",
    decimal: str = "",
    expected: float | None = None,
    counts: int | None = None,
) -> float:
    """Read one value typed by a technician, in the given unit.

    Accepts a number with an optional SI prefix and unit (`12.9u`, `12.9 µF`, `1,5 kΩ`, `15 000`), or the prefix in the
    place of the point (`4k7`, `3n2`). For capacitance a prefix or unit is asked for, `MF` and `MFD` are microfarad (trade
    use) and `mF` is millifarad, as meters print it. One comma before exactly three figures (`1,200`) may divide or group: what
    is known besides tells, and where both stay plausible it is asked.

    :param text: what was typed
    :param unit: a key of UNIT_WORDS: F, V, Ω, W, A, J, Hz, s, mm, %
    :param limits: the range the value must lie in, SI units
    :param field: where it was typed
    :param decimal: the decimal sign in use, "." or ","; "" when it is not said
    :param expected: about what it should be, SI units, more than 0
    :param counts: the highest count a meter shows, of a value read from it: a meter prints no thousands
    :returns: the value in SI units (mm and % as they stand)
    :raises InputError: nothing typed, not a number, two plausible numbers, another unit, or out of range
    :source: IEC 60062 for the letter in the place of the point; SI prefixes by ISO 80000-1

    >>> from dusky_heron.core.errors import CAPACITANCE
    >>> round(parse_quantity("12.9u", "F", CAPACITANCE) * 1e6, 9)
    12.9
    """
    typed = text.strip().translate(SAME_LENGTH)
    if not typed:
        raise InputError(field, f"{limits.noun} is empty.")
    if match := POINT_LETTER.fullmatch(typed):
        scale = "" if match["scale"] in "Rr" else match["scale"]
        if not match["whole"] or (match["scale"] in "Rr" and unit != "Ω"):
            raise InputError(field, f"{limits.noun}: cannot read “{text.strip()[:40]}”.")
        _expect_unit(match["rest"].strip(), unit, limits, field)
        return limits.check(field, float(f"{match['whole']}.{match['part']}e{POWERS[scale]}"))
    match = NUMBER.fullmatch(typed)
    if match is None:
        raise InputError(field, f"{limits.noun}: cannot read “{text.strip()[:40]}” as one value in {unit}.")
    power = _power_of(match["rest"], unit, limits, field)
    if power is None:
        raise InputError(field, f"{limits.noun} needs its unit: pF, nF or µF.")
    power += int(match["exp"] or 0)
    tells = _tells(match["figures"], power, limits, expected, counts)
    number = the_number(match["figures"], field, limits.noun, decimal=decimal, tells=tells)
    return limits.check(field, float(f"{match['sign']}{number}e{power}"))


def _tells(figures: str, power: int, limits: Range, expected: float | None, counts: int | None) -> list[Tell]:
    """What tells a decimal sign from a thousand, the surest first."""
    digits = "".join(filter(str.isdigit, figures))
    tells: list[Tell] = [lambda number: limits.low <= number * 10.0**power <= limits.high]
    if expected:
        low, high = expected / FAR_OFF, expected * FAR_OFF
        tells.append(lambda number: low <= number * 10.0**power <= high)
    if counts and int(digits) <= counts:
        tells.append(lambda number: number < 10.0 ** (len(digits) - 3))
    return tells


def _power_of(suffix: str, unit: str, limits: Range, field: str) -> int | None:
    """The power of ten a suffix stands for; None when capacitance came without any."""
    if unit == "F" and suffix in MICROFARAD:
        return -6
    if not suffix:
        return None if unit == "F" else 0
    if unit in ("mm", "%") or re.fullmatch(UNIT_WORDS[unit], suffix.lower()):
        _expect_unit(suffix, unit, limits, field)
        return 0
    if suffix[0] not in POWERS:
        raise InputError(field, f"{limits.noun}: “{suffix[:20]}” is not a unit of it ({unit}).")
    _expect_unit(suffix[1:], unit, limits, field)
    return POWERS[suffix[0]]


def _expect_unit(word: str, unit: str, limits: Range, field: str) -> None:
    if word and not re.fullmatch(UNIT_WORDS[unit], word.lower()):
        raise InputError(field, f"{limits.noun}: “{word[:20]}” is not a unit of it ({unit}).")


def show(value: float, unit: str, *, digits: int = 3) -> str:
    """Print a value as technicians write it: `680 nF`, `1 200 µF`, `4.7 kΩ`, `3.4 J`.

    :param value: in SI units; mm and % as they stand
    :param unit: printed after the prefix; capacitance is never printed in mF, which is read two ways
    :param digits: significant figures, trailing zeros dropped
    """
    number, prefixed = show_parts(value, unit, digits=digits)
    return f"{number} {prefixed}".rstrip()


def show_parts(value: float, unit: str, *, digits: int = 3) -> tuple[str, str]:
    """The number and the prefixed unit of `show`, apart, for a page that sets them differently."""
    rounded = float(f"{value:.{digits}g}")
    ladder = PREFIXES.get(unit, PREFIXES["*"])
    scale, prefix = next(((s, p) for s, p in ladder if abs(rounded) >= s), ladder[-1])
    if rounded == 0:
        scale, prefix = 1.0, ""
    scaled = rounded / scale
    whole = abs(scaled) >= 10 ** (digits - 1)  # no figure after the point is left
    number = f"{scaled:,.0f}".replace(",", "\u00a0") if whole else f"{scaled:.{digits}g}"
    return number.replace("-", "−"), f"{prefix}{unit}"


def show_range(low: float, high: float, unit: str) -> str:
    """Print an interval with one unit: `12.6 to 13.2 µF`.

    :param low: lower end, SI units
    :param high: upper end, SI units
    """
    low_text, high_text = show(low, unit), show(high, unit)
    if unit and low_text.rsplit(" ", 1)[1] == high_text.rsplit(" ", 1)[1]:
        low_text = low_text.rsplit(" ", 1)[0]
    return f"{low_text} to {high_text}"


def show_time(seconds: float, *, digits: int = 2) -> str:
    """Print a duration in the unit a person would wait in: `190 ms`, `4.2 min`, `3 h`, `2.5 days`.

    :param seconds: at least 0
    :param digits: significant figures
    """
    number, unit = show_time_parts(seconds, digits=digits)
    return f"{number} {unit}"


def show_time_parts(seconds: float, *, digits: int = 2) -> tuple[str, str]:
    """The number and the unit of `show_time`, apart."""
    for length, unit, start in ((86400.0, "days", 172800.0), (3600.0, "h", 7200.0), (60.0, "min", 120.0)):
        if seconds >= start:
            return show_parts(seconds / length, "", digits=digits)[0], unit
    return show_parts(seconds, "s", digits=digits)
