"""The app of what was seen before."""

from django.apps import AppConfig


class MemoryConfig(AppConfig):
    """Above every stage: it only reads."""

    name = "dusky_heron.memory"
    label = "memory"
