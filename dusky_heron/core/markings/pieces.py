"""Cutting a marking into pieces: each recogniser knows one notation; the scanner tries them in order."""

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

# One character for one, so that a piece's place in the typed text is kept.
SAME_LENGTH = str.maketrans(
    {"µ": "u", "μ": "u", "\u00a0": " ", "\u202f": " ", "\u2009": " ", "\t": " ", "\n": " ", "\r": " ", "×": "x", "−": "-",
     "–": "-", "—": "-", "‐": "-", "‑": "-", "∼": "~", "˜": "~", "≃": "~", "\u2126": "Ω"}
)  # fmt: skip
SEPARATORS = " ,;:|·()[]/"
NUMBER = r"(?:\d+(?:[.,]\d+)?|[.,]\d+)"
END = r"(?![A-Za-z0-9])"


@dataclass(frozen=True, slots=True)
class Piece:
    """A run of the typed text, the notation it is in, and what it holds."""

    kind: str
    value: Any
    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Recogniser:
    """One notation: its kind, its pattern, and what a match holds (None: not this after all)."""

    kind: str
    pattern: re.Pattern[str]
    build: Callable[[re.Match[str]], Any]
    follows: frozenset[str] = frozenset()


def number(text: str) -> float:
    """A decimal number with point or comma."""
    return float(text.replace(",", "."))


def scan(text: str, recognisers: tuple[Recogniser, ...]) -> Iterator[Piece]:
    """Cut text into pieces from left to right; what nothing recognises comes out as kind `unread`."""
    plain = text.translate(SAME_LENGTH)
    at, before = 0, ""
    while at < len(plain):
        if plain[at] in SEPARATORS or (plain[at] == "." and at and plain[at - 1].isalpha()):
            at += 1
            continue
        piece = _first(plain, at, before, recognisers) or _word(plain, at)
        yield piece
        at, before = piece.end, piece.kind


def _first(plain: str, at: int, before: str, recognisers: tuple[Recogniser, ...]) -> Piece | None:
    for recogniser in recognisers:
        if recogniser.follows and before not in recogniser.follows:
            continue
        match = recogniser.pattern.match(plain, at)
        if match and match.end() > at:
            value = recogniser.build(match)
            if value is not None:
                return Piece(recogniser.kind, value, at, match.end())
    return None


def _word(plain: str, at: int) -> Piece:
    end = at + 1
    while end < len(plain) and plain[end] not in SEPARATORS:
        end += 1
    return Piece("unread", plain[at:end], at, end)
