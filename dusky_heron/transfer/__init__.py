"""A job as one file, out of this workshop and into another, without loss."""
