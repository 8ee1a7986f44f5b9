"""Recording how equipment was found, before anything moves."""
