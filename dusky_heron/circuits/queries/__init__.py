"""Filling a bench from a position, and the walk of a job."""

from dusky_heron.circuits.queries.dropper import start
from dusky_heron.circuits.queries.position import benches
from dusky_heron.circuits.queries.walk import as_typed, job_walk

__all__ = ["as_typed", "benches", "job_walk", "start"]
