"""Every read of the page on the database of `scripts/grow`, as a ratio to a bare view: run inside `manage.py shell`."""

import json
import logging
import statistics
import time
from itertools import pairwise
from urllib.parse import urlencode

import structlog
from django.conf import settings
from django.test import Client

from dusky_heron.assessment.models import Reading
from dusky_heron.jobs.models import Position
from dusky_heron.stock.models import Part
from dusky_heron.workshops.models import Member
from tests.stage import ROOT

BARE = "/api/session"
MEMBER = "orne-7"  # a lead of one of the copies
PAPER = (".pdf", ".zip", ".csv", "/label", "/verified", "/kept", "/effects/")  # asked for now and then, or by what runs beside
TYPED = ("reading-box", "dropper", "supply", "bulk", "string", "forming", "walk", "common-terminal")  # no row of anybody's
WORDS = ("saltgate", "reading", "lifted", "zzz")
MOST, OF_SOME = 12.0, {"/api/bench": 8.0, "/api/due.ics": 8.0, "/api/failures": 8.0, "/api/search": 20.0}
TIMES = 15


def tell() -> None:
    """Each with its p50 and ratio, the slowest first; a star behind what is more than it may be."""
    settings.ALLOWED_HOSTS = ["testserver"]
    structlog.configure(wrapper_class=structlog.make_filtering_bound_logger(logging.CRITICAL))
    member = Member.objects.get(username=MEMBER)
    client = Client()
    client.force_login(member, backend="dusky_heron.workshops.signing_in.Members")
    bare = _p50(client, BARE) or 1.0
    found = sorted(((_p50(client, path) or 0.0, path) for path in paths_of(member)), reverse=True)
    print(f"{'bare view':60}{bare:8.1f} ms")
    for took, path in found:
        if took:
            most = OF_SOME.get(path.partition("?")[0], MOST)
            print(f"{_short(path):60}{took:8.1f} ms{took / bare:7.1f}{' *' if took / bare > most else ''}")


def paths_of(member: Member) -> list[str]:
    """Reads of a job that was measured, and one of its places and of a part, wherever the address names such."""
    read = Reading.objects.filter(position__job__workshop=member.workshop, position__job__returned_at=None).order_by("id").first()
    position = read.position if read else Position.objects.filter(job__workshop=member.workshop).order_by("sequence")[0]
    job = position.job
    part = Part.objects.filter(workshop=member.workshop).order_by("id")[0]
    names = {"{job_id}": job.id, "{position_id}": position.id, "{part_id}": part.id}
    paths = []
    document = json.loads((ROOT / "tests/api/openapi.json").read_text(encoding="utf-8"))
    for path, calls in document["paths"].items():
        if "get" not in calls or path.endswith(PAPER) or any(one in path for one in PAPER) or path.split("/")[2] in TYPED:
            continue
        for name, key in names.items():
            path = path.replace(name, str(key))
        paths += [f"{path}?{urlencode({'q': word})}" for word in WORDS] if path == "/api/search" else [path]
    return [path for path in paths if "{" not in path]


def _p50(client: Client, path: str) -> float | None:
    """Milliseconds of an answer that was asked for before; None where there is none."""
    stamps = []
    for _ in range(TIMES + 1):
        answer = client.get(path)
        stamps.append(time.perf_counter())
        if answer.status_code != 200:
            return None
    return statistics.median(after - before for before, after in pairwise(stamps)) * 1000


def _short(path: str) -> str:
    return "/".join(piece if len(piece) < 36 else "…" for piece in path.removeprefix("/api/").split("/"))
