"""How it was found: one line for each wire, connector, screw, polarity or earlier repair, in the technician's own shorthand."""

import re
from collections import Counter
from collections.abc import Collection, Iterator, Mapping, Sequence
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
STARTS = "screws, polarity, orientation or repair"
ARROW = re.compile(r"\s*(?:->|=>|\u2192|–>|—>|>)\s*|\s+to\s+")
NAME = r"[A-Za-z]{1,4}\d{0,4}[A-Za-z]?"
END = re.compile(rf"(?P<name>{NAME})(?:(?:[.:/]|\s+pin\s+)(?P<terminal>\S+))?")
TABLE = re.compile(rf"(?P<name>{NAME})\s*:\s*(?P<pins>.*)")  # a name and its pins, in their order
EMPTY = ("-", "\u2013", "\u2014")
TABLE_IS = "J3: red black white -, or TB1: L=brown N=blue, with - for an empty pin and red+brown for two wires in one"


@dataclass(frozen=True, slots=True)
class End:
    """One end of a wire: the words typed, and the position and terminal they may name."""

    text: str
    name: str = ""
    terminal: str = ""


@dataclass(frozen=True, slots=True)
class Pin:
    """A pin of a connector or a terminal, and the wires in it by their colours; none for an empty one."""

    name: str
    colours: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class FoundLine:
    """A line as read. A wire has a colour and two ends; the rest carry their words in `note`; `about` is what they name.

    A connector noted pin by pin has its `pins`.
    """

    kind: FoundKind
    colour: str = ""
    start: End | None = None
    end: End | None = None
    about: End | None = None
    note: str = ""
    pins: tuple[Pin, ...] = ()

    @property
    def names(self) -> tuple[str, ...]:
        """What it names, in small letters: where a wire ends, where it starts, what the line is about."""
        return tuple(end.name.lower() for end in (self.end, self.start, self.about) if end and end.name)


@dataclass(frozen=True, slots=True)
class PutBack:
    """What goes back while a part is fitted: in words, by which lines of the map, and whether other lists ask for it too."""

    says: str
    keys: tuple[str, ...]
    shared: bool


def read_found(text: str) -> FoundLine:
    """Read one line: `grey pump-run -> C1.2`, `J3: red black white -`, `screws tray 2, 4 × M4`, `polarity C4 + up`.

    A line with an arrow (or ` to `) is a wire: its first words that are colours name it (`gn/ye` and IEC 60757 codes too).
    A name with a colon is a connector or terminals, pin by pin: by their order, or by name (`TB1: L=brown N=blue`).
    Any other begins with what it is about.

    :param text: as typed
    :returns: FoundLine
    :raises InputError: nothing typed, an arrow with an end missing, a pin that is no colour, or a line that says not what it is
        about (field `text`)
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
    if kind == FoundKind.CONNECTOR:
        return _connector(rest)
    if kind and kind != FoundKind.WIRE:
        return _other(kind, rest)
    if not kind and (table := TABLE.fullmatch(typed)):
        if not ARROW.search(typed):
            return _connector(typed, table)
        if _is_pin(re.split(r"[\s,]+", table["pins"])[0]):
            raise InputError("text", f"A table of pins, or a wire? {TABLE_IS}; a wire is red J3.1 -> C1.2.")
    ends = ARROW.split(rest if kind else typed)
    if len(ends) == 1:
        raise InputError(
            "text", f"A wire needs an arrow: grey pump-run -> C1.2; a connector a colon: J3: red black -. Else: {STARTS}."
        )
    if len(ends) > 2 or not all(end.strip() for end in ends):
        raise InputError("text", "A wire has two ends, one on each side of one arrow.")
    colour, start = _colour(ends[0].strip())
    return FoundLine(FoundKind.WIRE, colour, _end(start) if start else None, _end(ends[1].strip()))


def _other(kind: FoundKind, rest: str) -> FoundLine:
    if not rest.strip():
        raise InputError("text", f"Say more of the {FOUND_TITLES[kind]}.")
    about = _end(rest.split(" ")[0].rstrip(",:"))
    return FoundLine(kind, about=about if about.name else None, note=rest)


def _connector(rest: str, table: re.Match[str] | None = None) -> FoundLine:
    """A connector by its pins when they are given, in words otherwise."""
    table = table or TABLE.fullmatch(rest) or re.fullmatch(rf"(?P<name>{NAME})\s+(?P<pins>.*)", rest)
    words = re.split(r"[\s,]+", table["pins"].strip(" ,")) if table else [""]
    if table is None or (":" not in rest and not _is_pin(words[0])):
        return _other(FoundKind.CONNECTOR, rest)
    named = any("=" in word for word in words)
    pins = tuple(_pin(word, str(number), named=named) for number, word in enumerate(words, 1))
    names = [pin.name.lower() for pin in pins]
    if twice := next((pin.name for number, pin in enumerate(pins) if pin.name.lower() in names[:number]), ""):
        raise InputError("text", f"Pin {twice} stands there twice.")
    return FoundLine(FoundKind.CONNECTOR, about=End(table["name"], table["name"]), note=rest, pins=pins)


def _is_pin(word: str) -> bool:
    return word in EMPTY or "=" in word or bool(_one_colour(word.split("+")[0]))


def _pin(word: str, number: str, *, named: bool) -> Pin:
    name, equals, says = word.rpartition("=")
    if bool(equals) is not named or (named and not name):
        raise InputError("text", f"“{word}”: name every pin, or none. {TABLE_IS}.")
    colours = () if says in EMPTY else tuple(_one_colour(one) for one in says.split("+"))
    if not all(colours):
        raise InputError("text", f"“{word}” is no colour of a pin: {TABLE_IS}.")
    return Pin(name or number, colours)


def to_put_back(lines: Sequence[tuple[str, str]], place: str, places: Collection[str]) -> tuple[PutBack, ...]:
    """What goes back while the part of a place is fitted, by the map of how it was found.

    Its own wires and polarity, and, shared with the lists of the other places, each wire of a connector that was opened and
    whatever names no place of this job: nobody knows where that goes, so no list leaves it out. A pin of a connector and a
    wire to that pin are one, unless their colours differ.

    :param lines: what stands in the map, each with its key and as typed; what cannot be read is shared
    :param place: the name of the place
    :param places: the names of all places of the job
    :returns: in the order of the map; two that read alike are numbered, for they are two wires
    :raises InputError: never
    :source: trade practice: every wire back, and each looked for by what was written down before it was moved
    """
    known, read = {name.lower() for name in places}, [(key, typed, read_kept(typed)) for key, typed in lines]
    opened = {line.about.name.lower() for _, _, line in read if line and line.kind == FoundKind.CONNECTOR and line.about} - known
    wires = [(key, line) for key, _, line in read if line and line.kind == FoundKind.WIRE]
    found, pins = list[tuple[str, str, frozenset[str]]](), Counter[str]()
    for key, typed, line in read:
        if line is None or not line.pins:
            found += _whole(key, typed, line)
            continue
        here = Counter[str]()  # of one table each wire counts; another table of the same pins says them again
        for says, names in _of_pins(line, [wire for _, wire in wires]):
            here[says] += 1
            if here[says] > pins[says]:
                found.append((key, says, names))
        pins |= here
    back, seen = list[PutBack](), Counter[str]()
    for key, says, names in found:
        shared = bool(names & opened) or not names & known
        if shared or place.lower() in names:
            seen[says] += 1
            numbered = says if seen[says] == 1 else f"{says} ({seen[says]} of these)"
            back.append(PutBack(numbered, (key,), shared))
    return tuple(back)


def read_kept(typed: str) -> FoundLine | None:
    """A line that was kept, as `read_found` reads it now; none where it is refused by now.

    :param typed: as typed
    :returns: FoundLine or None
    :raises InputError: never
    :source: `read_found`
    """
    try:
        return read_found(typed)
    except InputError:
        return None


def _whole(key: str, typed: str, line: FoundLine | None) -> Iterator[tuple[str, str, frozenset[str]]]:
    """A line that is one thing to put back, with the names it says; screws and such are none."""
    if line is None or line.kind in (FoundKind.WIRE, FoundKind.CONNECTOR, FoundKind.POLARITY):
        yield key, typed, frozenset(line.names if line else ())


def _of_pins(line: FoundLine, wires: Sequence[FoundLine]) -> Iterator[tuple[str, frozenset[str]]]:
    """The wires of a connector that no line of a wire tells of."""
    name = line.about.name if line.about else ""
    at = frozenset({name.lower()})
    if not any(pin.colours for pin in line.pins):
        yield f"{name}, every pin empty", at
    for pin in line.pins:
        said = [wire.colour for wire in wires for end in (wire.start, wire.end) if end and _is(end, name, pin.name)]
        for colour in pin.colours:
            if colour in said or "" in said:
                said.remove(colour if colour in said else "")
            else:
                yield f"{name}.{pin.name} {colour}", at


def _is(end: End, name: str, pin: str) -> bool:
    return (end.name.lower(), end.terminal.lower()) == (name.lower(), pin.lower())


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
