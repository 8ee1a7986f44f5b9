"""A dropper backwards: the capacitance that explains what is measured, and whether the meter agrees with it."""

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

from dusky_heron.core.circuit.dropper.modes import VOLTS, DropperCircuit
from dusky_heron.core.circuit.dropper.states import Settled, settled
from dusky_heron.core.circuit.load import CURRENT
from dusky_heron.core.errors import InputError
from dusky_heron.core.quantities import show

CLOSE = 1e-6  # of a capacitance that is looked for


@dataclass(frozen=True, slots=True)
class Inferred:
    """The capacitance that explains a rail; of a clamped one a lower bound only (`low_f`, and None for the others)."""

    capacitance_f: float | None
    low_f: float
    high_f: float | None
    determinable: bool


def infer_capacitance(circuit: DropperCircuit, output_v: float, *, error_v: float = 0.0) -> Inferred:
    """The capacitance that explains a rail voltage under a known load.

    The rail rises with the capacitance until it is clamped; a clamped rail tells a lower bound only.

    :param circuit: as drawn; its capacitance is not used
    :param output_v: mean rail voltage as measured, volts
    :param error_v: what that may be wrong by, volts
    :returns: Inferred, farads
    :raises InputError: a value out of range, or a rail no capacitance up to 1 F explains (`output_v`)
    :source: bisection on the periodic state
    """
    VOLTS.check("output_v", output_v)
    VOLTS.check("error_v", error_v)
    circuit.check()
    rail = circuit.rail_v
    low = _capacitance_for(circuit, _rail, max(output_v - error_v, 0.0))
    if rail is not None and output_v + error_v >= rail:
        edge = _capacitance_for(circuit, _rail, min(max(output_v - error_v, 0.0), rail * (1 - 1e-4)))
        return Inferred(None, edge or 0.0, None, determinable=False)
    middle, high = (_capacitance_for(circuit, _rail, volts) for volts in (output_v, output_v + error_v))
    if middle is None:
        raise InputError("output_v", "No capacitance explains that rail: the supply or the load is another.")
    return Inferred(middle, low or 0.0, high, determinable=True)


def infer_from_current(circuit: DropperCircuit, input_a: float, *, error_a: float = 0.0) -> Inferred:
    """The capacitance that explains the mains current; it rises with the capacitance whether the rail is clamped or not.

    :param circuit: as drawn, with its load; its capacitance is not used
    :param input_a: mains current as measured, amperes rms
    :param error_a: what that may be wrong by, amperes
    :returns: Inferred, farads
    :raises InputError: a value out of range, or a current no capacitance up to 1 mF explains (`input_a`)
    :source: bisection on the periodic state
    """
    CURRENT.check("input_a", input_a)
    CURRENT.check("error_a", error_a)
    circuit.check()
    low, middle, high = (_capacitance_for(circuit, _current, max(input_a + e, 0.0)) for e in (-error_a, 0.0, error_a))
    if middle is None:
        raise InputError("input_a", "No capacitance explains that current: the supply or the load is another.")
    return Inferred(middle, low or 0.0, high, determinable=True)


def _rail(found: Settled) -> float:
    return found.means[0]


def _current(found: Settled) -> float:
    return math.sqrt(max(found.means[2], 0.0))


def _capacitance_for(c: DropperCircuit, figure: Callable[[Settled], float], wanted: float) -> float | None:
    """The capacitance at which a figure that rises with it is this; None when even a very large one falls short."""
    if wanted <= 0:
        return None

    def above(log_farads: float) -> bool:
        return figure(settled(replace(c, capacitance_f=math.exp(log_farads)))) >= wanted

    low, high = math.log(1e-12), math.log(1e-3)
    if not above(high):
        return None
    while high - low > CLOSE:
        middle = (low + high) / 2
        low, high = (low, middle) if above(middle) else (middle, high)
    return math.exp((low + high) / 2)


@dataclass(frozen=True, slots=True)
class Agreement:
    """Whether a meter's reading agrees with the capacitance a measurement asks for; None where it cannot be told."""

    agrees: bool | None
    sentence: str


def compare(inferred: Inferred, low_f: float, high_f: float) -> Agreement:
    """Hold a meter's reading against the capacitance that explains a measurement.

    :param inferred: from a rail or a mains current
    :param low_f: least the reading may be, farads
    :param high_f: most it may be, farads
    :returns: Agreement, a sentence with it
    :raises InputError: never
    :source: intervals that meet agree
    """
    read = f"{show(low_f, 'F')} to {show(high_f, 'F')}"
    if not inferred.determinable or inferred.high_f is None:
        if high_f < inferred.low_f:
            least = show(inferred.low_f, "F")
            return Agreement(
                agrees=False, sentence=f"The rail asks for at least {least}, the meter reads {read}: doubt the reading."
            )
        sentence = f"The rail is clamped: not determinable, at least {show(inferred.low_f, 'F')}. Measure it under more load."
        return Agreement(agrees=None, sentence=sentence)
    asked = f"{show(inferred.low_f, 'F')} to {show(inferred.high_f, 'F')}"
    if low_f <= inferred.high_f and high_f >= inferred.low_f:
        return Agreement(agrees=True, sentence=f"{asked} explain it and the meter reads {read}: they agree, it is the capacitor.")
    sentence = (
        f"{asked} would explain it, the meter reads {read}: they disagree, the fault is elsewhere or not the capacitor alone."
    )
    return Agreement(agrees=False, sentence=sentence)
