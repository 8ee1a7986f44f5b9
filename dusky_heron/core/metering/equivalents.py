"""One impedance in the series and in the parallel model, and without a resistor across it."""

import math

from dusky_heron.core.errors import CAPACITANCE, RESISTANCE, InputError, Range

LOSS = Range("Loss factor D", 0.0, 1e4, "")
RESISTOR_OFF = 0.05  # of its value: the usual tolerance
FREQUENCY = Range("Frequency", 0.0, 1e9, "Hz", open_low=True)


def to_series(cp_f: float, d: float) -> tuple[float, float]:
    """The series capacitance of a part measured in the parallel model: Cs = Cp (1 + D²); D is the same.

    :param cp_f: farads, more than 0 up to 1000
    :param d: loss factor, 0 to 10 000
    :returns: series capacitance in farads, and D
    :raises InputError: not a number, or out of range
    :source: equivalence of series and parallel impedance at one frequency

    >>> round(to_series(1e-6, 0.5)[0] * 1e6, 9)
    1.25
    """
    CAPACITANCE.check("cp_f", cp_f)
    return cp_f * (1 + LOSS.check("d", d) ** 2), d


def to_parallel(cs_f: float, d: float) -> tuple[float, float]:
    """The parallel capacitance of a part measured in the series model: Cp = Cs / (1 + D²); D is the same.

    :param cs_f: farads, more than 0 up to 1000
    :param d: loss factor, 0 to 10 000
    :returns: parallel capacitance in farads, and D
    :raises InputError: not a number, or out of range
    :source: equivalence of series and parallel impedance at one frequency
    """
    CAPACITANCE.check("cs_f", cs_f)
    return cs_f / (1 + LOSS.check("d", d) ** 2), d


def without_parallel_resistor(cp_f: float, d: float, frequency_hz: float, resistance_ohm: float) -> tuple[float, float]:
    """A parallel-model reading with a known resistor across the part taken out: D − 1/(2πf Cp R), capacitance unchanged.

    A resistor up to 5 % off its value may seem to lose a little more than was read: the part is then taken to lose nothing.

    Exact for a reading with frequency and model; a timed-charge reading cannot be corrected so.

    :param cp_f: farads in the parallel model, more than 0 up to 1000
    :param d: loss factor as read, 0 to 10 000
    :param frequency_hz: of the meter, more than 0 up to 1e9
    :param resistance_ohm: across the part, more than 0 up to 1e15
    :returns: parallel capacitance in farads, and the part's own D
    :raises InputError: out of range, or the resistor alone would lose more than was read (field `resistance_ohm`)
    :source: admittances in parallel add
    """
    CAPACITANCE.check("cp_f", cp_f)
    LOSS.check("d", d)
    FREQUENCY.check("frequency_hz", frequency_hz)
    own = d - 1 / (2 * math.pi * frequency_hz * cp_f * RESISTANCE.check("resistance_ohm", resistance_ohm))
    if own < -RESISTOR_OFF * d:
        raise InputError("resistance_ohm", "That resistor alone would lose more than was read: check its value.")
    return cp_f, max(own, 0.0)
