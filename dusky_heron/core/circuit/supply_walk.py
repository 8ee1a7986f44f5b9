"""The fault walk of a mains supply from its inlet: what to measure next, what it should read, and what is left."""

import math
from collections.abc import Mapping
from dataclasses import dataclass

from dusky_heron.core.errors import CAPACITANCE, VOLTAGE, InputError, Range
from dusky_heron.core.metering.accuracy import reads_open
from dusky_heron.core.quantities import parse_quantity, show
from dusky_heron.core.tables import toml_table

OHMS = Range("Reading", 0.0, 1e15, "Ω")
NTC_SHARE, BLEED_SHARE, CHOKE_OHM, BULK_SHARE, LEAST_LEAK_OHM = 0.4, 0.3, 10.0, 0.2, 1e5
RANGES = {"Ω": OHMS, "V": VOLTAGE, "F": CAPACITANCE}


@dataclass(frozen=True, slots=True)
class WalkParts:
    """What is known of the parts of a supply; None for what is not fitted or not known."""

    ntc_ohm: float | None = None
    bleed_ohm: float | None = None
    choke_ohm: float | None = None
    bulk_f: float | None = None


@dataclass(frozen=True, slots=True)
class WalkCheck:
    """One check: what to measure, what is expected, and what was found: as_expected, low, high, or nothing yet."""

    id: str
    title: str
    how: str
    unit: str
    expected: str
    found: str
    sentence: str


@dataclass(frozen=True, slots=True)
class Walk:
    """A walk so far: its checks in order, the next one, what was found at fault, and what is still left to suspect."""

    suggests: str
    checks: tuple[WalkCheck, ...]
    next_id: str | None
    suspects: tuple[str, ...]
    left: tuple[str, ...]
    says: str


def walk_symptoms() -> Mapping[str, str]:
    """What a supply may show, by id.

    :returns: titles in the order of the table
    :raises InputError: never
    :source: table `supply_symptoms`
    """
    return {key: row["title"] for key, row in toml_table("supply_symptoms").items()}


def walk_supply(symptom: str, parts: WalkParts, readings: Mapping[str, str]) -> Walk:
    """Walk a supply from its inlet: each reading clears a part or makes it a suspect.

    The next check is the first not yet read that can explain the symptom; where a short is found, what it often takes along is
    read too, and the walk ends in suspects.

    :param symptom: a key of `walk_symptoms`
    :param parts: what is known of the parts
    :param readings: by check id, as typed; OL for no reading
    :returns: Walk
    :raises InputError: an unknown symptom (`symptom`), or a reading that cannot be read, its field the check
    :source: tables `supply_walk` and `supply_symptoms`; NTC ±40 % at room temperature, bleed ±30 %, bulk −20 %
    """
    shown = toml_table("supply_symptoms").get(symptom)
    if shown is None:
        raise InputError("symptom", "Choose what the supply shows.")
    table = toml_table("supply_walk")
    checks = [_check(key, row, parts, readings.get(key, "").strip()) for key, row in table.items()]
    found = {check.id: check for check in checks if check.found}
    wrong = [check for check in checks if check.found in ("low", "high")]
    caused = [check for check in wrong if check.id != "fuse"]
    wanted = list(shown["may"])
    if caused:
        wanted = [other for check in caused for other in table[check.id].get("along", ()) if check.found == "low"]
    left = [check for check in checks if check.id in wanted and not check.found]
    says = ""
    if caused:
        says = "Measure what it may have taken along." if left else "Replace what is found, then first power through a lamp."
    elif not left:
        says = shown["behind"]
    return Walk(
        suggests=shown["suggests"],
        checks=tuple(check for check in checks if check.id in shown["may"] or check.id in wanted or check.id in found),
        next_id=left[0].id if left else None,
        suspects=tuple(check.sentence for check in wrong),
        left=tuple(check.title for check in left),
        says=says,
    )


def _check(key: str, row: Mapping[str, object], parts: WalkParts, typed: str) -> WalkCheck:
    least, most = _expected(key, row, parts)
    unit = str(row["unit"])
    found = sentence = ""
    if typed:
        beyond = typed.startswith(">")
        value = math.inf if reads_open(typed) else parse_quantity(typed.lstrip("> "), unit, RANGES[unit], field=key)
        if beyond and value < least:
            raise InputError(key, f"That tells only that it is above {show(value, unit)}: measure on a higher range.")
        found = (
            "low" if value < least else "high" if (value > most or (beyond and value >= most)) and "high" in row else "as_expected"
        )
        sentence = str(row.get(found, ""))
    return WalkCheck(key, str(row["title"]), str(row["how"]), unit, _says(least, most, unit), found, sentence)


def _expected(key: str, row: Mapping[str, object], parts: WalkParts) -> tuple[float, float]:
    """The least and most a check should read: from the parts where they are known."""
    around = {
        "ntc": (parts.ntc_ohm, NTC_SHARE, NTC_SHARE),
        "x": (parts.bleed_ohm, BLEED_SHARE, BLEED_SHARE),
        "choke": (parts.choke_ohm, 1.0, 1.0),
        "bulk": (parts.bulk_f, BULK_SHARE, math.inf),
    }
    if key in around and (value := around[key][0]) is not None:
        return value * (1 - around[key][1]), value * (1 + around[key][2])
    unknown = {"ntc": (0.5, 100.0), "x": (1e5, math.inf), "choke": (0.0, CHOKE_OHM), "bulk": (0.0, math.inf)}
    if key in unknown:
        return unknown[key]
    if key == "bulk_leak":
        return LEAST_LEAK_OHM, math.inf
    least, most = row.get("least", 0.0), row.get("most", math.inf)
    return float(str(least)), float(str(most))


def _says(least: float, most: float, unit: str) -> str:
    if math.isinf(most):
        return f"more than {show(least, unit)}" if least else "any reading that is not OL"
    if least == 0:
        return f"less than {show(most, unit)}"
    return f"{show(least, unit)} to {show(most, unit)}"
