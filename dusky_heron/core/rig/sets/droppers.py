"""Control boards behind a capacitive dropper, in three topologies; everything in them is at mains potential."""

import random

from dusky_heron.core.model.terms import Role
from dusky_heron.core.rig.drawing import Drawing
from dusky_heron.core.rig.elements import Resistor
from dusky_heron.core.rig.governors import Relay
from dusky_heron.core.rig.labels import Facts
from dusky_heron.core.rig.pieces import Piece, PieceKind
from dusky_heron.core.rig.sets.making import MAINS, bridge, capacitor, fuse, resistor


def half_wave(chance: random.Random) -> Drawing:
    """A reverse diode, a series diode, the zener across the rail: 24 V."""
    drawing = _front(chance, "dropper_half_wave", "fan control, half-wave dropper", "0.68", "N")
    drawing.pieces += [
        Piece("D1", PieceKind.DIODE, "drop", "rail", 0.7, 0.1),
        Piece("D2", PieceKind.DIODE, "N", "drop", 0.7, 0.1),
        Piece("ZD1", PieceKind.ZENER, "rail", "N", 24.0, 5.0),
    ]
    return drawing


def shunt(chance: random.Random) -> Drawing:
    """The zener is the reverse diode, ahead of the series diode: 24 V."""
    drawing = _front(chance, "dropper_shunt", "heating valve control, shunt dropper", "0.68", "N")
    drawing.pieces += [
        Piece("D1", PieceKind.DIODE, "drop", "rail", 0.7, 0.1),
        Piece("ZD1", PieceKind.ZENER, "drop", "N", 24.0, 5.0),
    ]
    return drawing


def full_bridge(chance: random.Random) -> Drawing:
    """A bridge, its minus no conductor of the mains: 24 V."""
    drawing = _front(chance, "dropper_bridge", "dosing controller, bridge dropper", "0.47", "rail-")
    drawing.pieces += [*bridge("D", "drop", "N", "rail", "rail-", 0.7), Piece("ZD1", PieceKind.ZENER, "rail", "rail-", 24.0, 5.0)]
    return drawing


def _front(chance: random.Random, set_id: str, title: str, uf: str, low: str) -> Drawing:
    drawing = Drawing(set_id, title, 230.0, 50.0, "II", feeds=[MAINS], rails={"rail": ("rail", low)})
    drawing.capacitors = [
        capacitor(
            chance, "C1", Role.DROPPER, "polypropylene", [("series", "drop")], "x", Facts(uf, ac=305, tolerance=10, classes=("X2",))
        ),
        capacitor(chance, "C2", Role.SMOOTHING, "electrolytic", [("rail", low)], "can", Facts("220", dc=35)),
        capacitor(chance, "C3", Role.TIMING, "polyester", [("rail", "timing")], "film", Facts("1", dc=63, tolerance=5)),
        capacitor(chance, "C4", Role.SNUBBER, "polypropylene", [("L", "valve")], "rc", Facts("0.1", ac=275, tolerance=20, ohm=100)),
    ]
    drawing.pieces = [
        fuse("F1", "L", "fused", 5.0),
        resistor("R1", "fused", "series", 100.0, 30.0),
        resistor("R2", "series", "drop", 470e3),
        resistor("R3", "timing", low, 100e3),
        Piece("K1", PieceKind.COIL, "rail", low, 3300.0),
        Piece("K1-contact", PieceKind.SWITCH, "L", "valve", 0.02),
    ]
    drawing.fixed = {"electronics": Resistor("rail", low, 6800.0), "valve motor": Resistor("valve", "N", 5000.0)}
    drawing.governors = [Relay(("rail", low), "K1-contact", 16.0, 8.0)]
    return drawing
