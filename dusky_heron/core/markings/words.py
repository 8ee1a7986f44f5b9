"""Text that stands on capacitors and is known: materials, approvals, type designations, standards; none of it is a rating."""

import re
from collections.abc import Iterator
from typing import NamedTuple

from dusky_heron.core.markings.pieces import END, Found, one, recognisers
from dusky_heron.core.tables import csv_table

KNOWN = {row["word"]: row for row in csv_table("known_text")}
SERVICES = {
    "cont": "continuous", "cont.": "continuous", "continuous": "continuous", "int": "intermittent", "int.": "intermittent",
    "intermittent": "intermittent", "run": "run", "running": "run", "start": "start", "starting": "start",
}  # fmt: skip
LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"
SHORTEST_TORN = 2  # letters of a known word that may stand glued to others


LETTER_RUN = re.compile(r"[^\W\d_]{2,}")


def known_run(text: str, at: int) -> bool:
    """Whether the letters that stand together here are a known word as a whole."""
    run = LETTER_RUN.match(text, at)
    return run is not None and run[0].lower() in KNOWN


class Word(NamedTuple):
    """A known word: what it means, and the material it names."""

    meaning: str
    material: str = ""


def _whole(match: re.Match[str]) -> Word | None:
    row = KNOWN.get(match[0].lower())
    return Word(row["meaning"], row["material"]) if row else None


def _torn(match: re.Match[str]) -> Iterator[Found]:
    """Known words that letters begin with, where others are glued to them."""
    for end in range(len(match[0]), SHORTEST_TORN - 1, -1):
        row = KNOWN.get(match[0][:end].lower())
        if row:
            yield Found(Word(row["meaning"], row["material"]), 0.0, match.start() + end)


def _designation(match: re.Match[str]) -> Word:
    row = KNOWN.get((match["name"] or "").lower())
    return Word(row["meaning"], row["material"]) if row else Word("type designation", "film")


_ALPHABET = LETTERS + LETTERS.lower() + "".join(map(chr, range(0x410, 0x450)))
WORD = one("word", r"(?<![^\W_])[^\W\d_][^\W\d_-]*(?:-[^\W\d_]+)?(?![a-zа-я])", _whole, _ALPHABET)
SERVICE = one(
    "service",
    r"(?i:continuous|cont|intermittent|int|running|run|starting|start)(?![a-z])",
    lambda m: SERVICES[m[0].lower()],
    "cirsCIRS",
)
DESIGNATION = (
    *one(
        "word", rf"(?<![^\W_])(?P<name>CBB|CL|CD|CH|MKP|MKT|MKS|MKC|FKP|FKS|KP|MPP|MP)[0-9]{{1,3}}[A-Z]?{END}", _designation, "CMFK"
    ),
    *one("word", rf"[КMМ][0-9]{{2}}[А-Я]?-[0-9]{{1,3}}[а-яА-Я]?{END}", lambda _: Word("type designation"), "КMМ"),
    *one("word", r"(?:X[5-8][RSTUVP]|Y5[EFPRTUV]|Z5[UV])(?![A-Za-z0-9])", lambda _: Word("ceramic", "ceramic"), "XYZ"),
    *one("word", rf"(?:C0G|COG|NP0|NPO){END}", lambda _: Word("ceramic class 1", "ceramic1"), "CN"),
    # Temperature groups of Cyrillic ceramics: change per degree (М, П) or over the range (Н).
    *one(
        "word",
        r"(?:МП0|М(?:33|47|75|150|220|330|470|750|1500|2200)|П(?:33|60|100|120)|Н[1-9]0)(?![А-я])",
        lambda _: Word("temperature group", "ceramic"),
        "МПН",
    ),
)
STANDARD = one(
    "standard",
    r"(?:IEC|EN|UL|VDE|CSA|DIN|BS|CQC|ENEC|SEMKO|UL/CSA|ГОСТ)\s?[-:]?\s?(?:[0-9]{4,6}|810)(?:-[0-9]{1,2})*(?![A-Za-z0-9µ~%.,+]|\s?(?:[-+±%]|V(?![A-Z])|~|[unp]F|MF))"
    r"|THB\s?[0-9]{2}/[0-9]{2,3}|E[0-9]{6}(?![0-9])",
    lambda _: "standard or approval, kept as text",
    "IEUVCDBSTГ",
)
TORN_WORD = recognisers("word", [re.compile(r"[A-Za-z]{2,12}")], _torn, LETTERS + LETTERS.lower())
