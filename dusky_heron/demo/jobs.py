"""The jobs of the demo scenario, each at another stage of the work."""

import datetime
from typing import Any
from uuid import UUID

from django.utils import timezone

from dusky_heron.asfound.actions import add_line, add_photo, mark_point
from dusky_heron.asfound.schemas import LineIn, PhotoPointIn
from dusky_heron.assessment.actions import enter_reading
from dusky_heron.assessment.schemas import ReadingIn
from dusky_heron.core.discharge.tools import Shape
from dusky_heron.core.model import Arrangement, Basis, Condition, Role, Topology
from dusky_heron.demo.picture import under_the_chassis
from dusky_heron.discharge.actions import note_charge
from dusky_heron.discharge.schemas import ChargeIn
from dusky_heron.discharge.states import ChargeState
from dusky_heron.jobs.actions import add_position, open_job, set_surroundings
from dusky_heron.jobs.schemas import Connection, JobIn, JobOut, PositionIn, ProtectionClass, SurroundingsEdit
from dusky_heron.record.actor import Actor

Meters = dict[str, UUID]
HAND, BRIDGE = "Blue hand meter", "Bench LCR bridge"


def open_jobs(lead: Actor, meters: Meters, resistor_id: UUID) -> None:
    """Open every job of the scenario; meters by name, and the resistor the dryer is emptied through."""
    _pump(lead)
    _hand_dryer(lead, meters, resistor_id)
    _dosing_controller(lead)
    _flash_bank(lead)
    _popcorn_oven(lead)
    _flume_pump(lead)
    _organ_supply(lead, meters)
    _lamp_supply(lead, meters)


def _open(lead: Actor, **written: Any) -> JobOut:
    """Take in a piece of equipment on the house's mains, earthed unless it says otherwise."""
    house = {"supply_voltage": "230 V", "supply_frequency": "50 Hz", "protection_class": ProtectionClass.ONE}
    return open_job(lead, JobIn.model_validate(house | written))


def _in(days: int) -> datetime.date:
    """A day so many from today, for what the desk has promised."""
    return timezone.localdate() + datetime.timedelta(days=days)


def _pump(lead: Actor) -> None:
    job = _open(
        lead, title="Wave-pool circulation pump", customer="Saltgate Lido", maker="Brinemark", model="WP-16", serial="0417",
        connection=Connection.FIXED, standard="IEC 60252-1 / UL 810", symptom="Overload trips after ten minutes; slow to start.",
        promised_by=_in(2),
    )  # fmt: skip
    add_position(lead, job.id, PositionIn(name="C1", role=Role.MOTOR_RUN, marking="16 µF ±5 % 450 V~"))


def _hand_dryer(lead: Actor, meters: Meters, resistor_id: UUID) -> None:
    job = _open(
        lead, title="Changing-room hand dryer", customer="Saltgate Lido", maker="Gustwell", model="HD-2", serial="22-118",
        connection=Connection.FIXED, standard="IEC 60335-1 (22.5)", symptom="Trips the RCD now and then; filter box runs warm.",
    )  # fmt: skip
    x2 = PositionIn(
        name="CX1", role=Role.X, marking="1 µF K X2 305 V~ 40/100/21/C", length_mm=34, width_mm=20, height_mm=30, pitch_mm=27.5
    )
    cx1 = add_position(lead, job.id, x2)
    y_pair = [
        add_position(lead, job.id, PositionIn(name=name, role=Role.Y, marking="3n3 M Y2 300 V~", pitch_mm=7.5))
        for name in ("CY1", "CY2")
    ]
    opened = SurroundingsEdit(version=1, bleeder="2 x 150k", bleeder_working_v=200, bleeder_measured="open")
    set_surroundings(lead, cx1.id, opened)
    note_charge(lead, cx1.id, ChargeIn(state=ChargeState.EMPTYING, shape=Shape.SINGLE, resistor_ids=[resistor_id]))
    enter_reading(lead, cx1.id, ReadingIn(value="742n", meter_id=meters[HAND], condition=Condition.LIFTED))
    for one, value in zip(y_pair, ("3.31n", "3.28n"), strict=True):
        enter_reading(lead, one.id, ReadingIn(value=value, meter_id=meters[BRIDGE], condition=Condition.LIFTED))


def _dosing_controller(lead: Actor) -> None:
    job = _open(
        lead, title="Chlorine dosing controller", customer="Saltgate Lido", maker="Brinemark", model="DC-24", serial="5-017",
        protection_class=ProtectionClass.TWO, connection=Connection.FIXED, standard="IEC 60335-1 (22.5)",
        symptom="The dosing valve drops out on winter evenings, when the mains runs low.",
        promised_by=_in(9),
    )  # fmt: skip
    cd1 = add_position(lead, job.id, PositionIn(name="CD1", role=Role.DROPPER, marking="680 nF K X2 305 V~ 1419", pitch_mm=22.5))
    loads = "standby 8 mA\nvalve on 923 Ω pulls in 16.8 V holds 12 V resets 9 V"
    rail = SurroundingsEdit(version=1, topology=Topology.BRIDGE, rail="24 V", loads=loads, zener="1.3 W")
    set_surroundings(lead, cd1.id, rail)


def _flash_bank(lead: Actor) -> None:
    job = _open(
        lead, title="Stage-front flash bank", customer="Saltgate Picture House", maker="Glarehouse", model="FB-3", serial="071",
        connection=Connection.PLUG, symptom="Recycles slowly; one of three cans runs warmer than the others.",
    )  # fmt: skip
    bank = add_position(lead, job.id, PositionIn(name="C4", role=Role.ENERGY_STORE, marking="1200 µF 360 V"))
    set_surroundings(lead, bank.id, SurroundingsEdit(version=1, arrangement=Arrangement.PARALLEL, count=3))


def _popcorn_oven(lead: Actor) -> None:
    job = _open(
        lead, title="Kiosk popcorn oven", customer="Saltgate Picture House", maker="Fairgale", model="PO-700", serial="3-552",
        connection=Connection.PLUG, standard="IEC 60335-1 (22.5)", symptom="Runs but does not heat; hums loudly.",
        promised_by=_in(-1),
    )  # fmt: skip
    part = add_position(lead, job.id, PositionIn(name="C5", role=Role.MAGNETRON, marking="1.05 µF ±3 % 2100 V~"))
    opened = SurroundingsEdit(version=1, basis=Basis.MAGNETRON, bleeder="10 MΩ", bleeder_measured="open")
    set_surroundings(lead, part.id, opened)


def _flume_pump(lead: Actor) -> None:
    job = _open(
        lead, title="Flume pump drive", customer="Saltgate Lido", maker="Brinemark", model="FD-15", serial="88-204",
        supply_voltage="400 V", connection=Connection.FIXED, standard="IEC 61800-5-1",
        symptom="Trips on DC link overvoltage while the pump slows down.",
    )  # fmt: skip
    link = add_position(lead, job.id, PositionIn(name="C6", role=Role.DC_LINK, marking="1500 µF M 400 V"))
    series = SurroundingsEdit(version=1, basis=Basis.DRIVE_LINK, arrangement=Arrangement.SERIES, count=2, balancing="47k")
    set_surroundings(lead, link.id, series)


def _organ_supply(lead: Actor, meters: Meters) -> None:
    job = _open(
        lead, title="Organ relay supply", customer="Saltgate Picture House", maker="Harkwell", model="RS-2", serial="1953-07",
        protection_class=ProtectionClass.UNKNOWN, two_core=True, connection=Connection.PLUG,
        symptom="Loud hum on the relays; the chassis tingles.",
    )  # fmt: skip
    can = add_position(lead, job.id, PositionIn(name="C1", role=Role.RESERVOIR, marking="32+32 µF 500 VDC"))
    set_surroundings(lead, can.id, SurroundingsEdit(version=1, basis=Basis.TRANSFORMER, voltage="300 V"))
    add_position(lead, job.id, PositionIn(name="C2", role=Role.Y, marking=".01 MFD 600 WVDC"))
    for line in (
        "red rectifier -> C1.a",
        "yellow choke -> C1.b",
        "black chassis -> C1.can",
        "polarity C1 can is minus",
        "TB1: L=red N=black 3=-",
    ):
        add_line(lead, job.id, LineIn(text=line))
    picture = under_the_chassis()
    photo = add_photo(lead, job.id, picture, len(picture.getvalue()), "Under the chassis, the can at the left")
    mark_point(lead, photo.id, PhotoPointIn(x=0.335, y=0.45, label="a, red, from the rectifier", position_id=can.id))
    mark_point(lead, photo.id, PhotoPointIn(x=0.485, y=0.45, label="b, yellow, after the choke", position_id=can.id))
    for section, value in enumerate(("33.1u", "0.4u")):
        reading = ReadingIn(value=value, meter_id=meters[HAND], condition=Condition.LIFTED, section=section)
        enter_reading(lead, can.id, reading)


def _lamp_supply(lead: Actor, meters: Meters) -> None:
    job = _open(
        lead, title="Ticket-gate lamp supply", customer="Saltgate Picture House", maker="Glarehouse", model="LS-60", serial="7-733",
        connection=Connection.FIXED, standard="IEC 60335-1 (22.5)", symptom="Restarts when the lamps come on.",
    )  # fmt: skip
    bulk = add_position(lead, job.id, PositionIn(name="C1", role=Role.SMPS_BULK, marking="82 µF M 400 VDC 105 °C 1923"))
    life = SurroundingsEdit(version=1, life_h=5000, life_at_c=105, runs_at_c=75, hours_a_day=12)
    set_surroundings(lead, bulk.id, life)
    add_position(lead, job.id, PositionIn(name="CX1", role=Role.X, marking="220 nF K X2 305 V~"))
    enter_reading(lead, bulk.id, ReadingIn(value="73.4u", meter_id=meters[BRIDGE], condition=Condition.LIFTED))
