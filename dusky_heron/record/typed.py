"""The decimal sign in use where a number is typed: what a workshop has set tells a decimal comma from a thousand."""

from collections.abc import Callable
from contextvars import ContextVar
from typing import Any

from dusky_heron.core.errors import InputError
from dusky_heron.core.figures import SAME_LENGTH, the_number, told

_ASKED: ContextVar[Callable[[], str] | None] = ContextVar("decimal_sign", default=None)


def use_sign_of(ask: Callable[[], str] | None) -> None:
    """Take the decimal sign of whoever asks from now on; it is looked up only when a number needs it."""
    _ASKED.set(ask)


def decimal_sign() -> str:
    """The decimal sign in use, "." or ","; "" when it is not said."""
    ask = _ASKED.get()
    return ask() if ask else ""


def plainly_typed(text: str) -> str:
    """A typed value with its open number told by the decimal sign in use; as it is where nothing is open."""
    return told(text, decimal_sign()) if _open(text) else text


def number_typed(value: Any) -> Any:
    """A number as typed in a form or a sheet, for a field that holds a plain number; raises ValueError with a sentence."""
    if not isinstance(value, str) or not value.strip():
        return value
    text = value.strip().translate(SAME_LENGTH)
    sign, figures = (text[0], text[1:].strip()) if text[:1] in "+-" else ("", text)
    if not figures or not set(figures) <= set("0123456789., '"):
        return value
    try:
        number = the_number(figures, "", "", decimal=decimal_sign() if _open(figures) else "")
    except InputError as error:
        raise ValueError(error.sentence.removeprefix(": ")) from None
    return f"{sign}{number}".removeprefix("+")


def _open(text: str) -> bool:
    """Whether a decimal sign would tell something about it."""
    return ("." in text or "," in text) and (told(text, ".") != text or told(text, ",") != text)
