"""A marking while it is put together: its pieces, what they came to mean, and the choices that were made on the way."""

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any, TypeVar

from dusky_heron.core.markings.model import SafetyClass, Tolerance
from dusky_heron.core.markings.pieces import Piece

T = TypeVar("T")
MOTOR_KINDS = frozenset({"operating_class", "protection", "fault_current", "service"})
MOST_WAYS = 48  # choices within choices of one division: more than any label has


@dataclass(slots=True)
class Part:
    """One section while it is put together; farads and volts, and the piece it was printed in."""

    farads: float
    piece: Piece
    low_high: tuple[float, float] | None = None
    symbol: str = ""
    tolerance: Tolerance | None = None
    ac: float | None = None
    dc: float | None = None
    own_volts: bool = False


@dataclass(slots=True)
class Draft:
    """What the assembly writes on. `script` are the answers to take at each choice; the first where it has run out.

    `plainly` is, for each piece of a doubtful aspect, the text that says just what was read: by aspect, by where it starts.
    """

    text: str
    pieces: list[Piece]
    cost: float
    script: tuple[int, ...] = ()
    asked: int = 0
    untried: list[tuple[int, ...]] = field(default_factory=list)
    placeholder: bool = False
    meanings: dict[int, str] = field(default_factory=dict)
    dismissed: set[int] = field(default_factory=set)
    assumptions: list[str] = field(default_factory=list)
    plainly: dict[str, dict[int, str]] = field(default_factory=dict)
    parts: list[Part] = field(default_factory=list)
    tolerance: Tolerance | None = None
    ac: list[float] = field(default_factory=list)
    dc: list[float] = field(default_factory=list)
    surge: float | None = None
    classes: tuple[SafetyClass, ...] = ()
    old: bool = False
    pico: bool = False
    polarised: bool = False
    said: dict[str, Any] = field(default_factory=dict)
    unitless: list[Piece] = field(default_factory=list)
    by_kind: dict[str, list[Piece]] = field(init=False)
    words: frozenset[str] = field(init=False)
    materials: frozenset[str] = field(init=False)

    def __post_init__(self) -> None:
        """Sort the pieces by kind, which is how they are asked for; gather what its words mean and which materials they name."""
        self.by_kind = {}
        for piece in self.pieces:
            self.by_kind.setdefault(piece.kind, []).append(piece)
        known = [piece.value for piece in self.by_kind.get("word", ())]
        self.words = frozenset(word.meaning for word in known)
        self.materials = frozenset(word.material for word in known if word.material)

    def of(self, *kinds: str) -> list[Piece]:
        """The pieces of these kinds, in order, that still count."""
        if len(kinds) == 1:
            found = self.by_kind.get(kinds[0], [])
        else:
            found = sorted((p for kind in kinds for p in self.by_kind.get(kind, ())), key=lambda piece: piece.start)
        return [p for p in found if p.start not in self.dismissed] if self.dismissed else list(found)

    def become(self, piece: Piece, known: Piece) -> None:
        """Put what a figure without a unit turned out to be in its place."""
        self.unitless.append(known)
        self.pieces[self.pieces.index(piece)] = known
        self.__post_init__()

    def slice(self, piece: Piece) -> str:
        """A piece as it was typed."""
        return self.text[piece.start : piece.end].strip()

    def mean(self, piece: Piece, meaning: str) -> None:
        """Note what a piece became."""
        self.meanings[piece.start] = meaning

    def plain(self, about: str, piece: Piece, text: str) -> None:
        """Note how a piece is typed so that it says just what was read."""
        self.plainly.setdefault(about, {})[piece.start] = text

    def dismiss(self, about: str, piece: Piece) -> None:
        """Leave a piece out: it is only text."""
        self.dismissed.add(piece.start)
        self.mean(piece, "only text")
        self.plain(about, piece, as_said(self.slice(piece)))

    def choose(self, *answers: tuple[T, float]) -> T:
        """Take one of several answers, each with how unlikely it is; the others are tried in their turn."""
        index = self.script[self.asked] if self.asked < len(self.script) else 0
        if self.asked >= len(self.script):
            taken = self.script + (0,) * (self.asked - len(self.script))
            self.untried += [(*taken, k) for k in range(1, len(answers))]
        self.asked += 1
        self.cost += answers[index][1]
        return answers[index][0]

    @property
    def motor(self) -> bool:
        """Whether anything printed belongs to motor parts."""
        printed = not MOTOR_KINDS.isdisjoint(self.by_kind)
        return printed or any(part.low_high for part in self.parts) or "motor" in self.words

    @property
    def electrolytic(self) -> bool:
        """Whether a word or a notation says that it is polarised."""
        return self.polarised or bool(self.materials & {"electrolytic", "tantalum"})

    @property
    def safety(self) -> bool:
        """Whether a safety class is printed, with its figure or without."""
        return bool("open_class" in self.by_kind or self.of("classes"))


def as_said(text: str) -> str:
    """Text that the technician has said to be neither value, volts nor class."""
    return "{" + text.replace("{", "(").replace("}", ")") + "}"


def ways(draft: Draft) -> Iterator[Draft]:
    """Fresh drafts of the same division, one for each way to answer its choices; read from after each was assembled."""
    scripts: list[tuple[int, ...]] = [()]
    done = 0
    while scripts and done < MOST_WAYS:
        one = Draft(draft.text, list(draft.pieces), draft.cost, scripts.pop(0))
        yield one
        scripts += one.untried
        done += 1
