"""From the first power to handing back: `powerup` in steps, `checks` with their limits, `invoice` what it costs."""
