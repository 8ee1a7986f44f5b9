"""What happened: entries in a chain of hashes, and writes that happen once. Imports no other app."""
