"""The app of proposals."""

from django.apps import AppConfig


class ProposalsConfig(AppConfig):
    """Above all stages: a proposal is an action of one of them that waits for a signature."""

    name = "dusky_heron.proposals"
    label = "proposals"
