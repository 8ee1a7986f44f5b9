"""The replacement app."""

from django.apps import AppConfig


class ReplacementConfig(AppConfig):
    """Which part takes a place."""

    name = "dusky_heron.replacement"
    label = "replacement"
