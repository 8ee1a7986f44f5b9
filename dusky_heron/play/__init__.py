"""Simulated sets in a terminal: `scripts/rig SET --seed N`."""
