"""The assessment app."""

from django.apps import AppConfig


class AssessmentConfig(AppConfig):
    """Readings, signs and verdicts."""

    name = "dusky_heron.assessment"
    label = "assessment"
