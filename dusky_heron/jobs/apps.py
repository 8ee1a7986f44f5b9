"""The jobs app."""

from django.apps import AppConfig


class JobsConfig(AppConfig):
    """Equipment on the bench and the positions in it."""

    name = "dusky_heron.jobs"
    label = "jobs"
