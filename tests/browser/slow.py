"""Answers that come late, as over a weak network."""

import time
from collections.abc import Callable

from django.http import HttpRequest, HttpResponseBase

late = {"s": 0.0}


class Slow:
    """Every answer of the API is as late as `late` says."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        """The answer, later."""
        if request.path.startswith("/api/"):
            time.sleep(late["s"])
        return self.get_response(request)
