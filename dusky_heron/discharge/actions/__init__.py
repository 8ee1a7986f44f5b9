"""Noting what is known about a charge, watching it fall, proving it gone."""

from dusky_heron.discharge.actions.falls import log_fall
from dusky_heron.discharge.actions.notes import charged, energise, links_off, note_charge
from dusky_heron.discharge.actions.proofs import prove, prove_several

__all__ = ["charged", "energise", "links_off", "log_fall", "note_charge", "prove", "prove_several"]
