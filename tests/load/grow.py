"""Grows a workshop's database: run inside `manage.py shell`, by tests.load.load."""

import io
from datetime import timedelta

from django.db import connection
from django.utils import timezone
from PIL import Image

from dusky_heron.asfound.actions import add_photo
from dusky_heron.assessment.models import Reading, RecordedVerdict
from dusky_heron.handback.models import Return
from dusky_heron.instruments.models import Meter
from dusky_heron.jobs.models import Job, Position
from dusky_heron.record.actions.append import canonical, link
from dusky_heron.record.models import Chain, Entry
from dusky_heron.workshops.models import Member

JOBS, READINGS, ON_THE_BENCH = 2000, 20, 40
FIRST = "0" * 64


def grow() -> None:
    """Two thousand jobs of two places and ten readings each, all but forty handed back."""
    member = Member.objects.get(username="orne")
    meter, now = Meter.objects.filter(workshop=member.workshop).first(), timezone.now()
    jobs = [
        Job(
            workshop=member.workshop, number=100 + k, title=f"Pump {k}", maker="Brinemark", model=f"WP-{k % 60}", supply_v=230,
            supply_hz=50, returned_at=now - timedelta(days=k / 10) if k >= ON_THE_BENCH else None,
        )
        for k in range(JOBS)
    ]  # fmt: skip
    Job.objects.bulk_create(jobs, batch_size=500)
    marks = ("16 µF ±5 % 450 V~", "1 µF K X2 305 V~ 1419")
    places = [
        Position(job=job, name=f"C{k}", role=role, marking=marks[k - 1]) for job in jobs for k, role in ((1, "motor_run"), (2, "x"))
    ]
    Position.objects.bulk_create(places, batch_size=1000)
    Reading.objects.bulk_create(
        (
            Reading(
                position=place, typed="15.9u", value=15.9e-6, low=15.6e-6, high=16.2e-6, condition="lifted", meter=meter,
                meter_name="Blue hand meter", by_name="M. Orne",
            )
            for place in places
            for _ in range(READINGS // 2)
        ),
        batch_size=2000,
    )  # fmt: skip
    RecordedVerdict.objects.bulk_create(
        (RecordedVerdict(position=p, word="keep", reasons="[]", rules_version="1", by_name="M. Orne") for p in places),
        batch_size=2000,
    )
    Return.objects.bulk_create((Return(job=job, by_name="M. Orne") for job in jobs if job.returned_at), batch_size=1000)
    _record(jobs, member)
    with connection.cursor() as cursor:
        cursor.execute("ANALYZE")  # as autovacuum has by the time a workshop is so large


def photograph(count: int) -> None:
    """So many photos of what a telephone takes, in job 7; each its own."""
    member = Member.objects.get(username="orne")
    job = Job.objects.get(workshop=member.workshop, number=7)
    for k in range(count):
        picture = Image.effect_noise((1600, 1200), 20 + k % 50).convert("RGB")
        file = io.BytesIO()
        picture.save(file, "JPEG", quality=80)
        add_photo(member.actor, job.id, file, file.tell(), f"Board {k + 1}")


def _record(jobs: list[Job], member: Member) -> None:
    """Eleven entries a job."""
    chains, entries = [], []
    for job in jobs:
        chain = Chain(workshop_id=job.workshop_id, subject_id=job.id)
        previous = FIRST
        for sequence in range(1, 12):
            said = {"subject": str(job.id), "sequence": sequence, "at": timezone.now().isoformat(), "by": str(member.id)}
            text = canonical(
                {
                    **said,
                    "by_name": member.name,
                    "kind": "reading",
                    "body": {"position": "C1", "typed": "15.9u", "title": job.title},
                }
            )
            previous = link(previous, text)
            entries.append(Entry(chain=chain, workshop_id=chain.workshop_id, sequence=sequence, text=text, hash=previous))
        chain.length, chain.head = 11, previous
        chains.append(chain)
    Chain.objects.bulk_create(chains, batch_size=1000)
    Entry.objects.bulk_create(entries, batch_size=2000)
