"""Simulated technicians in the terminal: many runs on every core of the machine, counted."""
