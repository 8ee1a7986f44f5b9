"""The as-found app."""

from django.apps import AppConfig


class AsFoundConfig(AppConfig):
    """How it was found: lines and photos."""

    name = "dusky_heron.asfound"
    label = "asfound"
