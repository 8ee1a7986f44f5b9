"""The app of long work."""

from django.apps import AppConfig


class LongworkConfig(AppConfig):
    """Above the workshops, whose members ask for it."""

    name = "dusky_heron.longwork"
    label = "longwork"
