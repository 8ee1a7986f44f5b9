"""What is wrong, in sentences, at the fields they are about (RFC 9457); over HTTP and in the page's own worker alike."""

from collections.abc import Iterable, Mapping
from typing import Any

from dusky_heron.core.errors import InputError
from dusky_heron.presented import Schema

FIELD_SENTENCES: Mapping[str, str] = {
    "missing": "Fill this in.",
    "string_too_short": "Fill this in.",
    "string_too_long": "Too long: at most {max_length} characters.",
    "string_pattern_mismatch": "Use letters, figures, dot, dash and underscore only.",
    "string_type": "Type text.",
    "string_unicode": "Use letters, figures and signs only.",
    "float_type": "Type a number.",
    "float_parsing": "Type a number.",
    "finite_number": "Type a plain number.",
    "int_type": "Type a whole number.",
    "int_parsing": "Type a whole number.",
    "int_from_float": "Type a whole number.",
    "int_parsing_size": "That number is too large.",
    "decimal_type": "Type an amount.",
    "decimal_parsing": "Type an amount.",
    "decimal_max_digits": "That amount is too large.",
    "decimal_max_places": "At most two places after the point.",
    "greater_than": "Must be more than {gt}.",
    "greater_than_equal": "Must be at least {ge}.",
    "less_than_equal": "Must be at most {le}.",
    "bool_type": "Choose yes or no.",
    "bool_parsing": "Choose yes or no.",
    "enum": "Choose one of: {expected}.",
    "uuid_parsing": "That is not an id of ours.",
    "uuid_type": "That is not an id of ours.",
    "date_from_datetime_parsing": "Type a date: 2026-03-31.",
    "date_parsing": "Type a date: 2026-03-31.",
    "value_error": "{error}",
}


class FieldProblem(Schema):
    """What is wrong at one field."""

    field: str
    sentence: str


class Problem(Schema):
    """An error; `current` is what a thing is now, when a write was stale."""

    type: str
    title: str
    status: int
    detail: str
    errors: list[FieldProblem]
    current: dict[str, Any] | None = None


def said(status: int, title: str, detail: str, errors: Iterable[dict[str, str]] = (), **more: object) -> dict[str, Any]:
    """One problem document."""
    return {"type": "about:blank", "title": title, "status": status, "detail": detail, "errors": list(errors), **more}


def at_field(field: str, sentence: str) -> dict[str, str]:
    """A sentence at the field it is about."""
    return {"field": field, "sentence": sentence}


def not_usable(errors: Iterable[Mapping[str, Any]]) -> dict[str, Any]:
    """What a schema found wrong."""
    found = [_field_error(error) for error in errors]
    return said(422, "Not usable", found[0]["sentence"] if found else "Check what was typed.", found)


def not_taken(error: InputError) -> dict[str, Any]:
    """What the core refuses."""
    return said(422, "Not usable", error.sentence, [at_field(error.field, error.sentence)])


def _field_error(error: Mapping[str, Any]) -> dict[str, str]:
    names = [str(part) for part in error["loc"] if part not in ("body", "data", "query", "path", "form", "file")]
    context = error.get("ctx", {})
    sentence = FIELD_SENTENCES.get(error["type"], "Check what was typed here.")
    worded = {key: f"{value:g}" if isinstance(value, float) else str(value).replace("'", "") for key, value in context.items()}
    return at_field(".".join(names), sentence.format_map(worded))
