"""Notations of voltage, safety class, climate and motor duty."""

import re
from dataclasses import dataclass
from typing import Literal

from dusky_heron.core.markings.model import ClassName, Climate
from dusky_heron.core.markings.pieces import END, NUMBER, Recogniser, number
from dusky_heron.core.tables import csv_table, toml_table

MOTOR = toml_table("motor_classes")


@dataclass(frozen=True, slots=True)
class Volts:
    """Printed volts and what kind they are; None where the marking does not say."""

    values: tuple[float, ...]
    kind: Literal["ac", "dc"] | None
    from_code: bool = False
    glued: bool = False


def _volts(match: re.Match[str]) -> Volts | None:
    unit = (match["unit"] or "").lower()
    mark = f"{match['pre'] or ''} {unit} {match['post'] or ''}".lower()
    scale = 1000.0 if unit == "kv" else 1.0
    values = tuple(number(n) * scale for n in re.findall(NUMBER, match["numbers"]))
    if (not match["unit"] and not mark.strip()) or not all(0 < v <= 100_000 for v in values):
        return None
    if "~" in mark or "ac" in mark:
        return Volts(values, "ac")
    if "dc" in mark or "=" in mark or "-" in mark or unit == "wv":
        return Volts(values, "dc")
    return Volts(values, None)


def _classes(match: re.Match[str]) -> tuple[ClassName, ...] | None:
    """The classes printed together; None when one of them is none."""
    names = re.findall(r"[XY]\d", re.sub(r"\s", "", match[0]))
    return tuple(ClassName(name) for name in names) if all(name in set(ClassName) for name in names) else None


def _climate(match: re.Match[str]) -> Climate | None:
    lower, upper, days = int(match["lower"]), int(match["upper"]), match["days"]
    if not (0 <= lower <= 65 and 40 <= upper <= 200):
        return None
    return Climate(-float(lower), float(upper), int(days) if days else None)


def _voltage_code(match: re.Match[str]) -> Volts:
    row = next(row for row in csv_table("voltage_codes") if row["letter"] == match["letter"])
    return Volts((float(f"{row['volts']}e{match['power']}"),), "dc", from_code=True)


def _climate_letters(match: re.Match[str]) -> Climate:
    table = toml_table("climate_letters")
    return Climate(float(table["lower_c"][match["lower"]]), float(table["upper_c"][match["upper"]]))


def _operating_class(match: re.Match[str]) -> str | None:
    if match["letter"]:
        return match["letter"].upper()
    hours = int(re.sub(r"\D", "", match["hours"]))
    return next((name for name, rated in MOTOR["operating_class_hours"].items() if rated == hours), None)


CLASSES = Recogniser("classes", re.compile(rf"[XY]\s?[1-4](?:\s?/?\s?[XY]\s?[1-4])*{END}"), _classes)
CLIMATE = Recogniser(
    "climate",
    re.compile(
        rf"-?(?P<lower>\d{{2}})/(?P<upper>\d{{2,3}})/(?P<days>\d{{2}})(?:/[A-C])?{END}"
        r"|\+?(?P<only>\d{2,3})\s?°\s?C(?![A-Za-z])"
        r"|-(?P<lower2>\d{2})\s?(?:°\s?C)?\s?(?:/|\.{2,3}|to)\s?\+?(?P<upper2>\d{2,3})\s?°?\s?C(?![A-Za-z])"
    ),
    lambda m: (
        _climate(m)
        if m["lower"]
        else Climate(None, float(m["only"]))
        if m["only"]
        else Climate(-float(m["lower2"]), float(m["upper2"]))
    ),
)
STANDARD = Recogniser(
    "standard",
    re.compile(
        r"(?:IEC|EN|UL|VDE|CSA|DIN|BS|CQC|ENEC|SEMKO|UL/CSA)\s?[-:]?\s?\d[\d./-]*(?:\s\d[\d./-]*(?=[\s;,]|$))?(?![A-Za-zµ~%])"
    ),
    lambda _: "standard or approval, kept as text",
)
FREQUENCY = Recogniser("frequency", re.compile(rf"\d{{2}}(?:\s?[/-]\s?\d{{2}})?\s?Hz{END}", re.I), lambda m: m[0])
FAULT_CURRENT = Recogniser(
    "fault_current",
    re.compile(rf"(?P<amps>\d{{1,2}}[ .,]?\d{{3}})\s?A?\s?AFC{END}|AFC\s?(?P<after>\d{{1,2}}[ .,]?\d{{3}})\s?A?{END}", re.I),
    lambda m: float(re.sub(r"\D", "", m["amps"] or m["after"])),
)
OPERATING_CLASS = Recogniser(
    "operating_class",
    re.compile(rf"(?:class|cl)\.?\s?(?P<letter>[A-D]){END}|(?P<hours>\d{{1,2}}[ .,]?000)\s?h(?:ours|rs)?{END}", re.I),
    _operating_class,
)
PROTECTION = Recogniser(
    "protection",
    re.compile(rf"\(?[PS][0-3]\)?{END}"),
    lambda m: ((name := m[0].strip("()")) in MOTOR["protection_rank"] and name) or None,
)
LABEL = Recogniser("label", re.compile(r"(?:Cn?|Un?|V)\s?[=:]\s?", re.I), lambda _: "what follows is its value")
VOLTAGE = Recogniser(
    "voltage",
    re.compile(
        rf"(?P<pre>AC|DC|~)?\s?(?P<numbers>{NUMBER}(?:\s?V?\s?[/-]\s?\d{{2,5}}(?![\d.,]\d|\d|\s*[pnum]))*)\s*"
        rf"(?P<unit>kV|WVDC|WVAC|VDCW|VAC|VDC|WV|V|volts?)?\.?\s?(?P<post>~|AC(?![A-Za-z])|DC(?![A-Za-z])|=|-(?=[\s,;/]|$))?(?![A-Za-z0-9])",
        re.I,
    ),
    _volts,
)
# The sign first, as on old European parts: `V~ 250`, `VDC 400`.
VOLTAGE_AFTER_SIGN = Recogniser(
    "voltage",
    re.compile(
        rf"(?:U[NR]?\s?)?(?P<pre>)(?P<unit>V\s?~|V\s?AC|V\s?DC|V\s?=|WVDC|WV)\s?(?P<numbers>{NUMBER})\s?(?P<post>)V?(?![A-Za-z0-9])",
        re.I,
    ),
    _volts,
)
# Volts glued to the tolerance letter: 104K275, 22nK1000.
GLUED_VOLTAGE = Recogniser(
    "voltage",
    re.compile(rf"(?<=[JKM])(?P<volts>\d{{2,4}}){END}(?!\s*(?:V|~))"),
    lambda m: Volts((float(m["volts"]),), None, glued=True),
    follows=frozenset({"letter"}),
)
# A voltage code stands before a three-figure value or after a value; alone it would be watts or ampere.
VOLTAGE_CODE = r"(?P<power>[0-3])(?P<letter>[ABCDEFGHJKPVW])"
CODE_BEFORE = Recogniser("voltage", re.compile(rf"{VOLTAGE_CODE}(?=\s?\d{{3}}(?![\d.,V~]))"), _voltage_code)
CODE_AFTER = Recogniser(
    "voltage", re.compile(rf"{VOLTAGE_CODE}{END}"), _voltage_code, follows=frozenset({"capacitance", "bare", "letter"})
)
CLIMATE_LETTERS = Recogniser("climate", re.compile(rf"(?P<lower>[FGHJ])(?P<upper>[KMPS])[A-HJ-Z]{END}"), _climate_letters)
PLUS = Recogniser("plus", re.compile(r"[+&]"), lambda m: m[0])
WORDS = {
    "sh": "self-healing", "mkp": "polypropylene film", "mkt": "polyester film", "mp": "metallised paper", "film": "film",
    "motor": "motor", "run": "motor run", "running": "motor run", "start": "motor start", "starting": "motor start",
    "capacitor": "capacitor", "cap": "capacitor", "vde": "approval mark", "enec": "approval mark", "ul": "approval mark",
    "csa": "approval mark", "cqc": "approval mark", "ce": "approval mark", "polarised": "polarised",
    "electrolytic": "polarised", "snap-in": "polarised", "elko": "polarised", "kp": "polypropylene film",
    "mkc": "polycarbonate film", "mks": "polyester film", "paper": "paper", "ceramic": "ceramic", "mica": "mica",
    "oil": "oil", "pcb-free": "oil without PCB", "semko": "approval mark", "nemko": "approval mark",
    "demko": "approval mark", "fimko": "approval mark", "tuv": "approval mark", "eac": "approval mark",
    "rohs": "approval mark", "made": "origin", "in": "origin", "safety": "safety part", "class": "class",
}  # fmt: skip
WORD = Recogniser("word", re.compile(rf"[A-Za-z][A-Za-z-]*{END}"), lambda m: WORDS.get(m[0].lower()))
