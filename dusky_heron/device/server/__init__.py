"""The server itself on a device: its own code over the rows of one job, for as long as no server answers."""
