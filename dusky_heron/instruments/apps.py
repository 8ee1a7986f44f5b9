"""The instruments app."""

from django.apps import AppConfig


class InstrumentsConfig(AppConfig):
    """Meters with their accuracy, and discharge resistors."""

    name = "dusky_heron.instruments"
    label = "instruments"
