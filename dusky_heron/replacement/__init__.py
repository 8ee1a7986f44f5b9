"""Which part takes a place."""
