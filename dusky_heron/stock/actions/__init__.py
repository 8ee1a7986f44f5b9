"""Adding, changing and moving parts, one by one or as a whole list."""

from dusky_heron.stock.actions.lists import ask_to_preview, ask_to_take, ask_to_undo
from dusky_heron.stock.actions.movements import locked_part, move, move_part
from dusky_heron.stock.actions.parts import add_part, edit_part

__all__ = ["add_part", "ask_to_preview", "ask_to_take", "ask_to_undo", "edit_part", "locked_part", "move", "move_part"]
