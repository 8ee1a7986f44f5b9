"""The app that watches over the settings."""

from django.apps import AppConfig


class SettingsConfig(AppConfig):
    """Has no tables; its checks are there before anything runs."""

    name = "dusky_heron.settings"
    label = "settings"

    def ready(self) -> None:
        """Register the checks."""
        from dusky_heron.settings import checks  # noqa: F401 - they register themselves
