"""Errors as application/problem+json (RFC 9457): what is wrong, and at which field."""

import errno
from collections.abc import Callable
from typing import Any

from django.core.exceptions import SuspiciousOperation
from django.db import IntegrityError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse, UnreadablePostError
from django.http.multipartparser import MultiPartParserError
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from psycopg.errors import DeadlockDetected, DiskFull, LockNotAvailable, QueryCanceled

from dusky_heron.core.errors import InputError
from dusky_heron.problem import Problem, at_field, not_taken, not_usable, said
from dusky_heron.record.errors import CodeAsked, DoneBefore, KeyReused, Lost, NotAllowed, NotFound, SignInRefused, Stale, Throttled
from dusky_heron.settings.logs import log

Handler = Callable[[HttpRequest, Any], HttpResponse]


def describe(document: dict[str, Any]) -> None:
    """Add to an OpenAPI document that any operation may answer with a problem."""
    schema = Problem.model_json_schema(ref_template="#/components/schemas/{model}")
    document["components"]["schemas"] |= {**schema.pop("$defs"), "Problem": schema}
    content = {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}}
    for operations in document["paths"].values():
        for operation in operations.values():
            operation["responses"]["default"] = {"description": "What is wrong", "content": content}


def problem(status: int, title: str, detail: str, *, errors: tuple[dict[str, str], ...] = (), **more: object) -> HttpResponse:
    """One problem document."""
    return _said(said(status, title, detail, errors, **more))


def _said(body: dict[str, Any]) -> HttpResponse:
    return JsonResponse(body, status=body["status"], content_type="application/problem+json")


def _validation(request: HttpRequest, error: ValidationError) -> HttpResponse:  # noqa: ARG001
    return _said(not_usable(error.errors))


def _input(request: HttpRequest, error: InputError) -> HttpResponse:  # noqa: ARG001
    return _said(not_taken(error))


def _stale(request: HttpRequest, error: Stale) -> HttpResponse:  # noqa: ARG001
    sentence = "Somebody changed this since you opened it. Compare, then save again."
    return problem(409, "Changed meanwhile", sentence, current=error.current)


def _throttled(request: HttpRequest, error: Throttled) -> HttpResponse:  # noqa: ARG001
    minutes = round(error.seconds / 60)
    wrong = f"Too many wrong passwords. Try again in {minutes} minutes, or ask a lead."
    busy = f"Many sign in at this moment. Try again in {error.seconds} seconds."
    answer = problem(429, "Too many tries", wrong if minutes else busy)
    answer["Retry-After"] = str(error.seconds)
    return answer


def _http(request: HttpRequest, error: HttpError) -> HttpResponse:  # noqa: ARG001
    if error.status_code == 403:  # the token against requests from other sites did not fit
        return problem(403, "Not from this page", "Load the page again, then try once more.")
    return problem(error.status_code, "Not understood", "That request could not be read.")


def _fixed(status: int, title: str, detail: str, *, errors: tuple[dict[str, str], ...] = ()) -> Handler:
    return lambda _request, _error: problem(status, title, detail, errors=errors)


def _disk(request: HttpRequest, error: OSError) -> HttpResponse:
    """A full disk is told as such."""
    if error.errno in (errno.ENOSPC, errno.EDQUOT):
        return problem(507, "Disk full", "The disk of the server is full: nothing was saved. Free some space, then try once more.")
    return _unexpected(request, error)


def _database(request: HttpRequest, error: OperationalError) -> HttpResponse:
    if isinstance(error.__cause__, DiskFull):
        return _disk(request, OSError(errno.ENOSPC, "full"))
    if isinstance(error.__cause__, LockNotAvailable | DeadlockDetected):
        busy = "Somebody else is at it just now. Nothing was saved; what you typed is still in the page."
        return problem(503, "Busy", busy, type="busy")  # by their types the page tells both from no server at all
    if isinstance(error.__cause__, QueryCanceled):
        long = "That takes too long. Nothing was saved; what you typed is still in the page."
        return problem(503, "Too long", long, type="too-long")
    return problem(503, "No database", "The database does not answer. Nothing was saved; what you typed is still in the page.")


def _unexpected(request: HttpRequest, error: Exception) -> HttpResponse:
    log.exception("unexpected error", id=request.META.get("REQUEST_ID"), path=request.path, exc_info=error)
    return problem(500, "Our fault", "Something went wrong here. Nothing was saved; what you typed is still in the page.")


def install(api: NinjaAPI) -> None:
    """Teach the API to answer every error as a problem document."""
    wrong = "User name and password do not belong together."
    handlers: dict[type[Exception], Handler] = {
        ValidationError: _validation,
        InputError: _input,
        Stale: _stale,
        Throttled: _throttled,
        HttpError: _http,
        Http404: _fixed(404, "Not here", "There is no such thing in this workshop."),
        NotFound: _fixed(404, "Not here", "There is no such thing in this workshop."),
        Lost: lambda _request, error: problem(410, "Gone", str(error)),
        MultiPartParserError: _fixed(400, "Not understood", "That request could not be read."),
        UnreadablePostError: _fixed(400, "Not understood", "That request could not be read."),
        OSError: _disk,
        SuspiciousOperation: _fixed(413, "Too large", "That is more than one request may carry."),
        OperationalError: _database,
        IntegrityError: _fixed(409, "At the same moment", "Somebody did the same at the same moment. Look again."),
        KeyReused: _fixed(409, "Key used", "This idempotency key was used for another write."),
        DoneBefore: lambda _request, error: problem(409, "Done before", str(error), type="done"),
        AuthenticationError: _fixed(401, "Signed out", "Sign in first."),
        SignInRefused: _fixed(401, "Not signed in", wrong, errors=(at_field("password", wrong),)),
        CodeAsked: lambda _request, error: problem(403, "Code asked", str(error), errors=(at_field("code", str(error)),)),
        NotAllowed: lambda _request, error: problem(403, "Not allowed", str(error)),
        Exception: _unexpected,
    }
    for kind, handler in handlers.items():
        api.add_exception_handler(kind, handler)
