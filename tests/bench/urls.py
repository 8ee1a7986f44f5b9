"""The application's addresses, and a bare signed-in view to measure them against."""

from django.http import HttpRequest, JsonResponse
from django.urls import path

from dusky_heron.settings.urls import urlpatterns as application


def bare(request: HttpRequest) -> JsonResponse:
    """What any signed-in view costs: middleware, session, member."""
    return JsonResponse({"signed_in": request.user.is_authenticated})


urlpatterns = [path("bare", bare), *application]
