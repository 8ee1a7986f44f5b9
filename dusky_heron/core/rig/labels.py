"""What is printed on a simulated part: every style of the trade, then wear and what a photograph makes of it."""

import random
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from decimal import Decimal

from dusky_heron.core.errors import InputError
from dusky_heron.core.tables import csv_table

LETTERS: Mapping[float, str] = {1: "F", 2: "G", 5: "J", 10: "K", 20: "M"}  # IEC 60062, per cent
GOST: Mapping[float, str] = {5: "И", 10: "С", 20: "В"}  # GOST 11076
VOLTS: Mapping[str, float] = {  # letters of IEC 60062, times a power of ten
    "A": 1.0, "B": 1.25, "C": 1.6, "D": 2.0, "E": 2.5, "F": 3.15, "G": 4.0, "W": 4.5, "H": 5.0, "J": 6.3, "K": 8.0,
}  # fmt: skip
MISREAD: Mapping[str, str] = {"0": "O", "1": "l", "µ": "u", "5": "S", "8": "B"}  # what a camera and its reader confuse
RANGE = Decimal("0.91"), Decimal("1.09")  # of its middle, where a start part's limits lie: 189-227 around 208
SURGE_TO_V, SURGE, SURGE_ABOVE = 315, 1.15, 1.1  # IEC 60384-4: surge over rated volts, up to 315 V and above
TESTED = 3  # times its rated volts, at which paper parts of the 1950s were tested and marked


@dataclass(frozen=True, slots=True)
class Facts:
    """What a part is, as far as its label tells: microfarads as text, so that none is rounded."""

    uf: str
    ac: int | None = None
    dc: int | None = None
    tolerance: float = 20
    classes: tuple[str, ...] = ()
    second_uf: str = ""
    second_dc: int | None = None
    ohm: int | None = None
    megohm: float | None = None
    yyww: str = "2214"


def styles(kind: str) -> tuple[str, ...]:
    """The styles that stand on a kind of part."""
    return tuple(row["style"] for row in csv_table("rig_labels") if kind in row["kinds"].split())


def print_label(style: str, facts: Facts) -> str:
    """The text a factory would print.

    :param style: of `rig_labels.csv`
    :param facts: the part
    :returns: one line
    :raises InputError: no such style, or a fact it needs is not there
    :source: rig_labels.csv
    """
    rows = [row["text"] for row in csv_table("rig_labels") if row["style"] == style]
    if not rows:
        raise InputError("style", f"No such style of label: {style}.")
    text = rows[0]
    for name, make in _PIECES.items():
        if "{" + name + "}" in text:
            piece = make(facts)
            if piece is None:
                raise InputError("facts", f"A label in the style {style} needs {name}.")
            text = text.replace("{" + name + "}", piece)
    return text


def plain(value: Decimal) -> str:
    """A decimal as it is printed: no exponent, no idle noughts."""
    text = f"{value:f}"
    return text.rstrip("0").rstrip(".") if "." in text else text


def _pico(facts: Facts) -> Decimal:
    return Decimal(facts.uf) * 1_000_000


def _code(facts: Facts) -> str | None:
    """Three figures: two of the value, and noughts behind them in picofarads; 8 and 9 divide."""
    pico = _pico(facts)
    for last, power in [*((str(k), Decimal(10) ** k) for k in range(8)), ("9", Decimal("0.1")), ("8", Decimal("0.01"))]:
        figures = pico / power
        if 10 <= figures < 100 and figures == int(figures):
            return f"{int(figures)}{last}"
    return None


def _point(facts: Facts) -> str:
    """The unit's letter in place of the point: 4n7, 470n, µ47."""
    pico = _pico(facts)
    letter, scale = next((x, s) for x, s in (("µ", 1_000_000), ("n", 1_000), ("p", 1)) if pico >= s or s == 1)
    whole, _, part = plain(pico / scale).partition(".")
    return f"{'' if whole == '0' else whole}{letter}{part}"


def _voltage_code(facts: Facts) -> str | None:
    for power in range(4):
        for letter, value in VOLTS.items():
            if facts.dc is not None and abs(value * 10**power - facts.dc) < 1e-9:
                return f"{power}{letter}"
    return None


def _grouped(facts: Facts, sign: str) -> str | None:
    value = Decimal(facts.uf)
    return f"{int(value):,}".replace(",", sign) if value >= 1000 else None


def _percent(facts: Facts) -> str:
    return f"±{facts.tolerance:g}%"


_PIECES: Mapping[str, Callable[[Facts], str | None]] = {
    "uf": lambda f: plain(Decimal(f.uf)),
    "comma": lambda f: plain(Decimal(f.uf)).replace(".", ","),
    "bare": lambda f: plain(Decimal(f.uf)).removeprefix("0"),
    "nf": lambda f: plain(Decimal(f.uf) * 1000),
    "pf": lambda f: plain(_pico(f)),
    "code": _code,
    "point": _point,
    "thousand": lambda f: _grouped(f, " "),
    "thousands": lambda f: _grouped(f, ","),
    "second_uf": lambda f: plain(Decimal(f.second_uf)) if f.second_uf else None,
    "second_pf": lambda f: plain(Decimal(f.second_uf) * 1_000_000) if f.second_uf else None,
    "low": lambda f: plain((Decimal(f.uf) * RANGE[0]).quantize(Decimal(1))),
    "high": lambda f: plain((Decimal(f.uf) * RANGE[1]).quantize(Decimal(1))),
    "letter": lambda f: LETTERS.get(f.tolerance),
    "gost": lambda f: GOST.get(f.tolerance),
    "percent": _percent,
    "tol": lambda f: f"{f.tolerance:g}",
    "ac": lambda f: None if f.ac is None else str(f.ac),
    "dc": lambda f: None if f.dc is None else str(f.dc),
    "kv": lambda f: None if f.dc is None else f"{f.dc / 1000:g}",
    "second_dc": lambda f: None if f.second_dc is None else str(f.second_dc),
    "surge": lambda f: None if f.dc is None else f"{f.dc * (SURGE if f.dc <= SURGE_TO_V else SURGE_ABOVE):.0f}",
    "test": lambda f: None if f.dc is None else str(f.dc * TESTED),
    "voltage_code": _voltage_code,
    "class": lambda f: "".join(f.classes) or None,
    "ohm": lambda f: None if f.ohm is None else str(f.ohm),
    "megohm": lambda f: None if f.megohm is None else f"{f.megohm:g}",
    "yyww": lambda f: f.yyww,
}


def worn(text: str, chance: random.Random, share: float) -> str:
    """A label with pieces gone: each as likely as the share; at least one stays."""
    pieces = text.split(" ")
    left = [piece for piece in pieces if chance.random() >= share]
    return " ".join(left or [chance.choice(pieces)])


def photographed(text: str, chance: random.Random, share: float) -> str:
    """A label as a camera's reader gives it back: signs mistaken and spaces lost, each as likely as the share."""
    read = [MISREAD.get(sign, sign) if chance.random() < share else sign for sign in text]
    return "".join(sign for sign in read if sign != " " or chance.random() >= share)
