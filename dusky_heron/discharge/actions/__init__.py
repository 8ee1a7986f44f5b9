"""Noting what is known about a charge, watching it fall, proving it gone."""

from dusky_heron.discharge.actions.falls import log_fall
from dusky_heron.discharge.actions.notes import note_charge
from dusky_heron.discharge.actions.proofs import prove

__all__ = ["log_fall", "note_charge", "prove"]
