"""Cutting a marking into pieces that together are the whole of it: the best divisions win, not the first pattern that fits.

Every recogniser offers what it sees at a place; a division is a way through the text from its first character to its last.
Its cost is the sum of what its pieces are: a notation of today costs nothing, torn text a little, what nobody understands much.
"""

import re
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from typing import Any, NamedTuple

from dusky_heron.core.figures import SAME_LENGTH, SIMPLE, SPACED

N = SIMPLE
END = r"(?![^\W_])"
# No lower-case letter follows, but for what may be glued there: a class x2, an operating class cl. B, a value n47.
NO_LETTER = r"(?![abd-moqrstvwzа-я]|c(?!l)|[xy](?![1-4])|[npu](?![0-9]))"
GROUP = "[0-9] [0-9]{3}"  # figures that a space may group
DIGITS = "0123456789"
BETWEEN = frozenset(" ,;:|·()[]/\\&'\"®©™!<>.+-@")
# What the costs weigh: how unlikely a step is, so that 3 and more apart two divisions are not both plausible.
NEAR = 3.0
TORN_DIGITS, TORN_LETTERS, TORN_MIXED = 1.5, 0.7, 0.3  # two pieces without a space between figures, letters, one of each
UNREAD_FIGURE, UNREAD_UNIT, UNREAD_WORD = 10.0, 7.0, 4.0
KEPT, FOLLOWED = 10, 5.0  # divisions followed at one place, and how much worse than the best there
CONVENTIONAL = {
    ("capacitance", "letter"), ("bare", "letter"), ("letter", "voltage"), ("voltage", "bare"), ("voltage", "capacitance"),
    ("letter", "bare"),
}  # fmt: skip
UNIT_LIKE = re.compile(r"(?i:[a-z]?[fvωфв]|[а-я]{0,2}[фв]|[mu]{1,2}fd?|[kmu][a-z][fv]|v[a-z]{1,2}|w\.?v[a-z]{0,2}|мк|н|п|к)")


NOTHING = frozenset[str]()
ENDS_IN_A_FIGURE = frozenset({"classes", "protection"})  # of one figure and no more, so that the next belongs to another piece


class Found(NamedTuple):
    """What a recogniser sees: the value, how unlikely, and where it ends if not where its pattern does."""

    value: Any
    cost: float = 0.0
    end: int | None = None


class Piece(NamedTuple):
    """A run of the typed text, the notation it is in, and what it holds."""

    kind: str
    value: Any
    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Recogniser:
    """One notation: its kind, its pattern, what a match holds, the characters it starts with, the kinds it may follow.

    `needs` is a pattern that must occur somewhere in a text for the notation to be looked for in it at all.
    """

    kind: str
    pattern: re.Pattern[str]
    build: Callable[[re.Match[str]], Iterable[Found]]
    starts: str
    follows: frozenset[str] = frozenset()
    needs: str = ""


class Division(NamedTuple):
    """One way to cut the text: what it costs, and its pieces without what stands between them."""

    cost: float
    pieces: tuple[Piece, ...]


class _Way(NamedTuple):
    cost: float
    piece: Piece | None
    before: "_Way | None"


def numbers(pattern: str, flags: re.RegexFlag = re.NOFLAG) -> tuple[re.Pattern[str], ...]:
    """A pattern with `{N}` for a number, once for plain figures and once for figures grouped by spaces."""
    return tuple(re.compile(pattern.replace("{N}", number), flags) for number in (SIMPLE, SPACED))


def recognisers(
    kind: str,
    patterns: Iterable[re.Pattern[str]],
    build: Callable[[re.Match[str]], Iterable[Found]],
    starts: str,
    *follows: str,
    needs: str = "",
) -> tuple[Recogniser, ...]:
    """One recogniser for each pattern of a notation; figures grouped by spaces are looked for where there are any."""
    return tuple(
        Recogniser(kind, pattern, build, starts, frozenset(follows), GROUP if SPACED in pattern.pattern else needs)
        for pattern in patterns
    )


def one(
    kind: str, pattern: str, build: Callable[[re.Match[str]], Any], starts: str, *follows: str, needs: str = ""
) -> tuple[Recogniser, ...]:
    """A recogniser of a notation that is read one way; what it holds is None where it is not this after all."""

    def single(match: re.Match[str]) -> Iterator[Found]:
        value = build(match)
        if value is not None:
            yield Found(value)

    return recognisers(kind, [re.compile(pattern)], single, starts, *follows, needs=needs)


class Grammar:
    """All notations, by the character they start with, for the texts they can occur in."""

    def __init__(self, *groups: tuple[Recogniser, ...]) -> None:
        self._all = [recogniser for group in groups for recogniser in group]
        self._needs = {needs: re.compile(needs, re.IGNORECASE) for r in self._all if (needs := r.needs)}
        self._by_first: dict[frozenset[str], dict[str, list[Recogniser]]] = {}

    def of(self, plain: str) -> Callable[[str], list[Recogniser]]:
        """What may start with a character in this text."""
        has = frozenset(needs for needs, pattern in self._needs.items() if pattern.search(plain))
        by_first = self._by_first.setdefault(has, {})

        def at(character: str) -> list[Recogniser]:
            if character not in by_first:
                by_first[character] = [r for r in self._all if character in r.starts and (not r.needs or r.needs in has)]
            return by_first[character]

        return at


def divisions(text: str, grammar: Grammar) -> list[Division]:
    """The best ways to cut a text into pieces, best first; what nothing recognises comes out as kind `unread`."""
    plain = text.translate(SAME_LENGTH)
    size = len(plain)
    may_start = grammar.of(plain)
    at: list[list[_Way]] = [[] for _ in range(size + 1)]
    at[0].append(_Way(0.0, None, None))
    for here in range(size):
        if not at[here]:
            continue
        ways = _best(at[here])
        at[here] = []
        step, cost = _between(plain, here)
        if step:
            at[step].extend(ways if not cost else [way._replace(cost=way.cost + cost) for way in ways])
        if plain[here] == " ":
            continue
        for edge, cost in _edges(plain, here, may_start(plain[here])):
            for way in ways:
                if not edge.follows or (way.piece is not None and way.piece.kind in edge.follows):
                    at[edge.piece.end].append(_Way(way.cost + cost + _joint(plain, way.piece, edge.piece), edge.piece, way))
    return [Division(way.cost, _walk(way)) for way in _best(at[size])]


def _best(ways: list[_Way]) -> list[_Way]:
    if len(ways) == 1:
        return ways
    ways.sort(key=lambda way: way.cost)
    limit = ways[0].cost + FOLLOWED
    return [way for way in ways[:KEPT] if way.cost <= limit]


class _Edge(NamedTuple):
    piece: Piece
    follows: frozenset[str]


def _edges(plain: str, here: int, recognisers_: list[Recogniser]) -> list[tuple[_Edge, float]]:
    """Every piece that may start here; one that two recognisers see alike counts once, under the looser of their conditions.

    Figures are not bare, and nothing is unread, where a notation of today holds all of it and more.
    """
    found: dict[tuple[str, int, Any], tuple[_Edge, float]] = {}
    for recogniser in recognisers_:
        match = recogniser.pattern.match(plain, here)
        if match is None or match.end() == here:
            continue
        for value, cost, found_end in recogniser.build(match):
            end = len(plain[: found_end or match.end()].rstrip(" "))  # a space behind it stands between
            key = (recogniser.kind, end, value)
            if key not in found or not recogniser.follows:
                found[key] = (_Edge(Piece(recogniser.kind, value, here, end), recogniser.follows), cost)
    sure = max((e.piece.end for e, cost in found.values() if not cost and not e.follows and e.piece.kind != "letter"), default=here)
    edges = [(edge, cost) for edge, cost in found.values() if edge.piece.kind != "bare" or edge.piece.end >= sure]
    edges += (
        (_Edge(Piece("unread", plain[here:end], here, end), NOTHING), cost) for end, cost in _unread(plain, here) if end > sure
    )
    return edges


def _between(plain: str, here: int) -> tuple[int, float]:
    """Where the next piece may start when what stands here only divides, and what that costs; 0 when it does not divide."""
    if plain[here] not in BETWEEN:
        return 0, 0.0
    end = here + 1
    while plain[here] == " " and end < len(plain) and plain[end] == " ":
        end += 1
    if plain[here] in "-." and end < len(plain) and plain[end] in DIGITS:
        return (end, 1.0) if plain[here] == "-" and here and plain[here - 1].isalnum() else (0, 0.0)  # else a sign, a point
    return end, 0.0


def _joint(plain: str, before: Piece | None, piece: Piece) -> float:
    """What it costs that two pieces stand together: without anything between, or figures before a V that is theirs."""
    if before is not None and before.kind == "bare" and piece.kind == "voltage" and plain[piece.start] in "VvWwВ":
        return UNREAD_FIGURE if not plain[before.end : piece.start].strip(" ") else 0.0
    if before is None or before.end != piece.start:
        return 0.0
    left, right = plain[before.end - 1], plain[piece.start]
    if not (left.isalnum() and right.isalnum()) or (before.kind, piece.kind) in CONVENTIONAL:
        return 0.0
    if left.isdigit() and right.isdigit():
        return TORN_MIXED if before.kind in ENDS_IN_A_FIGURE else TORN_DIGITS
    return TORN_LETTERS if left.isalpha() and right.isalpha() else TORN_MIXED


def _unread(plain: str, here: int) -> Iterator[tuple[int, float]]:
    """A run that is not understood: to the end of its letters or figures, and to the end of the word."""
    if not plain[here].isalnum():
        if plain[here] not in BETWEEN or plain[here] in "-.":
            yield here + 1, UNREAD_WORD
        return
    end = here
    while end < len(plain) and plain[end].isalnum():
        end += 1
    run = here
    while run < end and plain[run].isdigit() == plain[here].isdigit():
        run += 1
    yield run, _cost_of(plain[here:run])
    if run - here > 1 and plain[run - 1] in "XYxy" and plain[run : run + 1] in tuple("1234"):
        yield run - 1, _cost_of(plain[here : run - 1])  # a class glued to a word that is not known
    if end > run:
        yield end, UNREAD_FIGURE


def _cost_of(text: str) -> float:
    if any(character.isnumeric() for character in text):
        return UNREAD_FIGURE
    return UNREAD_UNIT if UNIT_LIKE.fullmatch(text) else UNREAD_WORD


def _walk(way: _Way) -> tuple[Piece, ...]:
    pieces: list[Piece] = []
    step: _Way | None = way
    while step is not None:
        if step.piece is not None:
            pieces.append(step.piece)
        step = step.before
    return tuple(reversed(pieces))
