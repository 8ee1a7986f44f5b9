"""What the makers of sets share: a part as a factory delivers it, with its label; a bridge; what ties a plug to a set."""

import random
from collections.abc import Sequence

from dusky_heron.core.model.terms import Role
from dusky_heron.core.rig.capacitors import Capacitor, section
from dusky_heron.core.rig.drawing import Feed
from dusky_heron.core.rig.labels import Facts, print_label, styles
from dusky_heron.core.rig.pieces import Piece, PieceKind

MOST_YEARS = 15.0
INSIDE = 0.7  # of its tolerance, within which a factory's parts lie
KEEPS_INSIDE = 0.9  # of the negative tolerance of an electrolytic, which age uses up first
SURGE_I2T = 40.0  # A²s: rectifiers of some amperes, 90 A for half a cycle
MAINS = Feed("mains", "L", "N")


def capacitor(
    chance: random.Random,
    name: str,
    role: Role,
    material: str,
    terminals: Sequence[tuple[str, str]],
    kind: str,
    facts: Facts,
    *,
    bleeder_ohm: float | None = None,
    uf: Sequence[str] = (),
) -> Capacitor:
    """A part inside its tolerance, some years old, with a label in a style of its kind."""
    marked = [float(text) * 1e-6 for text in (uf or ([facts.uf, facts.second_uf] if facts.second_uf else [facts.uf]))]
    within = INSIDE * facts.tolerance / 100
    ways = [style for style in styles(kind) if _fits(style, facts)]
    return Capacitor(
        name=name,
        role=role,
        material=material,
        sections=tuple(section(farads, chance.uniform(-within, within)) for farads in marked),
        terminals=tuple(terminals),
        rated_v=float(facts.ac or facts.dc or 0),
        ac=facts.ac is not None,
        printed=print_label(chance.choice(ways), facts),
        bleeder_ohm=bleeder_ohm,
        series_ohm=float(facts.ohm or 0),
        tolerance=facts.tolerance / 100,
        years=round(chance.uniform(0, MOST_YEARS) / 3, 1) if material == "ceramic_2" else round(chance.uniform(0, MOST_YEARS), 1),
    )


def _fits(style: str, facts: Facts) -> bool:
    """Whether a style can tell all of these facts."""
    try:
        print_label(style, facts)
    except ValueError:
        return False
    return True


def resistor(name: str, a: str, b: str, ohm: float, pulse_j: float | None = None) -> Piece:
    """A resistor."""
    return Piece(name, PieceKind.RESISTOR, a, b, ohm, stands_j=pulse_j)


def fuse(name: str, a: str, b: str, i2t: float) -> Piece:
    """A fuse by its melting I²t, A²s."""
    return Piece(name, PieceKind.FUSE, a, b, 0.05, stands_i2t=i2t)


def bridge(prefix: str, a: str, b: str, plus: str, minus: str, drop_v: float = 0.9) -> list[Piece]:
    """Four diodes."""
    ends = ((a, plus), (b, plus), (minus, a), (minus, b))
    return [Piece(f"{prefix}{k}", PieceKind.DIODE, *pair, drop_v, 0.05, stands_i2t=SURGE_I2T) for k, pair in enumerate(ends, 1)]
