"""Dusky Heron: the bench companion of technicians who service mains-connected and high-voltage equipment."""
