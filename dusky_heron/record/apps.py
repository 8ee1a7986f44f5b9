"""The record app; after every migration the application's database role gets its rights."""

from django.apps import AppConfig
from django.db.models.signals import post_migrate, post_save


class RecordConfig(AppConfig):
    """Below all other apps."""

    name = "dusky_heron.record"
    label = "record"

    def ready(self) -> None:
        """Grant after each run of migrate, for tables old and new; whatever is saved is bound by the entry of its writing."""
        from dusky_heron.record.actions.append import touched
        from dusky_heron.record.grants import grant_application_role

        post_save.connect(lambda sender, instance, **_: touched(sender, instance.pk), weak=False, dispatch_uid="record.touched")
        post_migrate.connect(grant_application_role, sender=self, dispatch_uid="record.grants")
