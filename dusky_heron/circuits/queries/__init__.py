"""Working out circuits as typed, and filling a bench from a position."""

from dusky_heron.circuits.queries.dropper import dropper, ranked, start
from dusky_heron.circuits.queries.forming import forming
from dusky_heron.circuits.queries.position import benches
from dusky_heron.circuits.queries.supply import bulk, string, supply
from dusky_heron.circuits.queries.walk import as_typed, job_walk, walk

__all__ = ["as_typed", "benches", "bulk", "dropper", "forming", "job_walk", "ranked", "start", "string", "supply", "walk"]
