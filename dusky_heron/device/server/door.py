"""Opens the server on a device, and passes on what is asked of it, as JSON."""

import json
import os
from typing import Any

from dusky_heron.core.verdict import RULES_VERSION
from dusky_heron.device.server.absent import all_imported, leave_out


def open_up() -> None:
    """Import the server, without what a device has not, over empty tables."""
    leave_out()
    os.environ["DJANGO_SETTINGS_MODULE"] = "dusky_heron.device.server.configured"
    os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "1"  # one thread, which answers one thing at a time

    import django

    django.setup()
    from dusky_heron.device.server import asked

    asked.begin()
    all_imported()


def work(text: str) -> str:
    """Answers to requests, in their order, each with its status and body, and by which version of the rules.

    :param text: `ground`, where it is not the one stood on, see `asked.stand`; `requests`, see `asked.answer`
    """
    from dusky_heron.device.server import asked

    given: dict[str, Any] = json.loads(text)
    if given["ground"]:
        asked.stand(**given["ground"])
    answers = [asked.answer(**request) for request in given["requests"]]
    told = [{"status": status, "body": json.loads(body or "null")} for status, body in answers]
    return json.dumps({"answers": told, "rules": RULES_VERSION})
