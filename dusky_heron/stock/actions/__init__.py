"""Adding and changing parts, one by one or as a whole list."""

from dusky_heron.stock.actions.imports import preview_import, take_import, undo_import
from dusky_heron.stock.actions.parts import add_part, edit_part

__all__ = ["add_part", "edit_part", "preview_import", "take_import", "undo_import"]
