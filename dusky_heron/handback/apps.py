"""The app of handing back."""

from django.apps import AppConfig


class HandbackConfig(AppConfig):
    """Above fitting and the first power, whose ends it waits for."""

    name = "dusky_heron.handback"
    label = "handback"
