"""The report of a job as PDF: one page for the customer, the full record behind it, and the head of its chain."""

from typing import Any
from uuid import UUID

from django.conf import settings
from django.template.loader import render_to_string
from django.utils import timezone
from PIL import ImageFile
from weasyprint import HTML
from weasyprint.urls import URLFetcher, URLFetcherResponse

from dusky_heron.asfound.queries import found_map, picture
from dusky_heron.assessment.queries import known, show_reading
from dusky_heron.bringup.queries import power_up
from dusky_heron.core.model import ROLES, Condition, Word
from dusky_heron.core.returning.plainly import in_plain_words
from dusky_heron.fitting.queries import beside, fitted
from dusky_heron.handback.models import Deviation
from dusky_heron.handback.queries import handback, quote
from dusky_heron.jobs.queries import job as find
from dusky_heron.jobs.queries import known_positions
from dusky_heron.longwork.progress import StopAsked, Tell, nobody
from dusky_heron.record.actor import Actor
from dusky_heron.record.errors import Lost
from dusky_heron.record.queries import entries_of, head_of
from dusky_heron.record.schemas import EntryOut
from dusky_heron.record.verifying import verify
from dusky_heron.replacement.queries import Decided, decided
from dusky_heron.workshops.queries import terms, workshop_name

ImageFile.LOAD_TRUNCATED_IMAGES = False  # the layout engine turns it on for all; half a photo is no photo
PHOTO = "photo:"  # addresses of the job's own pictures, the only ones that are fetched
CAUTIONS = (
    "Isolate, lock off and prove dead before opening; what is inside stores energy after unplugging.",
    "Local codes, the equipment's standard and licensed practice decide over anything printed here.",
)
STAYS = frozenset({Word.KEEP, Word.WATCH})  # words by which a part stays where it is
NEVER_PRINTED = frozenset({"asked", "not_these", "reasons", "rules_version"})  # long lists that stand in the record itself


def report_pdf(actor: Actor, job_id: UUID, tell: Tell = nobody) -> bytes:
    """The report as it stands now; `tell` hears of every picture in it, and may stop it."""
    html = report_html(actor, job_id)
    fetcher = _Fetcher(actor, tell, html.count(f'src="{PHOTO}'))
    found: bytes = HTML(string=html, url_fetcher=fetcher).write_pdf()
    if fetcher.stopped:
        raise StopAsked
    return found


def report_html(actor: Actor, job_id: UUID) -> str:
    """What is laid out; about forty statements."""
    return render_to_string("handback/report.html", _facts(actor, job_id))


class _Fetcher(URLFetcher):  # type: ignore[misc]
    """Fetches nothing but photos of the actor's workshop and our own fonts."""

    def __init__(self, actor: Actor, tell: Tell, pictures: int) -> None:
        super().__init__(allowed_protocols={"file"}, allow_redirects=False)
        self._actor, self._tell, self._pictures, self._fetched, self.stopped = actor, tell, pictures, 0, False

    def fetch(self, url: str, headers: dict[str, str] | None = None) -> Any:
        """A picture or a font; everything else is refused."""
        if url.startswith(PHOTO):
            self._count()
            try:
                content = picture(self._actor, UUID(url.removeprefix(PHOTO)), small=False)
            except Lost:
                raise ValueError("not there any more") from None  # its caption and digest stand, without a picture
            return URLFetcherResponse(url, content, {"Content-Type": "image/jpeg"})
        if url.startswith(settings.PAGE.as_uri()):
            return super().fetch(url, headers)
        raise ValueError("not fetched")

    def _count(self) -> None:
        """Tell of a picture; the layout swallows whatever is raised here, so that a stop is kept for after it."""
        self._fetched += 1
        try:
            if not self.stopped:
                self._tell(self._fetched, self._pictures + 1)  # the last step is the layout
        except StopAsked:
            self.stopped = True
        if self.stopped:
            raise ValueError("stopped")


def _facts(actor: Actor, job_id: UUID) -> dict[str, Any]:
    job = find(actor, job_id)
    length, head = head_of(actor, job_id)
    stands, price = handback(actor, job_id), quote(actor, job_id)
    return {
        "workshop": workshop_name(actor),
        "address": terms(actor).address,
        "job": job,
        "printed": timezone.localtime(),
        "places": _places(actor, job_id),
        "signatures_count": job.accepted or not job.from_file,
        "stands": stands,
        "deviations": Deviation.signed_here(job_id=job_id),
        "price": price,
        "total": price.gross.removeprefix("-") if price.credit else price.gross,
        "priced": list(zip(price.lines, price.amounts, strict=True)),
        "cautions": CAUTIONS,
        "photos": [photo for photo in found_map(actor, job_id).photos if not photo.struck],
        "power": power_up(actor, job_id),
        "beside": beside(actor, job_id).rows,
        "entries": [(entry, _said(entry)) for entry in entries_of(actor, job_id)],
        "whole": verify(actor, job_id).whole,
        "length": length,
        "head": " ".join(head[k : k + 8] for k in range(0, 64, 8)),
        "fonts": _fonts(),
    }


def _places(actor: Actor, job_id: UUID) -> list[dict[str, Any]]:
    """Each place: marked, measured before, its verdict, the part that took its place."""
    found = known(actor, known_positions(actor, job_id=job_id))
    so_far = decided([one.shown.id for one in found])
    done = fitted([here.choice for here in so_far.values() if here.choice])
    rows = []
    for one in found:
        readings = [show_reading(reading) for reading in one.standing]
        reasons = one.before or one.reasons
        here = so_far.get(one.shown.id, Decided())
        choice = here.choice
        word = one.recorded.word if one.recorded else one.verdict.word
        rows.append(
            {
                "name": one.shown.name,
                "role": one.shown.role_title,
                "plain_role": ROLES[one.position.role].plain,
                "plainly": in_plain_words(
                    Word(word), choice.way if choice else None, done=choice is not None and one.shown.id in done
                ),
                "marking": one.shown.marking,
                "readings": readings,
                "decided": [(one.position.part_names[reading.section], show_reading(reading)) for reading in one.decided],
                "new": [reading for reading in readings if reading.condition == Condition.NEW_PART],
                "word": word,
                "why": next((reason["sentence"] for reason in reasons), ""),
                "sources": sorted({reason["source"] for reason in reasons if reason["source"]}),
                "choice": choice,
                "fitted": one.shown.id in done,
                "done": choice is not None and one.shown.id in done,
                "kept": word in STAYS,
                "overrides": list(here.overrides.values()),
            }
        )
    return rows


def _said(entry: EntryOut) -> str:
    """The body of an entry in one paragraph."""
    return "; ".join(
        f"{key.replace('_', ' ')}: {_say(value)}"
        for key, value in entry.body.items()
        if key not in NEVER_PRINTED and value not in ("", None, [], {})
    )


def _say(value: object) -> str:
    if isinstance(value, dict):
        return ", ".join(_say(inner) for inner in value.values() if inner not in ("", None))
    if isinstance(value, list):
        return " / ".join(_say(inner) for inner in value)
    return {True: "yes", False: "no"}[value] if isinstance(value, bool) else str(value)


def _fonts() -> dict[str, str]:
    """Our own two fonts as the page was built with them; a page that is not built prints in the system's."""
    assets = settings.PAGE / "assets"
    return {
        name.replace("-", "_"): next((file.as_uri() for file in sorted(assets.glob(f"{name}-latin-wght-normal-*.woff2"))), "")
        for name in ("commissioner", "jetbrains-mono")
    }
