"""The server on a device: the requests it answers as the server would, over the rows it stands on.

What it looks at is one job and what its workshop works with. Whatever asks for more, for the drawer, for other jobs, for a file or
for a signature by a second factor, is not answered here: `ANSWERED` names what is, and nothing else.
"""

import datetime
import re
from collections.abc import Callable, Mapping, Sequence
from typing import Any
from zoneinfo import ZoneInfo

from django.apps import apps
from django.contrib.auth import get_user_model
from django.core import serializers
from django.core.handlers.base import BaseHandler
from django.db import connection, transaction
from django.db.models import Index
from django.http import HttpRequest, HttpResponse, JsonResponse, QueryDict
from django.urls import path
from django.utils import timezone

from dusky_heron.api import api
from dusky_heron.api.bench import JOBS, SHEETS
from dusky_heron.assessment.queries.board import BOARDS
from dusky_heron.device.server.absent import NeedsServer
from dusky_heron.problem import said
from dusky_heron.workshops.requests import BY_SECOND_FACTOR

JOB_READ = (
    *("sheet", "record", "found", "to-prove", "plug-pins", "walk", "board", "touch-current"),
    *("powerup", "beside", "handback", "quote", "proposals"),
)
PLACE_READ = ("discharge", "other-tools", "bleeder", "fall", "benches", "dropper", "assessment", "fitting")
READ = ("vocabulary", "meters", "resistors", "limits", "schools", "terms", "common-terminal", "may-replace")
JOB_WRITE = (
    "positions",
    "found",
    "proofs",
    "walk",
    "board",
    "powerup/steps",
    "beside",
    "checks",
    "soak",
    "soak/end",
    "deviations",
    "hand-over",
)
PLACE_WRITE = ("charge", "fall", "proof", "forming", "readings", "signs", "verdict", "verdict/kept", "override", "fitting")
ID = "[0-9a-f-]{36}"
STRIKE = re.compile(rf"POST jobs/{ID}/record/(\d+)/struck")


def _one_of(names: Sequence[str]) -> str:
    return f"({'|'.join(names)})"


ANSWERED = re.compile(
    rf"GET {_one_of(READ)}|GET jobs/{ID}/{_one_of(JOB_READ)}|GET positions/{ID}/{_one_of(PLACE_READ)}"
    rf"|POST jobs|PUT jobs/{ID}(/(powerup|quote))?|PUT positions/{ID}(/surroundings)?"
    rf"|POST jobs/{ID}/{_one_of(JOB_WRITE)}|POST positions/{ID}/{_one_of(PLACE_WRITE)}|{STRIKE.pattern}"
)
urlpatterns = [path("api/", api.urls)]
_handler: Any = BaseHandler()


@api.exception_handler(NeedsServer)
def _needs_server(request: HttpRequest, error: NeedsServer) -> HttpResponse:  # noqa: ARG001
    sentence = "The server does not answer, and this needs it."
    return JsonResponse(said(503, "Needs the server", sentence, type="needs-server"), status=503)


class Ground:
    """What is stood on: whose page it is, how long the job's record was on the server, and how far its clock was ahead."""

    member_id = ""
    entries = 0
    ahead = datetime.timedelta()


class OfMember:
    """Answers to the one member whose page this is: they signed in where the server saw it."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer as to them."""
        request.user = get_user_model().objects.select_related("workshop").get(id=Ground.member_id)
        request.session = {BY_SECOND_FACTOR: True}  # type: ignore[assignment] # what is written here is asked again by the server
        request._dont_enforce_csrf_checks = True  # type: ignore[attr-defined] # no other site can ask a worker
        return self.get_response(request)


def begin() -> None:
    """Make the tables, without what only PostgreSQL has of indexes; rows come in any order, and some lead to what is not here."""
    with connection.schema_editor() as editor:
        for model in apps.get_models():
            model._meta.indexes = [index for index in model._meta.indexes if type(index) is Index]
            editor.create_model(model)
    connection.disable_constraint_checking()
    _handler.load_middleware()
    timezone.now = lambda: datetime.datetime.now(tz=datetime.UTC) + Ground.ahead


def stand(member_id: str, ahead_s: float, workshop: Mapping[str, Any], job: Mapping[str, Any] | None) -> None:
    """Forget all, and hold the rows that were kept of a workshop and a job; no job where it was begun on this device.

    :param ahead_s: how far the server's clock was ahead of this one when the rows were kept
    """
    with transaction.atomic():
        for model in apps.get_models():
            model._default_manager.all()._raw_delete("default")
        for row in serializers.deserialize("python", [*workshop["rows"], *(job or {"rows": ()})["rows"]]):
            row.save(force_insert=True)
    for memory in (JOBS, SHEETS, BOARDS):
        memory.forget()
    Ground.member_id, Ground.entries, Ground.ahead = member_id, job["entries"] if job else 0, datetime.timedelta(seconds=ahead_s)
    timezone.activate(ZoneInfo(workshop["time_zone"]))


def answer(method: str, url: str, body: str, headers: Mapping[str, str]) -> tuple[int, str]:
    """The status and the body of the answer to a request; `url` begins with a slash."""
    place, _, query = url.partition("?")
    request = HttpRequest()
    request.method, request.path, request.path_info, request.GET = method, place, place, QueryDict(query)
    request._body = body.encode()
    request.META = {"REQUEST_METHOD": method, "QUERY_STRING": query, "CONTENT_TYPE": "application/json"}
    request.META |= {"HTTP_HOST": "device", "SERVER_NAME": "device", "SERVER_PORT": "80"}
    request.META |= {f"HTTP_{name.upper().replace('-', '_')}": value for name, value in headers.items()}
    asked = f"{method} {place.removeprefix('/api/')}"
    if not ANSWERED.fullmatch(asked):
        done: Any = _needs_server(request, NeedsServer())
    elif (struck := STRIKE.fullmatch(asked)) and int(struck[1]) > Ground.entries:
        sentence = "That is not sent yet: change it among what waits, or strike it once the server has it."
        done = JsonResponse(said(422, "Not sent yet", sentence), status=422)
    else:
        done = _handler.get_response(request)
    return done.status_code, done.content.decode()
