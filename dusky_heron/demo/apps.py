"""The demo app."""

from django.apps import AppConfig


class DemoConfig(AppConfig):
    """The demo: an invented workshop."""

    name = "dusky_heron.demo"
    label = "demo"
