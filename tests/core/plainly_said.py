"""Anything the core answers as text that is the same in every process: fields by name, sets in order, floats to six figures."""

import dataclasses
import enum
import hashlib
from collections.abc import Callable, Iterable, Mapping
from typing import Any

from dusky_heron.core.errors import InputError


def said(value: Any) -> str:
    """One value."""
    if isinstance(value, float):
        return f"{value:.6g}"
    if isinstance(value, enum.Enum):
        return str(value)
    if dataclasses.is_dataclass(value) and not isinstance(value, type):
        fields = ((field.name, getattr(value, field.name)) for field in dataclasses.fields(value))
        return f"{type(value).__name__}({', '.join(f'{name}={said(one)}' for name, one in fields if not callable(one))})"
    if isinstance(value, Mapping):
        return f"{{{', '.join(f'{said(key)}: {said(one)}' for key, one in value.items())}}}"
    if isinstance(value, (set, frozenset)):
        return f"{{{', '.join(sorted(map(said, value)))}}}"
    if isinstance(value, (list, tuple)):
        return f"[{', '.join(map(said, value))}]"
    return repr(value)


def answer(function: Callable[..., Any], *given: Any, **named: Any) -> str:
    """What it answers, or which field it refuses and why."""
    try:
        return said(function(*given, **named))
    except InputError as error:
        return f"refused {error}"


def digest(lines: Iterable[str]) -> str:
    """Twelve figures for all of them."""
    return hashlib.sha256("\n".join(lines).encode()).hexdigest()[:12]
