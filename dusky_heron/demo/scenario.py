"""The demo scenario, written through the same actions as everybody's work, so that its record is a real one."""

import csv
import datetime
from pathlib import Path
from typing import Any
from uuid import UUID

from dusky_heron.assessment.actions import enter_reading
from dusky_heron.assessment.schemas import ReadingIn
from dusky_heron.core.discharge.tools import Construction, Shape
from dusky_heron.core.model import Arrangement, Basis, Condition, Role
from dusky_heron.discharge.actions import note_charge
from dusky_heron.discharge.models import ChargeState
from dusky_heron.discharge.schemas import ChargeIn
from dusky_heron.instruments.actions import add_meter, add_resistor
from dusky_heron.instruments.schemas import MeterIn, ResistorIn
from dusky_heron.jobs.actions import add_position, open_job, set_surroundings
from dusky_heron.jobs.schemas import Connection, JobIn, PositionIn, ProtectionClass, SurroundingsEdit
from dusky_heron.record.actor import Actor, MemberRole
from dusky_heron.stock.actions import add_part
from dusky_heron.stock.schemas import PartIn
from dusky_heron.workshops.actions import add_member, found_workshop
from dusky_heron.workshops.schemas import NewMember

PARTS = Path(__file__).with_name("parts.csv")
LEAD, APPRENTICE = "orne", "vell"
METERS = (  # name, ±(% + counts) on a display of so many counts, days to calibration, highest V, category, probe
    ("Blue hand meter", 2.0, 3, 6000, 200, "1000 V", "III", "1000 V", False),
    ("Bench LCR bridge", 0.2, 2, 40000, 90, "50 V", "", "", False),
    ("Old yellow meter", 4.0, 5, 2000, -30, "600 V", "II", "600 V", False),
    ("Clamp meter with capacitance", 3.0, 5, 4000, 300, "600 V", "III", "600 V", False),
    ("High-voltage probe", 2.0, 3, 2000, 150, "40 kV", "", "", True),
)
RESISTORS = (
    ("100 Ω 50 W wire-wound", "100 Ω", "50 W", Construction.WIREWOUND, "500 V", ""),
    ("360 Ω 25 W wire-wound", "360 Ω", "25 W", Construction.WIREWOUND, "700 V", ""),
    ("360 Ω 25 W wire-wound, second", "360 Ω", "25 W", Construction.WIREWOUND, "700 V", ""),
    ("1 kΩ 50 W wire-wound", "1 kΩ", "50 W", Construction.WIREWOUND, "1000 V", "400 J"),
    ("4.7 kΩ 25 W wire-wound", "4.7 kΩ", "25 W", Construction.WIREWOUND, "700 V", ""),
    ("10 kΩ 10 W wire-wound", "10 kΩ", "10 W", Construction.WIREWOUND, "500 V", ""),
    ("22 kΩ 5 W metal-oxide", "22 kΩ", "5 W", Construction.METAL_OXIDE, "500 V", "8 J"),
    ("47 kΩ 5 W metal-oxide", "47 kΩ", "5 W", Construction.METAL_OXIDE, "500 V", ""),
    ("100 kΩ 3 W metal-oxide", "100 kΩ", "3 W", Construction.METAL_OXIDE, "350 V", ""),
    ("220 kΩ 2 W metal film", "220 kΩ", "2 W", Construction.FILM, "500 V", ""),
    ("390 kΩ 1 W metal film", "390 kΩ", "1 W", Construction.FILM, "500 V", ""),
    ("1 MΩ high-voltage stick", "1 MΩ", "10 W", Construction.METAL_OXIDE, "10 kV", "60 J"),
)


def load(password: str, today: datetime.date) -> None:
    """Make the workshop with its people, instruments, drawer and jobs."""
    lead = found_workshop("Saltgate Lido & Picture House workshop", LEAD, "M. Orne", password)
    add_member(lead, NewMember(username=APPRENTICE, name="T. Vell", role=MemberRole.APPRENTICE, password=password))
    meters = [_meter(lead, today, row) for row in METERS]
    resistors = [_resistor(lead, *row) for row in RESISTORS]
    with PARTS.open(encoding="utf-8") as file:
        for row in csv.DictReader(file):
            add_part(lead, PartIn.model_validate({k: v for k, v in row.items() if v != ""}))
    _pump(lead)
    _hand_dryer(lead, meters[0]["id"], resistors[9]["id"])
    _dosing_controller(lead)
    _flash_bank(lead)
    _popcorn_oven(lead)
    _flume_pump(lead)


def _meter(lead: Actor, today: datetime.date, row: tuple[Any, ...]) -> dict[str, Any]:
    name, percent, counts, display, due, highest, category, category_v, probe = row
    data = MeterIn(
        name=name,
        percent=percent,
        counts=counts,
        display_counts=display,
        calibration_due=today + datetime.timedelta(days=due),
        highest_voltage=highest,
        category=category,
        category_voltage=category_v,
        input_resistance="1 GΩ" if probe else "10 MΩ",
        high_voltage_probe=probe,
    )
    return add_meter(lead, data)


def _resistor(lead: Actor, name: str, ohm: str, watt: str, made: Construction, volts: str, pulse: str) -> dict[str, Any]:
    data = ResistorIn(
        name=name, resistance=ohm, tolerance_percent=5, power=watt, construction=made, working_voltage=volts, pulse_energy=pulse
    )
    return add_resistor(lead, data)


def _open(lead: Actor, **written: Any) -> dict[str, Any]:
    """Take in a piece of equipment on the house's mains, earthed unless it says otherwise."""
    house = {"supply_voltage": "230 V", "supply_frequency": "50 Hz", "protection_class": ProtectionClass.ONE}
    return open_job(lead, JobIn.model_validate(house | written))


def _pump(lead: Actor) -> None:
    job = _open(
        lead, title="Wave-pool circulation pump", customer="Saltgate Lido", maker="Brinemark", model="WP-16", serial="0417",
        connection=Connection.FIXED, standard="IEC 60252-1 / UL 810", symptom="Overload trips after ten minutes; slow to start.",
    )  # fmt: skip
    add_position(lead, job["id"], PositionIn(name="C1", role=Role.MOTOR_RUN, marking="16 µF ±5 % 450 V~"))


def _hand_dryer(lead: Actor, meter_id: str, resistor_id: str) -> None:
    job = _open(
        lead, title="Changing-room hand dryer", customer="Saltgate Lido", maker="Gustwell", model="HD-2", serial="22-118",
        connection=Connection.FIXED, standard="IEC 60335-1 (22.5)", symptom="Trips the RCD now and then; filter box runs warm.",
    )  # fmt: skip
    x2 = PositionIn(
        name="CX1", role=Role.X, marking="1 µF K X2 305 V~ 40/100/21/C", length_mm=34, width_mm=20, height_mm=30, pitch_mm=27.5
    )
    cx1 = add_position(lead, job["id"], x2)
    for name in ("CY1", "CY2"):
        add_position(lead, job["id"], PositionIn(name=name, role=Role.Y, marking="3n3 M Y2 300 V~", pitch_mm=7.5))
    opened = SurroundingsEdit(version=1, bleeder="2 x 150k", bleeder_working_v=200, bleeder_measured="open")
    set_surroundings(lead, cx1["id"], opened)
    note_charge(lead, cx1["id"], ChargeIn(state=ChargeState.EMPTYING, shape=Shape.SINGLE, resistor_ids=[UUID(resistor_id)]))
    enter_reading(lead, cx1["id"], ReadingIn(value="742n", meter_id=UUID(meter_id), condition=Condition.LIFTED))


def _dosing_controller(lead: Actor) -> None:
    job = _open(
        lead, title="Chlorine dosing controller", customer="Saltgate Lido", maker="Brinemark", model="DC-24", serial="5-017",
        protection_class=ProtectionClass.TWO, connection=Connection.FIXED, standard="IEC 60335-1 (22.5)",
        symptom="The dosing valve drops out on winter evenings, when the mains runs low.",
    )  # fmt: skip
    add_position(lead, job["id"], PositionIn(name="CD1", role=Role.DROPPER, marking="680 nF K X2 305 V~", pitch_mm=22.5))


def _flash_bank(lead: Actor) -> None:
    job = _open(
        lead, title="Stage-front flash bank", customer="Saltgate Picture House", maker="Glarehouse", model="FB-3", serial="071",
        connection=Connection.PLUG, symptom="Recycles slowly; one of three cans runs warmer than the others.",
    )  # fmt: skip
    bank = add_position(lead, job["id"], PositionIn(name="C4", role=Role.ENERGY_STORE, marking="1200 µF 360 V"))
    set_surroundings(lead, bank["id"], SurroundingsEdit(version=1, arrangement=Arrangement.PARALLEL, count=3))


def _popcorn_oven(lead: Actor) -> None:
    job = _open(
        lead, title="Kiosk popcorn oven", customer="Saltgate Picture House", maker="Fairgale", model="PO-700", serial="3-552",
        connection=Connection.PLUG, standard="IEC 60335-1 (22.5)", symptom="Runs but does not heat; hums loudly.",
    )  # fmt: skip
    part = add_position(lead, job["id"], PositionIn(name="C5", role=Role.MAGNETRON, marking="1.05 µF ±3 % 2100 V~"))
    opened = SurroundingsEdit(version=1, basis=Basis.MAGNETRON, bleeder="10 MΩ", bleeder_measured="open")
    set_surroundings(lead, part["id"], opened)


def _flume_pump(lead: Actor) -> None:
    job = _open(
        lead, title="Flume pump drive", customer="Saltgate Lido", maker="Brinemark", model="FD-15", serial="88-204",
        supply_voltage="400 V", connection=Connection.FIXED, standard="IEC 61800-5-1",
        symptom="Trips on DC link overvoltage while the pump slows down.",
    )  # fmt: skip
    link = add_position(lead, job["id"], PositionIn(name="C6", role=Role.DC_LINK, marking="1500 µF M 400 V"))
    series = SurroundingsEdit(version=1, basis=Basis.DRIVE_LINK, arrangement=Arrangement.SERIES, count=2, balancing="47k")
    set_surroundings(lead, link["id"], series)
