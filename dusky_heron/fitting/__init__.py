"""Fitting a part: the list that is ticked, line by line."""
