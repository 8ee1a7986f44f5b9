"""Notations of voltage, safety class, temperature and motor duty."""

import itertools
import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from dusky_heron.core.figures import readings
from dusky_heron.core.markings.likely import USUAL_V
from dusky_heron.core.markings.model import ClassName, Climate
from dusky_heron.core.markings.pieces import DIGITS, END, NO_LETTER, UNREAD_FIGURE, Found, N, numbers, one, recognisers
from dusky_heron.core.markings.values import grouping_cost, scaled
from dusky_heron.core.markings.words import known_run
from dusky_heron.core.tables import csv_table, toml_table

MOTOR = toml_table("motor_classes")
LOWEST_V, HIGHEST_V = 1.0, 100_000.0
DAMP_HEAT_DAYS = (4, 10, 21, 42, 56)  # IEC 60068-2-78
LONG_LIST = 4.0  # how unlikely it is that more than two alternating volts are printed in one list
SPACED_VOLTS = 0.5  # how unlikely it is that a space groups the figures of volts
Kind = Literal["ac", "dc"]


@dataclass(frozen=True, slots=True)
class Volts:
    """Printed volts and what kind they are; None where the marking does not say.

    `surge` is the peak or test volts; `working` where they are printed as working volts; `unitless`
    where only a sign or a code tells that they are volts.
    """

    values: tuple[float, ...]
    kind: Kind | None
    from_code: bool = False
    glued: bool = False
    surge: bool = False
    grouped: bool = False
    working: bool = False
    unitless: bool = False


AC_WORD, DC_WORD = r"A\.?\s?C\.?", r"D\.?\s?C\.?"
# The word behind or before the figures: V and its forms for working volts, alternating and direct.
V_WORD = (
    rf"(?i:W\.?\s?V\.?\s?(?:{DC_WORD}|{AC_WORD})?|V\.?\s?W\.?(?:\s?{DC_WORD})?(?![a-z])|{DC_WORD}\s?W\.?\s?V\.?|V\.?\s?{DC_WORD}\s?W\.?(?![a-z])|"
    rf"V\.?\s?L\.?(?![a-z])|[kк]?[VВ](?:olts?)?\.?\s?(?:{AC_WORD}|{DC_WORD})|[kк]?[VВ](?:olts?)?\.?){NO_LETTER}"
)
SURGE = (
    r"(?i:surge|peak|(?<=[\sv])pk\.?|test|t\.\s?e\.?|s\.?v\.?|punta|prova|pr(?:ü|u|ue)f(?:spannung|spg|sp)?\.?|"
    r"spitzen?(?:spannung)?|pointe|cr[êe]te|essai|sto(?:ss|ß)(?:spannung)?)"
)
WORKING = r"(?i:t\.\s?s\.?|v\s?lav\.?|lav\.?)"
TIGHT_LIST = r"(?P<numbers>{N}(?:[/-]{N}){0,5})"
LIST = r"(?P<numbers>{N}(?:\s?V?~?\s?[/-]\s?{N}){0,5})"


def _kind_of(mark: str) -> Kind | None:
    mark = mark.lower().replace(".", "").replace(" ", "")
    if "~" in mark or "ac" in mark:
        return "ac"
    return "dc" if "dc" in mark or "=" in mark or "-" in mark or "wv" in mark or "vw" in mark else None


def _each(numbers_text: str, *, kilo: bool) -> Iterator[tuple[tuple[float, ...], float, bool]]:
    """The volts that a list of figures may stand for, with how unlikely, and whether a separator leaves two readings."""
    items = [item.strip() for item in re.findall(rf"[0-9]{{1,3}}(?: [0-9]{{3}})+|{N}", numbers_text)]
    for chosen in itertools.product(*(enumerate(readings(item)) for item in items)):
        values = tuple(scaled(text, 3 if kilo else 0) for _, text in chosen)
        cost = sum(grouping_cost(k, item) for (k, _), item in zip(chosen, items, strict=True) if len(readings(item)) > 1)
        if values and all(LOWEST_V <= value <= HIGHEST_V for value in values):
            yield values, cost, any(len(readings(item)) > 1 for item in items)


def _volts(match: re.Match[str]) -> Iterator[Found]:
    groups = match.groupdict()
    unit = groups.get("unit") or ""
    if unit and match.end("unit") > match.start("unit") and known_run(match.string, match.start("unit")):
        return  # the V of a word
    mark = f"{groups.get('pre') or ''} {unit} {groups.get('post') or ''}"
    kilo = unit[:1] in ("k", "K", "к", "К")
    for values, cost, grouped in _each(match["numbers"], kilo=kilo):
        kind = _kind_of(mark)
        spaced = bool(re.search(r"[0-9] [0-9]", match["numbers"]))
        odd = (SPACED_VOLTS if spaced and set(values) <= USUAL_V else UNREAD_FIGURE if spaced else 0.0) + (
            LONG_LIST if kind == "ac" and len(values) > 2 else 0.0
        )
        yield Found(
            Volts(values, kind, surge="surge" in groups, grouped=grouped, working="w" in unit.lower(), unitless=not unit),
            cost + odd,
        )


def _pair_of_volts(match: re.Match[str]) -> Iterator[Found]:
    """Working and test volts with one stroke between, said so beside them: the rated one is the lower."""
    for values, cost, grouped in _each(match["numbers"], kilo=False):
        if len(values) == 2:
            yield Found(Volts(tuple(sorted(values)), _kind_of(match["unit"] or ""), grouped=grouped), cost)


def _classes(match: re.Match[str]) -> Iterator[Found]:
    """The classes printed together: an X and a Y; of two of one letter only the first belongs to this piece."""
    typed = list(re.finditer(r"([XxYy])\s?([0-9])", match[0]))
    names = [ClassName(f"{one[1].upper()}{one[2]}") for one in typed]
    if len(names) == 2 and names[0].is_y != names[1].is_y:
        yield Found(tuple(names))
    else:
        yield Found((names[0],), 0.0, match.start() + typed[0].end())


def _climate(match: re.Match[str]) -> Climate | None:
    lower, upper, days = int(match["lower"]), int(match["upper"]), int(match["days"])
    return (
        Climate(-float(lower), float(upper), days) if 0 <= lower <= 65 and 55 <= upper <= 200 and days in DAMP_HEAT_DAYS else None
    )


def _upper(match: re.Match[str]) -> Climate | None:
    upper = float(match["upper"])
    return Climate(None, upper) if 40 <= upper <= 200 else None


def _span(match: re.Match[str]) -> Iterator[Found]:
    lower, upper = float(match["lower"]), float(match["upper"])
    if lower <= 65 and 40 <= upper <= 200:
        plain = "C" in match[0] or "°" in match[0]
        if plain or (lower in (10, 25, 40, 55) and upper in (70, 85, 100, 105, 110, 125)):
            yield Found(Climate(-lower, upper), 0.0 if plain else 0.3)


def _voltage_code(match: re.Match[str]) -> Volts:
    row = next(row for row in csv_table("voltage_codes") if row["letter"] == match["letter"])
    return Volts((float(f"{row['volts']}e{match['power']}"),), "dc", from_code=True, unitless=True)


def _climate_letters(match: re.Match[str]) -> Climate:
    table = toml_table("climate_letters")
    return Climate(float(table["lower_c"][match["lower"]]), float(table["upper_c"][match["upper"]]))


def _operating_class(match: re.Match[str]) -> str | None:
    if match["letter"]:
        return match["letter"].upper()
    hours = int(re.sub(r"\D", "", match["hours"]))
    return next((name for name, rated in MOTOR["operating_class_hours"].items() if rated == hours), None)


def _reactive(match: re.Match[str]) -> float:
    return float(readings(match["n"])[0]) * (1e3 if match["kilo"] else 1.0)


CLASS = "(?:[Xx][1-3]|[Yy][1-4])"
CLASSES = (
    *recognisers("classes", [re.compile(rf"{CLASS}(?:\s?/?\s?{CLASS})?{NO_LETTER}")], _classes, "XxYy"),
    *recognisers("classes", [re.compile(rf"(?:X\s[1-3]|Y\s[1-4])(?:\s?/?\s?[XY]\s?[1-3])?{END}")], _classes, "XY"),
)
OPEN_CLASS = one("open_class", r"\(\s?[XY]\s?\)", lambda m: m[0].strip("() "), "(")
CLIMATE = (
    *one(
        "climate",
        r"-?(?P<lower>[0-9]{2})/(?P<upper>[0-9]{2,3})/(?P<days>[0-9]{2})(?:\s?/\s?[A-C]" + NO_LETTER + r")?",
        _climate,
        "-" + DIGITS,
    ),
    *one("climate", r"\+?(?P<upper>[0-9]{2,3})\s?(?:°\s?(?:C" + NO_LETTER + r")?|C(?![A-Za-z]))", _upper, "+" + DIGITS),
    *one("climate", rf"T[ca]?\.?\s?[=:]?\s?\+?(?P<upper>[0-9]{{2,3}})(?:\s?°?\s?C)?(?![0-9]){NO_LETTER}", _upper, "Tt"),
    *one("climate", r"T[ca]\s?(?P<upper>70|85|105|125)(?=[0-9])", _upper, "T"),
    *one("climate", rf"tc\.?\s?[=:]?\s?\+?(?P<upper>[0-9]{{2,3}})(?:\s?°?\s?C)?{END}", _upper, "t"),
    *recognisers(
        "climate",
        [
            re.compile(
                r"-\s?(?P<lower>[0-9]{2})\s?(?:°\s?C?|C)?\s?(?:/|\.{2,3}|…|to|bis|~|\+|-)\s?\+?\s?(?P<upper>[0-9]{2,3})(?:\s?°\s?C?|\s?C(?![A-Z])|(?![0-9]))(?![/%])"
                + NO_LETTER
                + r""
            )
        ],
        _span,
        "-",
    ),
)
FREQUENCY = one(
    "frequency",
    r"(?P<hz>[0-9]{2})(?:\s?[/-]\s?[0-9]{2})?\s?(?i:Hz|HZ|Гц|c/s|~/s)(?![a-z])",
    lambda m: float(m["hz"]),
    DIGITS,
    needs="hz|гц|c/s|~/s",
)
FAULT_CURRENT = one(
    "fault_current",
    rf"(?P<amps>[0-9]{{1,2}}[ .,]?[0-9]{{3}})\s?A?\s?(?i:AFC){END}|(?i:AFC)\s?(?P<after>[0-9]{{1,2}}[ .,]?[0-9]{{3}})\s?A?{END}",
    lambda m: float(re.sub(r"\D", "", m["amps"] or m["after"])),
    "Aa" + DIGITS,
    needs="afc",
)
OPERATING_CLASS = one(
    "operating_class",
    rf"(?i:class|klasse|cl|kl)\.?\s?(?P<letter>[A-D])(?![a-z])|(?P<hours>[0-9]{{1,2}}[ .,]?000)\s?h(?:ours|rs)?{NO_LETTER}",
    _operating_class,
    "cCkK" + DIGITS,
    needs="cl|kl|000 ?h",
)
PROTECTION = one("protection", r"[PS][0-3](?![a-z])", lambda m: m[0] if m[0] in MOTOR["protection_rank"] else None, "PS")
ED = one(
    "service",
    rf"(?:[0-9]{{1,2}}(?:[.,][0-9]+)?\s?%\s?ED|ED\s?[=:]?\s?[0-9]{{1,2}}(?:[.,][0-9]+)?\s?%){NO_LETTER}",
    lambda _: "intermittent",
    "E" + DIGITS,
    needs="ed",
)
REACTIVE = recognisers(
    "reactive",
    numbers(r"(?P<n>{N})\s?(?P<kilo>[kKк]?)(?i:var|вар)(?![a-z])"),
    lambda m: [Found(_reactive(m))],
    DIGITS + ".,",
    needs="var|вар",
)
LABEL = one(
    "label",
    r"(?:C[Nn]?|U[NnRr]?|V)\s?[=:]\s?(?=[0-9.,])|U[NnRr]?\s(?=[0-9.,~])|C[NnXx]?\s(?=[0-9.,µunp])",
    lambda _: "what follows is its value",
    "CUV",
)
# A dash is the sign of direct volts where it stands at the V and no figure at it: `450V -40+105°C` has none.
POST = rf"(?P<post>~|=|(?<! )-(?![.,]?[0-9])|-(?!\s?[.,]?[0-9])|(?i:{AC_WORD}|{DC_WORD}){NO_LETTER})?"
VOLTAGE = (
    *recognisers(
        "voltage",
        numbers(rf"(?P<pre>(?i:AC|DC)|(?<![VВ0-9])(?<![VВ0-9] )~)?\s?{LIST}\s?(?P<unit>{V_WORD})\s?{POST}"),
        _volts,
        "AaDd~.,=" + DIGITS,
    ),
    *recognisers(
        "voltage",
        numbers(
            rf"(?P<pre>(?i:AC|DC)|(?<![VВ0-9])(?<![VВ0-9] )~)?\s?{LIST}\s?"
            r"(?P<post>~|=|(?<=[0-9])-(?=[\s,;)]|$)|(?i:AC|DC)(?![A-Za-z]))"
        ),
        _volts,
        "AaDd~.,=" + DIGITS,
    ),
    *recognisers("voltage", numbers(rf"(?P<pre>(?i:AC|DC)|(?<![VВ0-9])(?<![VВ0-9] )~)\s?{TIGHT_LIST}{END}"), _volts, "AaDd~"),
    # The sign first, as on old European parts: `V~ 250`, `VDC 400`, `WV 450`.
    *recognisers(
        "voltage",
        numbers(
            rf"(?<![0-9])(?:U[NR]?\s?)?(?P<unit>V\s?~|V\s?=|(?i:V\s?AC|V\s?DC|W\.?V\.?D\.?C\.?|W\.?V\.?|V\s?lav\.?))\s?{TIGHT_LIST}{END}(?!\s?(?:[unpmM]?F|MF|[/-][0-9]|(?i:hz)))"
        ),
        _volts,
        "UuVvWw",
    ),
    *recognisers(
        "voltage", numbers(rf"{WORKING}\s?[=:]?\s?{LIST}\s?(?P<unit>{V_WORD})?\s?{POST}"), _volts, "TtVvLlWw", needs=WORKING
    ),
    *recognisers("voltage", numbers(rf"{LIST}\s?(?P<unit>{V_WORD})?\s?{POST}\s?{WORKING}"), _volts, DIGITS + ".,", needs=WORKING),
)
SURGE_VOLTAGE = (
    *recognisers(
        "voltage",
        numbers(rf"(?P<surge>{LIST})\s?(?P<unit>{V_WORD})?\s?{POST}\s?(?:{SURGE})(?![a-z])"),
        _volts,
        DIGITS + ".,",
        needs=SURGE,
    ),
    *recognisers(
        "voltage",
        numbers(rf"(?P<surge>V?\s?{SURGE}\s?[=:]?\s?{LIST})\s?(?P<unit>{V_WORD})?\s?{POST}{NO_LETTER}"),
        _volts,
        "VvSsPpTtCcEe",
        needs=SURGE,
    ),
    *recognisers(
        "working_test",
        numbers(rf"(?P<numbers>{{N}}\s?/\s?{{N}})\s?(?P<unit>{V_WORD})?\s?{POST}\s?(?:{WORKING}\s?/\s?{SURGE})")
        + numbers(rf"(?:{WORKING}\s?/\s?{SURGE})\s?[=:]?\s?(?P<numbers>{{N}}\s?/\s?{{N}})\s?(?P<unit>{V_WORD})?\s?{POST}"),
        _pair_of_volts,
        "TtVvLlWw" + DIGITS,
        needs=WORKING,
    ),
)
# Volts glued to the tolerance letter: 104K275, 22nK1000.
GLUED_VOLTAGE = one(
    "voltage",
    rf"(?<=[JKM])(?P<volts>[0-9]{{2,4}}){END}(?!\s*(?:V|~))",
    lambda m: Volts((float(m["volts"]),), None, glued=True),
    DIGITS,
    "letter",
    needs="[jkm][0-9]",
)
# A voltage code stands before a three-figure value or after a value; alone it would be watts or ampere.
VOLTAGE_CODE = r"(?P<power>[0-3])(?P<letter>[ABCDEFGHJKPVW])"
CODES = (
    *one("voltage", rf"{VOLTAGE_CODE}(?=\s?[0-9]{{3}}(?![0-9.,~]|\s?[VВ~]|\s?(?:AC|DC)))", _voltage_code, "0123"),
    *one("voltage", rf"{VOLTAGE_CODE}{END}", _voltage_code, "0123", "capacitance", "bare", "letter"),
)
CLIMATE_LETTERS = one("climate", rf"(?<![^\W_])(?P<lower>[FGHJ])(?P<upper>[KMPS])[A-HJ-Z]{END}", _climate_letters, "FGHJ")
# Triangles, squares, discs, diamonds and half discs, each in front of its section.
SYMBOLS = "\u25b2\u25b3\u25bc\u25bd\u25a0\u25a1\u25cf\u25cb\u25c6\u25c7\u25d7\u25d6\u25d0\u25d1"
SYMBOL = one("symbol", f"[{SYMBOLS}]", lambda m: m[0], SYMBOLS)
PARALLEL = one("parallel", r"//|\|\||(?i:parallel)", lambda _: "in parallel", "/|pP")
AS_SAID = one("as_said", r"\{[^{}]*\}", lambda m: m[0][1:-1], "{")
