"""Readings, signs and verdicts."""
