"""The databases of the tests: each state they begin with is made once for a run, and cloned for whoever changes it for good."""

import datetime
import os
import shutil
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

import psycopg
from django.conf import settings
from django.core.signals import setting_changed
from django.db import connection
from django.test import TransactionTestCase
from django.test.runner import DiscoverRunner

from dusky_heron.demo.scenario import load
from dusky_heron.workshops.actions import found_workshop

PASSWORD = "grey-heron-at-the-weir"
PHOTOS = tempfile.mkdtemp(prefix="dusky-photos-")  # what the states below hold; each process has its own copy


def _workshops() -> None:
    """The demo with M. Orne (lead) and T. Vell (apprentice), and a workshop with nothing of theirs."""
    load(PASSWORD, datetime.date(2026, 6, 1))
    found_workshop("Far Quay", "stranger", "S. Tranger", PASSWORD)


def _demo() -> None:
    load(PASSWORD, datetime.date.today())


def _empty() -> None:
    """Nothing but tables."""


STATES: dict[str, Callable[[], None]] = {"empty": _empty, "demo": _demo, "workshops": _workshops}  # the last is what all begin with
EMPTY, DEMO, WORKSHOPS = STATES
NAMES = dict[str, str]()  # of the databases that hold them


class Runner(DiscoverRunner):
    """Django's own, with the states made before the databases of the processes are cloned from them."""

    def setup_databases(self, **options: Any) -> Any:
        """Make the states where a test asks for a database."""
        if "default" in options.get("aliases", ("default",)):
            _make_states(self.verbosity)
        return super().setup_databases(**options)

    def teardown_databases(self, old_config: Any, **options: Any) -> None:
        """Drop them again, also where a browser keeps a connection of the live server open."""
        connection.close()
        _as_owner(_end_connections(connection.settings_dict["NAME"]))
        super().teardown_databases(old_config, **options)
        if old_config:
            _as_owner(*(f'DROP DATABASE IF EXISTS "{name}"' for name in NAMES.values()))
        shutil.rmtree(PHOTOS, ignore_errors=True)


class Committing(TransactionTestCase):
    """Tests that commit: each begins with a database cloned anew from the state it names, and leaves it to the next."""

    begins_with = WORKSHOPS

    @classmethod
    def _fixture_setup(cls) -> None:
        connection.close()
        mine = connection.settings_dict["NAME"]
        made = f'CREATE DATABASE "{mine}" TEMPLATE "{NAMES[cls.begins_with]}"'
        _as_owner(_end_connections(mine), f'DROP DATABASE IF EXISTS "{mine}"', made)
        lay_photos()

    def _fixture_teardown(self) -> None:
        """What comes next clones its own; tests that roll back run before all that commit."""


def lay_photos() -> None:
    """The photos of the states as they were, in a folder of this process: tests break files too."""
    mine = Path(tempfile.gettempdir()) / f"{Path(PHOTOS).name}-{os.getpid()}"
    shutil.rmtree(mine, ignore_errors=True)
    shutil.copytree(PHOTOS, mine)
    if str(mine) != settings.MEDIA_ROOT:
        _keep_photos_in(str(mine))


def _keep_photos_in(folder: str) -> None:
    settings.MEDIA_ROOT = folder
    setting_changed.send(sender=None, setting="MEDIA_ROOT", value=folder, enter=True)


def _make_states(verbosity: int) -> None:
    asked = connection.settings_dict["TEST"]
    name, kept, own = connection.settings_dict["NAME"], dict(asked), settings.MEDIA_ROOT
    _keep_photos_in(PHOTOS)
    for state, fill in STATES.items():
        asked["NAME"], asked["TEMPLATE"] = f"state_{name}_{state}", NAMES.get(EMPTY)
        NAMES[state] = asked["NAME"]
        connection.creation.create_test_db(verbosity=max(0, verbosity - 1), autoclobber=True, serialize=False)
        fill()
        connection.close()
        connection.settings_dict["NAME"] = settings.DATABASES["default"]["NAME"] = name
    asked.clear()
    asked |= kept | {"TEMPLATE": NAMES[WORKSHOPS]}
    _keep_photos_in(str(own))


def _end_connections(name: str) -> str:
    """What ends those that hold a database before it is dropped, the live server's of both roles among them.

    DROP DATABASE WITH (FORCE) is no help: it may not end an autovacuum worker unless the owner is a superuser, and
    fails; without FORCE PostgreSQL sends autovacuum away by itself and waits up to five seconds.
    """
    ours = f"datname = '{name}' AND pg_has_role(usesysid, 'USAGE')"
    return f"SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE {ours}"  # noqa: S608 # our own name


def _as_owner(*statements: str) -> None:
    own = settings.DATABASES["default"]
    where = {"host": own["HOST"], "port": own["PORT"], "user": own["USER"], "password": own["PASSWORD"], "dbname": "postgres"}
    with psycopg.connect(**where, autocommit=True) as direct:
        for statement in statements:
            direct.execute(statement)
