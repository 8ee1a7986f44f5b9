"""Sets that are mostly a supply: switching, with and without power-factor correction, valve, linear, and an amplifier board."""

import random

from dusky_heron.core.model.terms import Role
from dusky_heron.core.rig.drawing import CHASSIS, Drawing, Feed
from dusky_heron.core.rig.elements import Resistor
from dusky_heron.core.rig.governors import Converter, Discharger, Heater, Regulator, Warming
from dusky_heron.core.rig.labels import Facts
from dusky_heron.core.rig.pieces import Piece, PieceKind
from dusky_heron.core.rig.sets.making import MAINS, bridge, capacitor, fuse, resistor

LIVE_CHASSIS = 0.3  # of the sets with valves: our estimate
HEATERS_A = 0.16  # at 230 V: heaters take six tenths of what a set with valves takes
X2 = ("X2",)
Y2 = ("Y2",)


def _inlet(chance: random.Random, drawing: Drawing, x_uf: str) -> None:
    """Fuse, NTC, X part with its bleed resistors, choke, both Y parts, bridge to `plus` and `minus`."""
    drawing.capacitors = [
        capacitor(chance, "CX1", Role.X, "polypropylene", [("fused", "N")], "x", Facts(x_uf, ac=275, classes=X2)),
        capacitor(chance, "CY1", Role.Y, "ceramic_2", [("fused", CHASSIS)], "y", Facts("0.0022", ac=300, classes=Y2)),
        capacitor(chance, "CY2", Role.Y, "ceramic_2", [("N", CHASSIS)], "y", Facts("0.0022", ac=300, classes=Y2)),
    ]
    drawing.pieces = [
        fuse("F1", "L", "fused", 15.0),
        Piece("NTC1", PieceKind.NTC, "choked", "ac", 10.0),
        Piece("L1", PieceKind.CHOKE, "fused", "choked", 50e-6, 0.2),
        *bridge("D", "ac", "N", "plus", "minus"),
    ]
    drawing.governors = [Warming("NTC1")]


def switcher(chance: random.Random) -> Drawing:
    """40 W from a bridge and a bulk of 82 µF; 12 V out."""
    drawing = Drawing("switcher", "lamp supply, switching", 230.0, 50.0, "I", feeds=[MAINS])
    _inlet(chance, drawing, "0.22")
    drawing.capacitors += [
        capacitor(chance, "C5", Role.SMPS_BULK, "electrolytic", [("plus", "minus")], "can", Facts("82", dc=400)),
        capacitor(chance, "C8", Role.SMOOTHING, "electrolytic", [("out", "out-")], "can", Facts("1000", dc=25)),
    ]
    drawing.pieces += [resistor("R1", "fused", "bled", 470e3), resistor("R2", "bled", "N", 470e3)]
    drawing.fixed = {"lamps": Resistor("out", "out-", 4.5), "screen": Resistor("out-", CHASSIS, 1.0)}
    drawing.governors.append(Converter("converter", ("plus", "minus"), ("out", "out-"), 36.0, 120.0, 80.0, 12.0))
    drawing.rails = {"bulk": ("plus", "minus"), "output": ("out", "out-")}
    return drawing


def switcher_pfc(chance: random.Random) -> Drawing:
    """Power-factor correction holds 390 V on the bulk at any mains; an automatic circuit empties the X part."""
    drawing = Drawing("switcher_pfc", "display supply with power-factor correction", 230.0, 50.0, "I", feeds=[MAINS])
    _inlet(chance, drawing, "0.47")
    drawing.capacitors += [
        capacitor(chance, "C3", Role.SMOOTHING, "polypropylene", [("plus", "minus")], "film", Facts("0.47", dc=450, tolerance=10)),
        capacitor(chance, "C5", Role.SMPS_BULK, "electrolytic", [("bulk", "minus")], "can", Facts("150", dc=450)),
        capacitor(chance, "C8", Role.SMOOTHING, "electrolytic", [("out", "out-")], "can", Facts("2200", dc=35)),
    ]
    drawing.pieces += [
        Piece("D5", PieceKind.DIODE, "plus", "bulk", 1.0, 0.1),
        Piece("U2", PieceKind.DISCHARGER, "fused", "N", 150e3),
    ]
    drawing.fixed = {"panel": Resistor("out", "out-", 5.0), "screen": Resistor("out-", CHASSIS, 1.0)}
    drawing.governors += [
        Discharger("U2"),
        Converter("boost", ("plus", "minus"), ("bulk", "minus"), 130.0, 90.0, 70.0, 390.0, 2.0),
        Converter("converter", ("bulk", "minus"), ("out", "out-"), 120.0, 370.0, 250.0, 24.0),
    ]
    drawing.rails = {"bulk": ("bulk", "minus"), "output": ("out", "out-")}
    return drawing


def valve_set(chance: random.Random) -> Drawing:
    """Two-core, a full-wave rectifier valve, a can of two sections around a choke, wax and paper parts."""
    drawing = Drawing("valve_set", "organ relay supply with valves", 230.0, 50.0, "0", reflected=300 / 230)
    drawing.supply = "upper half"
    drawing.feeds = [
        Feed("upper half", "anode-1", "tap", 120.0, 300 / 230, winding=True, through=("F1", "S1")),
        Feed("lower half", "tap", "anode-2", 120.0, 300 / 230, winding=True, through=("F1", "S1")),
        MAINS,
    ]
    drawing.capacitors = [
        capacitor(
            chance, "C1", Role.RESERVOIR, "electrolytic", [("ht", "tap"), ("smooth", "tap")], "cans",
            Facts("32", dc=500, second_uf="32"),
        ),
        capacitor(chance, "C2", Role.COUPLING, "paper", [("anode", "grid")], "wax", Facts("0.1", dc=500)),
        capacitor(chance, "C3", Role.Y, "paper", [("N", CHASSIS)], "wax", Facts("0.01", dc=1000)),
    ]  # fmt: skip
    drawing.pieces = [
        fuse("F1", "L", "fused", 10.0),
        Piece("S1", PieceKind.SWITCH, "fused", "primary", 0.05),
        Piece("V1a", PieceKind.VALVE, "anode-1", "ht", 0.5, 120.0),
        Piece("V1b", PieceKind.VALVE, "anode-2", "ht", 0.5, 120.0),
        Piece("L1", PieceKind.CHOKE, "ht", "smooth", 10.0, 300.0),
        resistor("R1", "smooth", "anode", 100e3),
        resistor("R2", "grid", "tap", 470e3),
        resistor("R3", "ht", "tap", 220e3),
        Piece("primary winding", PieceKind.WINDING, "primary", "N", 12.0, 25.0),
    ]
    drawing.fixed = {"output stage": Resistor("smooth", "tap", 5600.0), "first valve": Resistor("anode", "tap", 150e3),
                     "tap to chassis": Resistor("tap", CHASSIS, 0.1)}  # fmt: skip
    if chance.random() < LIVE_CHASSIS:  # an autotransformer set: its chassis is a conductor of the mains, and plugs have two ways
        drawing.title, drawing.live_chassis = "house amplifier with valves and a live chassis", True
        drawing.fixed["chassis to mains"] = Resistor(CHASSIS, "N", 0.2)
        drawing.neutral = chance.choice(("L", "N"))
    drawing.governors = [Heater(("V1a", "V1b"), 12.0, ("primary", "N"), HEATERS_A)]
    drawing.rails = {"reservoir": ("ht", "tap"), "smoothed": ("smooth", "tap")}
    return drawing


def linear(chance: random.Random) -> Drawing:
    """18 V rms from a transformer, a bridge, a reservoir, a regulator to 18 V DC, close to what it needs."""
    drawing = Drawing("linear", "turnstile controller, linear supply", 230.0, 50.0, "II", reflected=18 / 230)
    drawing.supply = "secondary"
    drawing.feeds = [Feed("secondary", "ac1", "ac2", 0.8, 18 / 230, winding=True, through=("F1",)), MAINS]
    drawing.capacitors = [
        capacitor(chance, "CX1", Role.X, "polypropylene", [("fused", "N")], "x", Facts("0.1", ac=275, classes=X2)),
        capacitor(chance, "C1", Role.RESERVOIR, "electrolytic", [("raw", "0V")], "can", Facts("2200", dc=35)),
        capacitor(chance, "C2", Role.SMOOTHING, "electrolytic", [("18V", "0V")], "can", Facts("100", dc=25)),
    ]
    drawing.pieces = [
        fuse("F1", "L", "fused", 2.0),
        Piece("primary winding", PieceKind.WINDING, "fused", "N", 8.0, 60.0),
        *bridge("D", "ac1", "ac2", "raw", "0V"),
        Piece("U1", PieceKind.REGULATOR, "raw", "18V", 18.0),
        resistor("R1", "raw", "0V", 4700.0),
    ]
    drawing.fixed = {"core": Resistor("fused", "N", 30e3)}  # 1.8 W of iron: else winding and X part ring to kilovolts
    drawing.governors = [Regulator("U1", ("raw", "0V"), ("18V", "0V"), 18.0, 2.0, 36.0)]
    drawing.rails = {"reservoir": ("raw", "0V"), "regulated": ("18V", "0V")}
    return drawing


def amplifier(chance: random.Random) -> Drawing:
    """Two rails of 45 V from a bridge and a centre tap; coupling, timing and a snubber across the winding."""
    drawing = Drawing("amplifier", "picture-house amplifier board", 230.0, 50.0, "I", reflected=32 / 230)
    drawing.supply = "upper half"
    drawing.feeds = [
        Feed("upper half", "ac1", "0V", 0.3, 32 / 230, winding=True, through=("F1",)),
        Feed("lower half", "0V", "ac2", 0.3, 32 / 230, winding=True, through=("F1",)),
        MAINS,
    ]
    drawing.capacitors = [
        capacitor(chance, "C1", Role.RESERVOIR, "electrolytic", [("+45", "0V")], "can", Facts("4700", dc=63)),
        capacitor(chance, "C2", Role.RESERVOIR, "electrolytic", [("0V", "-45")], "can", Facts("4700", dc=63)),
        capacitor(chance, "C3", Role.COUPLING, "polyester", [("in", "base")], "film", Facts("1", dc=63, tolerance=10)),
        capacitor(chance, "C4", Role.TIMING, "electrolytic", [("delay", "0V")], "can", Facts("47", dc=63)),
        capacitor(chance, "C5", Role.SNUBBER, "polyester", [("ac1", "ac2")], "film", Facts("0.1", dc=250, tolerance=10)),
        capacitor(chance, "C6", Role.SMOOTHING, "ceramic_2", [("+45", "0V")], "ceramic", Facts("0.1", dc=100, tolerance=10)),
        capacitor(chance, "C7", Role.COUPLING, "mica", [("base", "0V")], "mica", Facts("0.00022", dc=500, tolerance=5)),
    ]
    drawing.pieces = [
        fuse("F1", "L", "fused", 60.0),
        Piece("primary winding", PieceKind.WINDING, "fused", "N", 3.0, 4.0),
        *bridge("D", "ac1", "ac2", "+45", "-45"),
        resistor("R1", "+45", "0V", 4700.0),
        resistor("R2", "0V", "-45", 4700.0),
        resistor("R3", "base", "0V", 47e3),
        resistor("R4", "+45", "delay", 100e3),
        resistor("R5", "in", "0V", 10e3),
    ]
    drawing.fixed = {"idle +": Resistor("+45", "0V", 220.0), "idle -": Resistor("0V", "-45", 220.0),
                     "0V to chassis": Resistor("0V", CHASSIS, 0.1), "protection": Resistor("delay", "0V", 100e3)}  # fmt: skip
    drawing.rails = {"positive": ("+45", "0V"), "negative": ("0V", "-45")}
    return drawing
