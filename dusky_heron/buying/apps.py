"""The buying app."""

from django.apps import AppConfig


class BuyingConfig(AppConfig):
    """Above replacement, whose candidates are the alternates."""

    name = "dusky_heron.buying"
    label = "buying"
