"""Two years of the demo's workshop before its open jobs: sixty taken in, looked at and handed back, by a clock of their own."""

import csv
import datetime
import random
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from decimal import Decimal
from pathlib import Path
from uuid import UUID

from django.utils import timezone

from dusky_heron.assessment.actions import enter_reading
from dusky_heron.assessment.schemas import ReadingIn
from dusky_heron.buying.actions import add_supplier, order_parcel, put_offers, receive, want_part
from dusky_heron.buying.schemas import OfferIn, OrderIn, ReceiveIn, SupplierIn, WantIn
from dusky_heron.core.model import Condition, Role
from dusky_heron.fitting.actions import note_beside
from dusky_heron.fitting.schemas import BesideIn
from dusky_heron.handback.actions import hand_back, make_check, sign_deviation, write_quote
from dusky_heron.handback.schemas import CheckState, DeviationIn, ProofCheckIn, QuoteIn, QuoteLine, ReturnIn
from dusky_heron.jobs.actions import add_position, open_job
from dusky_heron.jobs.schemas import Connection, JobIn, PositionIn, ProtectionClass
from dusky_heron.record.actions import writing
from dusky_heron.record.actor import Actor
from dusky_heron.stock.actions import move_part
from dusky_heron.stock.schemas import MoveIn

JOBS = Path(__file__).with_name("past.csv")
TIMES = 2  # that each of the list came in
DAYS = 730
METER = "Blue hand meter"
QUOTED = 3  # every so-many-th had a quote
ORDERED = {14: 0, 29: 3, 41: 0, 52: 1}  # after which jobs the drawer was restocked, and with which of its parts
RESTOCK = 6
FAILS_FROM_YEARS = 12  # about where parts of the demo begin to fail
BESIDE = (("fuse", "1.9 Ω cold"), ("varistor", "no mark on it"), ("rectifier", "0.51 V each way"), ("relay", "contacts cleaned"))


@contextmanager
def as_of(moment: datetime.datetime) -> Iterator[None]:
    """The demo's own clock: it goes on from a moment, for whatever asks Django what time it is."""
    now, begun = timezone.now, timezone.now()
    timezone.now = lambda: moment + (now() - begun)
    try:
        yield
    finally:
        timezone.now = now


def history(lead: Actor, second: Actor, meters: Mapping[str, UUID], parts: list[UUID], today: datetime.datetime) -> None:
    """Sixty jobs handed back and what came and went meanwhile; the same for everybody who loads the demo."""
    chance = random.Random(1953)  # noqa: S311 - invented work, the same each time
    with JOBS.open(encoding="utf-8") as file:
        rows = list(csv.DictReader(file, delimiter="|")) * TIMES
    chance.shuffle(rows)
    with as_of(today - datetime.timedelta(days=DAYS - 1)):
        seller = _seller(lead, parts)
    for k, row in enumerate(rows, start=1):
        day = today - datetime.timedelta(days=(DAYS - 20) * (1 - k / len(rows)) + 3)
        with as_of(day), writing():
            _job(chance, (lead, second)[k % 2], lead, row, meters[METER], k, day.year)
            if k % 3 == 0:
                bought = MoveIn(change=chance.choice((1, 2, 5)), says="bought at the counter")
                move_part(lead, chance.choice(parts), bought)
            if k in ORDERED:
                _order(lead, parts[ORDERED[k]], seller, day)


def _seller(lead: Actor, parts: list[UUID]) -> UUID:
    """Where the workshop bought what wears, as long as that had it: what it asked then."""
    wharf = SupplierIn(
        name="Old Wharf Stores", postage=Decimal("3.80"), minimum_order=Decimal("15.00"), days=4, counter=False, service_code=""
    )
    supplier = add_supplier(lead, wharf)
    asked = [
        OfferIn(supplier_id=supplier.id, part_id=parts[row], code=f"OW {row}", prices="1: 4.10, 10: 3.60", pack=1, available=40)
        for row in sorted(set(ORDERED.values()))
    ]
    put_offers(lead, asked)
    return supplier.id


def _order(lead: Actor, part: UUID, seller: UUID, day: datetime.datetime) -> None:
    """Restocking: wanted, ordered, and come four days later."""
    found = want_part(lead, WantIn(part_id=part, quantity=RESTOCK))
    total = next(parcel.total for parcel in found.basket.parcels if parcel.supplier_id == seller)
    (ordered,) = order_parcel(lead, OrderIn(supplier_id=seller, total=total)).ordered
    with as_of(day + datetime.timedelta(days=4)):
        receive(lead, ordered.id, ReceiveIn(quantity=RESTOCK, lot=f"{day:%y%W}-3", date_code=f"{day:%y%W}"))


def _job(chance: random.Random, actor: Actor, lead: Actor, row: Mapping[str, str], meter: UUID, number: int, year: int) -> None:
    """One of them, from the door and back."""
    years = chance.choice((2, 4, 6, 8, 10, 12, 14, 17))
    failed = years + chance.choice((-3, 0, 3)) > FAILS_FROM_YEARS
    made = f"{(year - years) % 100:02}{chance.randrange(1, 53):02}"
    written = {key: row[key] for key in ("title", "customer", "maker", "model", "symptom")}
    job = open_job(
        actor,
        JobIn.model_validate(
            {
                "supply_voltage": "230 V",
                "supply_frequency": "50 Hz",
                "serial": f"{chance.randrange(10, 99)}-{number:03}",
                "protection_class": ProtectionClass.TWO,
                "connection": Connection.FIXED,
                **written,
            }
        ),
    )
    marking = row["marking"].format(date=made)
    place = add_position(actor, job.id, PositionIn(name="C1", role=Role(row["role"]), marking=marking))
    value = row["failed" if failed else "healthy"]
    enter_reading(actor, place.id, ReadingIn(value=value, meter_id=meter, condition=Condition.LIFTED))
    if not failed and number % 2:
        what, says = chance.choice(BESIDE)
        note_beside(actor, job.id, BesideIn.model_validate({"what": what, "says": says}))
    checked = make_check(actor, job.id, ProofCheckIn(check_id="insulation", value=">60M", meter_id=meter))
    for check in checked.checks:
        if failed and check.required and check.state is not CheckState.PASSES:
            reason = "worn out: its maker replaces it, tagged not to be connected"
            sign_deviation(lead, job.id, DeviationIn(check_id=check.id, reason=reason))
    if number % QUOTED == 0:
        line = QuoteLine(text=row["found"] if failed else "Looked over and cleaned", quantity=Decimal(1), each=Decimal("9.50"))
        write_quote(actor, job.id, QuoteIn(lines=[line], minutes=chance.choice((25, 40, 60, 90))))
    hand_back(lead, job.id, ReturnIn(note=f"fetched; {row['found']}" if failed else "fetched", links_off=True))
