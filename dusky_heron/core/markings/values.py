"""Notations of capacitance and tolerance (IEC 60062 and the trade's own)."""

import re
from dataclasses import dataclass
from typing import Literal

from dusky_heron.core.markings.model import Tolerance
from dusky_heron.core.markings.pieces import END, NUMBER, Recogniser, number
from dusky_heron.core.tables import csv_table

PICO, NANO, MICRO, MILLI, ONE = -12, -9, -6, -3, 0  # powers of ten
UNITS = {
    "pf": PICO, "mmf": PICO, "mmfd": PICO, "uuf": PICO, "uufd": PICO,
    "nf": NANO, "uf": MICRO, "ufd": MICRO, "mfd": MICRO, "mf": MICRO, "f": ONE,
}  # fmt: skip
GLUED_TOLERANCE = r"(?=[BCDFGHJKMNPQSTZ](?![A-Za-z0-9]))"
UNIT = rf"(?P<unit>(?i:mmfd|mmf|uufd|uuf|mfd|mf|ufd|uf|nf|pf)(?:(?![A-Za-z])|{GLUED_TOLERANCE})|F(?![A-Za-z0-9]))"
SHORT_UNIT = r"(?P<short>[pnuU])(?![a-z0-9])"
TRADE_NOTATION: dict[str, "Notation"] = {"MF": "MF", "Mf": "MF", "mF": "mF", "mf": "mF"}
LETTER_POWER = {"p": PICO, "n": NANO, "u": MICRO, "U": MICRO, "m": MILLI}


def scaled(figures: str, power: int) -> float:
    """Figures times a power of ten, rounded once: 0.68 and -6 give exactly 0.68e-6."""
    return float(f"{figures.replace(',', '.')}e{power}")


Notation = Literal["unit", "letter", "MF", "mF", "R"]


@dataclass(frozen=True, slots=True)
class Printed:
    """Capacitances as printed, farads, with the notation where it leaves room for a second scale."""

    values: tuple[float, ...]
    low_high: tuple[float, float] | None = None
    notation: Notation = "unit"


def _with_unit(match: re.Match[str]) -> Printed:
    word = match["unit"] or match["short"]
    power = UNITS[word.lower()] if match["unit"] else LETTER_POWER[word]
    notation: Notation = TRADE_NOTATION.get(word, "MF" if word.lower() in ("mfd", "ufd") else "unit")
    if match["low"]:
        low, high = scaled(match["low"], power), scaled(match["high"], power)
        return Printed(((low + high) / 2,), (low, high) if low < high else None, notation)
    values = [
        scaled(item["figures"], power)
        for item in re.finditer(rf"(?:(?P<times>[2-9])\s?x\s?)?(?P<figures>{NUMBER})", match["list"])
        for _ in range(int(item["times"] or 1))
    ]
    return Printed(tuple(values), None, notation)


def _letter_as_point(match: re.Match[str]) -> Printed | None:
    whole, letter, part = match["whole"], match["letter"], match["part"]
    if letter == "R":
        return Printed((scaled(f"{whole}.{part}", MICRO),), None, "R") if whole else None
    return Printed((scaled(f"{whole or 0}.{part}", LETTER_POWER[letter]),), None, "letter")


def _letter_tolerance(match: re.Match[str]) -> dict[str, str] | None:
    return next((row for row in csv_table("tolerance_letters") if row["letter"] == match[0]), None)


def tolerance_of(row: dict[str, str], capacitance_f: float) -> Tolerance:
    """What a tolerance letter means for a value: absolute picofarads below 10 pF where the letter has them."""
    if capacitance_f < 10e-12 and row["below_10pf_pf"]:
        share = float(row["below_10pf_pf"]) * 1e-12 / capacitance_f
        return Tolerance(-share, share)
    return Tolerance(-float(row["minus_percent"]) / 100, float(row["plus_percent"]) / 100)


def _printed_tolerance(match: re.Match[str]) -> Tolerance | None:
    if match["both"] or match["unsigned"]:
        share = number(match["both"] or match["unsigned"]) / 100
        return Tolerance(-share, share) if share < 1 else None
    first = number(match["first"]) * (-1 if match["sign1"] == "-" else 1)
    second = number(match["second"]) * (-1 if match["sign2"] == "-" else 1)
    minus, plus = sorted((first / 100, second / 100))
    return Tolerance(minus, plus) if -1 < minus <= 0 <= plus < 10 else None


TOLERANCE = Recogniser(
    "tolerance",
    re.compile(
        rf"(?P<unsigned>{NUMBER})\s?%(?!\s?[A-Za-z0-9])|(?:±|\+\s?/\s?-|\+-)\s?(?P<both>{NUMBER})(?:\s?%|{END})"
        rf"|(?P<sign1>[+-])\s?(?P<first>{NUMBER})\s?%?\s?/\s?(?P<sign2>[+-])\s?(?P<second>{NUMBER})(?!\s?/)\s?%?(?!\s?°|\s?C){END}"
    ),
    _printed_tolerance,
)
ITEM = rf"(?:[2-9]\s?x\s?)?{NUMBER}"
CAPACITANCE = Recogniser(
    "capacitance",
    re.compile(
        rf"(?:(?P<low>{NUMBER})\s?-\s?(?P<high>{NUMBER})|(?P<list>{ITEM}(?:\s?[+/]\s?{ITEM}){{0,5}}))"
        rf"(?:\s*{UNIT}|{SHORT_UNIT})"
    ),
    _with_unit,
)
UNIT_FIRST = Recogniser(
    "capacitance",
    re.compile(
        rf"(?P<unit>(?i:mmfd|mmf|mfd|mf|ufd|uf|nf|pf))\s?[=:]?\s(?P<list>{NUMBER})(?P<low>)(?P<high>)(?P<short>)"
        rf"(?![\d.,]|\s*(?:[VvWΩ~%Hh]|AC|DC|[-/]\s?\d))"
    ),
    _with_unit,
)
RESISTOR = Recogniser(
    "resistor",
    re.compile(rf"(?P<figures>{NUMBER})\s?(?P<scale>[kKM]?)\s?(?:Ω|(?i:ohms?){END}|R{END})"),
    lambda m: scaled(m["figures"], {"": 0, "k": 3, "K": 3, "M": 6}[m["scale"]]),
)
LETTER_AS_POINT = Recogniser(
    "capacitance",
    re.compile(r"(?P<whole>\d{0,3})(?P<letter>[pnumR]|(?<=\d)U)(?P<part>\d{1,3})(?![a-z0-9])"),
    _letter_as_point,
)
TOLERANCE_LETTER = Recogniser(
    "letter",
    re.compile(rf"[BCDFGHJKMNPQSTZ](?:(?=\d{{3}}|[0-3][A-Z]{END})|{END})"),
    _letter_tolerance,
    follows=frozenset({"capacitance", "bare"}),
)
# Further from the value only the letters that nothing else on a capacitor uses.
TOLERANCE_LETTER_APART = Recogniser(
    "letter", re.compile(rf"[JKM]{END}"), _letter_tolerance, follows=frozenset({"classes", "voltage"})
)
# Old film and paper parts print value and volts with one stroke between: 0,1/400~, .047-600.
OVER_VOLTS = Recogniser(
    "bare",
    re.compile(rf"(?P<figures>0?[.,]\d+)\s?[/-]\s?(?=\d{{2,4}}(?:\s?(?:~|V|=)|{END}))"),
    lambda match: match["figures"],
)
BARE = Recogniser("bare", re.compile(rf"{NUMBER}(?![a-z0-9])"), lambda match: match[0])
