"""Work that takes longer than an answer may: done by a worker, with progress, and stopped when asked."""
