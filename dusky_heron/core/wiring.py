"""How it was found: one line for each wire, connector, screw, polarity or earlier repair, in the technician's own shorthand."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from dusky_heron.core.errors import InputError


class FoundKind(StrEnum):
    """What a line of the map is about."""

    WIRE = "wire"
    CONNECTOR = "connector"
    SCREWS = "screws"
    POLARITY = "polarity"
    ORIENTATION = "orientation"
    REPAIR = "repair"


FOUND_TITLES: Mapping[FoundKind, str] = {
    FoundKind.WIRE: "wire",
    FoundKind.CONNECTOR: "connector",
    FoundKind.SCREWS: "screws",
    FoundKind.POLARITY: "polarity",
    FoundKind.ORIENTATION: "orientation",
    FoundKind.REPAIR: "earlier repair",
}
FIRST_WORDS: Mapping[str, FoundKind] = {
    **dict.fromkeys(("wire", "lead"), FoundKind.WIRE),
    **dict.fromkeys(("connector", "plug", "socket"), FoundKind.CONNECTOR),
    **dict.fromkeys(("screw", "screws", "nut", "nuts"), FoundKind.SCREWS),
    **dict.fromkeys(("polarity", "plus", "minus"), FoundKind.POLARITY),
    **dict.fromkeys(("orientation", "turned", "faces"), FoundKind.ORIENTATION),
    **dict.fromkeys(("repair", "repaired", "earlier"), FoundKind.REPAIR),
}
COLOURS: Mapping[str, str] = {
    "bk": "black", "bn": "brown", "rd": "red", "og": "orange", "ye": "yellow", "gn": "green", "bu": "blue", "vt": "violet",
    "gy": "grey", "wh": "white", "pk": "pink", "tq": "turquoise", "gd": "gold", "sr": "silver", "gnye": "green/yellow",
}  # fmt: skip
OTHER_WORDS: Mapping[str, str] = {"gray": "grey", "purple": "violet", "earth": "green/yellow", "g/y": "green/yellow"}
NAMED = frozenset(COLOURS.values()) | {"clear", "tan", "maroon", "cream", "bare"}
STARTS = "connector, screws, polarity, orientation or repair"
ARROW = re.compile(r"\s*(?:->|=>|\u2192|–>|—>|>)\s*|\s+to\s+")
END = re.compile(r"(?P<name>[A-Za-z]{1,4}\d{0,4}[A-Za-z]?)(?:[.:/](?P<terminal>\S+))?")


@dataclass(frozen=True, slots=True)
class End:
    """One end of a wire: the words typed, and the position and terminal they may name."""

    text: str
    name: str = ""
    terminal: str = ""


@dataclass(frozen=True, slots=True)
class FoundLine:
    """A line as read. A wire has a colour and two ends; the rest carry their words in `note`; `about` is what they name."""

    kind: FoundKind
    colour: str = ""
    start: End | None = None
    end: End | None = None
    about: End | None = None
    note: str = ""


def read_found(text: str) -> FoundLine:
    """Read one line: `grey pump-run -> C1.2`, `connector J3 red black white`, `screws tray 2, 4 × M4`, `polarity C4 + up`.

    A line with an arrow (or ` to `) is a wire: its first words that are colours name it (`gn/ye` and IEC 60757 codes too).
    Any other begins with what it is about.

    :param text: as typed
    :returns: FoundLine
    :raises InputError: nothing typed, an arrow with an end missing, or a line that says not what it is about (field `text`)
    :source: colour codes of IEC 60757

    >>> line = read_found("gy pump-run -> C1.2")
    >>> line.colour, line.start.text, line.end.name, line.end.terminal
    ('grey', 'pump-run', 'C1', '2')
    """
    typed = " ".join(text.split())
    if not typed:
        raise InputError("text", "Type one line, such as grey pump-run -> C1.2.")
    first, _, rest = typed.partition(" ")
    kind = FIRST_WORDS.get(first.lower().rstrip(":"))
    if kind and kind != FoundKind.WIRE:
        return _other(kind, rest)
    ends = ARROW.split(rest if kind else typed)
    if len(ends) == 1:
        raise InputError("text", f"A wire needs an arrow: grey pump-run -> C1.2. Other lines begin with {STARTS}.")
    if len(ends) > 2 or not all(end.strip() for end in ends):
        raise InputError("text", "A wire has two ends, one on each side of one arrow.")
    colour, start = _colour(ends[0].strip())
    return FoundLine(FoundKind.WIRE, colour, _end(start) if start else None, _end(ends[1].strip()))


def _other(kind: FoundKind, rest: str) -> FoundLine:
    if not rest.strip():
        raise InputError("text", f"Say more of the {FOUND_TITLES[kind]}.")
    about = _end(rest.split(" ")[0].rstrip(",:"))
    return FoundLine(kind, about=about if about.name else None, note=rest)


def _colour(text: str) -> tuple[str, str]:
    """The colours a wire's text begins with, in words, and what is left of it."""
    words, found = text.split(" "), []
    while words and (colour := _one_colour(words[0])):
        found.append(colour)
        words.pop(0)
    return "/".join(found), " ".join(words)


def _one_colour(word: str) -> str:
    low = word.lower()
    if low in OTHER_WORDS:
        return OTHER_WORDS[low]
    if low in NAMED:
        return low
    parts = re.split(r"[/-]", low)
    read = [COLOURS.get(part) or OTHER_WORDS.get(part) or (part if part in NAMED else "") for part in parts]
    return "/".join(read) if all(read) else ""


def _end(text: str) -> End:
    match = END.fullmatch(text)
    return End(text, match["name"], match["terminal"] or "") if match else End(text)
