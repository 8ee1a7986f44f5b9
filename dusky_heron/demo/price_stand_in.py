"""A stand-in for suppliers' price service: it speaks what `buying.prices` asks, about the demo's suppliers."""

import json
from collections.abc import Callable, Iterable
from typing import Any
from urllib.parse import parse_qs

from dusky_heron.demo.offers import SELLERS, TODAY_FACTOR, offers_of

StartResponse = Callable[..., Any]


def prices(environ: dict[str, Any], start_response: StartResponse) -> Iterable[bytes]:
    """Answer GET /prices?supplier=…&codes=a,b,c, as a WSGI application."""
    asked = parse_qs(str(environ.get("QUERY_STRING", "")))
    name, codes = asked.get("supplier", [""])[0], set(asked.get("codes", [""])[0].split(","))
    seller = next((seller for seller in SELLERS if name and seller.service_code == name), None)
    if environ.get("PATH_INFO") != "/prices" or seller is None:
        start_response("404 Not Found", [("Content-Type", "application/json")])
        return [b"{}"]
    quotes = [
        {"code": o.code, "breaks": [[n, str(each)] for n, each in o.breaks], "pack": o.pack, "available": o.available}
        for o in offers_of(seller, TODAY_FACTOR[name])
        if o.code in codes
    ]
    start_response("200 OK", [("Content-Type", "application/json")])
    return [json.dumps({"quotes": quotes}).encode()]
