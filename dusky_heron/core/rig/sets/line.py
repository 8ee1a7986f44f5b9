"""What stands at the line: a filter box, a lighting ballast with its power-factor part, an interference network in a tool."""

import random

from dusky_heron.core.model.terms import Role
from dusky_heron.core.rig.drawing import CHASSIS, Drawing, Feed
from dusky_heron.core.rig.elements import EARTH, Resistor, Store
from dusky_heron.core.rig.labels import Facts
from dusky_heron.core.rig.pieces import Piece, PieceKind
from dusky_heron.core.rig.sets.making import MAINS, capacitor, fuse, resistor


def filter_box(chance: random.Random) -> Drawing:
    """X parts on both sides of a choke, two Y parts, two bleed resistors in series; a heater behind it."""
    drawing = Drawing("filter_box", "hand dryer, mains filter", 230.0, 50.0, "I", feeds=[MAINS])
    drawing.capacitors = [
        capacitor(chance, "CX1", Role.X, "polypropylene", [("L", "N")], "x", Facts("1", ac=275, tolerance=20, classes=("X2",))),
        capacitor(chance, "CX2", Role.X, "polypropylene", [("load", "load-N")], "x", Facts("0.22", ac=275, classes=("X1",))),
        capacitor(chance, "CY1", Role.Y, "ceramic_2", [("load", CHASSIS)], "y", Facts("0.0033", ac=250, classes=("Y2",))),
        capacitor(chance, "CY2", Role.Y, "ceramic_2", [("load-N", CHASSIS)], "y", Facts("0.0033", ac=250, classes=("Y2",))),
    ]
    drawing.pieces = [
        resistor("R1", "L", "bled", 150e3),
        resistor("R2", "bled", "N", 150e3),
        Piece("L1", PieceKind.CHOKE, "L", "load", 100e-6, 0.1),
        Piece("L2", PieceKind.CHOKE, "N", "load-N", 100e-6, 0.1),
        Piece("S1", PieceKind.SWITCH, "load", "heater", 0.02, closed=False),
    ]
    drawing.fixed = {"heater": Resistor("heater", "load-N", 35.0)}
    drawing.rails = {"line": ("L", "N")}
    return drawing


def lighting(chance: random.Random) -> Drawing:
    """A discharge lamp behind its ballast, a power-factor part with its bleed resistor inside across the line."""
    drawing = Drawing("lighting", "arena floodlight, fixed wiring beside a live line", 230.0, 50.0, "I")
    drawing.feeds = [MAINS, Feed("neighbour", "beside", EARTH, by_itself=True)]
    drawing.capacitors = [
        capacitor(
            chance, "C1", Role.POWER_FACTOR, "polypropylene", [("fused", "N")], "lighting",
            Facts("18", ac=250, tolerance=10, megohm=1), bleeder_ohm=1e6,
        ),
    ]  # fmt: skip
    drawing.pieces = [
        fuse("F1", "L", "fused", 100.0),
        Piece("ballast", PieceKind.CHOKE, "fused", "lamp", 0.19, 4.0),
    ]
    drawing.fixed = {
        "lamp": Resistor("lamp", "N", 55.0),
        "case": Resistor("N", CHASSIS, 1e9),
        "fixed earth": Resistor(CHASSIS, EARTH, 0.5),
        "stray": Store("beside", "L", 100e-12, 1.0),  # some 2 m of cable beside it
    }
    drawing.rails = {"line": ("fused", "N")}
    return drawing


def interference(chance: random.Random) -> Drawing:
    """A tool of class II: one body with an X section and two small ones to a core that nobody can touch."""
    drawing = Drawing("interference", "bench grinder, interference network", 230.0, 50.0, "II", feeds=[MAINS])
    pairs = [("switched", "N"), ("switched", "core"), ("N", "core")]
    facts = Facts("0.1", ac=250, tolerance=20, second_uf="0.0027")
    drawing.capacitors = [
        capacitor(chance, "C1", Role.X, "polypropylene", pairs, "xy", facts, uf=("0.1", "0.0027", "0.0027")),
    ]
    drawing.pieces = [
        Piece("S1", PieceKind.SWITCH, "L", "switched", 0.02),
        Piece("field winding", PieceKind.WINDING, "switched", "brush", 0.02, 3.0),
        Piece("armature winding", PieceKind.WINDING, "brush", "N", 0.06, 25.0),
    ]
    drawing.fixed = {"core": Resistor("core", "armature", 1e7)}
    drawing.rails = {"line": ("switched", "N")}
    return drawing
