"""The pins of pyproject.toml: loosened within their major, fixed to what was locked, and what moved between two locks."""

import json
import re
import sys
from collections.abc import Callable, Iterator
from pathlib import Path

PIN = re.compile(r'^(  "([A-Za-z0-9_.-]+)(?:\[[a-z]+\])?)(?:==|>=)([0-9][^",]*)[^"]*(",)', re.MULTILINE)
LOCKED = re.compile(r"^([a-z0-9_.-]+)==(\S+)", re.MULTILINE)
HELD = {"django": 2}  # figures of the version that stay: the long-term release


def loosen(project: Path) -> None:
    """Every pin may move within its major."""

    def free(pin: re.Match[str]) -> str:
        figures = pin[3].split(".")[: HELD.get(pin[2].lower(), 1)]
        above = ".".join([*figures[:-1], str(int(figures[-1]) + 1)])
        return f"{pin[1]}>={pin[3]},<{above}{pin[4]}"

    project.write_text(PIN.sub(free, project.read_text(encoding="utf-8")), encoding="utf-8")


def fix(project: Path, *locks: Path) -> None:
    """Every pin is what was locked."""
    found = dict(locked(*locks))
    fixed = PIN.sub(lambda pin: f"{pin[1]}=={found[pin[2].lower().replace('_', '-')]}{pin[4]}", project.read_text(encoding="utf-8"))
    project.write_text(fixed, encoding="utf-8")


def locked(*locks: Path) -> Iterator[tuple[str, str]]:
    """Names and versions of lock files, of Python and of the page."""
    for lock in locks:
        yield from versions(lock.read_text(encoding="utf-8"))


def versions(text: str) -> Iterator[tuple[str, str]]:
    """What a lock names, or several one behind the other."""
    yield from LOCKED.findall(text)
    if "{" in text:
        packages = json.loads(text[text.index("{") :])["packages"]
        yield from ((name.rpartition("node_modules/")[2], one["version"]) for name, one in packages.items() if name)


def moved(before: Path, *after: Path) -> None:
    """Say which went from which version to which."""
    was, now = dict(versions(before.read_text(encoding="utf-8"))), dict(locked(*after))
    changed = [
        f"{name} {was.get(name, 'new')} → {now.get(name, 'gone')}" for name in sorted(was | now) if was.get(name) != now.get(name)
    ]
    sys.stdout.write("\n".join(changed or ["nothing moved"]) + "\n")


if __name__ == "__main__":
    commands: dict[str, Callable[..., None]] = {"loosen": loosen, "fix": fix, "moved": moved}
    commands[sys.argv[1]](*map(Path, sys.argv[2:]))
