"""Structured logs: one JSON line a request, with its id."""

import logging
import re
import time
import uuid
from collections.abc import Callable

import structlog
from django.http import HttpRequest, HttpResponse

structlog.configure(
    processors=[
        structlog.contextvars.merge_contextvars,
        structlog.processors.add_log_level,
        structlog.processors.TimeStamper(fmt="iso"),
        structlog.processors.format_exc_info,
        structlog.processors.JSONRenderer(ensure_ascii=False),
    ],
    wrapper_class=structlog.make_filtering_bound_logger(logging.INFO),
    cache_logger_on_first_use=True,
)
logging.basicConfig(level=logging.WARNING, format="%(message)s")
logging.getLogger("django.request").setLevel(logging.ERROR)  # the line below tells it already
SECRET = re.compile(r"^(/calendar/[^/]*/).*", re.DOTALL)  # what follows opens a workshop's calendar
LOGGING_CONFIGURED = True
log = structlog.get_logger("dusky_heron")


class RequestLog:
    """Gives each request an id, answers with it, and logs one line."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Time the request and say what came of it."""
        request_id = uuid.uuid4().hex
        request.META["REQUEST_ID"] = request_id
        began = time.perf_counter()
        response = self.get_response(request)
        response["X-Request-Id"] = request_id
        log.info(
            "request",
            id=request_id,
            method=request.method,
            path=SECRET.sub(r"\1", request.path),
            status=response.status_code,
            ms=round((time.perf_counter() - began) * 1000, 1),
        )
        return response
