"""The app of the first power."""

from django.apps import AppConfig


class BringupConfig(AppConfig):
    """Above discharge, which knows what is energised."""

    name = "dusky_heron.bringup"
    label = "bringup"
