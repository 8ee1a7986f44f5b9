"""The server of a device in a process of its own, as a page has it: `python -m tests.on_device`, a text of JSON on each line."""

import json
import os
import subprocess
import sys
from typing import Any, Self

from tests import some

KNOWN = {"PATH", "PYTHONPATH", "HOME", "LANG"}  # nothing else of our environment: a page has neither database nor key


class OnDevice:
    """Answers as the page's worker would give them."""

    def __enter__(self) -> Self:
        environment = {key: value for key, value in os.environ.items() if key in KNOWN}
        command = [sys.executable, "-m", "tests.on_device"]
        self.process = subprocess.Popen(
            command, env=environment, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
        )  # ourselves
        return self

    def __exit__(self, *_: object) -> None:
        self.process.communicate()

    def work(self, ground: dict[str, Any] | None, *requests: dict[str, Any]) -> list[tuple[int, Any]]:
        """What the device answers to requests, one after the other."""
        there, back = some(self.process.stdin), some(self.process.stdout)
        there.write(json.dumps({"ground": ground, "requests": requests}) + "\n")
        there.flush()
        told = json.loads(back.readline())
        return [(one["status"], one["body"]) for one in told["answers"]]


def asked(method: str, url: str, body: dict[str, Any] | None = None, **headers: str) -> dict[str, Any]:
    """A request as the worker passes it on."""
    text = "" if body is None else json.dumps(body)
    return {"method": method, "url": url, "body": text, "headers": {key.replace("_", "-"): value for key, value in headers.items()}}


if __name__ == "__main__":
    from dusky_heron.device.server import door

    door.open_up()
    for line in sys.stdin:
        print(door.work(line), flush=True)  # noqa: T201 # this is what it is asked for
