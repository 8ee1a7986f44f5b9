"""Writing: one action is one transaction, with an actor, a permission, a key and its entries."""

from dusky_heron.record.actions.append import append, enter, touched, writing
from dusky_heron.record.actions.once import action
from dusky_heron.record.actions.strike import strike
from dusky_heron.record.actions.versions import save_edited

__all__ = ["action", "append", "enter", "save_edited", "strike", "touched", "writing"]
