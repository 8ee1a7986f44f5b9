"""What a part is made of: by its marking, the kind it is kept as, or what usually stands in its place, and how sure that is."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model.parts import PartKind
from dusky_heron.core.model.roles import ROLES
from dusky_heron.core.model.terms import Role
from dusky_heron.core.tables import toml_table

CERAMIC_BELOW_F = 20e-9  # F: a Y part below this is most likely a class 2 ceramic
ELECTROLYTIC_FROM_F = 1e-6  # F: a part on DC from here on may be an electrolytic, below it hardly ever is
KINDS: Mapping[PartKind, tuple[str, ...]] = {
    PartKind.FILM_SAFETY: ("polypropylene", "polyester", "paper"),
    PartKind.CERAMIC_SAFETY: ("ceramic_2", "ceramic_2_stable", "ceramic_1"),
    PartKind.FILM_AC: ("polypropylene", "polyester", "paper"),
    PartKind.FILM_DC: ("polyester", "polypropylene", "paper"),
    PartKind.FILM_PULSE: ("polypropylene", "polyester", "paper"),
    PartKind.CERAMIC: ("ceramic_2", "ceramic_2_stable", "ceramic_1"),
    PartKind.MICA: ("mica",),
    PartKind.MOTOR_RUN: ("polypropylene", "paper"),
    PartKind.MOTOR_START: ("electrolytic",),
    PartKind.ELECTROLYTIC: ("electrolytic",),
    PartKind.PULSE_ELECTROLYTIC: ("electrolytic",),
    PartKind.HIGH_VOLTAGE_AC: ("paper", "polypropylene"),
}


ANY = (
    "polyester",
    "polypropylene",
    "paper",
    "mica",
    "ceramic_2",
    "ceramic_1",
    "electrolytic",
)  # in a place of no known role


@dataclass(frozen=True, slots=True)
class Material:
    """One row of the table `materials`; farads, ohms, seconds, hertz."""

    key: str
    title: str
    meanings: tuple[str, ...]
    codes: tuple[str, ...]
    absorption: tuple[float, float]
    rc_s: tuple[float, float]
    loss: tuple[tuple[float, float], ...]
    new_ohm: float
    up_to_f: float
    new_rc_s: float
    polar: bool

    def loss_at(self, hertz: float) -> float | None:
        """The highest tan δ of a sound part at a frequency, on a straight line between two rows; None above the last row."""
        below = [row for row in self.loss if row[0] <= hertz]
        above = [row for row in self.loss if row[0] >= hertz]
        if not above:
            return None
        (f2, d2), (f1, d1) = above[0], (below or above)[-1 if below else 0]
        return d2 if f2 == f1 else d1 + (d2 - d1) * (hertz - f1) / (f2 - f1)

    def insulation(self, farads: float) -> float:
        """The least insulation of a new part, ohms."""
        return self.new_ohm if farads <= self.up_to_f else self.new_rc_s / farads


def _two(row: list[float]) -> tuple[float, float]:
    return row[0], row[1]


def _read() -> dict[str, Material]:
    rows = {key: row for key, row in toml_table("materials").items() if isinstance(row, dict)}
    return {
        key: Material(
            key, row["title"], tuple(row["meanings"]), tuple(row["codes"]), _two(row["absorption"]), _two(row["rc_s"]),
            tuple((hertz, tan) for hertz, tan in row["loss"]), row["insulation"]["ohm"], row["insulation"]["up_to_f"],
            row["insulation"]["rc_s"], row["polar"],
        )
        for key, row in rows.items()
    }  # fmt: skip


MATERIALS: Mapping[str, Material] = _read()
CODES = {code: material for material in MATERIALS.values() for code in material.codes}
MEANT = {
    word: tuple(material for material in MATERIALS.values() if word in material.meanings)
    for word in (word for material in MATERIALS.values() for word in material.meanings)
}


class Sure(StrEnum):
    """Where it is known from what a part is made of."""

    MARKING = "its marking"
    KIND = "the kind it is kept as"
    USUAL = "what usually stands in such a place"


@dataclass(frozen=True, slots=True)
class MadeOf:
    """What a part may be made of, likeliest first, and where that is known from."""

    plausible: tuple[Material, ...]
    known_from: Sure

    @property
    def likeliest(self) -> Material:
        """The one to plan with where one has to be taken."""
        return self.plausible[0]

    @property
    def certain(self) -> bool:
        """Whether there is only one, told by its marking or its kind."""
        return len(self.plausible) == 1 and self.known_from != Sure.USUAL

    @property
    def polar(self) -> bool | None:
        """Whether leakage tells of it rather than insulation; None where both are plausible."""
        found = {material.polar for material in self.plausible}
        return found.pop() if len(found) == 1 else None

    def says(self) -> str:
        """What it is taken for, in words."""
        return " or ".join(material.title for material in self.plausible)


def made_of(marking: Marking, role: Role | None, kind: PartKind | None = None) -> MadeOf:
    """What a part is made of: by words printed on it, else by its kind in stock, else by what usually stands in its place.

    :param marking: what is printed
    :param role: what it does, None when not known
    :param kind: the kind of stock part it is kept as, None when not known
    :returns: MadeOf; never empty
    :raises InputError: never
    :source: table `materials`; constructions of the kinds and roles as usual
    """
    tokens = marking.tokens
    said = {token.meaning for token in tokens}
    printed = CODES.keys() & {token.text.upper() for token in tokens}
    named = [CODES[code] for code in printed] or [material for word in said & MEANT.keys() for material in MEANT[word]]
    if named:
        return MadeOf(tuple(dict.fromkeys(named)), Sure.MARKING)
    if kind is not None:
        return MadeOf(tuple(MATERIALS[key] for key in KINDS[kind]), Sure.KIND)
    if marking.printed_range:
        return MadeOf((MATERIALS["electrolytic"],), Sure.USUAL)
    usual = ROLES[role].materials if role else ANY
    return MadeOf(tuple(MATERIALS[key] for key in _fitting(usual, marking, film="film" in said)), Sure.USUAL)


def _fitting(usual: tuple[str, ...], marking: Marking, *, film: bool) -> tuple[str, ...]:
    """Of the usual materials those that value and rating leave open, likeliest first; all of them where none is left."""
    farads, alternating = marking.capacitance_f, bool(marking.classes or marking.rated_ac_v)

    def open_to(key: str) -> bool:
        if key == "electrolytic":
            return not film and not marking.classes and (farads >= ELECTROLYTIC_FROM_F or usual[0] == key)
        return not (film and MATERIALS[key].new_ohm == MATERIALS["ceramic_2"].new_ohm)

    left = tuple(key for key in usual if open_to(key)) or usual
    if marking.is_y and farads <= CERAMIC_BELOW_F and "ceramic_2" in left:
        first = "ceramic_2"
    elif alternating and "polypropylene" in left and left[0] != "paper":
        first = "polypropylene"
    elif not alternating and farads >= ELECTROLYTIC_FROM_F and "electrolytic" in left:
        first = "electrolytic"
    else:
        first = left[0]
    return (first, *(key for key in left if key != first))
