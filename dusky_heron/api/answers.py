"""Around every answer of the API: nothing of it is kept on the way, and whatever is wrong is said as a problem."""

from collections.abc import Callable
from http import HTTPStatus

from django.http import HttpRequest, HttpResponse

from dusky_heron.api.problems import problem

PROBLEM = "application/problem+json"
SENTENCES = {  # of what is refused before a view is reached
    400: "That request could not be read.",
    403: "Load the page again, then try once more.",
    405: "That cannot be done at this address.",
    411: "Say how long it is.",
    413: "That is more than one request may carry.",
    414: "That address is too long.",
    415: "Send it as JSON.",
    431: "Its headers are too long.",
}
OURS = "Something went wrong here. Nothing was saved; what you typed is still in the page."


class ApiAnswers:
    """Outermost but for the log, so that it sees what the layers below refuse by themselves."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Pass on what is a problem or no error; of the rest, keep the status and say it in a sentence."""
        response = self.get_response(request)
        if not request.path.startswith("/api/"):
            return response
        status = response.status_code
        if status >= 400 and not response.get("Content-Type", "").startswith(PROBLEM):
            allowed = response.get("Allow")
            response = problem(status, HTTPStatus(status).phrase, SENTENCES.get(status, OURS if status >= 500 else SENTENCES[400]))
            if allowed:
                response["Allow"] = allowed
        response.setdefault("Cache-Control", "no-store")
        return response
