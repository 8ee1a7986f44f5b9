"""The three views that are no API: the page, the health answer, and robots.txt."""

from django.conf import settings
from django.db import DatabaseError, connection
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe

from dusky_heron.api.problems import problem


@never_cache
@require_safe
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:  # noqa: ARG001
    """The single page; its script finds its own way by the address."""
    index = settings.PAGE / "index.html"
    if not index.is_file():
        return HttpResponse("The page is not built: run ./scripts/setup.", status=503, content_type="text/plain; charset=utf-8")
    return HttpResponse(index.read_bytes())


@never_cache
@require_safe
def healthz(request: HttpRequest) -> JsonResponse:  # noqa: ARG001
    """200 when the database answers, 503 when it does not."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
    except DatabaseError:
        return JsonResponse({"status": "unavailable", "database": "unreachable"}, status=503)
    return JsonResponse({"status": "ok", "database": "reachable"})


@never_cache
@require_safe
def service_worker(request: HttpRequest) -> HttpResponse:  # noqa: ARG001
    """The script that keeps the page in the browser, at the root so that it speaks for every address."""
    script = settings.PAGE / "sw.js"
    if not script.is_file():
        return HttpResponse("The page is not built.", status=404, content_type="text/plain")
    return HttpResponse(script.read_bytes(), content_type="text/javascript; charset=utf-8")


def no_such_address(request: HttpRequest) -> HttpResponse:  # noqa: ARG001
    """Below /api/ an unknown address, or an id that is none, is answered as a problem."""
    return problem(404, "Not here", "There is no such thing in this workshop.")


@require_safe
def robots(request: HttpRequest) -> HttpResponse:  # noqa: ARG001
    """Nothing here is for crawlers."""
    return HttpResponse("User-agent: *\nDisallow: /\n", content_type="text/plain")
