"""Programs that a device has not: what is imported of them is there to be named, and fails when it is called."""

import importlib.abc
import importlib.machinery
import sys
from collections.abc import Sequence
from types import ModuleType
from typing import Any

NOT_HERE = frozenset(
    {
        "PIL",
        "argon2",
        "axes",
        "csp",
        "django_otp",
        "environ",
        "icalendar",
        "jinja2",
        "jsonschema",
        "numpy",
        "pillow_heif",
        "procrastinate",
        "psycopg",
        "psycopg2",
        "scipy",
        "segno",
        "structlog",
        "urllib3",
        "weasyprint",
    }
)
SETTINGS = "dusky_heron.settings"  # the server's own, with its secrets, addresses and logs


class NeedsServer(Exception):
    """What was asked needs what only the server has."""


class _Kind(type):
    def __getattr__(cls, name: str) -> Any:
        if name.startswith("_"):
            raise AttributeError(name)
        return Absent

    def __call__(cls, *given: Any, **named: Any) -> Any:
        """As a decorator, or in one, it leaves what it is given while things are imported; later nothing can be called."""
        if not Absent.importing:
            raise NeedsServer
        return given[0] if len(given) == 1 and callable(given[0]) and not named else Absent


class Absent(Exception, metaclass=_Kind):
    """Whatever is named of a program that is not here."""

    importing = True


class _Finder(importlib.abc.MetaPathFinder, importlib.abc.Loader):
    def find_spec(self, fullname: str, path: Sequence[str] | None, target: ModuleType | None = None) -> Any:  # noqa: ARG002
        if fullname.partition(".")[0] in NOT_HERE or f"{fullname}.".startswith(f"{SETTINGS}."):
            return importlib.machinery.ModuleSpec(fullname, self, is_package=True)
        return None

    def exec_module(self, module: ModuleType) -> None:
        """Every name of it is `Absent`."""
        module.__getattr__ = lambda name: getattr(Absent, name)  # type: ignore[method-assign]


def leave_out() -> None:
    """From now on what a device has not is imported as `Absent`."""
    Absent.importing = True
    if not any(isinstance(finder, _Finder) for finder in sys.meta_path):
        sys.meta_path.insert(0, _Finder())


def all_imported() -> None:
    """From now on what is not here fails when it is called."""
    Absent.importing = False
