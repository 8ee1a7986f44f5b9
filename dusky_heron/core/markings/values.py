"""Notations of capacitance, tolerance and resistance (IEC 60062, GOST 11076 and the trade's own)."""

import itertools
import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from dusky_heron.core.figures import SIMPLE, SPACED, readings
from dusky_heron.core.markings.model import Tolerance
from dusky_heron.core.markings.pieces import DIGITS, END, NO_LETTER, UNREAD_FIGURE, Found, numbers, one, recognisers
from dusky_heron.core.markings.words import known_run
from dusky_heron.core.tables import csv_table

PICO, NANO, MICRO, MILLI, ONE = -12, -9, -6, -3, 0  # powers of ten
UNITS = {
    "pf": PICO, "mmf": PICO, "mmfd": PICO, "uuf": PICO, "uufd": PICO, "пф": PICO, "п": PICO,
    "nf": NANO, "n": NANO, "нф": NANO, "н": NANO, "kpf": NANO,
    "uf": MICRO, "ufd": MICRO, "mfd": MICRO, "mf": MICRO, "мкф": MICRO, "мк": MICRO, "u": MICRO, "p": PICO,
    "f": ONE, "ф": ONE, "microfarad": MICRO, "microfarads": MICRO, "nanofarad": NANO, "nanofarads": NANO,
    "picofarad": PICO, "picofarads": PICO, "mikrofarad": MICRO,
}  # fmt: skip
UNIT = (
    rf"(?P<unit>(?i:(?:micro|nano|pico)farads?|mikrofarad|mmfd|mmf|uufd|uuf|mfd|mf|ufd|uf|nf|kpf|pf|мкф|нф|пф)(?:\.(?=\s|$))?{NO_LETTER}|мк(?![а-я])"
    r"|[FФ](?![A-Za-zА-я0-9])|[pnuU](?![a-wz0-9F]|[xy](?![1-4]))|[нп](?![А-я0-9]))"
)
CM_PICO = 1.11265  # pF in a centimetre of capacitance: 1/(4πε₀) of a sphere of 1 cm radius, CGS
LETTER_POWER = {"p": PICO, "n": NANO, "u": MICRO, "U": MICRO, "m": MILLI, "н": NANO, "Н": NANO, "п": PICO, "П": PICO, "R": MICRO}
TOLERANCES = {row["letter"]: row for row in (*csv_table("tolerance_letters"), *csv_table("gost_tolerances"))}
ONLY_AFTER_VALUE = "BCDF"  # letters that name something else where no value stands before them
POWERS = {"": 0, "k": 3, "K": 3, "M": 6, "к": 3, "М": 6}
SERIES = (10, 11, 12, 13, 15, 16, 18, 20, 22, 24, 27, 30, 33, 36, 39, 43, 47, 51, 56, 62, 68, 75, 82, 91)  # E24, IEC 60063
ROUND = (25, 35, 40, 50, 60, 70, 80, 90)  # two figures of older parts and of motor parts beside the series
LONG = re.compile("[0-9]{5}|[0-9]{4}[.]")  # figures that a date or a temperature may be torn into
MOST_SIGNIFICANT = 3  # figures that a printed value has: E192 has three
BARE_FIGURES = 2.0  # how unlikely it is that figures without a unit are a value, volts or a date
UNUSUAL = 4.0  # what it costs that torn figures give a value of no series

Notation = Literal["unit", "letter", "MF", "mF", "R", "cm", "cyrillic"]


@dataclass(frozen=True, slots=True)
class Printed:
    """Capacitances as printed, farads, with the notation where it leaves room for a second scale; the unit as it stands.

    `dashed` is two figures with a dash between: the ends of a range, or two sections; a `window` has *to* there, and is a
    range; `grouped` figures have two readings.
    """

    values: tuple[float, ...]
    notation: Notation = "unit"
    dashed: bool = False
    old: bool = False
    grouped: bool = False
    window: bool = False


@dataclass(frozen=True, slots=True)
class Absolute:
    """A printed tolerance in farads."""

    farads: float


def scaled(figures: str, power: int) -> float:
    """Figures times a power of ten, rounded once: 0.68 and -6 give exactly 0.68e-6."""
    return float(f"{figures}e{power}")


def significant(figures: str) -> int:
    """How many figures say something, without zeros before and behind."""
    return len(figures.replace(".", "").strip("0"))


def in_series(figures: str) -> bool:
    """Whether the figures of a value are of the E24 series, or round as older parts have them."""
    digits = figures.replace(".", "").strip("0")
    return len(digits) <= 1 or (len(digits) == 2 and (int(digits) in SERIES or int(digits) in ROUND))


def grouping_cost(index: int, figures: str) -> float:
    """How unlikely the reading of figures with one separator before three is: nobody prints a zero that says nothing."""
    zeros = figures.endswith("0")
    return 0.5 if (index == 0) == zeros else 0.0


def _with_unit(match: re.Match[str]) -> Iterator[Found]:
    word = match["unit"].rstrip(".")
    power = UNITS[word.lower()]
    notation: Notation = "mF" if word in ("mF", "mf") else "MF" if word.lower() in ("mf", "mfd", "ufd") else "unit"
    if word[-1] > "z":
        notation = "cyrillic"
    items = list(re.finditer(rf"(?:(?P<times>[2-9])\s?x\s?)?(?P<figures>{SPACED}|{SIMPLE})", match["list"]))
    joints = re.sub(r"[0-9.,x\s]", "", match["list"]).lower()
    window = joints == "to" and len(items) == 2
    dashed = window or ("-" in joints and len(items) == 2)
    if not items or ("-" in joints and set(joints) != {"-"}) or ("t" in joints and not window):
        return
    options = [readings(item["figures"].strip()) for item in items]
    for chosen in itertools.product(*(enumerate(option) for option in options)):
        values = tuple(
            scaled(text, power) for (_, text), item in zip(chosen, items, strict=True) for _ in range(int(item["times"] or 1))
        )
        cost = sum(
            grouping_cost(k, item["figures"].strip()) for (k, _), o, item in zip(chosen, options, items, strict=True) if len(o) > 1
        )
        if all(values) and (not dashed or len(values) == 2):
            cost += sum(UNUSUAL for _, text in chosen if significant(text) > MOST_SIGNIFICANT and LONG.match(text))
            cost += sum(
                UNREAD_FIGURE
                for _, text in chosen
                if not joints and re.search("[0-9] [0-9]", match["list"]) and not in_series(text)
            )
            yield Found(
                Printed(values, notation, dashed, notation == "MF", any(len(o) > 1 for o in options), window),
                cost + _odd_list(values, dashed=dashed),
            )


def _odd_list(values: tuple[float, ...], *, dashed: bool) -> float:
    """How unlikely sections of these values are: a can holds few sections, alike in size and falling."""
    if len(values) < 2 or dashed:
        return 0.0
    falling = all(a >= b for a, b in itertools.pairwise(values))
    return (0.0 if falling else 1.5) + (0.0 if max(values) / min(values) <= 100 else 2.0)


def _letter_as_point(match: re.Match[str]) -> Iterator[Found]:
    whole, letter, part = match["whole"], match["letter"], match["part"]
    if letter == "R" and not whole:
        return
    for used in range(1, len(part) + 1):
        text = f"{whole or 0}.{part[:used]}"
        notation: Notation = "R" if letter == "R" else "cyrillic" if letter > "z" else "letter"
        value = scaled(text, LETTER_POWER[letter])
        cost = 0.0 if len(part) == 1 or in_series(text) else UNUSUAL
        if value:
            yield Found(Printed((value,), notation), cost, match.start() + len(whole) + 1 + used)


def _centimetre(match: re.Match[str]) -> Iterator[Found]:
    for index, text in enumerate(readings(match["n"])):
        yield Found(
            Printed((float(text) * CM_PICO * 1e-12,), "cm", grouped=len(readings(match["n"])) > 1),
            grouping_cost(index, match["n"]) if index else 0.0,
        )


def _letter(match: re.Match[str]) -> str | None:
    """A tolerance letter; no letter of a word that is known as a whole."""
    return match[0] if match[0] in TOLERANCES and not known_run(match.string, match.start()) else None


def tolerance_of(letter: str, capacitance_f: float) -> Tolerance:
    """What a tolerance letter means for a value: absolute picofarads below 10 pF where the letter has them."""
    row = TOLERANCES[letter]
    if capacitance_f < 10e-12 and row["below_10pf_pf"]:
        share = float(row["below_10pf_pf"]) * 1e-12 / capacitance_f
        return Tolerance(-share, share)
    return Tolerance(-float(row["minus_percent"]) / 100, float(row["plus_percent"]) / 100)


def _decimal(figures: str) -> float:
    return float(figures.replace(",", "."))


def _even(match: re.Match[str]) -> Tolerance | None:
    share = _decimal(match["n"]) / 100
    return Tolerance(-share, share) if 0 < share < 1 else None


def _sided(match: re.Match[str]) -> Iterator[Found]:
    low, high = sorted(_decimal(match[name].replace(" ", "")) / 100 for name in ("first", "second"))
    if -1 < low <= 0 <= high < 10:
        bare = not match["percent"] and (round(low * 100), round(high * 100)) not in USUAL_SIDES
        yield Found(Tolerance(low, high), UNUSUAL if bare else 0.0)


def _bare(match: re.Match[str]) -> Iterator[Found]:
    """Figures alone; of figures apart by a space only those of a series belong together."""
    found = readings(match["n"])
    if found:
        yield Found(match["n"], BARE_FIGURES + (UNREAD_FIGURE if " " in match["n"] and not in_series(found[0]) else 0.0))


SIMPLE_N = r"[0-9]{1,3}(?:[.,][0-9]{1,2})?"
# Uneven limits as the trade prints them, per cent; other figures without a % are as likely temperatures.
USUAL_SIDES = {
    (-20, 80),
    (-10, 50),
    (-20, 50),
    (-10, 30),
    (0, 100),
    (-10, 100),
    (-5, 10),
    (-20, 100),
    (-10, 75),
    (-10, 5),
    (-20, 30),
}
TOLERANCE = (
    *one("tolerance", rf"(?:±|\+\s?/\s?-|\+-)\s?(?P<n>{SIMPLE_N})\s?pF{END}", lambda m: Absolute(_decimal(m["n"]) * 1e-12), "±+"),
    *one("tolerance", rf"(?:±|\+\s?/\s?-|\+-)\s?(?P<n>{SIMPLE_N})(?:\s?%|{END}(?!\s?pF))", _even, "±+"),
    *one("tolerance", rf"(?P<n>{SIMPLE_N})\s?%(?!\s?ED)", _even, DIGITS + ".,"),
    *recognisers(
        "tolerance",
        [
            re.compile(
                rf"(?P<first>(?:[+-]\s?{SIMPLE_N}|0))\s?%?\s?(?:/|\.{{2,3}}|…)?\s?(?P<second>(?:[+-]\s?{SIMPLE_N}|(?<=/)0))"
                rf"(?:\s?(?P<percent>%)|(?!\s?[/°]|\s?C(?![A-Z])|[0-9]))"
            )
        ],
        _sided,
        "+-0",
    ),
    *recognisers(
        "tolerance",
        [re.compile(r"(?P<first>-[0-9]{1,2})(?P<percent>)/?(?P<second>\+(?:100|[0-9]{2}))(?=[0-9])")],
        lambda m: (f for f in _sided(m) if not f.cost),
        "-",
    ),
)
ITEM = r"(?:[2-9]\s?x\s?)?{N}"
CAPACITANCE = recognisers(
    "capacitance",
    numbers(rf"(?P<list>{ITEM}(?:(?:\s?[+/&-]\s?|\s(?i:to)\s){ITEM}){{0,5}})\s*{UNIT}"),
    _with_unit,
    DIGITS + ".,",
)
# The short unit with the next figures glued to it: 33n630V.
TORN_UNIT = recognisers(
    "capacitance",
    numbers(r"(?P<list>{N})(?P<unit>[pnuU])(?=[0-9]{2})"),
    lambda m: (f._replace(cost=f.cost + 1.5) for f in _with_unit(m)),
    DIGITS + ".,",
    needs="[0-9][pnu][0-9]",
)
UNIT_FIRST = recognisers(
    "capacitance",
    numbers(
        r"(?<![0-9])(?<![0-9] )"
        r"(?P<unit>(?i:(?:micro|nano|pico)farads?|mikrofarad|mmfd|mmf|mfd|mf|ufd|uf|nf|pf|мкф|нф|пф))\s?[=:]?\s(?P<list>{N})"
        r"(?![0-9.,]|\s*(?:[VvWΩ~%HhВ]|AC|DC|[-/+x]\s?[0-9]|kV|кВ|°|C))"
    ),
    _with_unit,
    "mMuUnNpPМмНнПп",
)
CENTIMETRE = recognisers("capacitance", numbers(rf"(?P<n>{{N}})\s?cm{END}"), _centimetre, DIGITS + ".,", needs="cm")
RESISTOR = (
    *one(
        "resistor",
        rf"(?P<figures>{SIMPLE_N})\s?(?P<scale>[kKMкМ]?)\s?(?:Ω|(?i:ohms?|ом){END}|R{END})",
        lambda m: scaled(m["figures"].replace(",", "."), POWERS[m["scale"]]),
        DIGITS + ".,",
        needs="Ω|ohm|ом|[0-9] ?[km]?r",
    ),
    *one(
        "resistor",
        rf"(?<=resistor )(?P<figures>{SIMPLE_N})\s?(?P<scale>[kKM]){END}",
        lambda m: scaled(m["figures"].replace(",", "."), POWERS[m["scale"]]),
        DIGITS,
        needs="resistor [0-9]",
    ),
    *recognisers(
        "resistor",
        [re.compile(rf"(?P<whole>[0-9]{{1,3}})(?P<point>[kKM])(?P<part>[0-9]{{1,2}})(?P<ohm>\s?Ω)?{END}")],
        lambda m: [Found(scaled(f"{m['whole']}.{m['part']}", POWERS[m["point"]]), 0.0 if m["ohm"] else BARE_FIGURES)],
        DIGITS,
        needs="[0-9][km][0-9]",
    ),
)
WATTS = one(
    "watts",
    rf"(?:[0-9]\s?/\s?[0-9]{{1,2}}|[½¼]|{SIMPLE_N})\s?W(?:atts?)?{END}",
    lambda m: m[0],
    DIGITS + "½¼.,",
    "resistor",
    needs="w",
)
LETTER_AS_POINT = recognisers(
    "capacitance",
    [re.compile(r"(?P<whole>[0-9]{0,3})(?P<letter>[pnumRп]|(?<=[0-9])[UнНП]|н(?=[0-9]))(?P<part>[0-9]{1,3})" + NO_LETTER)],
    _letter_as_point,
    DIGITS + "pnumн",
)
LETTER = (
    *one(
        "letter",
        r"(?![PS][0-3](?![0-9]))(?!(?<![0-9]{2}[1-9])(?<![uUnNpPfFµ])(?<![uUnNpPfF] )F)(?:(?<=[FfpnuU0-9])[A-Z]|[JKM]"
        + NO_LETTER
        + r"|[A-Z](?![A-Za-z]))(?!\.[A-Za-z])",
        _letter,
        "".join(TOLERANCES),
        "capacitance",
        "bare",
    ),
    *one("letter", r"[А-Я](?![а-я])", _letter, "".join(TOLERANCES), "capacitance"),
    *one(
        "letter",
        rf"(?<![^\W_])[A-Z]{END}(?!\.[A-Za-z])",
        _letter,
        "".join(t for t in TOLERANCES if t < "a" and t not in ONLY_AFTER_VALUE),
    ),
)
# Old film and paper parts print value and volts with one stroke between: 0,1/400~, .047-600.
OVER_VOLTS = one(
    "bare",
    rf"(?P<figures>0?[.,][0-9]+)(?=\s?[/-]\s?[0-9]{{2,4}}(?:\s?(?:~|V|=)|{END}))",
    lambda match: match["figures"],
    "0.,",
    needs="[.,][0-9]+ ?[/-]",
)
# Electrolytics print microfarads and volts with one stroke between: 47/25.
SLASH = one(
    "slash",
    rf"(?P<value>{SIMPLE_N}|[0-9]{{4,5}})\s?/\s?(?P<volts>[0-9]{{1,3}}(?:[.,]3)?){END}(?!\s?(?:[/+V~µuΩ°%=]|[uµnp]?F|MF))",
    lambda m: (m["value"], m["volts"]),
    DIGITS,
    needs="[0-9] ?/ ?[0-9]",
)
BARE = recognisers("bare", numbers(r"(?P<n>{N})(?![a-zа-я])"), _bare, DIGITS + ".,")
