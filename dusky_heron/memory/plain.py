"""Words as they are compared: in small letters and figures alone, so that `RS-2`, `RS 2` and `rs2` are one."""

import re

from django.db.models import CharField, Func, Value
from django.db.models.functions import Lower


def plain(field: str) -> Func:
    """A field so, in the database."""
    return Func(Lower(field), Value("[^a-z0-9]+"), Value(""), Value("g"), function="regexp_replace", output_field=CharField())


def plain_word(words: str) -> str:
    """Words so."""
    return re.sub(r"[^a-z0-9]+", "", words.lower())
