"""The one door to a supplier's price and stock service, over HTTP.

It answers GET `{url}/prices?supplier=…&codes=a,b,c` with JSON: `{"quotes": [{"code", "breaks": [[from, "each"], …], "pack",
"available"}, …]}`. It may be slow, down, or answer nonsense: two more tries, then a sentence.
"""

import json
from collections.abc import Sequence
from decimal import Decimal
from typing import Annotated

import urllib3
from pydantic import Field, ValidationError

from dusky_heron.presented import Schema

CONNECT_S, READ_S, TRIES = 2.0, 4.0, 2
MOST_BYTES, MOST_CODES = 1_000_000, 200


class Silent(Exception):
    """The service gave no usable answer; the text says why."""


class Quote(Schema):
    """A price and what is there, as answered."""

    code: Annotated[str, Field(max_length=60)]
    breaks: Annotated[
        list[tuple[Annotated[int, Field(ge=1, le=1_000_000)], Annotated[Decimal, Field(ge=0, le=100_000)]]],
        Field(min_length=1, max_length=12),
    ]
    pack: Annotated[int, Field(ge=1, le=100_000)] = 1
    available: Annotated[int, Field(ge=0, le=10_000_000)] | None = None


class _Quotes(Schema):
    quotes: list[Quote]


def ask_prices(url: str, supplier: str, codes: Sequence[str]) -> list[Quote]:
    """What a supplier asks today for its codes; raises Silent."""
    tries = urllib3.Retry(total=TRIES, backoff_factor=0.2, status_forcelist=(429, 502, 503, 504), raise_on_status=False)
    found: list[Quote] = []
    with urllib3.PoolManager(timeout=urllib3.Timeout(connect=CONNECT_S, read=READ_S), retries=tries) as pool:
        for k in range(0, len(codes), MOST_CODES):
            fields = {"supplier": supplier, "codes": ",".join(codes[k : k + MOST_CODES])}
            try:
                answer = pool.request("GET", f"{url.rstrip('/')}/prices", fields=fields, preload_content=False, redirect=False)
                content = answer.read(MOST_BYTES + 1, decode_content=True)
            except urllib3.exceptions.HTTPError:
                raise Silent("does not answer") from None
            if answer.status != 200:
                raise Silent(f"answers with an error ({answer.status})")
            if len(content) > MOST_BYTES:
                raise Silent("answers with too much")
            try:
                found += _Quotes.model_validate(json.loads(content)).quotes
            except (ValueError, ValidationError, RecursionError):
                raise Silent("answers with what is no price list") from None
    return found
