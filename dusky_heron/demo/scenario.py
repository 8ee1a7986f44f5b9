"""The demo scenario, written through the same actions as everybody's work, so that its record is a real one."""

import csv
import datetime
from pathlib import Path
from typing import Any
from uuid import UUID

from dusky_heron.assessment.actions import enter_reading
from dusky_heron.assessment.schemas import ReadingIn
from dusky_heron.core.discharge import Construction
from dusky_heron.core.model import Condition, Role
from dusky_heron.discharge.actions import note_charge
from dusky_heron.discharge.models import ChargeState
from dusky_heron.discharge.schemas import ChargeIn
from dusky_heron.instruments.actions import add_meter, add_resistor
from dusky_heron.instruments.schemas import MeterIn, ResistorIn
from dusky_heron.jobs.actions import add_position, open_job
from dusky_heron.jobs.schemas import Connection, JobIn, PositionIn, ProtectionClass
from dusky_heron.record.actor import Actor, MemberRole
from dusky_heron.stock.actions import add_part
from dusky_heron.stock.schemas import PartIn
from dusky_heron.workshops.actions import add_member, found_workshop
from dusky_heron.workshops.schemas import NewMember

PARTS = Path(__file__).with_name("parts.csv")
LEAD, APPRENTICE = "orne", "vell"
METERS = (
    ("Blue hand meter", 2.0, 3, 6000, 200),
    ("Bench LCR bridge", 0.2, 2, 40000, 90),
    ("Old yellow meter", 4.0, 5, 2000, -30),
    ("Clamp meter with capacitance", 3.0, 5, 4000, 300),
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
    meters = [_meter(lead, today, *row) for row in METERS]
    resistors = [_resistor(lead, *row) for row in RESISTORS]
    with PARTS.open(encoding="utf-8") as file:
        for row in csv.DictReader(file):
            add_part(lead, PartIn.model_validate({k: v for k, v in row.items() if v != ""}))
    _pump(lead)
    _hand_dryer(lead, meters[0]["id"], resistors[9]["id"])


def _meter(lead: Actor, today: datetime.date, name: str, percent: float, counts: int, display: int, due: int) -> dict[str, Any]:
    until = today + datetime.timedelta(days=due)
    return add_meter(lead, MeterIn(name=name, percent=percent, counts=counts, display_counts=display, calibration_due=until))


def _resistor(lead: Actor, name: str, ohm: str, watt: str, made: Construction, volts: str, pulse: str) -> dict[str, Any]:
    data = ResistorIn(
        name=name, resistance=ohm, tolerance_percent=5, power=watt, construction=made, working_voltage=volts, pulse_energy=pulse
    )
    return add_resistor(lead, data)


def _pump(lead: Actor) -> None:
    job = open_job(
        lead,
        JobIn(
            title="Wave-pool circulation pump", customer="Saltgate Lido", maker="Brinemark", model="WP-16", serial="0417",
            supply_voltage="230 V", supply_frequency="50 Hz", protection_class=ProtectionClass.ONE, connection=Connection.FIXED,
            standard="IEC 60252-1 / UL 810", symptom="Overload trips after ten minutes; slow to start.",
        ),
    )  # fmt: skip
    add_position(lead, job["id"], PositionIn(name="C1", role=Role.MOTOR_RUN, marking="16 µF ±5 % 450 V~"))


def _hand_dryer(lead: Actor, meter_id: str, resistor_id: str) -> None:
    job = open_job(
        lead,
        JobIn(
            title="Changing-room hand dryer", customer="Saltgate Lido", maker="Gustwell", model="HD-2", serial="22-118",
            supply_voltage="230 V", supply_frequency="50 Hz", protection_class=ProtectionClass.ONE, connection=Connection.FIXED,
            standard="IEC 60335-1 (22.5)", symptom="Trips the RCD now and then; filter box runs warm.",
        ),
    )  # fmt: skip
    x2 = PositionIn(
        name="CX1", role=Role.X, marking="1 µF K X2 305 V~ 40/100/21/C", length_mm=34, width_mm=20, height_mm=30, pitch_mm=27.5
    )
    cx1 = add_position(lead, job["id"], x2)
    for name in ("CY1", "CY2"):
        add_position(lead, job["id"], PositionIn(name=name, role=Role.Y, marking="3n3 M Y2 300 V~", pitch_mm=7.5))
    note_charge(lead, cx1["id"], ChargeIn(state=ChargeState.EMPTYING, resistor_id=UUID(resistor_id)))
    enter_reading(lead, cx1["id"], ReadingIn(value="742n", meter_id=UUID(meter_id), condition=Condition.LIFTED))
