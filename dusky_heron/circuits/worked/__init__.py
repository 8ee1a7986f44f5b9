"""Circuits worked out from what is typed alone: no job, no database; on the server and in the page's own worker alike."""

from dusky_heron.circuits.worked.dropper import dropper, ranked
from dusky_heron.circuits.worked.forming import forming
from dusky_heron.circuits.worked.supply import bulk, string, supply
from dusky_heron.circuits.worked.walk import walk

__all__ = ["bulk", "dropper", "forming", "ranked", "string", "supply", "walk"]
