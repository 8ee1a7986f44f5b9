"""The discharge app."""

from django.apps import AppConfig


class DischargeConfig(AppConfig):
    """Emptying: what a position can hold, and how to empty it."""

    name = "dusky_heron.discharge"
    label = "discharge"
