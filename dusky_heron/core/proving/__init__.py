"""Simulated technicians over the whole core: they do what the product says, and what happens to them is counted."""
