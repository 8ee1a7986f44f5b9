"""The workshops app."""

from django.apps import AppConfig


class WorkshopsConfig(AppConfig):
    """Workshops, their members, and signing in."""

    name = "dusky_heron.workshops"
    label = "workshops"
