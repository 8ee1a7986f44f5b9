"""Proof of work and handing back: checks, soak, deviations, what it costs, the report."""
