"""Readings: as intervals, from one model to another, without what lies in parallel, and which terminal is common."""

from dusky_heron.core.metering.accuracy import Accuracy, interval, last_digit, read_value, reads_open, resolution
from dusky_heron.core.metering.common import find_common
from dusky_heron.core.metering.equivalents import FREQUENCY, to_parallel, to_series, without_parallel_resistor

__all__ = [
    "FREQUENCY",
    "Accuracy",
    "find_common",
    "interval",
    "last_digit",
    "read_value",
    "reads_open",
    "resolution",
    "to_parallel",
    "to_series",
    "without_parallel_resistor",
]
