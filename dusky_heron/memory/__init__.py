"""What the workshop has seen before: the same model, what failed at which age, and everything that was ever written."""
