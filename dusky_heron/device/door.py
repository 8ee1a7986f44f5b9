"""What the page's worker asks when no server answers: an address and its query as the server would get them, and its answer.

Nothing here or below knows Django: it runs in the browser, by the same code as on the server.
"""

import datetime
import json
from collections.abc import Callable, Mapping
from typing import Any, get_origin
from urllib.parse import parse_qs

from pydantic import Json, ValidationError

from dusky_heron.circuits import schemas as circuits
from dusky_heron.circuits import worked
from dusky_heron.core.discharge.limits import limits_table
from dusky_heron.core.errors import InputError
from dusky_heron.core.model import Role
from dusky_heron.core.verdict import RULES_VERSION
from dusky_heron.discharge.schemas import FallHere, GroundOut
from dusky_heron.discharge.worked import fall_here, read_box
from dusky_heron.presented import Answer, Schema
from dusky_heron.problem import not_taken, not_usable, said
from dusky_heron.record.schemas import Printed
from dusky_heron.record.typed import use_sign_of

NOTHING = GroundOut(decimal_sign="", limits=list(limits_table()), resistors=[], rules=RULES_VERSION)


class FallIn(Schema):
    """A fall and what was typed of it, as JSON."""

    data: Json[FallHere]


class ReadIn(Schema):
    """What the reading box is asked."""

    text: Printed
    role: Role | None = None


Works = Callable[[Any, GroundOut], Answer]
WORKS: Mapping[
    str, tuple[type[Schema], Works]
] = {  # by its address (a fall has none: it is written), what it takes and what answers
    "reading-box": (ReadIn, lambda data, ground: read_box(data.text, data.role, ground, datetime.date.today())),
    "dropper": (circuits.DropperIn, lambda data, _: worked.dropper(data)),
    "dropper/faults": (circuits.MeasuredIn, lambda data, _: worked.ranked(data)),
    "supply": (circuits.SupplyIn, lambda data, _: worked.supply(data)),
    "bulk": (circuits.BulkIn, lambda data, _: worked.bulk(data)),
    "string": (circuits.StringShareIn, lambda data, _: worked.string(data)),
    "forming": (circuits.FormingIn, lambda data, _: worked.forming(data)),
    "fall": (FallIn, lambda data, _: fall_here(data.data)),
    "walk": (circuits.WalkIn, lambda data, _: worked.walk(data)),
}


def answer(path: str, query: str, ground: str) -> str:
    """The answer to an address of the API, as JSON: its status, its body, and by which version of the rules.

    :param path: what stands after `/api/`
    :param query: the query of the address
    :param ground: what the workshop works with, as `/api/ground` told it last; "" where it never did: the limits of the standards,
        and no resistor to empty with
    """
    stands = GroundOut.model_validate_json(ground) if ground else NOTHING
    if path not in WORKS:
        return _told(said(503, "No answer", "The server does not answer, and this needs it."))
    takes, works = WORKS[path]
    use_sign_of(lambda: stands.decimal_sign)
    try:
        return _told(works(takes.model_validate(_values(takes, query)), stands).model_dump(mode="json"), 200)
    except InputError as error:
        return _told(not_taken(error))
    except ValidationError as error:
        return _told(not_usable(error.errors()))


def _values(takes: type[Schema], query: str) -> dict[str, Any]:
    """The fields of a query; a list where its field is one."""
    found = parse_qs(query, keep_blank_values=True)
    lists = {name for name, field in takes.model_fields.items() if get_origin(field.annotation) is list}
    return {name: values if name in lists else values[-1] for name, values in found.items() if name in takes.model_fields}


def _told(body: dict[str, Any], status: int = 0) -> str:
    return json.dumps({"status": status or body["status"], "body": body, "rules": RULES_VERSION})
