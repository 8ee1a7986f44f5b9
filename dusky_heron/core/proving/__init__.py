"""Simulated technicians over the whole core: they do what the product says, and what happens to them is counted."""

from dusky_heron.core.proving.counting import Counts, Run, count
from dusky_heron.core.proving.ground import TECHNICIANS, jobs, prove

__all__ = ["TECHNICIANS", "Counts", "Run", "count", "jobs", "prove"]
