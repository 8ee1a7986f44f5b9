"""Workshops, their members, and signing in."""
