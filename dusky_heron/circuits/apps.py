"""The app of the circuits around a position, and of the fault walk."""

from django.apps import AppConfig


class CircuitsConfig(AppConfig):
    """Above assessment: what is read on a walk belongs to the job."""

    name = "dusky_heron.circuits"
    label = "circuits"
