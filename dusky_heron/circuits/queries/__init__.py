"""Working out circuits as typed, and filling a bench from a position."""

from dusky_heron.circuits.queries.dropper import dropper, ranked, start
from dusky_heron.circuits.queries.forming import forming
from dusky_heron.circuits.queries.position import benches
from dusky_heron.circuits.queries.supply import bulk, string, supply
from dusky_heron.circuits.queries.walk import walk

__all__ = ["benches", "bulk", "dropper", "forming", "ranked", "start", "string", "supply", "walk"]
