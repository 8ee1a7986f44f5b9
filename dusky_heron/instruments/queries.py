"""Reading instruments; one statement each."""

from dataclasses import dataclass
from uuid import UUID

from django.utils import timezone

from dusky_heron.core.discharge.proving import MeterKind, Voltmeter
from dusky_heron.core.discharge.tools import Construction, Resistor
from dusky_heron.core.metering.accuracy import Accuracy, Method, Specification, can_measure, read_accuracies
from dusky_heron.core.metering.volts import VoltRanges
from dusky_heron.core.model import Quantity
from dusky_heron.core.quantities import show
from dusky_heron.instruments.models import DischargeResistor, Meter
from dusky_heron.instruments.schemas import MeterOut, ResistorOut
from dusky_heron.presented import Figure
from dusky_heron.record.actor import Actor
from dusky_heron.record.errors import NotFound


def meters(actor: Actor) -> list[MeterOut]:
    """The workshop's meters by name."""
    return [show_meter(m) for m in Meter.objects.filter(workshop_id=actor.workshop_id).order_by("name")]


@dataclass(frozen=True, slots=True)
class KnownMeter:
    """A meter as a reading needs it."""

    name: str
    specification: Specification
    overdue: bool


def meter(actor: Actor, meter_id: UUID) -> KnownMeter:
    """A meter's name, what is kept of its errors, and whether its calibration is overdue."""
    found = Meter.objects.filter(workshop_id=actor.workshop_id, id=meter_id).first()
    if found is None:
        raise NotFound
    return KnownMeter(found.name, _specification(found), _overdue(found))


def specifications(actor: Actor) -> list[Specification]:
    """What is kept of each of the workshop's meters. One statement."""
    return [_specification(kept) for kept in Meter.objects.filter(workshop_id=actor.workshop_id)]


def _specification(kept: Meter) -> Specification:
    ranges = read_accuracies(kept.accuracies, kept.display_counts)
    ranges.setdefault(Quantity.CAPACITANCE, (Accuracy(kept.percent, kept.counts, kept.display_counts),))
    return Specification(ranges, Method(kept.method), kept.frequency_hz)


def _overdue(meter: Meter) -> bool:
    return meter.calibration_due is not None and meter.calibration_due < timezone.localdate()


@dataclass(frozen=True, slots=True)
class VoltsMeter:
    """A meter for voltages: what it may be laid across, the counts of its display, and its ranges on DC and AC."""

    id: UUID
    core: Voltmeter
    display_counts: int
    dc: VoltRanges
    ac: VoltRanges


def voltmeters(actor: Actor) -> list[VoltsMeter]:
    """The workshop's meters as meters for voltages, by name."""
    return [_voltmeter(m) for m in Meter.objects.filter(workshop_id=actor.workshop_id).order_by("name")]


def voltmeter(actor: Actor, meter_id: UUID) -> VoltsMeter:
    """One of them."""
    found = Meter.objects.filter(workshop_id=actor.workshop_id, id=meter_id).first()
    if found is None:
        raise NotFound
    return _voltmeter(found)


def _voltmeter(meter: Meter) -> VoltsMeter:
    kind = MeterKind.TWO_POLE if meter.two_pole else MeterKind.PROBE if meter.high_voltage_probe else MeterKind.MULTIMETER
    laid = Voltmeter(meter.name, meter.highest_v, meter.category, meter.category_v, kind, meter.input_ohm)
    specification = _specification(meter)
    dc, ac = (
        VoltRanges.of(specification, quantity, meter.highest_v, fixed=laid.probe)
        for quantity in (Quantity.VOLTS_DC, Quantity.VOLTS_AC)
    )
    return VoltsMeter(meter.id, laid, meter.display_counts, dc, ac)


def resistors(actor: Actor) -> list[ResistorOut]:
    """The workshop's discharge resistors by value."""
    return [show_resistor(r) for r in _resistors(actor)]


def core_resistors(actor: Actor) -> tuple[Resistor, ...]:
    """The workshop's discharge resistors as the core knows them."""
    return tuple(
        Resistor(
            resistor_id=str(r.id),
            name=r.name,
            resistance_ohm=r.resistance_ohm,
            tolerance=r.tolerance_percent / 100,
            rated_w=r.rated_w,
            construction=Construction(r.construction),
            working_v=r.working_v,
            pulse_j=r.pulse_j,
        )
        for r in _resistors(actor)
    )


def _resistors(actor: Actor) -> list[DischargeResistor]:
    return list(DischargeResistor.objects.filter(workshop_id=actor.workshop_id).order_by("resistance_ohm", "name"))


def show_meter(meter: Meter) -> MeterOut:
    """A meter as the API shows it."""
    specification = _specification(meter)
    return MeterOut(
        measures=[quantity for quantity in Quantity if can_measure(specification, quantity)],
        id=meter.id,
        version=meter.version,
        name=meter.name,
        percent=meter.percent,
        counts=meter.counts,
        display_counts=meter.display_counts,
        calibration_due=meter.calibration_due,
        overdue=_overdue(meter),
        accuracies=meter.accuracies,
        method=Method(meter.method),
        frequency=show(meter.frequency_hz, "Hz") if meter.frequency_hz else "",
        highest_voltage=show(meter.highest_v, "V"),
        category=meter.category,
        category_voltage=show(meter.category_v, "V") if meter.category_v else "",
        input_resistance=show(meter.input_ohm, "Ω"),
        high_voltage_probe=meter.high_voltage_probe,
        two_pole=meter.two_pole,
    )


def show_resistor(resistor: DischargeResistor) -> ResistorOut:
    """A resistor as the API shows it."""
    return ResistorOut(
        id=resistor.id,
        version=resistor.version,
        name=resistor.name,
        resistance=Figure.of(resistor.resistance_ohm, "Ω"),
        tolerance_percent=resistor.tolerance_percent,
        power=Figure.of(resistor.rated_w, "W"),
        construction=Construction(resistor.construction),
        working_voltage=Figure.of(resistor.working_v, "V"),
        pulse_energy=Figure.of(resistor.pulse_j, "J") if resistor.pulse_j is not None else None,
    )
