"""The demo scenario, written through the same actions as everybody's work, so that its record is a real one."""

import csv
import datetime
from contextlib import nullcontext
from decimal import Decimal
from typing import Any
from uuid import UUID

from django.utils import timezone

from dusky_heron.buying.actions import add_supplier, put_offers, want_part
from dusky_heron.buying.schemas import OfferIn, SupplierIn, WantIn
from dusky_heron.core.discharge.tools import Construction
from dusky_heron.core.metering.accuracy import Method
from dusky_heron.demo.jobs import open_jobs
from dusky_heron.demo.offers import PARTS, SELLERS, offers_of
from dusky_heron.demo.past import DAYS, as_of, history
from dusky_heron.instruments.actions import add_meter, add_resistor
from dusky_heron.instruments.schemas import MeterIn, MeterOut, ResistorIn, ResistorOut
from dusky_heron.jobs.actions import hand_over
from dusky_heron.jobs.queries import known_positions
from dusky_heron.jobs.schemas import HandOverIn
from dusky_heron.proposals.actions import propose_choice
from dusky_heron.record.actor import Actor, MemberRole
from dusky_heron.replacement.queries import candidates
from dusky_heron.replacement.schemas import ChoiceIn
from dusky_heron.stock.actions import add_part
from dusky_heron.stock.schemas import PartIn
from dusky_heron.workshops.actions import add_member, found_workshop
from dusky_heron.workshops.schemas import NewMember

RESTOCK = ((2, 3), (24, 8), (31, 12), (60, 4), (77, 10), (101, 6))  # rows of the drawer's list, and how many
LEAD, TECHNICIAN, APPRENTICE = "orne", "marl", "vell"
METERS = (  # name, ±(% + counts) on a display of so many counts, days to calibration, highest V, category, probe
    ("Blue hand meter", 2.0, 3, 6000, 200, "1000 V", "III", "1000 V", False),
    ("Bench LCR bridge", 0.2, 2, 40000, 90, "50 V", "", "", False),
    ("Old yellow meter", 4.0, 5, 2000, -30, "600 V", "II", "600 V", False),
    ("Clamp meter with capacitance", 3.0, 5, 4000, 300, "600 V", "III", "600 V", False),
    ("High-voltage probe", 2.0, 3, 2000, 150, "40 kV", "", "", True),
)
ACCURACIES = {  # of the other quantities, as on their data sheets
    "Blue hand meter": "AC volts ±(1 % + 3) to 1000 V\nDC volts ±(0.5 % + 2) to 1000 V\nresistance ±(0.9 % + 2) to 60 MΩ\n"
    "AC current ±(1.2 % + 3) to 400 µA\nAC current ±(1.2 % + 3) to 400 mA\ninsulation ±(3 % + 5) to 4 GΩ",
    "Bench LCR bridge": "ESR ±(1 % + 2) to 100 Ω\nD ±(1 % + 2) to 10",
    "Clamp meter with capacitance": "AC current ±(2 % + 5) to 40 A\nAC volts ±(1.2 % + 5) to 600 V",
}
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


def load(password: str, today: datetime.date, *, past: bool = False) -> None:
    """Make the workshop with its people, instruments, drawer and jobs; with its past, two years of work before them."""
    begun = timezone.now()
    with as_of(begun - datetime.timedelta(days=DAYS + 1)) if past else nullcontext():
        lead = found_workshop("Saltgate Lido & Picture House workshop", LEAD, "M. Orne", password)
        apprentice = add_member(lead, NewMember(username=APPRENTICE, name="T. Vell", role=MemberRole.APPRENTICE, password=password))
        meters = {row[0]: _meter(lead, today, row).id for row in METERS}
        resistors = [_resistor(lead, *row) for row in RESISTORS]
        with PARTS.open(encoding="utf-8") as file:
            given = [{key: value for key, value in row.items() if value != ""} for row in csv.DictReader(file)]
        parts = [add_part(lead, PartIn.model_validate(row)).id for row in given]
    if past:
        hired = NewMember(username=TECHNICIAN, name="K. Marl", role=MemberRole.TECHNICIAN, password=password)
        with as_of(begun - datetime.timedelta(days=DAYS)):
            hired_as = add_member(lead, hired)
        second = Actor(hired_as.id, hired_as.name, lead.workshop_id, MemberRole.TECHNICIAN)
        history(lead, second, meters, parts, begun)
    _sellers(lead, parts)
    open_jobs(lead, meters, resistors[9].id)
    _shopping(lead, parts, today + datetime.timedelta(days=3))
    if past:
        hand_over(
            second,
            _open_job(lead, "Ticket-gate lamp supply"),
            HandOverIn(says="Lid is on the shelf by the kiln; bill it to the gate"),
        )
        _proposal(Actor(apprentice.id, apprentice.name, lead.workshop_id, MemberRole.APPRENTICE))


def _open_job(actor: Actor, title: str) -> UUID:
    return next(job.id for _, _, job in known_positions(actor) if job.title == title and not job.returned_at)


def _proposal(apprentice: Actor) -> None:
    """What the apprentice would fit in the hand dryer: it waits for a signature."""
    place = next(p for p, _, job in known_positions(apprentice) if job.title == "Changing-room hand dryer" and not job.returned_at)
    best = candidates(apprentice, place.id).accepted[0]
    propose_choice(apprentice, place.id, ChoiceIn(part_id=best.part.id, signed=best.to_sign, reason="nearest in value and pitch"))


def _sellers(lead: Actor, parts: list[UUID]) -> None:
    """Three suppliers with what they asked when somebody last looked."""
    for seller in SELLERS:
        data = SupplierIn(
            name=seller.name,
            postage=Decimal(seller.postage),
            minimum_order=Decimal(seller.minimum_order),
            days=seller.days,
            counter=not seller.service_code,
            service_code=seller.service_code,
        )
        supplier = add_supplier(lead, data)
        asked = [
            OfferIn(
                supplier_id=supplier.id,
                part_id=parts[o.row],
                code=o.code,
                prices=", ".join(f"{start}: {each}" for start, each in o.breaks),
                pack=o.pack,
                available=o.available,
            )
            for o in offers_of(seller)
        ]
        put_offers(lead, asked)


def _shopping(lead: Actor, parts: list[UUID], soon: datetime.date) -> None:
    """What the drawer runs low of, and parts that two jobs wait for."""
    for row, quantity in RESTOCK:
        want_part(lead, WantIn(part_id=parts[row], quantity=quantity))
    for title, name in (("Ticket-gate lamp supply", "C1"), ("Kiosk popcorn oven", "C5")):
        place = next(p for p, _, job in known_positions(lead) if (job.title, p.name) == (title, name))
        best = candidates(lead, place.id).accepted[0].part
        want_part(lead, WantIn(part_id=best.id, position_id=place.id, needed_by=soon))


def _meter(lead: Actor, today: datetime.date, row: tuple[Any, ...]) -> MeterOut:
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
        accuracies=ACCURACIES.get(name, ""),
        method=Method.LCR_SERIES if name == "Bench LCR bridge" else Method.TIMED_CHARGE,
        frequency="120 Hz" if name == "Bench LCR bridge" else "",
        high_voltage_probe=probe,
    )
    return add_meter(lead, data)


def _resistor(lead: Actor, name: str, ohm: str, watt: str, made: Construction, volts: str, pulse: str) -> ResistorOut:
    data = ResistorIn(
        name=name, resistance=ohm, tolerance_percent=5, power=watt, construction=made, working_voltage=volts, pulse_energy=pulse
    )
    return add_resistor(lead, data)
