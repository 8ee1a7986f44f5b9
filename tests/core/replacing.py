"""Reading the table of pairs: a place as a row tells it, and the parts held against it."""

import csv
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Basis, Equipment, OldPart, Part, PartKind, Position, Reach, Role, Surroundings

TABLE = Path(__file__).parent / "replacement_pairs.csv"
EARTHED = {"I": "I", "II": "II", "none": "0"}
REACHES = {"accessible": Reach.ACCESSIBLE, "secondary": Reach.SECONDARY, "core": Reach.CORE}


@dataclass(frozen=True)
class Pair:
    """A place, a part offered for it, and what is to be answered: ok, the rule that refuses, or sign and a word."""

    position: Position
    part: Part
    answer: str
    says: str


def part(kind: str, marking: str, **more: object) -> Part:
    """A part of a kind by what is printed on it."""
    return Part(marking, PartKind(kind), read_marking(marking), **more)  # type: ignore[arg-type]


def place(row: dict[str, str]) -> Position:
    """The place of a row."""
    protection, *how = row["equipment"].split() or [""]
    basis, volts, *_ = [*row["circuit"].split(), "", ""]
    old, _, kind = row["old"].partition(" @")
    return Position(
        "C1",
        Role(row["role"]),
        read_marking(old),
        float(row["supply"]) or None,
        50.0,
        surroundings=Surroundings(basis=Basis(basis) if basis not in ("", "none") else None, volts=float(volts) if volts else None),
        equipment=Equipment(EARTHED.get(protection, ""), two_core="two-core" in how, live_chassis="live" in how),
        old=OldPart(kind=PartKind(kind) if kind else None),
        reaches=next((REACHES[word] for word in how if word in REACHES), None),
    )


def pairs() -> Iterator[Pair]:
    """Every pair of the table."""
    with TABLE.open(encoding="utf-8") as lines:
        above: dict[str, str] = {}
        for row in csv.DictReader(line for line in lines if not line.startswith("#")):
            fresh = bool(row["role"])
            kept = {key: "" if fresh and key in ("equipment", "circuit") else above.get(key, "") for key in row}
            above = {key: value or kept[key] for key, value in row.items()}
            if any(row[key] for key in ("role", "equipment", "supply", "circuit", "old")):
                position = place(above)
            for marking in above["offered"].split(";"):
                offered = part(above["kind"], marking.strip())
                where = " ".join(above[key] for key in ("role", "equipment", "supply", "circuit", "old"))
                says = f"{offered.part_id} ({offered.kind}) in {where}"
                yield Pair(position, offered, above["answer"], says)
