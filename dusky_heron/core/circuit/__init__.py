"""Circuits this trade keeps misjudging, simulated exactly between switchings."""

from dusky_heron.core.circuit.load import Load

__all__ = ["Load"]
