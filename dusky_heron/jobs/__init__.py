"""Equipment on the bench and the positions in it."""
