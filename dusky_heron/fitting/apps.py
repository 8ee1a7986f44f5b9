"""The app of fitting."""

from django.apps import AppConfig


class FittingConfig(AppConfig):
    """Above replacement, which knows the part, and above how the equipment was found."""

    name = "dusky_heron.fitting"
    label = "fitting"
