"""A reading as a technician types it, with what lies across the part or what flows through it, made into one value."""

from dataclasses import dataclass

from dusky_heron.core.errors import CAPACITANCE, RESISTANCE, VOLTAGE, InputError, Range
from dusky_heron.core.metering.accuracy import Specification, Value, read_value
from dusky_heron.core.metering.corrections import Beside, alone
from dusky_heron.core.metering.equivalents import FREQUENCY
from dusky_heron.core.metering.in_service import from_clamp, from_idle
from dusky_heron.core.model import Condition, Position, Quantity, Role, Topology
from dusky_heron.core.quantities import parse_quantity


@dataclass(frozen=True, slots=True)
class Extra:
    """What may be typed beside a reading: its field, and where it means something; an empty tuple is everywhere."""

    field: str
    label: str
    quantities: tuple[Quantity, ...]
    conditions: tuple[Condition, ...] = ()
    roles: tuple[Role, ...] = ()
    not_roles: tuple[Role, ...] = ()


AFTER = Range("The time", 0.0, 86400.0, "s", open_low=True)
TEST_V = Range("Test volts", 0.0, 1e5, "V", open_low=True)
_TEMPERED = (Quantity.ESR, Quantity.DISSIPATION, Quantity.LEAKAGE, Quantity.INSULATION)
_ACROSS = ((Quantity.CAPACITANCE,), (Condition.IN_CIRCUIT,))
_DROPPER = (Role.DROPPER,)
EXTRAS = (
    Extra("frequency", "At, such as 120 Hz", (Quantity.ESR, Quantity.DISSIPATION)),
    Extra("volts", "At, such as 500 V", (Quantity.INSULATION, Quantity.LEAKAGE)),
    Extra("after", "After, such as 3 min", (Quantity.LEAKAGE,)),
    Extra("temperature_c", "At, °C, if not about 20", _TEMPERED),
    Extra("parallel_ohm", "Resistor across it", *_ACROSS),
    Extra("parallel_f", "Capacitor across it", *_ACROSS),
    Extra("loss", "D read with it", *_ACROSS),
    Extra("voltage", "Mains voltage", (Quantity.CURRENT,), roles=_DROPPER),
    Extra("voltage", "Voltage across it", (Quantity.CURRENT,), not_roles=_DROPPER),
    Extra("rail", "Rail, such as 24 V", (Quantity.CURRENT,), roles=_DROPPER),
    Extra("beside", "X capacitor on the line", (Quantity.CURRENT,), roles=_DROPPER),
)


@dataclass(frozen=True, slots=True)
class TypedReading:
    """What was typed: the value, and what belongs to it where there is such.

    The `volts` its meter held the part at and how long (`after`), what lies across the part (`parallel_…`, with the `loss` read),
    the voltage of a current, the rail of a dropper and the X capacitor beside it.
    """

    value: str
    quantity: Quantity
    condition: Condition
    frequency: str = ""
    volts: str = ""
    after: str = ""
    parallel_ohm: str = ""
    parallel_f: str = ""
    loss: str = ""
    voltage: str = ""
    rail: str = ""
    beside: str = ""


@dataclass(frozen=True, slots=True)
class Taken:
    """A reading ready to be judged: SI units, what it is of, how it was taken, and how it was typed and corrected in words."""

    value: Value
    quantity: Quantity
    condition: Condition
    frequency_hz: float | None
    typed: str
    volts: float | None = None
    seconds: float | None = None


def take(typed: TypedReading, meter: Specification, position: Position) -> Taken:
    """Read a typed reading: as it is, without what lies across the part, or as the capacitance a current stands for.

    :param typed: what was typed
    :param meter: what is kept of the meter
    :param position: the place, for its role, supply and rectifier
    :returns: Taken
    :raises InputError: naming the field of TypedReading that is wrong
    :source: `corrections`, `in_service`
    """
    hertz = parse_quantity(typed.frequency, "Hz", FREQUENCY, field="frequency") if typed.frequency else None
    if hertz is None and typed.quantity in (Quantity.ESR, Quantity.DISSIPATION):
        hertz = meter.frequency_hz
    read = read_value(typed.value, typed.quantity, meter)
    if typed.quantity == Quantity.CURRENT:
        value, said = _in_service(read, typed, meter, position)
        return Taken(value, Quantity.CAPACITANCE, Condition.IN_SERVICE, position.supply_hz, said)
    if typed.condition == Condition.IN_SERVICE and typed.quantity == Quantity.CAPACITANCE:
        raise InputError("quantity", "In service a current is read: choose current in service, and give the voltage.")
    if not typed.parallel_ohm and not typed.parallel_f:
        volts = parse_quantity(typed.volts, "V", TEST_V, field="volts") if typed.volts else None
        seconds = parse_quantity(typed.after, "s", AFTER, field="after") if typed.after else None
        return Taken(read, typed.quantity, typed.condition, hertz, typed.value, volts, seconds)
    if typed.quantity != Quantity.CAPACITANCE:
        raise InputError("parallel_ohm", "Only a capacitance is corrected for what lies across it.")
    beside = Beside(
        ohm=parse_quantity(typed.parallel_ohm, "Ω", RESISTANCE, field="parallel_ohm") if typed.parallel_ohm else None,
        farads=parse_quantity(typed.parallel_f, "F", CAPACITANCE, field="parallel_f") if typed.parallel_f else None,
        loss=_loss(typed.loss) if typed.loss else None,
    )
    across = " and ".join(filter(None, (typed.parallel_ohm, typed.parallel_f)))
    value = alone(read, beside, meter.method, hertz or meter.frequency_hz)
    return Taken(value, typed.quantity, typed.condition, hertz, f"{typed.value} with {across} across it")


def _loss(text: str) -> float:
    try:
        return read_value(text, Quantity.DISSIPATION, Specification()).value
    except InputError as error:
        raise InputError("loss", error.sentence) from error


def _in_service(read: Value, typed: TypedReading, meter: Specification, position: Position) -> tuple[Value, str]:
    if position.supply_hz is None:
        raise InputError("value", "That needs the supply's frequency.")
    try:
        volts = read_value(typed.voltage, Quantity.VOLTS_AC, meter)
    except InputError as error:
        raise InputError("voltage", error.sentence) from error
    said = f"{typed.value} at {typed.voltage}"
    if position.role != Role.DROPPER:
        return from_clamp(read, volts, position.supply_hz), said
    rail = parse_quantity(typed.rail, "V", VOLTAGE, field="rail") if typed.rail else 0.0
    known = position.surroundings.dropper
    bridge = known is None or known.topology == Topology.BRIDGE
    beside = parse_quantity(typed.beside, "F", CAPACITANCE, field="beside") if typed.beside else 0.0
    value = from_idle(read, volts, position.supply_hz, swing_v=rail * (2 if bridge else 1), beside_f=beside)
    return value, f"{said}, whole appliance at idle"
