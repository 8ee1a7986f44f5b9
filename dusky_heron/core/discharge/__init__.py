"""Emptying a capacitor: how long, with what, what is left, and how to prove it empty.

`falling` times and targets · `limits` how empty, by standard · `tools` and `search` which resistors · `bleeders` fitted
ones · `banks` several parts · `rebound` what creeps back · `other_tools` lamp, load, blade · `pins` after unplugging · `proving`.
"""

from dusky_heron.core.discharge.banks import string_after_short
from dusky_heron.core.discharge.falling import HANDS_IN_V, METER_LIMIT_V, time_to

__all__ = ["HANDS_IN_V", "METER_LIMIT_V", "string_after_short", "time_to"]
