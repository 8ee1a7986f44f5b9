"""Capacitance from a current in service: of a motor capacitor, and of a dropper from what its appliance draws at idle.

Live work, for qualified persons only.
"""

import math

from dusky_heron.core.errors import CAPACITANCE, SUPPLY_FREQUENCY, SUPPLY_VOLTAGE, VOLTAGE, InputError
from dusky_heron.core.metering.accuracy import Value

LIVE = "Live work: only for those licensed for it, with the right meter category, one hand, nothing earthed."


def from_clamp(current: Value, volts: Value, supply_hz: float) -> Value:
    """Capacitance from the current through a capacitor and the voltage across it: C = I/(2πfV).

    :param current: A rms, with its interval
    :param volts: V rms across the capacitor, with its interval
    :param supply_hz: mains frequency, Hz
    :returns: farads with their interval: least from the lowest current and the highest voltage
    :raises InputError: no current or no voltage (`value`, `voltage`), or a frequency out of range
    :source: I = 2πfCV; 3 183·I/V µF at 50 Hz, 2 653·I/V µF at 60 Hz

    >>> round(from_clamp(Value(1.0, 1.0, 1.0), Value(230.0, 230.0, 230.0), 50).value * 230 * 1e6)
    3183
    """
    omega = 2 * math.pi * SUPPLY_FREQUENCY.check("supply_hz", supply_hz)
    if current.value <= 0 or math.isinf(current.high):
        raise InputError("value", "That needs a current the meter can read.")
    if volts.low <= 0 or math.isinf(volts.high):
        raise InputError("voltage", "That needs the voltage across the capacitor.")
    return Value(current.value / (omega * volts.value), current.low / (omega * volts.high), current.high / (omega * volts.low))


def idle_share(swing_v: float, supply_v: float) -> float:
    """The share of 2πfCV an ideal capacitor draws from the mains into a rectifier that holds its output: 1 for none.

    The capacitor's far end steps by the swing each half cycle, and conducts from sin θ = swing/V̂ − 1 to the peak.

    :param swing_v: volts its far end steps: twice the rail for a bridge, the rail for a half wave
    :param supply_v: mains, V rms
    :returns: share, from 1 down to 0 where the swing reaches twice the peak
    :raises InputError: a value out of range
    :source: rms of ωCV̂ cos θ over the conduction angle; bridge on 230 V: −2 % at 24 V, −14 % at 100 V, −40 % at 200 V

    >>> [round((idle_share(2 * rail, 230) - 1) * 100) for rail in (24, 100, 200)]
    [-2, -14, -40]
    """
    peak = math.sqrt(2) * SUPPLY_VOLTAGE.check("supply_v", supply_v)
    start = math.asin(min(VOLTAGE.check("swing_v", swing_v) / peak - 1, 1.0))
    squared = (math.pi / 2 - start) / 2 - math.sin(2 * start) / 4
    return math.sqrt(max(squared, 0.0) / (math.pi / 2))


def from_idle(current: Value, volts: Value, supply_hz: float, *, swing_v: float = 0.0, beside_f: float = 0.0) -> Value:
    """Capacitance of a dropper from the current its appliance draws at idle, less what an X capacitor on the line draws.

    :param current: A rms, with its interval
    :param volts: mains, V rms, with its interval
    :param supply_hz: mains frequency, Hz
    :param swing_v: as for `idle_share`; 0 when the rail is not known, which reads low
    :param beside_f: farads across the line, taken out of the current
    :returns: farads with their interval
    :raises InputError: as `from_clamp`; more current in the X capacitor than was read (`beside`); a rail too high (`rail`)
    :source: as `idle_share`; without the series resistor, which a simulation counts
    """
    whole = from_clamp(current, volts, supply_hz)
    if beside_f and CAPACITANCE.check("beside", beside_f) >= whole.value:
        raise InputError("beside", "That X capacitor alone would draw more than was read.")
    share = idle_share(swing_v, volts.value)
    if share <= 0.05:
        raise InputError("rail", "The rail is as high as the mains peak: no current can flow.")
    return Value((whole.value - beside_f) / share, max(whole.low - beside_f, 0.0) / share, (whole.high - beside_f) / share)
