"""Meters with their accuracy, and discharge resistors."""
