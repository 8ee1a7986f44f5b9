"""Capacitive droppers: what they give and lose, what is seen as they age, and which fault explains what is measured."""

from dusky_heron.core.circuit.dropper.backwards import Agreement, Inferred, compare, infer_capacitance, infer_from_current
from dusky_heron.core.circuit.dropper.command import Command, give_command
from dusky_heron.core.circuit.dropper.faults import Observed, rank_faults
from dusky_heron.core.circuit.dropper.heat import Heat, too_big
from dusky_heron.core.circuit.dropper.modes import FARADS, OHMS, TOPOLOGIES, DropperCircuit
from dusky_heron.core.circuit.dropper.needs import CLAMP_OHM, DIODE_V, powered_at, with_needs
from dusky_heron.core.circuit.dropper.states import (
    INRUSH_S,
    DropperState,
    available_current,
    settled_state,
    steady_state,
    switch_load,
    switch_on,
)
from dusky_heron.core.circuit.dropper.symptoms import (
    MAINS,
    SymptomRow,
    holds,
    largest_needed,
    needed_capacitance,
    state_load,
    symptom_sweep,
)

__all__ = [
    "CLAMP_OHM",
    "DIODE_V",
    "FARADS",
    "INRUSH_S",
    "MAINS",
    "OHMS",
    "TOPOLOGIES",
    "Agreement",
    "Command",
    "DropperCircuit",
    "DropperState",
    "Heat",
    "Inferred",
    "Observed",
    "SymptomRow",
    "available_current",
    "compare",
    "give_command",
    "holds",
    "infer_capacitance",
    "infer_from_current",
    "largest_needed",
    "needed_capacitance",
    "powered_at",
    "rank_faults",
    "settled_state",
    "state_load",
    "steady_state",
    "switch_load",
    "switch_on",
    "symptom_sweep",
    "too_big",
    "with_needs",
]
