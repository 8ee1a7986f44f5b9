"""Machines: a motor with start and run parts, a flash store, an oven supply, a drive with its string."""

import math
import random

from dusky_heron.core.model.terms import Role
from dusky_heron.core.rig.drawing import CHASSIS, Drawing, Feed
from dusky_heron.core.rig.elements import Diode, Resistor
from dusky_heron.core.rig.governors import AUXILIARY, MAIN, Motor, StartSwitch, Warming
from dusky_heron.core.rig.labels import Facts
from dusky_heron.core.rig.pieces import Piece, PieceKind
from dusky_heron.core.rig.sets.making import MAINS, capacitor, fuse, resistor

SECOND_FEED = 0.25  # of the drives: a battery that keeps the link up whatever the plug does; our estimate


def motor(chance: random.Random) -> Drawing:
    """A pump: main winding on the line, the auxiliary behind a run capacitor, a start capacitor beside it until it turns."""
    drawing = Drawing("motor", "circulation pump with start and run capacitor", 230.0, 50.0, "I", feeds=[MAINS])
    drawing.capacitors = [
        capacitor(chance, "C1", Role.MOTOR_RUN, "polypropylene", [("line", "aux")], "motor", Facts("16", ac=450, tolerance=5)),
        capacitor(chance, "C2", Role.MOTOR_START, "electrolytic", [("start", "aux")], "start", Facts("80", ac=330, tolerance=9)),
    ]
    drawing.pieces = [
        fuse("F1", "L", "line", 400.0),
        Piece(MAIN, PieceKind.WINDING, "line", "N", 0.045, 8.0),
        Piece(AUXILIARY, PieceKind.WINDING, "aux", "N", 0.04, 15.0),
        Piece("start-switch", PieceKind.SWITCH, "line", "start", 0.05),
        resistor("R1", "start", "aux", 15e3),
    ]
    turns = Motor(("line", "N"), ("aux", "N"), (30.0, 0.143, 60.0, 0.35), needs=30.0)
    drawing.governors = [turns, StartSwitch(turns, "start-switch")]
    drawing.rails = {"run capacitor": ("line", "aux")}
    return drawing


def flash(chance: random.Random) -> Drawing:
    """A charger to 330 V behind 220 Ω and a diode, three parts in parallel; floating."""
    drawing = Drawing("flash", "stage flash bank", 230.0, 50.0, "II")
    drawing.supply, drawing.reflected = "charger", 330 / 230
    drawing.feeds = [Feed("charger", "charged", "bank-", 220.0, 330 / 230, direct=True, through=("F1",)), MAINS]
    drawing.capacitors = [
        capacitor(
            chance, f"C{k}", Role.ENERGY_STORE, "electrolytic", [("bank", "bank-")], "flash", Facts("1200", dc=360, tolerance=10)
        )
        for k in (1, 2, 3)
    ]
    drawing.pieces = [
        fuse("F1", "L", "fused", 5.0),
        Piece("primary winding", PieceKind.WINDING, "fused", "N", 10.0, 80.0),
        Piece("D1", PieceKind.DIODE, "charged", "bank", 1.0, 0.5),
        resistor("R1", "bank", "bank-", 1e6),
    ]
    drawing.rails = {"bank": ("bank", "bank-")}
    return drawing


def oven(chance: random.Random) -> Drawing:
    """Half-wave doubler: the capacitor in series with the winding, a diode to the chassis, the magnetron beside it."""
    drawing = Drawing("oven", "popcorn oven, magnetron supply", 230.0, 50.0, "I", reflected=2000 / 230)
    drawing.supply = "high winding"
    drawing.feeds = [Feed("high winding", "hv", CHASSIS, 120.0, 2000 / 230, winding=True, through=("F1",)), MAINS]
    drawing.capacitors = [
        capacitor(
            chance, "C1", Role.MAGNETRON, "oil", [("hv-fused", "cathode")], "oven", Facts("1.05", ac=2100, tolerance=3, megohm=10),
            bleeder_ohm=10e6,
        )
    ]  # fmt: skip
    drawing.pieces = [
        fuse("F1", "L", "fused", 200.0),
        Piece("primary winding", PieceKind.WINDING, "fused", "N", 0.6, 2.0),
        fuse("F2", "hv", "hv-fused", 20.0),
        Piece("D1", PieceKind.DIODE, "cathode", CHASSIS, 8.0, 30.0),
    ]
    drawing.fixed = {"magnetron": Diode(CHASSIS, "cathode", 3900.0, 400.0)}
    drawing.rails = {"cathode": (CHASSIS, "cathode")}
    return drawing


def drive(chance: random.Random) -> Drawing:
    """Three phases of 400 V, six diodes, a string of two with balancing resistors, charged through an NTC."""
    drawing = Drawing("drive", "flume pump drive", 400 / math.sqrt(3), 50.0, "I", neutral="star")
    drawing.supply = "phase 1"
    drawing.feeds = [Feed(f"phase {k}", f"L{k}", "star", degrees=-120.0 * (k - 1)) for k in (1, 2, 3)]
    drawing.capacitors = [
        capacitor(chance, "C1", Role.DC_LINK, "electrolytic", [("link+", "middle")], "can", Facts("1500", dc=400)),
        capacitor(chance, "C2", Role.DC_LINK, "electrolytic", [("middle", "link-")], "can", Facts("1500", dc=400)),
        capacitor(chance, "C3", Role.SNUBBER, "polypropylene", [("link+", "link-")], "film", Facts("1", dc=1000, tolerance=10)),
        capacitor(chance, "CY1", Role.Y, "ceramic_2", [("link-", CHASSIS)], "y", Facts("0.0047", ac=400, classes=("Y1",))),
    ]
    ends = [(f"L{k}", "rectified") for k in (1, 2, 3)] + [("link-", f"L{k}") for k in (1, 2, 3)]
    drawing.pieces = [
        *(Piece(f"D{k}", PieceKind.DIODE, *pair, 1.0, 0.05) for k, pair in enumerate(ends, 1)),
        Piece("NTC1", PieceKind.NTC, "rectified", "link+", 22.0),
        resistor("R1", "link+", "middle", 47e3),
        resistor("R2", "middle", "link-", 47e3),
    ]
    drawing.fixed = {"inverter": Resistor("link+", "link-", 330.0)}
    drawing.governors = [Warming("NTC1", 0.02)]
    if chance.random() < SECOND_FEED:
        drawing.title = "flume pump drive with a battery behind it"
        drawing.feeds.append(Feed("battery", "battery+", "link-", 2.0, 480 / drawing.supply_v, direct=True, by_itself=True))
        drawing.pieces.append(Piece("D7", PieceKind.DIODE, "battery+", "link+", 1.0, 20.0))
    drawing.rails = {"link": ("link+", "link-"), "upper": ("link+", "middle")}
    return drawing
