"""Striking what is wrong in a job's record, and what follows from it in every stage."""
