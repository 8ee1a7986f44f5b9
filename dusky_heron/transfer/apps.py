"""The app of jobs that travel."""

from django.apps import AppConfig


class TransferConfig(AppConfig):
    """Above every app that keeps something of a job: it alone knows all their tables."""

    name = "dusky_heron.transfer"
    label = "transfer"
