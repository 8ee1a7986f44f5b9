"""Circuits to play with: the dropper bench, by itself and for a position."""
