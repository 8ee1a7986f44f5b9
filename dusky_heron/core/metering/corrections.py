"""A reading taken in circuit, without the resistor and the capacitor known to lie across the part."""

import math
from dataclasses import dataclass

from dusky_heron.core.errors import CAPACITANCE, RESISTANCE, InputError
from dusky_heron.core.metering.accuracy import OTHERS, Method, Value
from dusky_heron.core.metering.equivalents import LOSS, to_parallel, to_series, without_parallel_resistor

TIMED_HZ = 10.0  # effective frequency of a timed-charge meter where it is not kept: slow, so that more is refused
MOST_D = 0.1  # at that frequency: above it a timed charge measures the resistor as much as the capacitor


@dataclass(frozen=True, slots=True)
class Beside:
    """What lies across a part while it is measured in circuit: ohms, farads, and the D that was read with the value."""

    ohm: float | None = None
    farads: float | None = None
    loss: float | None = None


def loss_of_resistor(capacitance_f: float, resistance_ohm: float, frequency_hz: float) -> float:
    """The loss factor a resistor across a capacitance makes at a frequency: D = 1/(2πf R C).

    :param capacitance_f: farads, more than 0 up to 1000
    :param resistance_ohm: ohms, more than 0 up to 1e15
    :param frequency_hz: hertz
    :returns: D
    :raises InputError: a value out of range
    :source: admittances in parallel add
    """
    CAPACITANCE.check("capacitance_f", capacitance_f)
    return 1 / (2 * math.pi * frequency_hz * capacitance_f * RESISTANCE.check("resistance_ohm", resistance_ohm))


def alone(read: Value, beside: Beside, method: Method, frequency_hz: float | None) -> Value:
    """A capacitance read in circuit, as it would be with nothing across it.

    An LCR reading has frequency and model, so the resistor is taken out exactly: it does not change a parallel reading, and a
    series reading is Cs = Cp(1 + D²) with its own D. A timed charge runs slower by at most D into a resistor: up to D 0.1 its
    lower end is lowered by that, above it cannot be corrected. A capacitor across it is subtracted, taken as ±10 %.

    :param read: the reading with its interval, farads
    :param beside: what lies across it
    :param method: how the meter finds a capacitance
    :param frequency_hz: of the meter; for a timed charge its effective one, 10 Hz when not kept
    :returns: Value without them
    :raises InputError: not correctable (`parallel_ohm`), a series reading without its D (`loss`), an LCR reading without its
        frequency (`meter_id`), or more capacitance across it than was read (`parallel_f`)
    :source: admittances in parallel add; charge into R and C in parallel: C·ln(1/(1 − x))/x with x = t/RC
    """
    if beside.ohm:
        read = _without_resistor(read, beside, method, frequency_hz)
    if not beside.farads:
        return read
    CAPACITANCE.check("parallel_f", beside.farads)
    if read.value <= beside.farads:
        raise InputError("parallel_f", "That capacitor alone is more than was read: check its value, or lift one lead.")
    low, high = read.low - beside.farads * (1 + OTHERS), read.high - beside.farads * (1 - OTHERS)
    return Value(read.value - beside.farads, max(low, 0.0), high)


def _without_resistor(read: Value, beside: Beside, method: Method, frequency_hz: float | None) -> Value:
    ohm = beside.ohm or math.inf
    if read.value == 0 or math.isinf(read.high):
        raise InputError("parallel_ohm", "There is no value to correct: lift one lead and measure again.")
    if method == Method.TIMED_CHARGE:
        loss = loss_of_resistor(read.value, ohm, frequency_hz or TIMED_HZ)
        if loss > MOST_D:
            raise InputError(
                "parallel_ohm",
                f"Lift one lead: the resistor makes D {loss:.2g} for a timed charge, above {MOST_D:g}, and the meter "
                "measures it as much as the capacitor.",
            )
        return Value(read.value, read.low * (1 - loss), read.high)
    if frequency_hz is None:
        raise InputError("meter_id", "Note the test frequency of this meter under Meters first.")
    if method == Method.LCR_PARALLEL:
        return read
    if beside.loss is None:
        raise InputError("loss", "A series reading with a resistor across it needs the D that was read with it.")
    parallel, loss = to_parallel(read.value, LOSS.check("loss", beside.loss))
    try:
        _, own = without_parallel_resistor(parallel, loss, frequency_hz, ohm)
    except InputError as error:
        raise InputError("parallel_ohm", error.sentence) from error
    share = to_series(parallel, own)[0] / read.value
    return Value(read.value * share, read.low * share, read.high * share)
