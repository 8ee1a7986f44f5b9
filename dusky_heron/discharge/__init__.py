"""Emptying: what a position can hold, and how to empty it."""
