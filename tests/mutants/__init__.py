"""Whether the tests bite: the core broken in one place, drawn by seed, and the tests that run through that place."""
