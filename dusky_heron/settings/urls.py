"""Where requests go: the API, the health answer, and the page for everything else."""

from django.urls import path, re_path

from dusky_heron.api import api
from dusky_heron.handback.calendar import at_address
from dusky_heron.settings import views

urlpatterns = [
    path("api/", api.urls),
    re_path("^api/", views.no_such_address),
    path("healthz", views.healthz),
    path("robots.txt", views.robots),
    path("calendar/<uuid:workshop_id>/<str:secret>.ics", at_address),
    path("sw.js", views.service_worker),
    re_path(r"^(?!api/|static/|healthz|robots\.txt).*$", views.page),
]
