"""Writing: one action is one transaction, with an actor, a permission, a key and its entries."""

from dusky_heron.record.actions.append import append
from dusky_heron.record.actions.once import action
from dusky_heron.record.actions.versions import save_edited

__all__ = ["action", "append", "save_edited"]
