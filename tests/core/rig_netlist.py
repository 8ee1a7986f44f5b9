"""A network of the rig written out for ngspice, from its elements and what they hold: nothing of its solver is used."""

import math
from collections.abc import Mapping

from dusky_heron.core.rig.elements import EARTH, Coil, Diode, Drive, Element, Resistor, Source, Store
from dusky_heron.core.rig.network import Network

MODEL = ".model ideal D(IS=1e-12 N=0.02 RS=1m CJO=20p)"  # a little capacitance, or its steps grow too small


class Netlist:
    """Element by element; every node's name is a number."""

    def __init__(self, network: Network, *, absorbing: bool) -> None:
        self.nodes: dict[str, str] = {EARTH: "0"}
        self.names: dict[str, str] = {}
        self.lines = ["* a network of the rig"]
        for k, (name, part) in enumerate(network.parts.items()):
            self.names[name] = f"x{k}"
            self.lines += self._element(f"x{k}", part, network.held.get(name, ()), network.second, absorbing)
        self.lines += [f"Rboard{node} {node} 0 1e12" for node in self.nodes.values() if node != "0"]
        self.lines.append(MODEL)

    def node(self, name: str) -> str:
        return self.nodes.setdefault(name, f"n{len(self.nodes)}")

    def _element(self, x: str, part: Element, held: tuple[float, ...], second: float, absorbing: bool) -> list[str]:
        a, b = self.node(part.a), self.node(part.b)
        head = f"V{x} {a} {x}a 0"  # an ammeter in every element
        if isinstance(part, Resistor):
            return [head, f"R{x} {x}a {b} {part.ohm:.12g}"]
        if isinstance(part, Drive):
            return [head, f"I{x} {b} {x}a {part.ampere:.12g}"]
        if isinstance(part, Coil):
            return [head, f"Rc{x} {x}a {b} {part.core_ohm:.12g}", f"L{x} {x}a {x}l {part.henry:.12g} IC={held[0]:.12g}",
                    f"R{x} {x}l {b} {part.ohm:.12g}"]  # fmt: skip
        if isinstance(part, Diode):
            return [head, f"D{x} {x}a {x}d ideal", f"Vd{x} {x}d {x}r {part.drop_v:.12g}", f"R{x} {x}r {b} {part.on_ohm:.12g}",
                    f"Roff{x} {x}a {b} {part.off_ohm:.12g}"]  # fmt: skip
        if isinstance(part, Source):
            phase = part.degrees + 360 * math.fmod(part.hertz * second, 1.0)
            wave = (
                f"SIN({part.dc_v:.12g} {part.peak_v:.12g} {part.hertz:.12g} 0 0 {phase:.12g})"
                if part.hertz
                else f"{part.dc_v:.12g}"
            )
            return [f"V{x} {a} {x}a 0", f"R{x} {x}a {x}e {part.ohm:.12g}", f"Ve{x} {x}e {b} {wave}"]
        assert isinstance(part, Store)
        lines = [head, f"R{x} {x}a {x}c {part.esr_ohm:.12g}", f"C{x} {x}c {b} {part.farad:.12g} IC={held[0]:.12g}"]
        if math.isfinite(part.leak_ohm):
            lines.append(f"Rl{x} {x}c {b} {part.leak_ohm:.12g}")
        for k, (farad, tau) in enumerate(part.branches if absorbing else ()):
            lines += [f"Rb{k}{x} {x}c {x}b{k} {tau / farad:.12g}", f"Cb{k}{x} {x}b{k} {b} {farad:.12g} IC={held[1 + k]:.12g}"]
        return lines

    def text(self, seconds: float, step: float, measures: Mapping[str, str]) -> str:
        """With its run, and `.meas` lines by name."""
        return (
            "\n".join(
                [
                    *self.lines,
                    ".options reltol=1e-4 abstol=1e-8 vntol=1e-5 method=gear gmin=1e-14 cshunt=1e-12 itl4=50",
                    f".tran {step:.9g} {seconds:.9g} 0 {step:.9g} UIC",
                    *(f".meas tran {name} {what}" for name, what in measures.items()),
                    ".end",
                ]
            )
            + "\n"
        )

    def across(self, a: str, b: str) -> str:
        return f"par('v({self.node(a)})-v({self.node(b)})')" if self.node(b) != "0" else f"v({self.node(a)})"

    def through(self, name: str) -> str:
        return f"i(V{self.names[name]})"
