"""First power after a repair: the plan, the limiter, and a log that is judged as it is written."""
