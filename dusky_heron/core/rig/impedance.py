"""What a network is to a small sine."""

import cmath
import math
from collections.abc import Mapping

from dusky_heron.core.rig.elements import BOARD_OHM, Coil, Diode, Element, Resistor, Source, Store


def impedance(parts: Mapping[str, Element], a: str, b: str, hertz: float) -> complex:
    """Ohms between two nodes for a small sine: every capacitor with its dielectric's loss, every diode blocking.

    :param parts: elements by name
    :param a: one node
    :param b: the other
    :param hertz: frequency
    :returns: complex ohms
    :source: nodal analysis; Y of a capacitor ωC·(j + tan δ) + 1/R, behind its series resistance
    """
    if a == b:
        return 0j
    order = dict.fromkeys(node for part in parts.values() for node in (part.a, part.b) if node not in (a, b))
    nodes = {node: k for k, node in enumerate([*order, a])}  # the last is what is left when the others are eliminated
    y = _nodal(parts, nodes, hertz)
    for p, row in enumerate(y[:-1]):
        for i in range(p + 1, len(y)):
            if y[i][p]:
                share = y[i][p] / row[p]
                y[i] = [x - share * z for x, z in zip(y[i], row, strict=True)]
    return 1 / y[-1][-1]


def _nodal(parts: Mapping[str, Element], nodes: Mapping[str, int], hertz: float) -> list[list[complex]]:
    """Admittances between nodes; the one that is not among them is the reference."""
    y = [[complex(1 / BOARD_OHM if i == j else 0) for i in nodes.values()] for j in nodes.values()]
    for part in parts.values():
        admittance = _admittance(part, 2 * math.pi * hertz, hertz)
        ends = [nodes[node] for node in (part.a, part.b) if node in nodes]
        for k in ends:
            y[k][k] += admittance
        if len(ends) == 2:
            i, j = ends
            y[i][j] -= admittance
            y[j][i] -= admittance
    return y


def _admittance(part: Element, omega: float, hertz: float) -> complex:
    if isinstance(part, Resistor | Source):
        return complex(1 / part.ohm)
    if isinstance(part, Coil):
        return 1 / part.core_ohm + 1 / complex(part.ohm, omega * part.henry)
    if isinstance(part, Diode):
        return complex(1 / part.off_ohm)
    if isinstance(part, Store):
        inner = complex(1 / part.leak_ohm + omega * part.farad * part.dissipation(hertz), omega * part.farad)
        for farad, tau in part.branches:
            inner += 1j * omega * farad / (1 + 1j * omega * tau)
        return 1 / (part.esr_ohm + 1 / inner) if not cmath.isinf(inner) else complex(1 / part.esr_ohm)
    return 0j
